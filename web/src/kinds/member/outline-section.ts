import {
  boxOfPieces,
  flatRings,
  ringPieces,
  group,
  setFields,
  type GivenSection,
  type Member,
} from '@calque/core/model';
import { crossesItself } from '@calque/core/geometry';
import { count } from '@/project/trace-words';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import { outlinesOf } from '../plate/plates-of';
import { useNextMember } from './next-member';

const round = (mm: number) => Math.round(mm * 10) / 10;

/** Less is no section, square millimetres. */
const LEAST_AREA = 1;

/** The outline that is selected as a section, about the middle of its box; words where there is none. */
function sectionChosen(table: Table): GivenSection | string {
  const found = chosenTraced(table).flatMap((e) => outlinesOf(e) ?? []);
  if (found.length === 0) return 'Select one closed outline, or a circle: a section is made of it.';
  if (found.length > 1)
    return 'A section is one outline without holes: select one alone. Hollow sections are typed by their sizes, as "Box 100x60x5".';
  const [ring] = found,
    [x0, y0, x1, y1] = boxOfPieces(ringPieces(ring)),
    [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  if (crossesItself(flatRings({ rings: [ring] })[0])) return 'The outline crosses itself: it is no section.';
  if ((x1 - x0) * (y1 - y0) < LEAST_AREA) return 'The outline has no area: it is no section.';
  return {
    form: 'outline',
    name: `Outline ${round(x1 - x0)}x${round(y1 - y0)}`,
    points: ring.points.map(([x, y]): [number, number] => [x - cx, y - cy]),
    bulges: [...ring.bulges],
  };
}

/** The outline that is selected becomes the section of the next members, and of those that are selected with it. */
export function outlineAsSection(table: Table): void {
  const { session } = table,
    section = sectionChosen(table);
  if (typeof section === 'string') return session.tell(section, true);
  useNextMember.setState({ section });
  const members = chosenTraced(table).filter((e): e is Member => e.type === 'member');
  if (members.length > 0)
    session.do(group(members.map((m) => setFields<Member>(m, { section }))), 'Change a section');
  session.tell(
    members.length > 0
      ? `${count(members.length, 'member has', 'members have')} that section now, and the next ones will.`
      : 'The next members have that section: its area and inertias are worked out from the outline.',
  );
}
