import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { middleOf } from './grid.ts';
import type { ProposedStair } from './types.ts';

/** Goings, and widths of flights, millimetres. */
const GOING = [190, 420] as const,
  WIDTH = [600, 3200] as const;
/** So many risers make a flight, each within this share of the going where it ought to be; nosings lie nearer than the third, millimetres. */
const LEAST_RISERS = 5,
  EVEN = 0.1,
  NOSING = 60;
/** Risers of one flight are as long as one another within this share, and their middles lie in line within so many millimetres. */
const AS_LONG = 0.06,
  IN_LINE = 60;
/** Lines across the risers within a flight: more than this, along so much of it, are tiles, or a grating. */
const MOST_ACROSS = 2,
  BESIDE = 0.4;
/** Words that say which way is up stand so near to its foot, or its top, millimetres. */
const WORDS = 900;
/** How sure a flight is whose way up is written, and one of which it is not. */
const SURE = 0.85,
  UNSURE = 0.7;
/** More lines are not looked through. */
const MOST_LINES = 150_000;

interface Riser {
  /** Where it lies along the way up, and its middle across. */
  at: number;
  middle: number;
  length: number;
}

/** Straight flights of stairs by their risers: lines as long as one another, side by side, evenly apart. */
export function stairsOf(l: Linework, mm: number): ProposedStair[] {
  const byWay = new Map<number, { x: number; y: number; length: number; angle: number }[]>();
  let looked = 0;
  for (let i = 0; i < l.segmentKind.length; i++) {
    const kind = ITEM_KINDS_OF_SHEET[l.segmentKind[i]],
      layer = l.segmentStyle[2 * i];
    if ((kind !== 'line' && kind !== 'hatch') || (layer >= 0 && l.layers[layer]?.on === false)) continue;
    const [x0, y0, x1, y1] = l.segments.subarray(4 * i, 4 * i + 4),
      length = Math.hypot(x1 - x0, y1 - y0) * mm;
    if (length < WIDTH[0] || length > WIDTH[1]) continue;
    if (++looked > MOST_LINES) return [];
    const angle = ((Math.atan2(y1 - y0, x1 - x0) % Math.PI) + Math.PI) % Math.PI,
      way = Math.round((angle * WAYS) / Math.PI) % WAYS,
      row = byWay.get(way),
      item = { x: ((x0 + x1) / 2) * mm, y: ((y0 + y1) / 2) * mm, length, angle };
    if (row) row.push(item);
    else byWay.set(way, [item]);
  }
  const out: ProposedStair[] = [];
  for (const [way, lines] of byWay) {
    if (lines.length < LEAST_RISERS) continue;
    const angle = (way * Math.PI) / WAYS,
      [ux, uy] = [Math.cos(angle), Math.sin(angle)],
      risers = lines.map(({ x, y, length }): Riser => ({
        at: -x * uy + y * ux,
        middle: x * ux + y * uy,
        length,
      }));
    for (const group of groupsOf(risers))
      for (const flight of flightsIn(group)) {
        const place = (at: number): [number, number] => [
            (flight.middle * ux - at * uy) / mm,
            (flight.middle * uy + at * ux) / mm,
          ],
          [low, high] = [place(flight.from), place(flight.to)];
        const lies = placeOf(low, high, flight.width / mm);
        if (acrossIn(l, mm, lies) > MOST_ACROSS || wordsIn(l, lies) > MOST_WORDS) continue;
        const up = wayUp(l, mm, low, high);
        out.push({
          from: up === 'down' ? high : low,
          to: up === 'down' ? low : high,
          risers: flight.risers,
          width: flight.width,
          confidence: up === null ? UNSURE : SURE,
        });
      }
  }
  return out;
}
/** Ways are told to half a degree. */
const WAYS = 360;

