/** A density as it is typed, kg/m3; null for what is none. */
export const readDensity = (text: string): number | null => {
  const v = Number(text.replace(',', '.').replace(/\s/g, ''));
  return v > 0 && v < 1e5 ? v : null;
};
