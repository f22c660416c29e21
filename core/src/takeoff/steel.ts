import {
  assemblyKey,
  onPlate,
  plateAreas,
  plateKey,
  plateVolume,
  sectionPlace,
  type JoinedFrame,
  type PlatePart,
} from '../framing/index.ts';
import { sectionName, type KnownSection, type Member } from '../model/index.ts';

/** Plates that are alike: lengths in millimetres, area in square metres, masses in kilograms. */
export interface PlateRow {
  mark: string;
  name: string;
  thickness: number;
  /** The sides of the rectangle that it is cut from, the longer first. */
  length: number;
  width: number;
  /** Of one face, without its holes. */
  area: number;
  holes: number;
  material: string;
  count: number;
  /** Of one. */
  mass: number;
  /** The members whose joints they are of; of plates by themselves, these. */
  members: string[];
}

/** Bolts that are alike, each with its nut and washers. */
export interface BoltRow {
  name: string;
  grade: string;
  standard: string;
  length: number;
  count: number;
  /** Of all of them. */
  mass: number;
  members: string[];
}

/** A member with what is welded to it; alike ones together. */
export interface AssemblyRow {
  mark: string;
  /** The mark of the member, and its section. */
  main: string;
  section: string;
  parts: string;
  count: number;
  /** Of one. */
  mass: number;
  members: string[];
}

const plateArea = (p: PlatePart): number => plateAreas(p).net;

const plateMass = (p: PlatePart): number => (plateVolume(p) * p.density) / 1e9;

/** The least rectangle about an outline that lies along one of its sides. */
function stockSize({ outline }: PlatePart): [number, number] {
  let best: [number, number] = [Infinity, Infinity];
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length],
      length = Math.hypot(bx - ax, by - ay);
    if (length < 1e-9) return;
    const [ux, uy] = [(bx - ax) / length, (by - ay) / length],
      along = outline.map(([x, y]) => x * ux + y * uy),
      across = outline.map(([x, y]) => y * ux - x * uy),
      size = [along, across].map((v) => Math.max(...v) - Math.min(...v)) as [number, number];
    if (size[0] * size[1] < best[0] * best[1]) best = size;
  });
  return best[0] >= best[1] ? best : [best[1], best[0]];
}

function groupedBy<T>(list: readonly T[], key: (t: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const k = key(item),
      group = groups.get(k);
    if (group) group.push(item);
    else groups.set(k, [item]);
  }
  return groups;
}

const ids = (list: readonly { owner: string }[]): string[] => [...new Set(list.map((p) => p.owner))];

/** The plates of a frame, alike ones together, with their marks: the thickest and largest first, no matter how they were drawn. */
export const markedPlates = (frame: JoinedFrame): { mark: string; plates: PlatePart[] }[] =>
  [...groupedBy(frame.plates, plateKey)]
    .sort(
      ([a, [p]], [b, [q]]) => q.thickness - p.thickness || plateArea(q) - plateArea(p) || (a < b ? -1 : 1),
    )
    .map(([, plates], i) => ({ mark: `p${i + 1}`, plates }));

/** Plates, bolts and assemblies of a frame. Marks run through plates and assemblies in an order of their own: no matter how they were drawn. */
export function countSteel(
  frame: JoinedFrame,
  massOf: (id: string) => number | null,
): { plates: PlateRow[]; bolts: BoltRow[]; assemblies: AssemblyRow[] } {
  const marked = markedPlates(frame),
    markOf = new Map(marked.flatMap(({ mark, plates }) => plates.map((p) => [p, mark])));
  const plates = marked.map(({ mark, plates: list }): PlateRow => {
    const [first] = list,
      [length, width] = first.angle ? [first.thickness, 2 * stockSize(first)[0]] : stockSize(first);
    return {
      mark,
      name: [...new Set(list.map((p) => (p.angle ? `${p.name} ${p.angle.section}` : p.name)))]
        .sort()
        .join(', '),
      thickness: first.angle?.leg ?? first.thickness,
      length,
      width,
      area: (first.angle ? plateVolume(first) / first.angle.leg : plateArea(first)) / 1e6,
      holes: first.holes.length + first.slots.length + (first.angle?.across.length ?? 0),
      material: first.material,
      count: list.length,
      mass: plateMass(first),
      members: ids(list),
    };
  });
  const bolts = [...groupedBy(frame.bolts, (b) => `${b.name} ${b.grade}`).values()]
    .map((list): BoltRow => {
      const count = list.reduce((n, b) => n + b.at.length, 0);
      return {
        name: list[0].name,
        grade: list[0].grade,
        standard: list[0].standard,
        length: list[0].length,
        count,
        mass: list[0].mass * count,
        members: ids(list),
      };
    })
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  return {
    plates,
    bolts,
    assemblies: assembliesOf(frame, markOf, massOf),
  };
}

function assembliesOf(
  frame: JoinedFrame,
  markOf: ReadonlyMap<PlatePart, string>,
  massOf: (id: string) => number | null,
): AssemblyRow[] {
  const welded = groupedBy(
    frame.plates.filter((p) => p.weldedTo !== null),
    (p) => p.weldedTo!,
  );
  const found: { key: string; member: Member; section: KnownSection; plates: PlatePart[]; mass: number }[] =
    [];
  for (const placed of frame.members) {
    const { member, section } = placed,
      plates = welded.get(member.id);
    if (!plates || !section) continue;
    const parts = plates.map((p) => {
      const place = onPlate(p),
        [x, y] = middleOf(p);
      return { key: plateKey(p), at: sectionPlace(placed, place([x, y], p.thickness / 2)) };
    });
    found.push({
      key: [
        member.role,
        sectionName(member),
        member.material,
        lengthKey(placed),
        assemblyKey(frame, member, section, parts),
      ].join('\n'),
      member,
      section,
      plates,
      mass: (massOf(member.id) ?? 0) + plates.reduce((sum, p) => sum + plateMass(p), 0),
    });
  }
  return [...groupedBy(found, (f) => f.key)]
    .sort(([a, p], [b, q]) => q[0].mass - p[0].mass || (a < b ? -1 : 1))
    .map(([, list], i): AssemblyRow => {
      const [first] = list,
        counts = groupedBy(first.plates, (p) => markOf.get(p)!);
      return {
        mark: `A${i + 1}`,
        main: [...new Set(list.map((f) => f.member.mark))]
          .filter((m) => m !== '')
          .sort()
          .join(', '),
        section: sectionName(first.member),
        parts: [...counts]
          .sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))
          .map(([mark, of]) => `${of.length} ${mark}`)
          .join(', '),
        count: list.length,
        mass: first.mass,
        members: list.map((f) => f.member.id),
      };
    });
}

const lengthKey = ({ from, to }: { from: readonly number[]; to: readonly number[] }): string =>
  (Math.round(Math.hypot(...to.map((v, i) => v - from[i])) * 10) / 10).toString();

const middleOf = ({ outline }: PlatePart): [number, number] => {
  const sum = outline.reduce<[number, number]>(([x, y], [px, py]) => [x + px, y + py], [0, 0]);
  return [sum[0] / outline.length, sum[1] / outline.length];
};
