import {
  cutLength,
  knownSection,
  ofType,
  sectionName,
  setFields,
  type Change,
  type Member,
  type MemberRole,
  type Model,
} from '../model/index.ts';

import { joinedFrame, reachOf } from './joints/index.ts';
import { pieceKey } from './pieces.ts';

/** Letters with which the marks of members begin, by what they are for. */
const LETTERS: Readonly<Record<MemberRole, string>> = {
  beam: 'B',
  column: 'C',
  brace: 'V',
  rafter: 'R',
  purlin: 'P',
  joist: 'J',
  stud: 'S',
  member: 'M',
};
/** Pieces are cut alike within this, millimetres. */
const ALIKE = 0.1;

/** Equal pieces: of one section and material, for one purpose, as long, cut, notched and drilled alike however they are held. */
function equalPieces(model: Model): Member[][] {
  const frame = joinedFrame(model),
    members = ofType(model, 'member'),
    keys = new Map(members.map((m) => [m.id, pieceKey(frame, m, knownSection(m.section))])),
    lengthOf = (m: Member) => {
      const shape = frame.shapes.get(m.id),
        section = knownSection(m.section);
      if (!shape || !section) return cutLength(m);
      const [low, high] = reachOf(section, shape);
      return high - low;
    },
    lengths = new Map(members.map((m) => [m.id, lengthOf(m)]));
  const sorted = members.sort(
      (a, b) =>
        LETTERS[a.role].localeCompare(LETTERS[b.role]) ||
        sectionName(a).localeCompare(sectionName(b), 'en', { numeric: true }) ||
        a.material.localeCompare(b.material) ||
        keys.get(a.id)!.localeCompare(keys.get(b.id)!) ||
        lengths.get(b.id)! - lengths.get(a.id)! ||
        a.id.localeCompare(b.id),
    ),
    groups: Member[][] = [];
  for (const m of sorted) {
    const group = groups.at(-1),
      first = group?.[0];
    const isEqual =
      first &&
      first.role === m.role &&
      first.material === m.material &&
      sectionName(first) === sectionName(m) &&
      keys.get(first.id) === keys.get(m.id) &&
      lengths.get(first.id)! - lengths.get(m.id)! <= ALIKE;
    if (isEqual) group!.push(m);
    else groups.push([m]);
  }
  return groups;
}

/**
 * Marks for all members, equal ones for equal pieces, whatever the order in which they were drawn. What a group is called already stays, where
 * no other group has it; new marks run on behind those that are there.
 */
export function marksOf(model: Model): Map<string, string> {
  const groups = equalPieces(model),
    marks = new Map<string, string>(),
    owners = new Map<string, number>();
  groups.forEach((group, i) => {
    const own = firstMark(group);
    if (own !== '' && !owners.has(own)) owners.set(own, i);
  });
  const taken = new Set(owners.keys());
  groups.forEach((group, i) => {
    const own = firstMark(group),
      mark = own !== '' && owners.get(own) === i ? own : next(LETTERS[group[0].role], taken);
    taken.add(mark);
    for (const m of group) marks.set(m.id, mark);
  });
  return marks;
}

/** The mark that most of a group have; of several the first by the alphabet. */
function firstMark(group: readonly Member[]): string {
  const counts = new Map<string, number>();
  for (const { mark } of group) if (mark !== '') counts.set(mark, (counts.get(mark) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))[0]?.[0] ?? '';
}

function next(letter: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) if (!taken.has(`${letter}${n}`)) return `${letter}${n}`;
}

/** The changes that give each member its mark; none for those that have it. */
export function markingChanges(model: Model): Change[] {
  const marks = marksOf(model);
  return ofType(model, 'member').flatMap((m) => {
    const change = m.mark === marks.get(m.id) ? null : setFields(m, { mark: marks.get(m.id)! });
    return change ? [change] : [];
  });
}
