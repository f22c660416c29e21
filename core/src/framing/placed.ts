import { facing, type Frame, type ModelPoint } from '../geometry/index.ts';
import {
  knownSection,
  looseElements,
  memberAxis,
  ofType,
  placingOffset,
  storeysOf,
  type KnownSection,
  type Member,
  type Model,
  type PlaneEntity,
} from '../model/index.ts';
import { frameOf } from '../planes/index.ts';

/** A member where it stands in the model: the middle of its section's box at both ends, and the directions of the section. */
export interface PlacedMember {
  member: Member;
  on: PlaneEntity;
  section: KnownSection | null;
  from: ModelPoint;
  to: ModelPoint;
  along: ModelPoint;
  up: ModelPoint;
  right: ModelPoint;
}

const known = new WeakMap<Member, { on: PlaneEntity; placed: PlacedMember }>();

/** All members of a project where they stand; each the same as before while it and its plane are. */
export function placedMembers(model: Model): PlacedMember[] {
  return [...storeysOf(model), ...ofType(model, 'plane')].flatMap((on) => {
    const frame = frameOf(on);
    return looseElements(model, on.id)
      .filter((e): e is Member => e.type === 'member')
      .map((member): PlacedMember => {
        const before = known.get(member);
        if (before?.on === on) return before.placed;
        const placed = place(member, on, frame);
        known.set(member, { on, placed });
        return placed;
      });
  });
}

function place(member: Member, on: PlaneEntity, frame: Frame): PlacedMember {
  const { origin, across, up } = frame,
    out = facing(frame),
    way = ([x, y, z]: ModelPoint): ModelPoint =>
      [0, 1, 2].map((i) => x * across[i] + y * up[i] + z * out[i]) as unknown as ModelPoint,
    axis = memberAxis(member),
    section = knownSection(member.section),
    [px, py] = section ? placingOffset(member.point, section.b, section.h) : [0, 0];
  const at = (along: number): ModelPoint => {
    const p = way(
      [0, 1, 2].map(
        (i) => axis.from[i] + along * axis.along[i] - px * axis.right[i] - py * axis.up[i],
      ) as unknown as ModelPoint,
    );
    return [p[0] + origin[0], p[1] + origin[1], p[2] + origin[2]];
  };
  return {
    member,
    on,
    section,
    from: at(member.back[0]),
    to: at(axis.length - member.back[1]),
    along: way(axis.along),
    up: way(axis.up),
    right: way(axis.right),
  };
}
