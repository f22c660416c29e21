import {
  cross3,
  facing,
  worldFromPlane,
  type Frame,
  type ModelPoint,
  type Point,
} from '../../geometry/index.ts';
import { kindOf } from '../../kinds/index.ts';
import {
  get,
  isTraced,
  ofType,
  type Chamfer,
  type Extrude,
  type Feature,
  type FeatureForm,
  type Given,
  type Hole,
  type Model,
  type PatternForm,
  type Profile,
  type Revolve,
  type Rib,
  type Round,
  type Shell,
  type Slot,
} from '../../model/index.ts';
import { chainOf, ProfileError, regionsOf, type NamedPiece, type ProfileRegion } from '../profile/loops.ts';

/** Where a plane of a part lies; on the face of that name it lies on that, wherever this is by then. */
export interface Seat {
  frame: Frame;
  face: string | null;
}

/** A movement of space as the rows of a 3 x 4 matrix, stretching nothing. */
export type Movement = readonly number[];

/** A feature with all that it needs of the model: what is made of it rests on nothing else. */
export type StepForm =
  /** `file`: of what is attached, whose bytes the one who makes it has. */
  | { kind: 'given'; does: Given['does']; file: string }
  | (Omit<Extrude, 'profile'> & { seat: Seat; regions: ProfileRegion[] })
  | (Omit<Revolve, 'profile' | 'axis'> & { seat: Seat; regions: ProfileRegion[]; axis: [Point, Point] })
  | (Omit<Hole, 'planeId' | 'at' | 'centres' | 'said'> & { seat: Seat; places: Point[] })
  | (Omit<Slot, 'planeId'> & { seat: Seat })
  | { kind: 'pattern'; of: string[]; movements: Movement[] }
  | { kind: 'mirror'; of: string[]; movement: Movement }
  | Round
  | Chamfer
  | Shell
  | (Omit<Rib, 'profile'> & { seat: Seat; chain: NamedPiece[] });

export interface Step {
  id: string;
  /** What it is called in words. */
  name: string;
  off: boolean;
  /** Null: it cannot be made, for what `fault` says. */
  form: StepForm | null;
  fault: string | null;
  /** Where on its plane the fault is, in the model. */
  faultAt: ModelPoint | null;
}

/** All of a part's steps in their order. */
export interface Recipe {
  partId: string;
  steps: Step[];
}

/** Features of a part, the first made first. */
export const featuresOf = (model: Model, partId: string): Feature[] =>
  ofType(model, 'feature')
    .filter((f) => f.partId === partId)
    .sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));

const KIND_WORDS: Readonly<Record<FeatureForm['kind'], string>> = {
  extrude: 'Extrude',
  revolve: 'Revolve',
  hole: 'Hole',
  slot: 'Slot',
  pattern: 'Pattern',
  mirror: 'Mirror',
  round: 'Round',
  chamfer: 'Chamfer',
  shell: 'Shell',
  rib: 'Rib',
  given: 'Solid of a file',
};
function formWord(form: FeatureForm): string {
  if (form.kind === 'extrude' && form.does === 'cut') return 'Cut';
  return form.kind === 'revolve' && form.does === 'cut' ? 'Turned cut' : KIND_WORDS[form.kind];
}

/** What a feature is called: by its own name, or by what it is and the how manieth of its kind. */
export function featureName(feature: Feature, all: readonly Feature[]): string {
  if (feature.name !== '') return feature.name;
  const word = formWord(feature.form),
    alike = all.filter((f) => f.name === '' && formWord(f.form) === word);
  return `${word} ${alike.indexOf(feature) + 1}`;
}

/** What is wrong with a feature before anything is made. */
class Unmade extends Error {
  constructor(
    words: string,
    readonly at: ModelPoint | null = null,
  ) {
    super(words);
  }
}

/** The steps of a part with all that they need. */
export function recipeOf(model: Model, partId: string): Recipe {
  const features = featuresOf(model, partId);
  return {
    partId,
    steps: features.map((feature): Step => {
      const step = { id: feature.id, name: featureName(feature, features), off: feature.off };
      try {
        return { ...step, form: formOf(model, feature, features), fault: null, faultAt: null };
      } catch (e) {
        if (!(e instanceof Unmade)) throw e;
        return { ...step, form: null, fault: e.message, faultAt: e.at };
      }
    }),
  };
}

function seatOf(model: Model, planeId: string): Seat {
  const plane = get(model, 'plane', planeId);
  if (!plane) throw new Unmade('The plane on which it was drawn is not there any more.');
  const { origin, across, up, face } = plane;
  return { frame: { origin, across, up }, face: face ?? null };
}

/** The curves of a profile as pieces; a path's stretches are called by it and their number. */
function piecesOf(model: Model, { planeId, curves }: Profile): NamedPiece[] {
  return curves.flatMap((id) => {
    const e = model.get(id);
    if (!e || !isTraced(e) || e.planeId !== planeId)
      throw new Unmade('A curve of its outline is not there any more: take its outline again.');
    const pieces = kindOf(e).pieces(e);
    return pieces.map((piece, i) => ({ id: pieces.length === 1 ? id : `${id}.${i}`, piece }));
  });
}

function onProfile<T>(seat: Seat, make: () => T): T {
  try {
    return make();
  } catch (e) {
    if (e instanceof ProfileError) throw new Unmade(e.message, e.at && worldFromPlane(seat.frame, e.at));
    throw e;
  }
}

/** The middle of what a hole is drilled in: the centre of a round, the point of anything else's first grip. */
function centreOf(model: Model, id: string): Point {
  const e = model.get(id);
  if (!e || !isTraced(e)) throw new Unmade('A circle in which it is drilled is not there any more.');
  if (e.type === 'arc') return e.centre;
  const first = kindOf(e).grips(e)[0];
  if (!first) throw new Unmade('What it is drilled in has no centre.');
  return first;
}

