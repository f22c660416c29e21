import type { PrintedReading } from '../../calibration/index.ts';
import {
  applyTransform,
  makeRegion,
  MM_PER_POINT,
  regionContains,
  type Point,
} from '../../geometry/index.ts';
import {
  cropRingOf,
  isCircle,
  type Model,
  type Pair,
  type PrintedSource,
  type Rule,
  type RulePlace,
  type Underlay,
} from '../../model/index.ts';
import { readPrinted, type SheetUnit } from '../callouts/index.ts';
import { stateOf } from '../sketch/state.ts';
import type { SketchRule } from '../sketch/sketch.ts';
import {
  centreGrip,
  pointGrips,
  pointId,
  pointOf,
  ruledOn,
  rulesOn,
  sketchPieces,
  type Ruled,
} from './of-plane.ts';

/** A printed dimension that could drive what is drawn where it points. */
export interface OfferedFigure {
  kind: Rule['kind'];
  of: RulePlace[];
  /** Millimetres, with the sign that across and up have. */
  value: number;
  tolerance: { plus: number; minus: number } | null;
  printed: PrintedSource;
  /** What is drawn measures so much. */
  drawn: number;
}

/** The end of a dimension and what it is drawn to may be so far apart, millimetres of paper. */
const SLACK_ON_PAPER = 0.6;
/** A dimension is level or upright within this, radians. */
const STRAIGHT = 0.01;
const ALREADY = 1e-9;

/**
 * The printed dimensions of a sheet that lies on a plane, each with the linework that it would drive: those that say something that nothing on the plane
 * says yet, and that can all hold at once.
 */
export function offeredFigures(
  model: Model,
  planeId: string,
  sheets: readonly { underlay: Underlay; reading: PrintedReading }[],
  unit: SheetUnit,
): OfferedFigure[] {
  const all = ruledOn(model, planeId).filter((e) => e.type !== 'constructionLine');
  if (all.length === 0) return [];
  const offers = sheets.flatMap(({ underlay, reading }) => {
    const factor = Math.hypot(underlay.placement[0], underlay.placement[1]) / MM_PER_POINT,
      slack = SLACK_ON_PAPER * factor,
      laid = makeRegion([cropRingOf(underlay)], 'nonzero');
    return reading.dimensions.flatMap((d): OfferedFigure[] => {
      if (d.kind === 'angle' || d.kind === 'arc' || d.free || !regionContains(laid, d.from[0], d.from[1]))
        return [];
      const [from, to] = [d.from, d.to].map((p) => applyTransform(underlay.placement, p)),
        found =
          d.kind === 'diameter' || d.kind === 'radius'
            ? ofRound(all, d.kind, from, to, slack)
            : ofStretch(all, from, to, slack);
      if (!found) return [];
      const { x, y, width, radians } = d.figure;
      return [
        {
          ...found,
          value: Math.sign(found.drawn || 1) * d.millimetres,
          tolerance: readPrinted(d.text, unit)?.tolerance ?? null,
          printed: {
            underlayId: underlay.id,
            text: d.text.trim().slice(0, MOST_LETTERS),
            at: [x + (Math.cos(radians) * width) / 2, y + (Math.sin(radians) * width) / 2],
          },
        },
      ];
    });
  });
  return independent(all, rulesOn(model, planeId), offers);
}
const MOST_LETTERS = 200;

type Found = Pick<OfferedFigure, 'kind' | 'of' | 'drawn'>;
const far = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** The round that a diameter or a radius is drawn to. */
function ofRound(
  all: readonly Ruled[],
  kind: 'diameter' | 'radius',
  from: Point,
  to: Point,
  slack: number,
): Found | null {
  const size = far(from, to),
    middle: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  const near = all.flatMap((e) => {
    if (e.type !== 'arc') return [];
    const drawn = kind === 'diameter' ? 2 * e.radius : e.radius,
      centre = kind === 'diameter' ? far(e.centre, middle) : Math.min(far(e.centre, from), far(e.centre, to));
    return centre <= 2 * slack && Math.abs(drawn - size) <= 2 * slack ? [{ e, drawn, off: centre }] : [];
  });
  if (near.length === 0) return null;
  const { e, drawn } = near.reduce((a, b) => (b.off < a.off ? b : a));
  return { kind, of: [{ id: e.id, grip: null }], drawn };
}

