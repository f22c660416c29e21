/** Papers by name, long side first, millimetres: ISO 216, and ANSI/ASME Y14.1. */
export const PAPERS = {
  A4: [297, 210],
  A3: [420, 297],
  A2: [594, 420],
  A1: [841, 594],
  A0: [1189, 841],
  letter: [279.4, 215.9],
  tabloid: [431.8, 279.4],
  'ANSI C': [558.8, 431.8],
  'ANSI D': [863.6, 558.8],
  'ANSI E': [1117.6, 863.6],
} as const satisfies Record<string, readonly [number, number]>;
export type PaperName = keyof typeof PAPERS;
export const PAPER_NAMES = Object.keys(PAPERS) as readonly PaperName[];

/** Round the drawing, and the strip with the title below it, millimetres of paper. */
export const MARGIN = 10,
  TITLE_STRIP = 14;

/** A paper as it lies: its width and height, millimetres. */
export interface Laid {
  name: PaperName;
  width: number;
  height: number;
}

/** What of a paper is free for the drawing, millimetres. */
export const roomOn = ({ width, height }: Pick<Laid, 'width' | 'height'>): [number, number] => [
  width - 2 * MARGIN,
  height - 2 * MARGIN - TITLE_STRIP,
];

/** The paper on which a drawing of a size (millimetres of paper) fits, lying or standing: the one that is named, else the smallest of the metric ones; null where it fits on none. */
export function paperFor([w, h]: readonly [number, number], wanted: PaperName | null): Laid | null {
  const names = wanted ? [wanted] : PAPER_NAMES.filter((n) => /^A\d$/.test(n));
  for (const name of names) {
    const [long, short] = PAPERS[name];
    for (const [width, height] of w >= h
      ? [
          [long, short],
          [short, long],
        ]
      : [
          [short, long],
          [long, short],
        ]) {
      const [free, up] = roomOn({ width, height });
      if (w <= free + 1e-6 && h <= up + 1e-6) return { name, width, height };
    }
  }
  return null;
}