/** Lines as long as one another whose middles lie in line, across the way in which they follow one another. */
function groupsOf(risers: readonly Riser[]): Riser[][] {
  const out: Riser[][] = [];
  let row: Riser[] = [];
  for (const r of [...risers].sort((a, b) => a.middle - b.middle)) {
    const last = row.at(-1);
    if (last && r.middle - last.middle > IN_LINE) {
      out.push(row);
      row = [];
    }
    row.push(r);
  }
  out.push(row);
  return out.flatMap((group) => {
    const byLength: Riser[][] = [];
    for (const r of [...group].sort((a, b) => a.length - b.length)) {
      const last = byLength.at(-1);
      if (last && r.length - last[0].length <= AS_LONG * last[0].length) last.push(r);
      else byLength.push([r]);
    }
    return byLength.filter((g) => g.length >= LEAST_RISERS);
  });
}

interface Flight {
  from: number;
  to: number;
  risers: number;
  width: number;
  middle: number;
}

/** Rows of risers evenly apart. */
function flightsIn(group: readonly Riser[]): Flight[] {
  const sorted = [...group].sort((a, b) => a.at - b.at),
    single = sorted.filter((r, i) => i === 0 || r.at - sorted[i - 1].at > NOSING),
    out: Flight[] = [];
  for (let i = 0; i + 1 < single.length;) {
    const going = single[i + 1].at - single[i].at;
    let j = i + 1;
    while (j + 1 < single.length && Math.abs(single[j + 1].at - single[j].at - going) <= EVEN * going) j++;
    const risers = j - i + 1;
    if (risers >= LEAST_RISERS && going >= GOING[0] && going <= GOING[1]) {
      const of = single.slice(i, j + 1),
        mean = (f: (r: Riser) => number) => of.reduce((sum, r) => sum + f(r), 0) / of.length;
      out.push({
        from: single[i].at,
        to: single[j].at,
        risers,
        width: mean((r) => r.length),
        middle: mean((r) => r.middle),
      });
    }
    i = j;
  }
  return out;
}

/** A flight as it lies on its sheet, from its lower end: places along it and beside its middle, sheet points. */
interface FlightPlace {
  length: number;
  half: number;
  local(x: number, y: number): [number, number];
}
function placeOf(
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
  width: number,
): FlightPlace {
  const length = Math.hypot(x1 - x0, y1 - y0),
    [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
  return {
    length,
    half: width / 2,
    local: (x, y) => [(x - x0) * ux + (y - y0) * uy, (y - y0) * ux - (x - x0) * uy],
  };
}

/** How many lines run along a flight within it, off its sides. */
function acrossIn(l: Linework, mm: number, { length, half, local }: FlightPlace): number {
  let count = 0;
  for (let i = 0; i < l.segmentKind.length; i++) {
    const [a, b, c, d] = l.segments.subarray(4 * i, 4 * i + 4),
      [[s, v], [t, w]] = [local(a, b), local(c, d)],
      long = Math.hypot(t - s, w - v);
    if (long * mm < GOING[0] || Math.abs(w - v) > 0.05 * long) continue;
    // Tiles go on beyond, to the walls of their room.
    const beside = Math.min(length, Math.max(s, t)) - Math.max(0, Math.min(s, t));
    if (Math.abs((v + w) / 2) < half - IN_LINE / mm && beside > BESIDE * length) count++;
  }
  return count;
}

/** How many texts stand within a flight that are neither numbers of its risers nor say which way is up: a table has more. */
function wordsIn(l: Linework, { length, half, local }: FlightPlace): number {
  return l.texts.filter((text) => {
    if (/^(?:\d{1,3}|up|dn|down)\b/i.test(text.text.trim())) return false;
    const { x, y } = middleOf(text),
      [s, off] = local(x, y);
    return s > 0 && s < length && Math.abs(off) < half;
  }).length;
}
const MOST_WORDS = 1;

/** Which way a flight goes up from its lower end as it lies: by "UP" at its foot, or "DN" at its top; null where nothing says it. */
function wayUp(
  l: Linework,
  mm: number,
  low: readonly [number, number],
  high: readonly [number, number],
): 'up' | 'down' | null {
  for (const t of l.texts) {
    const said = /^(up|dn|down)\b/i.exec(t.text.trim())?.[1].toLowerCase();
    if (said === undefined) continue;
    const { x, y } = middleOf(t),
      [a, b] = [low, high].map((p) => Math.hypot(x - p[0], y - p[1]) * mm);
    if (Math.min(a, b) > WORDS) continue;
    return (said === 'up') === a < b ? 'up' : 'down';
  }
  return null;
}
