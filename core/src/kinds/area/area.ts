import { determinant, lengthOfPieces, meanScale, turnOf, type Transform } from '../../geometry/index.ts';
import { formatArea, formatLengthWithUnit, type LengthStyle } from '../../units/index.ts';
import type { Drawn } from '../drawn.ts';
import { wordsAt, type Shape } from '../flat-shape.ts';
import { NO_BLOCKS, type Kind } from '../kind.ts';
import { movedRings, ringedKind, ringPieces, type OutlineRing } from '../ringed.ts';
import { areaFigures, areaHatch, areaLabelPlace, areaRings } from './figures.ts';

/** How an area is filled: not at all, evenly, or with lines at an angle (radians) and a spacing, perhaps crossed by others. */
export type AreaFill =
  { kind: 'none' } | { kind: 'solid' } | { kind: 'hatch'; angle: number; spacing: number; crossed: boolean };

/** An area within a closed path of lines and arcs, perhaps with holes. */
export interface Area extends Drawn {
  type: 'area';
  rings: OutlineRing[];
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

/** Height of what is written in it where it is delivered, millimetres: 2.5 mm of paper at 1:50. */
const WORDS = 125;

export const AREA: Kind<Area> = {
  ...ringedKind<Area>(),
  word: () => 'area',
  summary: (e, style) => formatLengthWithUnit(lengthOfPieces(e.rings.flatMap(ringPieces)), style),
  layer: { name: 'Areas', colour: 0x2b7553, lineType: 'solid' },
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
  inside: (e) => (e.fill.kind === 'none' ? [] : areaRings(e)),
  moved: (e, map) => ({ ...e, rings: movedRings(e.rings, map), fill: movedFill(e.fill, map) }),
  blocks: NO_BLOCKS,
  doubts: null,
};
