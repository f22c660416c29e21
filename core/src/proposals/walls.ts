import { MM_PER_POINT } from '../geometry/index.ts';
import type { Linework } from '../linework/index.ts';
import { bandsOf, classesOf, weightOf, type Band, type Limits, type ThicknessClass } from './bands.ts';
import { waysOf, type Way } from './carriers.ts';
import { covered, joined, total } from './spans.ts';
import { strokesOf, type Stroke } from './strokes.ts';

/** A wall that a sheet shows, by its middle line. */
export interface SeenWall {
  /** Sheet points, y up. */
  from: [number, number];
  to: [number, number];
  /** Millimetres. */
  thickness: number;
  /** How sure it is, 0 to 1. */
  confidence: number;
  doubts: string[];
  /** Where it is drawn solid, along it, sheet points; null of one that is drawn by its faces. */
  solid: [number, number][] | null;
}

export interface SeenWalls {
  walls: SeenWall[];
  /** The thicknesses that were found, millimetres, the most frequent first. */
  classes: number[];
}

/** Millimetres: walls are no thinner and no thicker; a stretch of both faces is this long at least; one line is so near to another. */
const THINNEST = 45,
  THICKEST = 800,
  SHORTEST = 90,
  NEAR = 4,
  /** On paper lines are no nearer to one another than this, millimetres of paper. */
  NEAR_ON_PAPER = 0.06;
/** A wall runs on across an opening no wider, and across a wall that crosses it. */
const WIDEST_OPENING = 5200,
  WIDEST_CROSSING = 850;

/** What lines across a band close: jambs and ends. */
interface Caps {
  /** Is there a line from face to face, or beyond, at a place along? */
  closes(at: number): boolean;
}

/**
 * The straight walls of a sheet that is to scale, by their parallel faces: pairs of lines in the thicknesses that the sheet itself shows, drawn by the pens
 * that draw most of them, across openings, joined where they meet. `factor`: true millimetres to a millimetre of paper.
 */
export function proposedWalls(l: Linework, factor: number): SeenWalls {
  const mm = MM_PER_POINT * factor,
    limits: Limits = {
      thinnest: THINNEST / mm,
      thickest: THICKEST / mm,
      shortest: SHORTEST / mm,
      near: Math.max(NEAR / mm, NEAR_ON_PAPER / MM_PER_POINT),
    },
    strokes = strokesOf(l),
    ways = waysOf(strokes, limits.near / 2),
    bands = ways.flatMap((way, i) => bandsOf(way, i, limits));
  const penOf = (b: Band) => mainPen(ways[b.way], b),
    across = ways.map((w) => crossLines(strokes, w.angle, limits.near)),
    drawn = new Map<string, number>();
  for (const { from, to, pen } of strokes)
    drawn.set(pen, (drawn.get(pen) ?? 0) + Math.hypot(to[0] - from[0], to[1] - from[1]));
  let pens = pensOf(bands, penOf),
    classes = classesOf(bands, pens, limits.near, penOf),
    chosen: Run[] = [];
  // What is surely a wall tells which pens draw walls and how thick these are; with that all is looked at again.
  for (let pass = 0; pass < PASSES; pass++) {
    chosen = chosenOf(
      bands.flatMap((band) =>
        runsOf(band, ways, across[band.way], classes, pens.get(penOf(band)) ?? 0, mm, limits),
      ),
      limits,
    );
    pens = pensOfWalls(chosen, ways, drawn);
    classes = classesOf(bands, pens, limits.near, penOf);
  }
  return { walls: connected(chosen, ways, limits, mm), classes: classes.map((c) => c.thickness * mm) };
}
const PASSES = 3;
/** A run counts as surely a wall from here on, and where it is so many times longer than thick. */
const SURE = 0.35,
  LONG = 4;

/** How much of what each pen drew is a face of what is surely a wall, 0 to 1 of the pen of which most is. */
function pensOfWalls(
  chosen: readonly Run[],
  ways: readonly Way[],
  drawn: ReadonlyMap<string, number>,
): Map<string, number> {
  const used = new Map<string, number>();
  for (const r of chosen) {
    if (r.confidence < SURE || r.to - r.from < LONG * (r.offs[1] - r.offs[0])) continue;
    const length = total(r.both);
    for (const i of [r.low, r.high]) {
      const { pens } = ways[r.way].carriers[i],
        all = [...pens.values()].reduce((x, y) => x + y, 0);
      for (const [pen, n] of pens) used.set(pen, (used.get(pen) ?? 0) + (length * n) / all);
    }
  }
  const shares = new Map([...used].map(([pen, n]) => [pen, Math.min(1, n / (drawn.get(pen) ?? n))])),
    // A pen that drew little may by chance have drawn walls alone.
    weighed = new Map(
      [...shares].map(([pen, share]) => [
        pen,
        share * Math.min(1, used.get(pen)! / (LEAST_USED * Math.max(...used.values()))),
      ]),
    ),
    most = Math.max(1e-9, ...weighed.values());
  return new Map([...weighed].map(([pen, share]) => [pen, share / most]));
}
const LEAST_USED = 0.08;

