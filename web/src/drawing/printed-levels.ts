import { MM_PER_POINT, boxRing, worldFromPlane, type Point } from '@calque/core/geometry';
import { ofType, planeOf } from '@calque/core/model';
import { frameOf } from '@calque/core/planes';
import { parseLevel } from '@calque/core/units';
import type { Table } from '@/table/table';
import { textsWithin } from './sheet-texts';

/** A figure belongs to a mark that is no farther from it than this, millimetres of paper. */
const NEAR_ON_PAPER = 18;
/** What stands at a place of an upright plane: the height that it has there, and what the sheet prints beside it. */
export interface LevelSeen {
  /** Of the model at the place picked, millimetres. */
  measured: number;
  /** Null where no figure of a level stands near. */
  printed: {
    level: number;
    text: string;
    /** Does the sheet on which it stands say how large it is? Else what is measured on it says nothing. */
    isScaled: boolean;
  } | null;
}

export function levelAt(table: Table, at: Point): LevelSeen | null {
  const { model } = table.session.state,
    { planeId } = table.state.getState(),
    plane = planeOf(model, planeId);
  if (!plane || plane.type === 'storey') return null;
  const [, , measured] = worldFromPlane(frameOf(plane), at),
    scales = ofType(model, 'underlay')
      .filter((u) => u.planeId === planeId && u.visible)
      .map((u) => Math.hypot(u.placement[0], u.placement[1])),
    reach = (NEAR_ON_PAPER / MM_PER_POINT) * Math.max(0, ...scales);
  const texts = textsWithin(
    table,
    planeId,
    boxRing([at[0] - reach, at[1] - reach, at[0] + reach, at[1] + reach]),
  );
  let printed: LevelSeen['printed'] = null,
    least = Infinity;
  for (const { at: place, text, underlay } of texts) {
    const level = parseLevel(text),
      scale = Math.hypot(underlay.placement[0], underlay.placement[1]),
      // On paper, however large the sheet lies here.
      far = (Math.hypot(place[0] - at[0], place[1] - at[1]) / scale) * MM_PER_POINT;
    if (level !== null && far <= NEAR_ON_PAPER && far < least) {
      printed = { level, text: text.trim(), isScaled: underlay.scaleState !== 'paper' };
      least = far;
    }
  }
  return { measured, printed };
}
