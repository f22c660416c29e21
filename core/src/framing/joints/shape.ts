import {
  dot3,
  minus3,
  sharedBy,
  volumeOfAll,
  type Block,
  type ModelPoint,
  type Point,
  type Polygon,
} from '../../geometry/index.ts';
import { cutAt, flatSection, type KnownSection, type MemberCut } from '../../model/index.ts';
import type { PlacedMember } from '../placed.ts';
import type { Notch, Shape } from './parts.ts';

/** A member that runs along a plane more nearly than this (cosine) is not cut by it. */
const LEAST_COSINE = 0.15;

/** The axes of a member's section in the model: x as the section is drawn, mirrored or not. */
export const sectionX = ({ member, right }: Pick<PlacedMember, 'member' | 'right'>): ModelPoint =>
  member.mirrored ? [-right[0], -right[1], -right[2]] : right;

/** A place of the model in the coordinates of a member's section. */
export function sectionPlace(m: PlacedMember, p: ModelPoint): ModelPoint {
  const d = minus3(p, m.from);
  return [dot3(d, sectionX(m)), dot3(d, m.up), dot3(d, m.along)];
}

/** A plane of the model as a cut of a member; null where that runs along it. */
export function cutBy(m: PlacedMember, at: ModelPoint, normal: ModelPoint): MemberCut | null {
  const na = dot3(normal, m.along);
  if (Math.abs(na) < LEAST_COSINE) return null;
  return {
    z: dot3(normal, minus3(at, m.from)) / na,
    kx: -dot3(normal, sectionX(m)) / na,
    ky: -dot3(normal, m.up) / na,
  };
}

export const isSquare = ({ kx, ky }: MemberCut): boolean => Math.abs(kx) < 1e-9 && Math.abs(ky) < 1e-9;

const flattened = new WeakMap<KnownSection['rings'], Point[][]>();
function flatOnce(rings: KnownSection['rings']): Point[][] {
  let flat = flattened.get(rings);
  if (!flat) flattened.set(rings, (flat = flatSection(rings)));
  return flat;
}

/** Where a line across a section, so far from its middle, lies within its walls. */
export function wallsAlong({ rings }: KnownSection, isAcross: boolean, off: number): [number, number][] {
  const [along, across] = isAcross ? [0, 1] : [1, 0],
    at: number[] = [];
  for (const ring of flatOnce(rings))
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      if (p[across] > off === q[across] > off) return;
      at.push(p[along] + ((off - p[across]) / (q[across] - p[across])) * (q[along] - p[along]));
    });
  at.sort((a, b) => a - b);
  return at.flatMap((low, i): [number, number][] =>
    i % 2 === 0 && i + 1 < at.length ? [[low, at[i + 1]]] : [],
  );
}

/** Corners of a section's box. */
const cornersOf = ({ b, h }: KnownSection): Point[] => [
  [-b / 2, -h / 2],
  [b / 2, -h / 2],
  [b / 2, h / 2],
  [-b / 2, h / 2],
];

/** From where to where a shape reaches along its member: as long as it is cut from the bar. */
export function reachOf(section: KnownSection, { start, end }: Shape): [number, number] {
  const corners = cornersOf(section);
  return [Math.min(...corners.map((p) => cutAt(start, p))), Math.max(...corners.map((p) => cutAt(end, p)))];
}

/** Is something left of the section along all of it? */
export const isWhole = (section: KnownSection, { start, end }: Pick<Shape, 'start' | 'end'>): boolean =>
  cornersOf(section).every((p) => cutAt(end, p) - cutAt(start, p) > 1e-3);

/** A part of a section with the shape's ends there. */
export interface ShapePart {
  outline: Polygon;
  start: MemberCut;
  end: MemberCut;
}

const backBy = (cut: MemberCut, end: Notch['end'], length: number): MemberCut => ({
  ...cut,
  z: cut.z + (end === 'start' ? length : -length),
});

/** The parts of a section that end alike: one, but for notches. */
export function shapeParts(
  section: KnownSection,
  { start, end, notches }: Shape,
  chords?: number,
): ShapePart[] {
  const rings = flatSection(section.rings, chords),
    { b, h } = section;
  if (notches.length === 0) return [{ outline: rings, start, end }];
  const levels = [
    ...new Set([
      -h / 2,
      ...notches.map((n) => (n.side === 'top' ? h / 2 - n.depth : n.depth - h / 2)),
      h / 2,
    ]),
  ].sort((p, q) => p - q);
  return levels.slice(1).flatMap((high, i) => {
    const low = levels[i],
      middle = (low + high) / 2,
      strip: Polygon = [
        [
          [-b, low],
          [b, low],
          [b, high],
          [-b, high],
        ],
      ];
    const here = notches.filter((n) =>
      n.side === 'top' ? middle > h / 2 - n.depth : middle < n.depth - h / 2,
    );
    const back = (name: Notch['end']) =>
      Math.max(0, ...here.filter((n) => n.end === name).map((n) => n.length));
    return sharedBy(rings, strip).map((outline): ShapePart => ({
      outline,
      start: backBy(start, 'start', back('start')),
      end: backBy(end, 'end', back('end')),
    }));
  });
}

/** A shape as blocks that stand on its section, z along the member. */
export const shapeBlocks = (section: KnownSection, shape: Shape, chords?: number): Block[] =>
  shapeParts(section, shape, chords).map(({ outline, start, end }) => ({
    outline,
    low: { at: [0, 0], z: start.z, dx: start.kx, dy: start.ky },
    high: { at: [0, 0], z: end.z, dx: end.kx, dy: end.ky },
  }));

const HOLE = Math.PI / 4,
  /** Chords of fillets for what is counted, millimetres. */
  FINE = 1e-3;

/** Volume of a member as its joints make it, cubic millimetres: its area times its length at the centroid, less notches and holes. */
export function shapeVolume(section: KnownSection, shape: Shape): number {
  const { area, cx, cy } = section.figures,
    at: Point = [cx, cy],
    whole = area * (cutAt(shape.end, at) - cutAt(shape.start, at)),
    cut =
      shape.notches.length === 0
        ? 0
        : volumeOfAll(shapeBlocks(section, { ...shape, notches: [] }, FINE)) -
          volumeOfAll(shapeBlocks(section, shape, FINE)),
    drilled = shape.holes.reduce((sum, { d, depth }) => sum + HOLE * d * d * depth, 0);
  return whole - cut - drilled;
}
