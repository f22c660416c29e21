/** What words take up on the screen, CSS pixels: left, top, right, bottom. */
export type ScreenBox = readonly [number, number, number, number];

/** Where words may begin, their size in CSS pixels, and their lines one below the other. */
export interface Placed {
  /** Left end of the base line of the first line of words. */
  x: number;
  y: number;
  size: number;
}

/** Letters smaller than this are no words yet: they wait for a closer zoom. */
export const LEAST_WORDS = 9;
/** From one line of words to the next, and what letters reach above and below their base line, in their size. */
export const LINE = 1.3;
const ABOVE = 0.78,
  BELOW = 0.24;
/** Words keep so far off one another, CSS pixels. */
const APART = 2;
/** Boxes are looked for by the squares of the screen that they touch. */
const SQUARE = 96;

/** Free ground for words in one frame: what has been written, what the sheets print, and where something still fits. */
export class WordRoom {
  private readonly squares = new Map<string, ScreenBox[]>();

  /** `fill` takes what the sheets print, once somebody looks for room: most frames have nobody who does. */
  constructor(
    readonly width: number,
    readonly height: number,
    private fill: ((room: WordRoom) => void) | null = null,
  ) {}

  /** What is taken already is taken by another frame's words too. */
  copy(): WordRoom {
    this.filled();
    const other = new WordRoom(this.width, this.height);
    for (const [key, boxes] of this.squares) other.squares.set(key, [...boxes]);
    return other;
  }

  take(box: ScreenBox): void {
    if (!this.isInSight(box)) return;
    for (const key of squaresOf(box, this)) {
      const there = this.squares.get(key);
      if (there) there.push(box);
      else this.squares.set(key, [box]);
    }
  }

  private filled(): void {
    const { fill } = this;
    this.fill = null;
    fill?.(this);
  }

  isFree(box: ScreenBox): boolean {
    this.filled();
    for (const key of squaresOf(box, this))
      for (const b of this.squares.get(key) ?? [])
        if (box[0] < b[2] + APART && b[0] < box[2] + APART && box[1] < b[3] + APART && b[1] < box[3] + APART)
          return false;
    return true;
  }

  isInSight([x0, y0, x1, y1]: ScreenBox): boolean {
    return x1 > 0 && y1 > 0 && x0 < this.width && y0 < this.height;
  }

  /**
   * Takes the first of the places in which lines of words are free, at their size or smaller down to what can be read; null where none is:
   * they wait. `widths`: of each line at the size of 1. `places`: middles of the whole, in the order in which they are wanted. `fits`: must
   * the box lie within something?
   */
  place(
    widths: readonly number[],
    size: number,
    places: readonly (readonly [number, number])[],
    fits: (box: ScreenBox) => boolean = () => true,
  ): Placed | null {
    const widest = Math.max(...widths);
    for (let letters = size; letters >= LEAST_WORDS; letters -= 1.5) {
      const w = widest * letters,
        h = (ABOVE + BELOW + LINE * (widths.length - 1)) * letters;
      for (const [cx, cy] of places) {
        const box: ScreenBox = [cx - w / 2, cy - h / 2, cx + w / 2, cy + h / 2];
        if (!this.isFree(box) || !fits(box)) continue;
        this.take(box);
        return { x: box[0], y: box[1] + ABOVE * letters, size: letters };
      }
    }
    return null;
  }
}

function squaresOf([x0, y0, x1, y1]: ScreenBox, { width, height }: WordRoom): string[] {
  const clamp = (v: number, most: number) =>
    Math.max(0, Math.min(Math.floor(most / SQUARE), Math.floor(v / SQUARE)));
  const out: string[] = [];
  for (let c = clamp(x0, width); c <= clamp(x1, width); c++)
    for (let r = clamp(y0, height); r <= clamp(y1, height); r++) out.push(`${c},${r}`);
  return out;
}

/** Places around a point, the nearest first: on it, above and below it, then farther off to all sides. */
export function placesAround(
  [x, y]: readonly [number, number],
  step: readonly [number, number],
  rings: number,
): [number, number][] {
  const out: [number, number][] = [[x, y]];
  for (let ring = 1; ring <= rings; ring++)
    for (let i = -ring; i <= ring; i++)
      for (let j = -ring; j <= ring; j++)
        if (Math.max(Math.abs(i), Math.abs(j)) === ring) out.push([x + i * step[0], y + j * step[1]]);
  return out.sort((a, b) => Math.hypot(a[0] - x, a[1] - y) - Math.hypot(b[0] - x, b[1] - y));
}
