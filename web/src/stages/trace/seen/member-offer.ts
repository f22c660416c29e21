import { applyTransform, type Transform } from '@calque/core/geometry';
import { ofType, pairOf, sectionTyped, type GivenSection, type Member, type Model } from '@calque/core/model';
import { isSectionName, type ProposedMember } from '@calque/core/proposals';
import { sectionNamed } from '@calque/core/sections';
import { madeOf, memberAlong, useNextMember } from '@/kinds/member/next-member';

/** The section that is written beside a member; null where what is written is another mark, or names none that is known. */
export function sectionWritten(mark: string): GivenSection | null {
  if (!isSectionName(mark)) return null;
  const plain = mark.replace(/^\s*\d+\s*[x×]\s+/i, '').trim(),
    names = [plain, plain.replace(/^([A-Za-z]+)\s*(?=\d)/, '$1 '), plain.replace(/\s+/g, '')];
  for (const name of names) {
    const found = sectionNamed(name);
    if (found) return { form: 'table', name: found.name };
  }
  const sizes = sectionTyped(plain.replace(/[/]/g, 'x').replace(/\s+[A-Z]+\d+[a-z]?$/i, ''));
  return sizes !== null && typeof sizes !== 'string' ? sizes : null;
}

/** A member as it would be taken: by its axis, with the section that is written beside it, else that of the next one. */
export function memberTaken(
  model: Model,
  planeId: string,
  m: ProposedMember,
  place: Transform,
): Omit<Member, 'id' | 'planeId' | 'source' | 'layerId'> {
  const [from, to] = [m.from, m.to].map((p) => pairOf(applyTransform(place, p))),
    written = sectionWritten(m.mark),
    section = written ?? useNextMember.getState().section;
  return {
    ...memberAlong(model, planeId, from, to),
    section,
    // What is seen is its middle.
    point: 5,
    ...madeOf(section),
    mark: written ? '' : m.mark,
  };
}

/** Ends within this of one another are one, millimetres. */
const SAME_END = 60;

/** Is a member there already, whichever way it runs? */
export function isMemberThere(
  model: Model,
  planeId: string,
  { from, to }: Pick<Member, 'from' | 'to'>,
): boolean {
  const near = (p: Member['from'], q: Member['from']) => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_END;
  return ofType(model, 'member').some(
    (m) =>
      m.planeId === planeId &&
      ((near(m.from, from) && near(m.to, to)) || (near(m.from, to) && near(m.to, from))),
  );
}