/** What a straight dimension is drawn between: along its own direction both ends lie at a point of the linework. */
function ofStretch(all: readonly Ruled[], from: Point, to: Point, slack: number): Found | null {
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0]),
    turn =
      Math.abs(Math.sin(angle)) <= STRAIGHT ? 'across' : Math.abs(Math.cos(angle)) <= STRAIGHT ? 'up' : null;
  if (turn === null) {
    const line = all.find((e) => e.type !== 'arc' && alongLine(e, from, to, slack));
    return line
      ? { kind: 'length', of: [{ id: line.id, grip: null }], drawn: far(pointOf(line, 0), pointOf(line, 1)) }
      : null;
  }
  const axis = turn === 'across' ? 0 : 1,
    points = all.flatMap((e) =>
      pointGrips(e)
        // The centre of a corner's round is no end of a dimension where its linework has ends there.
        .filter((g) => e.type !== 'arc' || isCircle(e) || g !== centreGrip(e))
        .map((grip) => ({ place: { id: e.id, grip }, at: pointOf(e, grip) })),
    );
  const at = (end: Point) => {
    const near = points.filter((p) => Math.abs(p.at[axis] - end[axis]) <= slack);
    if (near.length === 0) return null;
    // Of what lies there along it, what is nearest in its own measure, then what is nearest to it.
    return near.reduce((a, b) => {
      const off = ([p, q]: [typeof a, Point]) => Math.round(Math.abs(p.at[axis] - q[axis]) / (slack / 20));
      const [x, y] = [off([a, end]), off([b, end])];
      return y < x || (y === x && far(b.at, end) < far(a.at, end)) ? b : a;
    });
  };
  const [a, b] = [at(from), at(to)];
  if (!a || !b || Math.abs(b.at[axis] - a.at[axis]) <= slack) return null;
  return { kind: turn, of: [a.place, b.place], drawn: b.at[axis] - a.at[axis] };
}

/** A slanting line between whose ends a dimension runs alongside. */
function alongLine(e: Ruled, from: Point, to: Point, slack: number): boolean {
  const [p, q]: [Pair, Pair] = [pointOf(e, 0), pointOf(e, 1)],
    n = far(p, q);
  if (!(n > 0)) return false;
  const way: Point = [(q[0] - p[0]) / n, (q[1] - p[1]) / n],
    along = ([x, y]: Point) => (x - p[0]) * way[0] + (y - p[1]) * way[1],
    [a, b] = [along(from), along(to)].sort((x, y) => x - y);
  const isParallel = Math.abs((to[0] - from[0]) * way[1] - (to[1] - from[1]) * way[0]) <= slack;
  return isParallel && Math.abs(a) <= slack && Math.abs(b - n) <= slack;
}

/** Offers that say something of their own beside what is there and what came before them. */
function independent(
  all: readonly Ruled[],
  given: readonly Rule[],
  offers: readonly OfferedFigure[],
): OfferedFigure[] {
  if (offers.length === 0) return [];
  const ids = new Set(all.map((e) => e.id)),
    pieces = sketchPieces(all),
    place = (p: RulePlace) => (p.grip === null ? p.id : pointId(p.id, p.grip)),
    at = new Map(pieces.points.map((p) => [p.id, p.at]));
  // With the measures that are drawn: whether a rule says something new does not depend on its figure.
  const asRule = (
    kind: Rule['kind'],
    of: readonly RulePlace[],
    id: string,
    value: number | null,
  ): SketchRule =>
    ({
      id,
      kind,
      of: of.map(place),
      ...(value === null ? {} : { value }),
      ...(kind === 'fixed' ? { at: at.get(place(of[0])) } : {}),
    }) as SketchRule;
  const known = given.filter((r) => r.of.every((p) => ids.has(p.id))),
    state = stateOf({
      ...pieces,
      rules: [
        ...known.map((r) => asRule(r.kind, r.of, r.id, r.value)),
        ...offers.map((o, i) => asRule(o.kind, o.of, `offer:${i}`, o.drawn)),
      ],
    }),
    said = new Set([...state.redundant, ...state.contradictory].map((c) => c.rule));
  return offers.filter(
    (o, i) =>
      !said.has(`offer:${i}`) &&
      !known.some(
        (r) => r.printed?.underlayId === o.printed.underlayId && far(r.printed.at, o.printed.at) <= ALREADY,
      ),
  );
}