/** The pen that drew most of both faces. */
function mainPen({ carriers }: Way, { low, high }: Band): string {
  const sums = new Map<string, number>();
  for (const c of [carriers[low], carriers[high]])
    for (const [pen, n] of c.pens) sums.set(pen, (sums.get(pen) ?? 0) + n);
  return [...sums].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
}

/** How much each pen draws walls, 0 to 1 of the one that most does. */
function pensOf(bands: readonly Band[], penOf: (b: Band) => string): Map<string, number> {
  const sums = new Map<string, number>();
  for (const b of bands) sums.set(penOf(b), (sums.get(penOf(b)) ?? 0) + weightOf(b));
  const most = Math.max(1e-9, ...sums.values());
  return new Map([...sums].map(([pen, n]) => [pen, Math.sqrt(n / most)]));
}

/** A run of a band that may be a wall, with what speaks for it. */
interface Run {
  way: number;
  low: number;
  high: number;
  /** Across, of both faces. */
  offs: [number, number];
  from: number;
  to: number;
  /** Where both faces are drawn within it. */
  both: [number, number][];
  score: number;
  confidence: number;
}

function runsOf(
  band: Band,
  ways: readonly Way[],
  across: readonly CrossLine[],
  classes: readonly ThicknessClass[],
  pen: number,
  mm: number,
  { near, thickest }: Limits,
): Run[] {
  const { carriers } = ways[band.way],
    offs: [number, number] = [carriers[band.low].off, carriers[band.high].off],
    caps = capsOf(across, offs, near),
    either = joined([...carriers[band.low].drawn, ...carriers[band.high].drawn], near);
  // Stretches that one wall joins across what interrupts them.
  const rows: [number, number][][] = [];
  for (const s of band.both) {
    const last = rows.at(-1)?.at(-1);
    if (last && bridges(last[1], s[0], caps, either, mm, thickest)) rows.at(-1)!.push(s);
    else rows.push([s]);
  }
  const inClass = Math.max(
    0,
    ...classes.map((c, i) =>
      Math.abs(c.thickness - band.thickness) <= Math.max(near, 0.03 * c.thickness) ? 1 / (1 + 0.15 * i) : 0,
    ),
  );
  return rows.flatMap((both): Run[] => {
    const [from, to] = [both[0][0], both.at(-1)![1]],
      drawn = total(both);
    if (to - from < band.thickness) return [];
    const ends = both.flat().filter((t) => caps.closes(t)).length / (2 * both.length),
      slender = Math.min(1, (to - from) / (2.5 * band.thickness)),
      sure =
        slender *
        (1 - 0.85 * band.crowded) *
        (1 - 0.95 * band.again) *
        (0.3 + 0.7 * band.alike) *
        (0.25 + 0.75 * inClass) *
        (0.3 + 0.7 * pen) *
        (0.7 + 0.3 * ends);
    return [
      {
        way: band.way,
        low: band.low,
        high: band.high,
        offs,
        from,
        to,
        both,
        score: sure * drawn,
        confidence: sure,
      },
    ];
  });
}

/** Does a wall run on from one stretch to the next? */
function bridges(
  a: number,
  b: number,
  caps: Caps,
  either: readonly [number, number][],
  mm: number,
  thickest: number,
): boolean {
  const gap = (b - a) * mm;
  if (gap <= WIDEST_CROSSING || b - a <= thickest) return true;
  if (gap > WIDEST_OPENING) return false;
  // One face that runs through, or an opening that is closed at both sides.
  return covered([a, b], either) > 0.98 * (b - a) || (caps.closes(a) && caps.closes(b));
}

const CAP_SINE = 0.03;

/** A line square to a way: where along it, and from where to where across. */
interface CrossLine {
  at: number;
  low: number;
  high: number;
}

