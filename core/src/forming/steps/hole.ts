import {
  facing,
  segmentPiece,
  worldFromPlane,
  arcPiece,
  type Frame,
  type ModelPoint,
  type Point,
} from '../../geometry/index.ts';
import type { NamedPiece, ProfileRegion, StepForm } from '../../part/index.ts';
import type { Body } from '../body.ts';
import { StepFault } from '../fault.ts';
import { frameAlong, plus } from '../wires.ts';
import { BEYOND, frameNow, reachAlong, type Context } from './context.ts';
import { entriesOf } from './entries.ts';
import { prismOf } from './extrude.ts';
import { turnedBody } from './revolve.ts';

type HoleForm = Extract<StepForm, { kind: 'hole' }>;
type SlotForm = Extract<StepForm, { kind: 'slot' }>;

/** Where a hole is drilled: where it enters, which way, and how deep; through all where that is null. */
interface Drilling {
  entry: ModelPoint;
  way: ModelPoint;
  depth: number;
  /** So far before where it enters it takes away as well: what comes from outside cuts all that is in its way. */
  before: number;
}

/**
 * Where drills enter. On a plane that lies on a face they do so there; on one that is drawn anywhere before or behind the part, where they first meet
 * the part, coming from the side to which the plane looks (from the other where it goes back).
 */
function drillings(
  form: HoleForm | SlotForm,
  frame: Frame,
  context: Context,
  places: readonly Point[],
  wide: number,
  deepest: number | null,
  from: boolean,
): Drilling[] {
  const { body } = context;
  if (!body) throw new StepFault('There is nothing yet that could be drilled.');
  const normal = facing(frame),
    sign = form.back ? 1 : -1,
    way: ModelPoint = [sign * normal[0], sign * normal[1], sign * normal[2]];
  const at = places.map((p) => worldFromPlane(frame, p));
  const entries = form.seat.face === null && from ? entriesOf(body, at, way, wide) : at;
  return entries.map((entry) => {
    const [least, most] = reachAlong(body, entry, way);
    const isFree = form.seat.face === null && from,
      before = isFree ? BEYOND - Math.min(0, least) : 0;
    if (deepest !== null) return { entry, way, depth: deepest, before };
    // A plain one through all begins before all, where nothing says at which face.
    const begin = form.seat.face === null && !from ? least - BEYOND : 0;
    return { entry: plus(entry, way, begin), way, depth: most + BEYOND - begin, before };
  });
}

/** What a drill takes away, one solid to each place. */
export function holeTools(form: HoleForm, context: Context): Body[] {
  const { id } = context,
    { diameter, head, depth } = form,
    frame = frameNow(form.seat, context.body),
    r = diameter / 2;
  if (head && head.diameter <= diameter)
    throw new StepFault(`Its ${head.kind} is not wider than the hole itself.`);
  const sunk =
    head === null
      ? 0
      : head.kind === 'counterbore'
        ? head.depth
        : (head.diameter / 2 - r) / Math.tan(head.angle / 2);
  if (depth !== null && depth <= sunk) throw new StepFault(`It is not deeper than its ${head!.kind}.`);
  const plain = head === null && depth === null,
    wide = Math.max(diameter, head?.diameter ?? 0);
  return drillings(form, frame, context, form.places, wide, depth, !plain).map(
    ({ entry, way, depth: deep, before }, i) => {
      if (deep <= sunk) throw new StepFault(`The part is thinner than its ${head!.kind} is deep.`, entry);
      const points: [string, Point][] = [];
      // Along the axis, then outwards and back to it; each is called by what begins there.
      points.push(['mouth', [0, -before]]);
      const above = head?.kind === 'countersink' ? 0 : -before;
      if (head?.kind === 'countersink' && before > 0) points.push(['way', [head.diameter / 2, -before]]);
      if (head) points.push(['head', [head.diameter / 2, above]]);
      if (head?.kind === 'counterbore') points.push(['seat', [head.diameter / 2, sunk]]);
      points.push(['bore', [r, head ? sunk : -before]]);
      if (depth !== null && form.tip !== null)
        points.push(['tip', [r, deep]], ['axis', [0, deep + r / Math.tan(form.tip / 2)]]);
      else points.push(['floor', [r, deep]], ['axis', [0, deep]]);
      const pieces = points.map(([name, p], k): NamedPiece => ({
        id: name,
        piece: segmentPiece(p, points[(k + 1) % points.length][1]),
      }));
      const region: ProfileRegion = { outer: { pieces }, holes: [] };
      const across = frameAlong(entry, way).across;
      return turnedBody(
        { origin: entry, across, up: way },
        region,
        { at: entry, way },
        2 * Math.PI,
        (curve) => `${id}/${curve}:${i}`,
        ['', ''],
      );
    },
  );
}

/** What slots take away. */
export function slotTools(form: SlotForm, context: Context): Body[] {
  const frame = frameNow(form.seat, context.body),
    { length, width, depth, id } = { ...form, id: context.id };
  return drillings(form, frame, context, form.at, width, depth, depth !== null).map(
    ({ entry, way, depth: deep, before }, i) => {
      // Seen against the way it is cut, with its length along the plane's own x, turned.
      const n = facing(frame),
        facesUs = n[0] * way[0] + n[1] * way[1] + n[2] * way[2] < 0,
        at: Frame = { origin: plus(entry, way, -before), across: frame.across, up: frame.up },
        whole = deep + before;
      return prismOf(at, slotRegion(length, width, form.angle), facesUs ? -whole : whole, `${id}:${i}`);
    },
  );
}

const slotRegion = (length: number, width: number, angle: number): ProfileRegion => {
  const [c, s] = [Math.cos(angle), Math.sin(angle)],
    r = width / 2,
    u = length / 2 - r;
  const at = (x: number, y: number): Point => [c * x - s * y, s * x + c * y];
  const round = (x: number, from: number) =>
    arcPiece({ cx: at(x, 0)[0], cy: at(x, 0)[1], r, start: angle + from, end: angle + from + Math.PI });
  const pieces: NamedPiece[] = [
    { id: 'below', piece: segmentPiece(at(-u, -r), at(u, -r)) },
    { id: 'right', piece: round(u, -Math.PI / 2) },
    { id: 'above', piece: segmentPiece(at(u, r), at(-u, r)) },
    { id: 'left', piece: round(-u, Math.PI / 2) },
  ];
  return { outer: { pieces }, holes: [] };
};
