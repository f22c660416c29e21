import { facing, worldFromPlane } from '../geometry/index.ts';
import {
  hasLength,
  ofType,
  planeOf,
  type Member,
  type MemberEndName,
  type MemberLevel,
  type Model,
} from '../model/index.ts';
import { frameOf } from '../planes/index.ts';

/** An end of a member that was put at a printed level: where its line is now, millimetres. */
export interface LevelNow extends MemberLevel {
  id: string;
  now: number;
}

/** Heights are one within this, millimetres. */
const ONE_HEIGHT = 0.05;

const placeOf = (m: Member, end: MemberEndName) => (end === 'start' ? m.from : m.to);

/** How high the line of a member lies at an end; null where its plane is gone. */
export function heightAt(model: Model, m: Member, end: MemberEndName): number | null {
  const plane = planeOf(model, m.planeId);
  if (!plane) return null;
  const frame = frameOf(plane),
    rise = m.rise[end === 'start' ? 0 : 1];
  return worldFromPlane(frame, placeOf(m, end))[2] + rise * facing(frame)[2];
}

/** All ends that were put at printed levels, as they lie now. */
export function levelsOfMembers(model: Model): LevelNow[] {
  return ofType(model, 'member').flatMap((m) =>
    (m.levels ?? []).flatMap((level): LevelNow[] => {
      const now = heightAt(model, m, level.end);
      return now === null ? [] : [{ ...level, id: m.id, now }];
    }),
  );
}

/** Does an end still lie at the level that was printed? */
export const keepsLevel = ({ level, now }: LevelNow): boolean => Math.abs(now - level) <= ONE_HEIGHT;

/**
 * A member of an upright plane with ends of its line put at a printed level, however the sheet draws them: the print counts. `drawn` is the
 * height that the sheet's drawing has where the level stands. Words where it cannot be.
 */
export function atLevel(
  model: Model,
  m: Member,
  ends: readonly MemberEndName[],
  said: Pick<MemberLevel, 'level' | 'text' | 'drawn'>,
): Partial<Member> | string {
  const plane = planeOf(model, m.planeId);
  if (!plane || plane.type === 'storey')
    return 'Levels are printed on elevations and sections: go to the upright plane of the frame.';
  const rises = frameOf(plane).up[2];
  if (Math.abs(rises) < UPRIGHT) return 'Its plane lies nearly level: a height says nothing on it.';
  const next: Member = { ...m };
  for (const end of ends) {
    const by = (said.level - heightAt(model, m, end)!) / rises,
      [x, y] = placeOf(m, end);
    if (end === 'start') next.from = [x, y + by];
    else next.to = [x, y + by];
  }
  if (!hasLength(next)) return 'Nothing would be left of it: its other end lies there.';
  const others = (m.levels ?? []).filter((l) => !ends.includes(l.end));
  return {
    from: next.from,
    to: next.to,
    levels: [...others, ...ends.map((end): MemberLevel => ({ end, ...said }))],
  };
}

/** A plane that rises less (sine) is no elevation. */
const UPRIGHT = 0.1;
