import {
  cutLength,
  knownSection,
  looseElements,
  memberMass,
  ofType,
  sectionName,
  storeysOf,
  type Loose,
  type Member,
  type MemberRole,
  type Model,
  type PlaneEntity,
} from '../model/index.ts';
import { joinedFrame, pieceKey, reachOf, shapeVolume, type Shape } from '../framing/index.ts';
import { countSteel, type AssemblyRow, type BoltRow, type PlateRow } from './steel.ts';
import { nest, type Nested } from './nesting.ts';

/** A member: length in millimetres as it is cut, mass in kilograms, surface in square metres; null where its section is in no table. */
export interface MemberRow {
  id: string;
  mark: string;
  role: MemberRole;
  section: string;
  standard: string | null;
  material: string;
  /** The storey or plane on which it is drawn. */ on: string;
  /** From end to end, as it is cut from a bar. */
  length: number;
  /** How its ends are made, in words. */
  ends: [string, string];
  holes: number;
  /** kg/m. */ massPerMetre: number | null;
  mass: number | null;
  surface: number | null;
}

/** Pieces of one section and material that are cut equally long. */
export interface CutRow {
  section: string;
  material: string;
  length: number;
  /** How its ends are cut, in words. */
  ends: string;
  holes: number;
  count: number;
  mass: number | null;
  members: string[];
}

/** What of one section is cut out of stock. */
export interface StockRow extends Nested {
  section: string;
  material: string;
  /** Lengths of all pieces, and of all bars that they take, millimetres. */
  used: number;
  bought: number;
  /** What is left over, as a share of what is bought. */
  waste: number;
}

export interface FrameCount {
  members: MemberRow[];
  plates: PlateRow[];
  bolts: BoltRow[];
  assemblies: AssemblyRow[];
  cuts: CutRow[];
  stock: StockRow[];
}

/** Lengths within this are cut alike, millimetres. */
const ALIKE = 0.1;
/** Bars as they are usually bought, and what a saw takes at each cut, millimetres. */
export const STOCK_LENGTHS: readonly number[] = [6000, 12000];
export const SAW = 5;

/** Members of a project, counted, cut and laid into bars. */
export function countFrame(model: Model): FrameCount {
  const planes: PlaneEntity[] = [...storeysOf(model), ...ofType(model, 'plane')],
    frame = joinedFrame(model),
    pieces = new Map<string, string>(),
    members = planes.flatMap((on) =>
      looseElements(model, on.id)
        .filter((e: Loose): e is Member => e.type === 'member')
        .map((e) => {
          pieces.set(e.id, pieceKey(frame, e, knownSection(e.section)));
          return rowOf(e, on.name, frame.shapes.get(e.id));
        }),
    ),
    cuts = cutsOf(members, pieces),
    masses = new Map(members.map((m) => [m.id, m.mass]));
  return { members, ...countSteel(frame, (id) => masses.get(id) ?? null), cuts, stock: stockOf(cuts) };
}

function rowOf(e: Member, on: string, shape: Shape | undefined): MemberRow {
  const known = knownSection(e.section),
    [low, high] = shape && known ? reachOf(known, shape) : [0, cutLength(e)],
    length = high - low,
    mass = shape && known ? (shapeVolume(known, shape) * e.density) / 1e9 : memberMass(e);
  return {
    id: e.id,
    mark: e.mark,
    role: e.role,
    section: sectionName(e),
    standard: known?.standard ?? null,
    material: e.material,
    on,
    length,
    ends: [endWords('start', shape), endWords('end', shape)],
    holes: shape?.holes.length ?? 0,
    massPerMetre: known && (known.figures.area / 1e6) * e.density,
    mass,
    surface: known && (known.figures.perimeter * length) / 1e6,
  };
}

const degrees = (k: number) => (Math.atan(Math.abs(k)) * 180) / Math.PI;

/** How an end is cut: "square", "30.0° across the depth", "coped above 40 x 85". */
function endWords(end: 'start' | 'end', shape: Shape | undefined): string {
  if (!shape) return 'square';
  const { kx, ky } = shape[end],
    angles = [
      ...(Math.abs(ky) > 1e-6 ? [`${degrees(ky).toFixed(1)}° over its depth`] : []),
      ...(Math.abs(kx) > 1e-6 ? [`${degrees(kx).toFixed(1)}° across its width`] : []),
    ],
    notches = shape.notches
      .filter((n) => n.end === end)
      .map(
        (n) =>
          `coped ${n.side === 'top' ? 'above' : 'below'} ${Math.round(n.depth)} x ${Math.round(n.length)}`,
      );
  return [...(angles.length === 0 ? ['square'] : angles), ...notches].join(', ');
}

/** Equal pieces together, the longest of a section first. */
function cutsOf(members: readonly MemberRow[], pieces: ReadonlyMap<string, string>): CutRow[] {
  const rows: CutRow[] = [];
  const sorted = [...members].sort(
    (a, b) =>
      a.section.localeCompare(b.section, 'en', { numeric: true }) ||
      a.material.localeCompare(b.material) ||
      pieces.get(a.id)!.localeCompare(pieces.get(b.id)!) ||
      b.length - a.length,
  );
  for (const m of sorted) {
    const last = rows.at(-1);
    if (
      last &&
      last.section === m.section &&
      last.material === m.material &&
      last.length - m.length <= ALIKE &&
      pieces.get(last.members[0]) === pieces.get(m.id)
    ) {
      last.count++;
      last.mass = last.mass === null || m.mass === null ? null : last.mass + m.mass;
      last.members.push(m.id);
    } else
      rows.push({
        section: m.section,
        material: m.material,
        length: m.length,
        ends: pieces.get(m.id) === '' ? 'square' : m.ends.join(' · '),
        holes: m.holes,
        count: 1,
        mass: m.mass,
        members: [m.id],
      });
  }
  return rows.sort(
    (a, b) =>
      a.section.localeCompare(b.section, 'en', { numeric: true }) ||
      a.material.localeCompare(b.material) ||
      b.length - a.length,
  );
}

function stockOf(cuts: readonly CutRow[]): StockRow[] {
  const bySection = new Map<string, CutRow[]>();
  for (const cut of cuts) {
    const key = `${cut.section}\n${cut.material}`,
      list = bySection.get(key);
    if (list) list.push(cut);
    else bySection.set(key, [cut]);
  }
  return [...bySection.values()].map((list): StockRow => {
    const pieces = list.flatMap(({ length, count }) => Array.from({ length: count }, () => length)),
      nested = nest(pieces, STOCK_LENGTHS, SAW),
      used = pieces.reduce((sum, l) => sum + l, 0),
      bought = nested.bars.reduce((sum, b) => sum + b.stock, 0);
    const { section, material } = list[0];
    return {
      section,
      material,
      ...nested,
      used,
      bought,
      waste: bought > 0 ? 1 - (used - nested.tooLong.reduce((sum, l) => sum + l, 0)) / bought : 0,
    };
  });
}
