/** Square and cubic millimetres to the square and cubic metre. */
export const SQUARE_METRE = 1e6,
  CUBIC_METRE = 1e9;
