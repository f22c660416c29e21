import { pieceEnd, pieceStart, segmentPiece, worldFromPlane, type Point } from '../../geometry/index.ts';
import type { NamedPiece, StepForm } from '../../part/index.ts';
import { partsOf, facesOf, boxOf, ShapeMap, type Body } from '../body.ts';
import { operated } from '../combine.ts';
import { StepFault } from '../fault.ts';
import { shifted } from '../wires.ts';
import { frameNow, type Context } from './context.ts';
import { prismOf } from './extrude.ts';

type RibForm = Extract<StepForm, { kind: 'rib' }>;

/** The wall that fills from a chain to what is there, half of it to either side of its plane. */
export function ribTool(form: RibForm, context: Context): Body {
  const { body, id } = context;
  if (!body) throw new StepFault('There is nothing yet that a rib could lean on.');
  const frame = frameNow(form.seat, body),
    { chain, thickness } = form,
    begin = pieceStart(chain[0].piece),
    end = pieceEnd(chain[chain.length - 1].piece),
    [dx, dy] = [end[0] - begin[0], end[1] - begin[1]],
    n = Math.hypot(dx, dy);
  if (n < 1e-9) throw new StepFault('The chain of a rib needs two ends that are apart.');
  // As far as the whole part could be from it.
  const box = boxOf(body.shape)!,
    far = Math.hypot(box[3] - box[0], box[4] - box[1], box[5] - box[2]) + n + thickness,
    side = form.right ? 1 : -1,
    way: Point = [(side * dy) / n, (-side * dx) / n];
  const beyond = (p: Point): Point => [p[0] + way[0] * far, p[1] + way[1] * far];
  const pieces: NamedPiece[] = [
    ...chain,
    { id: 'edge', piece: segmentPiece(end, beyond(end)) },
    { id: 'far', piece: segmentPiece(beyond(end), beyond(begin)) },
    { id: 'edge2', piece: segmentPiece(beyond(begin), begin) },
  ];
  const whole = prismOf(shifted(frame, -thickness / 2), { outer: { pieces }, holes: [] }, thickness, id),
    left = operated('cut', whole.shape, [body.shape], [...whole.faces, ...body.faces], false),
    names = new ShapeMap<string>();
  for (const { face, name } of left.faces) names.set(face, name);
  const curves = new Set(chain.map((c) => `${id}/side:${c.id}`));
  const kept = partsOf(left.shape, 'SOLID').filter((solid) =>
    facesOf(solid).some((f) => curves.has(names.get(f) ?? '')),
  );
  if (kept.length === 0)
    throw new StepFault('The chain of the rib lies within the part.', worldFromPlane(frame, begin));
  if (kept.some((solid) => facesOf(solid).some((f) => names.get(f) === `${id}/side:far`)))
    throw new StepFault(
      'The rib does not meet the part all along its chain: let the chain end at it, or turn its side.',
      worldFromPlane(frame, begin),
    );
  const bodies = kept.map((shape) => ({
    shape,
    faces: facesOf(shape).map((face) => ({ face, name: names.get(face) ?? `${id}/other` })),
  }));
  return bodies.length === 1
    ? bodies[0]
    : operated(
        'add',
        bodies[0].shape,
        bodies.slice(1).map((b) => b.shape),
        bodies.flatMap((b) => b.faces),
        false,
      );
}
