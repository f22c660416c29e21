/** Tints that a sheet can be laid in, by what people call them. */
export const TINTS: readonly (readonly [string, number | null])[] = [
  ['own colours', null],
  ['blue', 0x2456a6],
  ['green', 0x2b7553],
  ['red', 0xb3321a],
  ['violet', 0x6c3a8e],
  ['grey', 0x7a858e],
];
