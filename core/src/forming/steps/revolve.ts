import {
  pieceAt as atOf,
  worldFromPlane,
  type Frame,
  type ModelPoint,
  type Point,
} from '../../geometry/index.ts';
import type { ProfileRegion, StepForm } from '../../part/index.ts';
import { facesOf, listed, ShapeMap, type Body } from '../body.ts';
import { combined } from '../combine.ts';
import { StepFault } from '../fault.ts';
import { inScope, kernel } from '../kernel.ts';
import { axisAt, faceOf } from '../wires.ts';
import { frameNow, type Context } from './context.ts';

type RevolveForm = Extract<StepForm, { kind: 'revolve' }>;

const TAU = 2 * Math.PI;

/** A region turned about a line of its plane, with its faces named by their curves; what lies on the line makes none. */
export function turnedBody(
  frame: Frame,
  region: ProfileRegion,
  axis: { at: ModelPoint; way: ModelPoint },
  angle: number,
  name: (curve: string) => string,
  ends: [string, string],
): Body {
  return inScope((s) => {
    const k = kernel(),
      { face, edges } = faceOf(s, frame, region),
      line = axisAt(s, axis.at, axis.way),
      making = s.keep(
        angle >= TAU - 1e-9
          ? new k.BRepPrimAPI_MakeRevol(face, line, true)
          : new k.BRepPrimAPI_MakeRevol(face, line, angle, true),
      );
    if (!making.IsDone()) throw new StepFault('It cannot be turned about that line.');
    const shape = making.Shape(),
      names = new ShapeMap<string>();
    for (const { edge, id } of edges)
      for (const side of listed(making.Generated(edge))) names.set(side, name(id));
    if (angle < TAU - 1e-9) {
      names.set(making.FirstShape(), ends[0]);
      names.set(making.LastShape(), ends[1]);
    }
    return {
      shape,
      faces: facesOf(shape).map((f, i) => ({ face: f, name: names.get(f) ?? `${name('other')}:${i}` })),
    };
  });
}

/** The solid that a turning makes, with its faces named. */
export function revolveTool(form: RevolveForm, { id, body }: Context): Body {
  const frame = frameNow(form.seat, body),
    [a, b] = form.axis;
  refuseAcross(form.regions, a, b);
  const at = worldFromPlane(frame, a),
    to = worldFromPlane(frame, b),
    n = Math.hypot(to[0] - at[0], to[1] - at[1], to[2] - at[2]);
  if (n < 1e-9) throw new StepFault('The line about which it turns is a point.');
  const way: ModelPoint = [(to[0] - at[0]) / n, (to[1] - at[1]) / n, (to[2] - at[2]) / n];
  const bodies = form.regions.map((region, i) => {
    const prefix = form.regions.length === 1 ? id : `${id}:${i}`;
    return turnedBody(frame, region, { at, way }, form.angle, (curve) => `${prefix}/side:${curve}`, [
      `${prefix}/start`,
      `${prefix}/end`,
    ]);
  });
  return bodies.length === 1 ? bodies[0] : combined('add', bodies[0], bodies.slice(1));
}

/** An outline on both sides of its axis would run into itself. */
function refuseAcross(regions: readonly ProfileRegion[], a: Point, b: Point): void {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]],
    n = Math.hypot(dx, dy) || 1;
  let least = 0,
    most = 0;
  for (const { outer } of regions)
    for (const { piece } of outer.pieces)
      for (let i = 0; i <= 32; i++) {
        const [x, y] = atOf(piece, i / 32),
          off = ((x - a[0]) * dy - (y - a[1]) * dx) / n;
        least = Math.min(least, off);
        most = Math.max(most, off);
      }
  if (least < -1e-6 && most > 1e-6)
    throw new StepFault(
      'Its outline lies on both sides of the line about which it turns: it would run into itself.',
    );
}
