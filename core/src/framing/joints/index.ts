import { ofType, type Joint, type Model } from '../../model/index.ts';
import { placedMembers, type PlacedMember } from '../placed.ts';
import type { KnownMember } from './faces.ts';
import { basePlate, cope, endPlate, face, finPlate, gusset, mitre, splice } from './forms.ts';
import { Making } from './making.ts';
import type { BoltSet, JointDoubt, PlatePart, Shape } from './parts.ts';
import { isWhole } from './shape.ts';
import { sizesOf } from './sizes.ts';

/** A frame as its joints make it. */
export interface JoinedFrame {
  members: readonly PlacedMember[];
  /** Of members that are not cut square where they end: how they are cut, notched and drilled. */
  shapes: ReadonlyMap<string, Shape>;
  plates: readonly PlatePart[];
  bolts: readonly BoltSet[];
  doubts: readonly JointDoubt[];
}

const joined = new WeakMap<Model, JoinedFrame>();

/** What follows from the joints of all members of a project. */
export function joinedFrame(model: Model): JoinedFrame {
  let frame = joined.get(model);
  if (!frame) joined.set(model, (frame = join(placedMembers(model))));
  return frame;
}

const withJoints = new WeakMap<Model, boolean>();

/** Is an end of any member made otherwise than cut square? */
export function hasJoints(model: Model): boolean {
  let has = withJoints.get(model);
  if (has === undefined) {
    has =
      model.hasType('member') || model.hasType('assembly')
        ? ofType(model, 'member').some((m) => m.joints) ||
          ofType(model, 'assembly').some((a) => a.elements.some((e) => e.type === 'member' && e.joints))
        : false;
    withJoints.set(model, has);
  }
  return has;
}

const BY_FORM: Readonly<Record<Exclude<Joint['form'], 'basePlate'>, (on: Making, t: KnownMember) => void>> = {
  face,
  mitre,
  cope,
  endPlate,
  finPlate,
  splice,
  gusset,
};

const isKnown = (m: PlacedMember | undefined): m is KnownMember => !!m?.section;

function join(members: readonly PlacedMember[]): JoinedFrame {
  const byId = new Map(members.map((m) => [m.member.id, m])),
    shapes = new Map<string, Shape>(),
    plates: PlatePart[] = [],
    bolts: BoltSet[] = [],
    doubts: JointDoubt[] = [];
  const shapeOf = (id: string): Shape => {
    let shape = shapes.get(id);
    if (!shape) {
      const { from, to } = byId.get(id)!,
        length = Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]);
      shape = {
        start: { z: 0, kx: 0, ky: 0 },
        end: { z: length, kx: 0, ky: 0 },
        notches: [],
        holes: [],
      };
      shapes.set(id, shape);
    }
    return shape;
  };
  /** Ends that have a joint of their own are cut by that. */
  const owned = new Set(
    members.flatMap(({ member }) => (member.joints ?? []).map((j) => `${member.id} ${j.end}`)),
  );
  for (const m of members)
    for (const joint of m.member.joints ?? []) {
      const made = madeOf(m, joint, joint.to === null ? undefined : byId.get(joint.to));
      for (const { id, end, cut } of made.cuts)
        if (id === m.member.id || !owned.has(`${id} ${end}`)) shapeOf(id)[end] = cut;
      for (const { id, notch } of made.notches) shapeOf(id).notches.push(notch);
      for (const { id, hole } of made.holes) shapeOf(id).holes.push(hole);
      plates.push(...made.plates);
      bolts.push(...made.bolts);
      doubts.push(...made.doubts);
    }
  for (const [id, shape] of shapes) {
    const { section, member } = byId.get(id)!;
    if (!section || isWhole(section, shape)) continue;
    doubts.push({
      id,
      end: (member.joints?.[0]?.end ?? 'start') as 'start',
      words: 'nothing would be left between its cuts: its ends stay square',
    });
    shapes.delete(id);
  }
  return { members, shapes, plates, bolts, doubts };
}

const NOTHING = { cuts: [], notches: [], holes: [], plates: [], bolts: [] };

function madeOf(m: PlacedMember, joint: Joint, t: PlacedMember | undefined): Making['made'] {
  const id = m.member.id,
    doubt = (words: string) => ({ ...NOTHING, doubts: [{ id, end: joint.end, words }] });
  if (!isKnown(m)) return doubt('its section is in no table: its end cannot be made');
  const on = new Making(m, joint, sizesOf(joint, m.section));
  if (joint.form === 'basePlate') basePlate(on);
  else if (!t) return doubt('the member that it met is not there any more');
  else if (!isKnown(t)) return doubt('the section of the member that it meets is in no table');
  else if (t === m) return doubt('it cannot be joined to itself');
  else BY_FORM[joint.form](on, t);
  return on.made;
}

export type { BoltSet, Hole, JointDoubt, Notch, PlatePart, Shape } from './parts.ts';
export { SIZES_OF, sizesOf, type Sizes } from './sizes.ts';
export { BOLT_SIZES, boltLength, boltMass, boltOf, type BoltSize } from './bolts.ts';
export { isSquare, reachOf, sectionPlace, sectionX, shapeBlocks, shapeParts, shapeVolume } from './shape.ts';
export { onPlate } from './making.ts';
export { perpendicular, unit } from './vectors.ts';
