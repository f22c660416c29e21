import { MM_PER_POINT } from '../geometry/index.ts';
import type { Linework } from '../linework/index.ts';
import {
  bandsOf,
  classesOf,
  classOf,
  weightOf,
  type Band,
  type Limits,
  type ThicknessClass,
} from './bands.ts';
import { waysOf, type Way } from './carriers.ts';
import { connected } from './connect.ts';
import { curvedWalls } from './curved.ts';
import { pensOf, pensOfFaces, pensOfWalls } from './pens.ts';
import { CrossLines, crowdOf, runsOf, type Run } from './runs.ts';
import { covered, joined, total } from './spans.ts';
import type { SeenWalls, Told } from './seen-walls.ts';
import { strokesOf, type Stroke } from './strokes.ts';
import { thickPens, thickRuns } from './thick.ts';

const TOLD_NOTHING: Told = { notThick: [], pens: {} };

/** How much the pen of a wall counts: less where it is told by how wide ink is. */
const PEN = 0.7,
  PEN_OF_INK = 0.3;

/** Millimetres: walls are no thinner and no thicker; a stretch of both faces is this long at least; one line is so near to another. */
const THINNEST = 45,
  THICKEST = 800,
  SHORTEST = 40,
  NEAR = 4,
  /** On paper lines are no nearer to one another than this, millimetres of paper. */
  NEAR_ON_PAPER = 0.06;
/**
 * The straight walls of a sheet that is to scale, by their parallel faces: pairs of lines in the thicknesses that the sheet itself shows, drawn by the pens
 * that draw most of them, across openings, joined where they meet. `factor`: true millimetres to a millimetre of paper.
 */
export function proposedWalls(l: Linework, factor: number, told: Told = TOLD_NOTHING, slack = 0): SeenWalls {
  const mm = MM_PER_POINT * factor,
    limits: Limits = {
      thinnest: THINNEST / mm,
      thickest: THICKEST / mm,
      shortest: SHORTEST / mm,
      near: Math.max(NEAR / mm, NEAR_ON_PAPER / MM_PER_POINT, slack),
      penWeight: slack > 0 ? PEN_OF_INK : PEN,
      slack,
    },
    strokes = strokesOf(l);
  const drawn = new Map<string, number>();
  for (const { from, to, pen } of strokes)
    drawn.set(pen, (drawn.get(pen) ?? 0) + Math.hypot(to[0] - from[0], to[1] - from[1]));
  const faces = facedWalls(strokes, drawn, limits, mm, told),
    singles = strokes.filter((s) => !s.filled && told.single?.[s.pen] !== undefined).map((s) => s.pen),
    // What a person says of single lines goes before what is seen.
    thick = singles.length > 0 ? new Set(singles) : thickPens(strokes, mm, faces.shares),
    lines = strokes.filter((s) => thick.has(s.pen)),
    // Walls that go on in another thickness are not one.
    byPen = [...thick].map((pen) => {
      const of = lines.filter((s) => s.pen === pen),
        single = told.single?.[pen],
        width = single === undefined ? of[0].width : single / mm;
      return {
        ways: waysOf(of, limits.near, slack),
        width,
        beyond: single === undefined ? width / 2 : 0,
      };
    }),
    lineWays = byPen.flatMap((p) => p.ways);
  let first = 0;
  const plain = byPen.flatMap(({ ways, width, beyond }) => {
    const runs = thickRuns(ways, width, mm, first, beyond);
    first += ways.length;
    return runs;
  });
  // The frame of a sheet is a thick line too: what explains more of the sheet counts.
  if (
    singles.length === 0 &&
    lengthOf(plain) < THICK_OF_FACED * lengthOf(faces.chosen.filter((r) => r.confidence >= SURE))
  )
    return {
      walls: [
        ...connected(faces.chosen, faces.ways, limits, mm, l),
        ...curvedWalls(l, mm, limits, faces.classes, faces.pens),
      ],
      classes: faces.classes.map((c) => c.thickness * mm),
      pens: faces.pens,
    };
  // Walls that are thick lines have no faces: what is left is looked at without them.
  const rest = facedWalls(
      strokes.filter((s) => !thick.has(s.pen)),
      drawn,
      limits,
      mm,
      told,
    ),
    runs = plain.map((r) => ({ ...r, way: r.way + rest.ways.length })),
    chosen = chosenOf([...runs, ...rest.chosen.map((r) => ({ ...r, ...doubted(r) }))], limits);
  return {
    walls: connected(chosen, [...rest.ways, ...lineWays], limits, mm, l),
    classes: classesByLength(chosen, mm),
    pens: new Map([...thick].map((pen) => [pen, 1])),
  };
}
const THICK_OF_FACED = 0.8,
  SURE = 0.45;
const lengthOf = (runs: readonly Run[]): number => runs.reduce((sum, r) => sum + total(r.both), 0);

/** Beside walls that are thick lines, others are less sure. */
const doubted = ({ confidence, score, doubts }: Run) => ({
  confidence: 0.25 * confidence,
  score: 0.25 * score,
  doubts: [...doubts, 'the walls are drawn as thick lines'],
});

/** The thicknesses of walls, the one that most have first. */
function classesByLength(runs: readonly Run[], mm: number): number[] {
  const sums = new Map<number, number>();
  for (const { offs, from, to } of runs) {
    const t = Math.round((offs[1] - offs[0]) * mm);
    sums.set(t, (sums.get(t) ?? 0) + to - from);
  }
  return [...sums].sort((a, b) => b[1] - a[1]).map(([t]) => t);
}

