import type { Frame, ModelPoint } from '../../geometry/index.ts';
import { dot3, facing } from '../../geometry/index.ts';
import type { Seat } from '../../part/index.ts';
import { boxOf, type Body } from '../body.ts';
import { StepFault } from '../fault.ts';
import { planeOfFace } from '../facts.ts';
import { shifted } from '../wires.ts';

/** What a step is made on. */
export interface Context {
  /** Its id, by which its faces are called. */
  id: string;
  /** What has been made before; null where it is the first. */
  body: Body | null;
  /** The bytes of an attached file; null where it is not there. */
  file(id: string): Uint8Array | null;
}

/** Directions of faces and planes that differ by less than this (sine) are one. */
const SAME_WAY = 1e-9;

/** Where a plane lies now: on its face, if it has one, wherever that has come to lie. */
export function frameNow({ frame, face }: Seat, body: Body | null): Frame {
  if (!face) return frame;
  const normal = facing(frame);
  for (const { face: shape, name } of body?.faces ?? []) {
    if (name !== face) continue;
    const plane = planeOfFace(shape);
    if (!plane || dot3(plane.normal, normal) < 1 - SAME_WAY) continue;
    return shifted(
      frame,
      dot3(
        [plane.at[0] - frame.origin[0], plane.at[1] - frame.origin[1], plane.at[2] - frame.origin[2]],
        normal,
      ),
    );
  }
  throw new StepFault('The face on which it lies is not there any more, or not flat the same way.');
}

/** How far a body reaches from a place along a direction: behind it (below 0) and before it; nothing for no body. */
export function reachAlong(body: Body | null, from: ModelPoint, way: ModelPoint): [number, number] {
  const box = body && boxOf(body.shape);
  if (!box) return [0, 0];
  let least = Infinity,
    most = -Infinity;
  for (const x of [box[0], box[3]])
    for (const y of [box[1], box[4]])
      for (const z of [box[2], box[5]]) {
        const at = dot3([x - from[0], y - from[1], z - from[2]], way);
        least = Math.min(least, at);
        most = Math.max(most, at);
      }
  return [least, most];
}

/** Beyond what is there, so that nothing of it is left on its edge. */
export const BEYOND = 1;
