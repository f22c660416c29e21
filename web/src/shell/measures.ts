/** Sizes of what stands around the drawing, CSS pixels. */
export const STRIP = 48,
  RULER = 40,
  LEDGE = 62,
  /** One row of drawings without words, on small screens. */ SMALL_LEDGE = 38,
  LEFT_WIDTH = 214,
  RIGHT_WIDTH = 292,
  /** What is left of the stack when it is folded. */ EDGE_WIDTH = 30;
