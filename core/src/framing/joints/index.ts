import { ofType, type Joint, type Model, type PurlinCleat } from '../../model/index.ts';
import { placedMembers, type PlacedMember } from '../placed.ts';
import type { KnownMember } from './faces.ts';
import { drilled } from './drilling.ts';
import { cleat, purlinCleat } from './cleats.ts';
import { basePlate, cope, endPlate, face, finPlate, gusset, mitre, splice } from './forms.ts';
import { Making, type Made } from './making.ts';
import { hasOwnParts, ownParts, plateDoubts } from './own.ts';
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
  /** Ids of the bolts that are drawn by themselves. */
  ownBolts: ReadonlySet<string>;
  doubts: readonly JointDoubt[];
}

const joined = new WeakMap<Model, JoinedFrame>();

/** What follows from the joints of all members of a project. */
export function joinedFrame(model: Model): JoinedFrame {
  let frame = joined.get(model);
  if (!frame) joined.set(model, (frame = join(placedMembers(model), ownParts(model))));
  return frame;
}

const withJoints = new WeakMap<Model, boolean>();

/** Is an end of any member made otherwise than cut square, or are there plates or bolts by themselves? */
export function hasJoints(model: Model): boolean {
  let has = withJoints.get(model);
  if (has === undefined) {
    has =
      hasOwnParts(model) ||
      (model.hasType('member') || model.hasType('assembly')
        ? ofType(model, 'member').some((m) => m.joints || m.cleats) ||
          ofType(model, 'assembly').some((a) =>
            a.elements.some((e) => e.type === 'member' && (e.joints || e.cleats)),
          )
        : false);
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
  cleat,
  splice,
  gusset,
};

/** Is there a member, and its section in a table? */
export const isKnown = (m: PlacedMember | undefined): m is KnownMember => !!m?.section;

function join(members: readonly PlacedMember[], own: ReturnType<typeof ownParts>): JoinedFrame {
  const byId = new Map(members.map((m) => [m.member.id, m])),
    parts = new Map<string, Made[]>(),
    bolts: BoltSet[] = [],
    doubts: JointDoubt[] = plateDoubts(own.plates, (id) => byId.has(id));
  let plates: PlatePart[] = [];
  const touch = (id: string, made: Made) => {
    const list = parts.get(id);
    if (list) list.push(made);
    else parts.set(id, [made]);
  };
  for (const m of members)
    for (const joint of [...(m.member.joints ?? []), ...(m.member.cleats ?? [])]) {
      const made = madeOf(m, joint, joint.to === null ? undefined : byId.get(joint.to));
      for (const id of made.touches) touch(id, made);
      plates.push(...made.plates);
      bolts.push(...made.bolts);
      doubts.push(...made.doubts);
    }
  plates.push(...own.plates.flatMap(({ part }) => part ?? []));
  if (own.bolts.length > 0) {
    const ends = new Map<string, Shape>(),
      done = drilled(own.bolts, plates, members.filter(isKnown), (m) => {
        const { id } = m.member,
          shape = ends.get(id) ?? shapeOf(m, parts.get(id) ?? []);
        ends.set(id, shape);
        return shape;
      });
    plates = plates.map((p) => {
      const more = done.plates.get(p);
      return more ? { ...p, holes: [...p.holes, ...more] } : p;
    });
    bolts.push(...done.bolts);
    doubts.push(...done.doubts);
    for (const made of done.members) for (const id of made.touches) touch(id, made);
  }
  const shapes = new Map<string, Shape>();
  for (const [id, list] of parts) {
    const m = byId.get(id)!,
      shape = shapeOf(m, list);
    if (!m.section || isWhole(m.section, shape)) shapes.set(id, shape);
    else
      doubts.push({
        id,
        end: m.member.joints?.[0]?.end ?? 'start',
        words: 'nothing would be left between its cuts: its ends stay square',
      });
  }
  const ownBolts = new Set(own.bolts.map((b) => b.bolts.id));
  return { members, shapes, plates, bolts, ownBolts, doubts };
}

const shaped = new WeakMap<PlacedMember, { parts: readonly Made[]; shape: Shape }>();

/** A member as all that touches it makes it; the same shape for the same. */
function shapeOf(m: PlacedMember, parts: readonly Made[]): Shape {
  const before = shaped.get(m);
  if (before?.parts.length === parts.length && before.parts.every((p, i) => p === parts[i]))
    return before.shape;
  const { id, joints } = m.member,
    { from, to } = m,
    shape: Shape = {
      start: { z: 0, kx: 0, ky: 0 },
      end: { z: Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]), kx: 0, ky: 0 },
      notches: [],
      holes: [],
    };
  for (const made of parts) {
    // An end that has a joint of its own is cut by that.
    for (const c of made.cuts)
      if (c.id === id && (made.owner === id || !joints?.some((j) => j.end === c.end))) shape[c.end] = c.cut;
    for (const n of made.notches) if (n.id === id) shape.notches.push(n.notch);
    for (const h of made.holes) if (h.id === id) shape.holes.push(h.hole);
  }
  shaped.set(m, { parts: [...parts], shape });
  return shape;
}

const made = new WeakMap<
  PlacedMember,
  Map<Joint | PurlinCleat, { t: PlacedMember | undefined; made: Made }>
>();

/** What a joint is made of; known again while both its members are where they were. */
function madeOf(m: PlacedMember, joint: Joint | PurlinCleat, t: PlacedMember | undefined): Made {
  let own = made.get(m);
  if (!own) made.set(m, (own = new Map()));
  const before = own.get(joint);
  if (before && before.t === t) return before.made;
  const now = make(m, joint, t);
  own.set(joint, { t, made: now });
  return now;
}

function make(m: PlacedMember, joint: Joint | PurlinCleat, t: PlacedMember | undefined): Made {
  const id = m.member.id,
    isEnd = 'end' in joint,
    doubt = (words: string): Made => ({
      owner: id,
      touches: [],
      cuts: [],
      notches: [],
      holes: [],
      plates: [],
      bolts: [],
      doubts: [{ id, end: isEnd ? joint.end : null, words }],
    });
  if (!isKnown(m)) return doubt('its section is in no table: its end cannot be made');
  // A cleat lies anywhere along it: no end is made by it.
  const made = isEnd ? joint : { end: 'start' as const, form: 'purlinCleat' as const, sizes: joint.sizes },
    on = new Making(m, made, sizesOf(made, m.section), isEnd ? null : `on.${joint.to}`);
  if (made.form === 'basePlate') basePlate(on);
  else if (!t) return doubt('the member that it met is not there any more');
  else if (!isKnown(t)) return doubt('the section of the member that it meets is in no table');
  else if (t === m) return doubt('it cannot be joined to itself');
  else if (made.form === 'purlinCleat') purlinCleat(on, t);
  else BY_FORM[made.form](on, t);
  return on.done();
}

export type { BoltSet, Hole, JointDoubt, Notch, PlatePart, Shape } from './parts.ts';
export { SIZES_OF, sizesOf, type Sizes } from './sizes.ts';
export { crossing } from './cleats.ts';
export { flatSlots, plateAreas, plateVolume } from './own.ts';
export { BOLT_SIZES, boltLength, boltMass, boltOf, type BoltSize } from './bolts.ts';
export { isSquare, reachOf, sectionPlace, sectionX, shapeBlocks, shapeParts, shapeVolume } from './shape.ts';
export { onPlate } from './making.ts';
export { perpendicular, unit } from './vectors.ts';
