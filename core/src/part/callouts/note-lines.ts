import { readCallout, type HoleCallout, type SheetUnit } from './callout.ts';

/** A text as a sheet has it: where its base line begins, its size along and across it, and its direction; sheet points, radians. */
export interface WrittenText {
  text: string;
  x: number;
  y: number;
  width: number;
  height: number;
  radians: number;
}

/** A note at holes with the texts that it is written in. */
export interface HoleNote {
  callout: HoleCallout;
  /** Numbers of its texts, its first line first. */
  texts: number[];
}

/** A line follows where its base line lies so many heights below, and begins or has its middle so near. */
const NEXT_LINE = 2.4,
  IN_LINE = 1.5;
const MOST_LINES = 4;

/** All notes at holes of a sheet, those in several lines put together. */
export function holeNotes(texts: readonly WrittenText[], unit: SheetUnit): HoleNote[] {
  const taken = new Set<number>(),
    out: HoleNote[] = [];
  texts.forEach((first, i) => {
    if (taken.has(i)) return;
    let best = readCallout(first.text, unit);
    if (!best) return;
    let rows = [i],
      words = first.text;
    while (rows.length < MOST_LINES) {
      const next = texts.findIndex(
        (t, k) => !taken.has(k) && !rows.includes(k) && follows(texts[rows.at(-1)!], t),
      );
      const more = next < 0 ? null : readCallout(`${words} ${texts[next].text}`, unit);
      // Two notes one below the other each say a hole of their own.
      if (!more || (best.diameter > 0 && readCallout(texts[next].text, unit) !== null)) break;
      rows = [...rows, next];
      words = more.text;
      best = more;
    }
    for (const k of rows) taken.add(k);
    out.push({ callout: best, texts: rows });
  });
  return out;
}

function follows(line: WrittenText, next: WrittenText): boolean {
  if (Math.abs(line.radians - next.radians) > 0.05) return false;
  const [c, s] = [Math.cos(line.radians), Math.sin(line.radians)],
    [dx, dy] = [next.x - line.x, next.y - line.y],
    [along, down] = [dx * c + dy * s, dx * s - dy * c],
    h = Math.max(line.height, next.height);
  return (
    down > 0.5 * h &&
    down < NEXT_LINE * h &&
    (Math.abs(along) < IN_LINE * h || Math.abs(along + (next.width - line.width) / 2) < IN_LINE * h)
  );
}