/** The lines square to a way, in order along it. */
function crossLines(strokes: readonly Stroke[], angle: number, near: number): CrossLine[] {
  const [ux, uy] = [Math.cos(angle), Math.sin(angle)],
    out: CrossLine[] = [];
  for (const { from, to } of strokes) {
    const s = from[0] * ux + from[1] * uy,
      t = to[0] * ux + to[1] * uy;
    if (Math.abs(s - t) > near) continue;
    const v = -from[0] * uy + from[1] * ux,
      w = -to[0] * uy + to[1] * ux;
    if (Math.abs(s - t) > CAP_SINE * Math.abs(v - w)) continue;
    out.push({ at: (s + t) / 2, low: Math.min(v, w), high: Math.max(v, w) });
  }
  return out.sort((a, b) => a.at - b.at);
}

/** What of these closes a band: from one face to the other at least. */
const capsOf = (lines: readonly CrossLine[], [v0, v1]: readonly [number, number], near: number): Caps => ({
  closes: (place) => {
    let [low, high] = [0, lines.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (lines[middle].at < place - near) low = middle + 1;
      else high = middle;
    }
    for (let i = low; i < lines.length && lines[i].at <= place + near; i++)
      if (lines[i].low <= v0 + near && lines[i].high >= v1 - near) return true;
    return false;
  },
});

/** Less than this share of its faces left to it, a run is explained by others. */
const LEAST_LEFT = 0.55;

/**
 * The best runs that can be there at once: none lies within another, also where that runs on across its openings, and no line is the face of two: beyond
 * the face of a wall there is a room.
 */
function chosenOf(candidates: readonly Run[], { near }: Limits): Run[] {
  const chosen: Run[] = [],
    faces = new Map<string, [number, number][]>();
  for (const run of [...candidates].sort((a, b) => b.score - a.score)) {
    if (run.confidence < LEAST_SURE) continue;
    const within = chosen
        .filter((c) => c.way === run.way && c.offs[0] < run.offs[1] - near && c.offs[1] > run.offs[0] + near)
        .map((c): [number, number] => [c.from, c.to]),
      keys = [`${run.way} ${run.low}`, `${run.way} ${run.high}`],
      length = total(run.both),
      free = Math.min(
        ...[joined(within), ...keys.map((k) => joined(faces.get(k) ?? []))].map(
          (taken) => length - run.both.reduce((sum, s) => sum + covered(s, taken), 0),
        ),
      );
    if (free < LEAST_LEFT * length) continue;
    chosen.push(run);
    for (const k of keys) faces.set(k, [...(faces.get(k) ?? []), ...run.both]);
  }
  return chosen;
}
const LEAST_SURE = 0.2;

/** Walls as they run from junction to junction: their ends go on to the middle of what they run into. */
function connected(runs: readonly Run[], ways: readonly Way[], { near }: Limits, mm: number): SeenWall[] {
  const lines = runs.map((r) => {
    const { angle } = ways[r.way],
      [ux, uy] = [Math.cos(angle), Math.sin(angle)],
      v = (r.offs[0] + r.offs[1]) / 2,
      at = (s: number): [number, number] => [s * ux - v * uy, s * uy + v * ux];
    return { r, ux, uy, v, at, half: (r.offs[1] - r.offs[0]) / 2, ends: [r.from, r.to] as [number, number] };
  });
  for (const line of lines)
    for (const k of [0, 1] as const) {
      const end = line.at(line.ends[k]);
      let best: number | null = null,
        least = Infinity;
      for (const other of lines) {
        const cross = line.ux * other.uy - line.uy * other.ux;
        if (other === line || Math.abs(cross) < 0.1) continue;
        const across = -end[0] * other.uy + end[1] * other.ux - other.v,
          along = end[0] * other.ux + end[1] * other.uy,
          slack = line.half + 3 * near;
        if (Math.abs(across) > other.half + 3 * near) continue;
        if (
          along < Math.min(...other.ends) - slack - other.half ||
          along > Math.max(...other.ends) + slack + other.half
        )
          continue;
        // Where both middle lines cross, along this one.
        const s = line.ends[k] + across / cross,
          moved = Math.abs(s - line.ends[k]);
        if (moved < least && moved <= (other.half + 3 * near) / Math.abs(cross)) [best, least] = [s, moved];
      }
      if (best !== null) line.ends[k] = best;
    }
  return lines.map(({ r, at, half, ends }) => ({
    from: at(Math.min(...ends)),
    to: at(Math.max(...ends)),
    thickness: 2 * half * mm,
    confidence: Math.min(0.99, r.confidence),
    doubts: [],
    solid: null,
  }));
}
