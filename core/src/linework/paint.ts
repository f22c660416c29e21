import type { Colour } from './page-objects.ts';
import type { Pen } from './types.ts';

/** Channels from this value up, over white, cannot be told from the paper. */
const PAPER_CHANNEL = 250;

/** Does the colour, laid on white paper, look like paper? */
export function isPaper(c: Colour): boolean {
  const over = (channel: number) => 255 + ((channel - 255) * c.a) / 255;
  return over(c.r) >= PAPER_CHANNEL && over(c.g) >= PAPER_CHANNEL && over(c.b) >= PAPER_CHANNEL;
}

export const packColour = (c: Colour): number => (c.r << 16) | (c.g << 8) | c.b;

/** The distinct pens of a page, found by value; neighbours on a page mostly share one. */
export class PenTable {
  readonly pens: Pen[] = [];
  private readonly byKey = new Map<string, number>();
  private last = -1;

  indexOf(width: number, colour: Colour, dash: readonly number[]): number {
    const packed = packColour(colour);
    const rounded = Math.round(width * 1000) / 1000;
    const recent = this.pens[this.last];
    if (recent && recent.width === rounded && recent.colour === packed && sameDash(recent.dash, dash))
      return this.last;
    const key = `${rounded}|${packed}|${dash.map((d) => Math.round(d * 1000) / 1000).join(',')}`;
    let index = this.byKey.get(key);
    if (index === undefined) {
      index = this.pens.length;
      this.pens.push({ width: rounded, colour: packed, dash: [...dash] });
      this.byKey.set(key, index);
    }
    this.last = index;
    return index;
  }
}

function sameDash(a: readonly number[], b: readonly number[]): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (Math.abs(a[i] - b[i]) > 5e-4) return false;
  return true;
}
