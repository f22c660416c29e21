import {
  applyTransform,
  compose,
  translation,
  type SheetPoint,
  type Transform,
} from '../../geometry/index.ts';
import type { Stretching } from './lengths.ts';

/** The turn of a map, without its stretch: the rotation of its polar decomposition, radians. */
export const polarTurn = (t: Transform): number => Math.atan2(t[1] - t[2], t[0] + t[3]);

/** A placement with the stretching that was fitted, turned as before; `anchor`, a point of the sheet, stays where it lies. */
export function placeFitted(before: Transform, [a, b, c]: Stretching, anchor: SheetPoint): Transform {
  const turn = polarTurn(before);
  const exact = Math.abs(Math.sin(turn)) < 1e-15 ? 0 : turn;
  const cos = Math.cos(exact),
    sin = Math.sin(exact);
  const linear: Transform = [
    cos * a - sin * c,
    sin * a + cos * c,
    cos * c - sin * b,
    sin * c + cos * b,
    0,
    0,
  ];
  const target = applyTransform(before, anchor),
    now = applyTransform(linear, anchor);
  return compose(translation(target[0] - now[0], target[1] - now[1]), linear);
}