function formOf(model: Model, { form, fileId }: Feature, all: readonly Feature[]): StepForm {
  switch (form.kind) {
    case 'given':
      if (!fileId) throw new Unmade('It has no file yet: attach a STEP file, and choose it.');
      return { kind: 'given', does: form.does, file: fileId };
    case 'extrude':
    case 'revolve':
    case 'rib': {
      const { profile } = form,
        seat = seatOf(model, profile.planeId),
        pieces = piecesOf(model, profile);
      if (form.kind === 'rib') {
        const { kind, thickness, right } = form;
        return { kind, thickness, right, seat, chain: onProfile(seat, () => chainOf(pieces)) };
      }
      const regions = onProfile(seat, () => regionsOf(pieces));
      if (form.kind === 'extrude') {
        const { kind, does, reach, back, draft } = form;
        return { kind, does, reach, back, draft, seat, regions };
      }
      const axis = model.get(form.axis);
      if (!axis || !isTraced(axis) || axis.planeId !== profile.planeId || !('from' in axis && 'to' in axis))
        throw new Unmade('The line about which it turns is not there any more.');
      const { kind, does, angle } = form,
        { from, to } = axis as { from: Point; to: Point };
      return { kind, does, angle, seat, regions, axis: [from, to] };
    }
    case 'hole': {
      const { kind, planeId, at, centres, diameter, depth, tip, head, thread, back } = form,
        places = [...at, ...centres.map((id) => centreOf(model, id))];
      if (places.length === 0) throw new Unmade('It has no place yet.');
      return { kind, seat: seatOf(model, planeId), places, diameter, depth, tip, head, thread, back };
    }
    case 'slot': {
      const { planeId, ...slot } = form;
      if (slot.at.length === 0) throw new Unmade('It has no place yet.');
      if (!(slot.length > slot.width))
        throw new Unmade('A slot must be longer over all than it is wide: of one length it is a hole.');
      return { ...slot, seat: seatOf(model, planeId) };
    }
    case 'pattern':
      return { kind: 'pattern', of: madeBefore(form.of, all), movements: movementsOf(model, form.form) };
    case 'mirror':
      return {
        kind: 'mirror',
        of: madeBefore(form.of, all),
        movement: mirrorOf(seatOf(model, form.planeId).frame, form.line),
      };
    default:
      return form;
  }
}

function madeBefore(of: readonly string[], all: readonly Feature[]): string[] {
  for (const id of of)
    if (!all.some((f) => f.id === id)) throw new Unmade('A feature that it repeats is not there any more.');
  return [...of];
}

const IDENTITY: Movement = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

function movementsOf(model: Model, form: PatternForm): Movement[] {
  const { frame } = seatOf(model, form.planeId);
  if (form.kind === 'row') {
    const { step, count, second } = form;
    const out: Movement[] = [];
    for (let j = 0; j < (second?.count ?? 1); j++)
      for (let i = 0; i < count; i++) {
        if (i === 0 && j === 0) continue;
        out.push(
          shift(frame, i * step[0] + j * (second?.step[0] ?? 0), i * step[1] + j * (second?.step[1] ?? 0)),
        );
      }
    if (out.length > 0 && Math.hypot(...step) < 1e-9) throw new Unmade('The step of the row is nothing.');
    return out;
  }
  if (form.kind === 'points')
    return form.at.map(([x, y]) => shift(frame, x - form.from[0], y - form.from[1]));
  const centre = worldFromPlane(frame, form.centre),
    axis = facing(frame);
  return Array.from({ length: form.count - 1 }, (_, i) => turn(centre, axis, (i + 1) * form.angle));
}

const shift = ({ across, up }: Frame, x: number, y: number): Movement =>
  IDENTITY.map((v, k) => (k % 4 === 3 ? across[(k - 3) / 4] * x + up[(k - 3) / 4] * y : v));

/** A matrix of three rows about a point of the model that it leaves where it is. */
const about = (p: ModelPoint, rows: readonly ModelPoint[]): Movement =>
  rows.flatMap((r, i) => [...r, p[i] - (r[0] * p[0] + r[1] * p[1] + r[2] * p[2])]);

/** A turn about an axis (Rodrigues), radians. */
function turn(p: ModelPoint, [x, y, z]: ModelPoint, angle: number): Movement {
  const c = Math.cos(angle),
    s = Math.sin(angle),
    t = 1 - c;
  return about(p, [
    [t * x * x + c, t * x * y - s * z, t * x * z + s * y],
    [t * x * y + s * z, t * y * y + c, t * y * z - s * x],
    [t * x * z - s * y, t * y * z + s * x, t * z * z + c],
  ]);
}

function mirrorOf(frame: Frame, line: { from: Point; to: Point } | null): Movement {
  let normal = facing(frame),
    p: ModelPoint = frame.origin;
  if (line) {
    const [dx, dy] = [line.to[0] - line.from[0], line.to[1] - line.from[1]],
      n = Math.hypot(dx, dy);
    if (n < 1e-9) throw new Unmade('The line about which it is mirrored is a point.');
    const along: ModelPoint = [0, 1, 2].map(
      (i) => (frame.across[i] * dx + frame.up[i] * dy) / n,
    ) as unknown as ModelPoint;
    normal = cross3(along, facing(frame));
    p = worldFromPlane(frame, line.from);
  }
  const [x, y, z] = normal;
  return about(p, [
    [1 - 2 * x * x, -2 * x * y, -2 * x * z],
    [-2 * x * y, 1 - 2 * y * y, -2 * y * z],
    [-2 * x * z, -2 * y * z, 1 - 2 * z * z],
  ]);
}
