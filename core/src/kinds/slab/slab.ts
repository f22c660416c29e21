import { cleanRing, outlineOf, type Block } from '../../geometry/index.ts';
import { formatArea } from '../../units/index.ts';
import type { Drawn } from '../drawn.ts';
import { listedDoubts, NO_INSIDE, type Kind } from '../kind.ts';
import { areaOfRings, flatRings, movedRings, ringedKind, type OutlineRing } from '../ringed.ts';

/** What of a slab may not have been said by anybody. */
export const SLAB_MEASURES = ['thickness', 'top'] as const;
export type SlabMeasure = (typeof SLAB_MEASURES)[number];

/** A floor, or a flat roof: an outline with its holes; millimetres. */
export interface Slab extends Drawn {
  type: 'slab';
  /** The outline, and its holes after it. */
  rings: OutlineRing[];
  thickness: number;
  /** Its upper face above the level of its storey. */
  top: number;
  assumed: SlabMeasure[];
}

/** Area of a slab without its holes, square millimetres. */
export const slabArea = (e: Pick<Slab, 'rings'>): number => areaOfRings(e);

export const SLAB: Kind<Slab> = {
  ...ringedKind<Slab>(),
  word: () => 'slab',
  summary: (e, style) => formatArea(slabArea(e), style.units),
  layer: { name: 'Slabs', colour: 0x6b5b4b, lineType: 'solid' },
  shapes: (e, layer) => e.rings.map((r) => ({ kind: 'polyline', layer, ...r, closed: true })),
  inside: NO_INSIDE,
  doubts: listedDoubts<Slab>(),
  blocks: (e): Block[] => {
    const [outer, ...holes] = flatRings(e).map(cleanRing);
    if (outer.length < 3) return [];
    const outline = outlineOf([outer, ...holes.filter((r) => r.length > 2)]);
    return [{ outline, low: e.top - e.thickness, high: e.top }];
  },
  moved: (e, map) => ({ ...e, rings: movedRings(e.rings, map) }),
};
