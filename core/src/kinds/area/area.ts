import {
  applyTransform,
  determinant,
  lengthOfPieces,
  meanScale,
  turnOf,
  type Transform,
} from '../../geometry/index.ts';
import { formatArea, formatLengthWithUnit, type LengthStyle } from '../../units/index.ts';
import { heldPoints, mirroredBulges, pairOf, stretchesLeft, type Drawn, type Pair } from '../drawn.ts';
import { wordsAt, type Shape } from '../flat-shape.ts';
import { NO_FRAME, type Kind } from '../kind.ts';
import { boxOfPieces, edgesAlong } from '../path/path.ts';
import { areaFigures, areaHatch, areaLabelPlace, areaRings, ringPieces } from './figures.ts';

/** How an area is filled: not at all, evenly, or with lines at an angle (radians) and a spacing, perhaps crossed by others. */
export type AreaFill =
  { kind: 'none' } | { kind: 'solid' } | { kind: 'hatch'; angle: number; spacing: number; crossed: boolean };

/** An area within a closed path of lines and arcs, perhaps with holes. */
export interface Area extends Drawn {
  type: 'area';
  rings: { points: Pair[]; bulges: number[] }[];
  fill: AreaFill;
  name: string;
  /** Is its figure written in it? */
  figure: boolean;
}

/** What is written in an area: its name, and its figure where it is shown. */
export const areaWords = (e: Area, style: LengthStyle): string[] =>
  [e.name, e.figure ? formatArea(areaFigures(e).area, style.units) : ''].filter((t) => t !== '');

function movedFill(fill: AreaFill, map: Transform): AreaFill {
  if (fill.kind !== 'hatch') return fill;
  const turn = turnOf(map);
  return {
    ...fill,
    spacing: fill.spacing * meanScale(map),
    angle: determinant(map) < 0 ? turn - fill.angle : turn + fill.angle,
  };
}

const piecesOf = (e: Area) => e.rings.flatMap(ringPieces);
const gripsOf = (e: Area) => e.rings.flatMap((r) => r.points);
const isWhole = (rings: Area['rings']) => rings.every((r) => stretchesLeft(r.points, true));

/** Rings with something done to each, told where its grips begin. */
function eachRing<T>(rings: Area['rings'], act: (ring: Area['rings'][number], first: number) => T): T[] {
  let first = 0;
  return rings.map((r) => {
    const done = act(r, first);
    first += r.points.length;
    return done;
  });
}

/** Height of what is written in it where it is delivered, millimetres: 2.5 mm of paper at 1:50. */
const WORDS = 125;

export const AREA: Kind<Area> = {
  word: () => 'area',
  summary: (e, style) => formatLengthWithUnit(lengthOfPieces(piecesOf(e)), style),
  layer: { name: 'Areas', colour: 0x2b7553, lineType: 'solid' },
  isRun: false,
  carries: true,
  rests: null,
  refers: [],
  shapes: (e, layer, style) => {
    const outlines: Shape[] =
      e.fill.kind === 'solid'
        ? [{ kind: 'region', layer, rings: areaRings(e) }]
        : e.rings.map((r) => ({ kind: 'polyline', layer, ...r, closed: true }));
    const hatch = areaHatch(e).map(([from, to]): Shape => ({ kind: 'line', layer, from, to })),
      at = areaLabelPlace(e);
    return [
      ...outlines,
      ...hatch,
      ...areaWords(e, style).map((words, i) =>
        wordsAt(words, [at[0], at[1] - 1.4 * i * WORDS], 0, WORDS, layer),
      ),
    ];
  },
  pieces: piecesOf,
  box: (e) => boxOfPieces(piecesOf(e)),
  length: (e) => lengthOfPieces(piecesOf(e)),
  frame: NO_FRAME,
  inside: (e) => (e.fill.kind === 'none' ? [] : areaRings(e)),
  grips: gripsOf,
  joints: (e) => gripsOf(e).map((_, i) => i),
  ends: () => null,
  edges: (e) => eachRing(e.rings, (r, first) => edgesAlong(r.points, r.bulges, true, first)).flat(),
  moved: (e, map) => ({
    ...e,
    rings: e.rings.map((r) => ({
      points: r.points.map((p) => applyTransform(map, p)),
      bulges: mirroredBulges(r.bulges, determinant(map) < 0),
    })),
    fill: movedFill(e.fill, map),
  }),
  withGrip: (e, grip, to) => {
    const rings = eachRing(e.rings, (r, first) => ({
      ...r,
      points: r.points.map((p, i) => (first + i === grip ? pairOf(to) : p)),
    }));
    return isWhole(rings) ? { ...e, rings } : null;
  },
  stretched: (e, holds, by) => {
    const held = e.rings.map((r) => heldPoints(r.points, holds, by)),
      rings = e.rings.map((r, i) => ({ ...r, points: held[i].points }));
    if (held.every((h) => !h.moved)) return e;
    return isWhole(rings) ? { ...e, rings } : null;
  },
};