/** Walls by their two faces. */
function facedWalls(
  strokes: readonly Stroke[],
  drawn: ReadonlyMap<string, number>,
  limits: Limits,
  mm: number,
  told: Told,
): {
  chosen: Run[];
  ways: Way[];
  classes: ThicknessClass[];
  shares: Map<string, number>;
  pens: Map<string, number>;
} {
  const ways = waysOf(
      strokes.filter((s) => told.pens[s.pen] !== false),
      limits.near / 2,
      limits.slack,
    ),
    across = ways.map((w) => new CrossLines(strokes, w.angle, limits.near)),
    bands = ways
      .flatMap((way, i) => likeliest(bandsOf(way, i, limits)))
      .filter((b) => !isRefused(b.thickness * mm, told))
      .map((b) => ({ ...b, crowded: crowdOf(b, ways[b.way], across[b.way], limits) })),
    drew = bands.map((b) => pensOfFaces(ways[b.way], b)),
    numberOf = new Map(bands.map((b, i) => [b, i])),
    pensOfBand = (b: Band) => drew[numberOf.get(b)!],
    penOf = (b: Band) =>
      Math.max(0, ...pensOfBand(b).map((pen) => (told.pens[pen] ? 1 : (pens.get(pen) ?? 0))));
  let pens = pensOf(bands, pensOfBand),
    shares = new Map<string, number>(),
    classes = classesOf(bands, limits.near, penOf),
    chosen: Run[] = [];
  // What is surely a wall tells which pens draw walls and how thick these are; with that all is looked at again.
  for (let pass = 0; pass < PASSES; pass++) {
    const layers = layersOf(bands, classes, penOf, limits);
    chosen = chosenOf(
      bands.flatMap((band) =>
        runsOf(band, ways, across[band.way], classes, {
          pen: penOf(band),
          layer: layers.has(band),
          mm,
          limits,
        }),
      ),
      limits,
    );
    ({ pens, shares } = pensOfWalls(chosen, ways, drawn));
    // By now what lies within a wall is told from walls.
    const within = withinRuns(chosen, limits);
    classes = classesOf(
      bands.filter((b) => !within(b, ways[b.way])),
      limits.near,
      penOf,
    );
  }
  return { chosen, ways, classes, shares, pens };
}
const PASSES = 3;

/** What is one of a row as far as this is never chosen; of more bands one way than the second only the weightiest are looked at. */
const ROW = 0.85,
  MOST_BANDS = 12000;

function likeliest(bands: readonly Band[]): Band[] {
  const alone = bands.filter((b) => b.again < ROW);
  if (alone.length <= MOST_BANDS) return alone;
  return alone
    .map((band) => ({ band, weight: weightOf(band) }))
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST_BANDS)
    .map((w) => w.band);
}

/** Thicknesses are one that differ by less than this, millimetres, or by this share. */
const AS_THICK = 6,
  AS_THICK_SHARE = 0.03;
const isRefused = (thickness: number, { notThick }: Told): boolean =>
  notThick.some((t) => Math.abs(t - thickness) <= Math.max(AS_THICK, AS_THICK_SHARE * t));

/** Does a band lie within a thicker run? */
function withinRuns(runs: readonly Run[], { near }: Limits): (b: Band, way: Way) => boolean {
  const byWay = new Map<number, Run[]>();
  for (const r of runs) if (r.confidence >= SURE) byWay.set(r.way, [...(byWay.get(r.way) ?? []), r]);
  return (b, { carriers }) => {
    const [low, high] = [carriers[b.low].off, carriers[b.high].off],
      around = (byWay.get(b.way) ?? []).filter(
        (r) =>
          r.offs[0] <= low + near &&
          r.offs[1] >= high - near &&
          r.offs[1] - r.offs[0] > high - low + 2 * near,
      );
    if (around.length === 0) return false;
    const taken = joined(around.map((r): [number, number] => [r.from, r.to]));
    return b.both.reduce((sum, s) => sum + covered(s, taken), 0) > 0.7 * total(b.both);
  };
}

/** A wall of layers is no thicker than this, millimetres of what is shown, and lies in a class at least so frequent. */
const LAYERED = 460,
  LEAST_CLASS = 0.6;

/** Bands that are layers of thicker ones: of walls as others of the sheet are, along which they run. */
function layersOf(
  bands: readonly Band[],
  classes: readonly ThicknessClass[],
  penOf: (b: Band) => number,
  { near, thickest }: Limits,
): Set<Band> {
  const out = new Set<Band>(),
    most = (LAYERED / THICKEST) * thickest,
    walls = bands.filter(
      (b) =>
        b.between.length > 0 &&
        b.thickness <= most &&
        b.crowded < 0.3 &&
        b.alike > 0.4 &&
        classOf(classes, b.thickness, near) >= LEAST_CLASS,
    ),
    byWay = new Map<number, Band[]>();
  for (const w of walls) byWay.set(w.way, [...(byWay.get(w.way) ?? []), w]);
  for (const b of bands) {
    const length = total(b.both);
    for (const w of byWay.get(b.way) ?? [])
      if (
        w.low <= b.low &&
        w.high >= b.high &&
        w.thickness > b.thickness + near &&
        penOf(w) >= 0.8 * penOf(b) &&
        b.both.reduce((sum, s) => sum + covered(s, w.both), 0) > 0.7 * length
      ) {
        out.add(b);
        break;
      }
  }
  return out;
}

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
