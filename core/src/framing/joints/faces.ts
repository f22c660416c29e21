import { dot3, type ModelPoint } from '../../geometry/index.ts';
import type { KnownSection, MemberEndName } from '../../model/index.ts';
import type { PlacedMember } from '../placed.ts';
import type { Hole, Notch } from './parts.ts';
import { sectionPlace, sectionX } from './shape.ts';
import { along, times } from './vectors.ts';

/** A placed member whose section is known. */
export type KnownMember = PlacedMember & { section: KnownSection };

/** The face of a member that another comes upon. */
export interface Face {
  /** Where the line of the other, through the middle of its section, meets it. */
  at: ModelPoint;
  /** Out of it, towards the other. */
  normal: ModelPoint;
  through: Hole['through'];
  /** Of what lies behind it: a flange, a web, a wall. */
  thickness: number;
  /** Does it lie between flanges? Then how far these stand out beyond it, and their inner edges with their fillets above and below the middle. */
  between: { reach: number; inner: number } | null;
}

/** Directions that differ by less from being square (cosine) meet no face. */
const ALONGSIDE = 0.05;

/** Away from a member at its end. */
export const outward = (m: PlacedMember, end: MemberEndName): ModelPoint =>
  end === 'end' ? m.along : times(m.along, -1);
export const endOf = (m: PlacedMember, end: MemberEndName): ModelPoint => (end === 'end' ? m.to : m.from);

/** The end of a member that is nearest to a place. */
export const nearerEnd = (m: PlacedMember, p: ModelPoint): MemberEndName =>
  distance(m.from, p) <= distance(m.to, p) ? 'start' : 'end';
export const distance = (a: ModelPoint, b: ModelPoint): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** The face of `t` on which `m` comes with an end; null where it runs along it. */
export function faceMet(m: PlacedMember, end: MemberEndName, t: KnownMember): Face | null {
  const o = outward(m, end),
    from = endOf(m, end),
    x = sectionX(t),
    [ex, ey] = sectionPlace(t, from),
    [dx, dy] = [dot3(o, x), dot3(o, t.up)],
    { b, h } = t.section;
  // It comes in by the later of the two faces that look towards it.
  const byX = Math.abs(dx) < ALONGSIDE ? -Infinity : (-Math.sign(dx) * (b / 2) - ex) / dx,
    byY = Math.abs(dy) < ALONGSIDE ? -Infinity : (-Math.sign(dy) * (h / 2) - ey) / dy;
  if (byX === -Infinity && byY === -Infinity) return null;
  if (byY >= byX) {
    const side = -Math.sign(dy);
    return {
      at: along(from, o, byY),
      normal: times(t.up, side),
      through: side > 0 ? 'top' : 'bottom',
      thickness: flangeOf(t.section),
      between: null,
    };
  }
  const side = -Math.sign(dx),
    web = webOf(t.section, side);
  return {
    at: along(from, o, (web.face - ex) / dx),
    normal: times(x, side),
    through: 'web',
    thickness: web.thickness,
    between: web.between,
  };
}

/** What lies behind the upper or lower face of a section. */
function flangeOf({ sizes, h }: KnownSection): number {
  switch (sizes?.shape) {
    case 'I':
    case 'channel':
    case 'tee':
      return sizes.tf;
    case 'rectangular hollow':
    case 'round hollow':
    case 'angle':
      return sizes.tw;
    default:
      return h;
  }
}

/** The face of a section's web, or of its wall, that looks to a side (1: x, -1: against it). */
function webOf(
  { sizes, b, h }: KnownSection,
  side: number,
): { face: number; thickness: number; between: Face['between'] } {
  if (!sizes) return { face: (side * b) / 2, thickness: b, between: null };
  const { shape, tw, tf, r } = sizes,
    inner = h / 2 - tf - r;
  switch (shape) {
    case 'I':
      return { face: (side * tw) / 2, thickness: tw, between: { reach: (b - tw) / 2, inner } };
    case 'channel':
      return side < 0
        ? { face: -b / 2, thickness: tw, between: null }
        : { face: tw - b / 2, thickness: tw, between: { reach: b - tw, inner } };
    case 'angle':
      return { face: side < 0 ? -b / 2 : tw - b / 2, thickness: tw, between: null };
    case 'tee':
      return { face: (side * tw) / 2, thickness: tw, between: null };
    case 'rectangular hollow':
    case 'round hollow':
      return { face: (side * b) / 2, thickness: tw, between: null };
    default:
      return { face: (side * b) / 2, thickness: b, between: null };
  }
}

/** The element of a member's own section by which it is bolted at its side: where its face lies, to which side that looks, how thick it is. */
export function ownWeb({ sizes, b }: KnownSection): { face: number; side: 1 | -1; thickness: number } {
  if (!sizes) return { face: b / 2, side: 1, thickness: b };
  switch (sizes.shape) {
    case 'I':
    case 'tee':
      return { face: sizes.tw / 2, side: 1, thickness: sizes.tw };
    case 'channel':
    case 'angle':
      return { face: -b / 2, side: -1, thickness: sizes.tw };
    case 'rectangular hollow':
    case 'round hollow':
      return { face: b / 2, side: 1, thickness: sizes.tw };
    default:
      return { face: b / 2, side: 1, thickness: b };
  }
}

/** Sections lie askew to one another by more than this (cosine) where notches cannot be told. */
const UPRIGHT = 0.7;

/** What of a member is in the way of the flanges between which it goes, so far from their web; a text says why that cannot be told. */
export function notchesAt(
  m: KnownMember,
  end: MemberEndName,
  t: KnownMember,
  face: Face,
  { gap, clearance }: { gap: number; clearance: number },
): Notch[] | string {
  if (!face.between) return [];
  const k = dot3(m.up, t.up),
    cos = Math.abs(dot3(outward(m, end), face.normal)),
    { b, h } = m.section,
    // How far it reaches to either side of its line between the flanges.
    half = (Math.abs(k) * h + Math.abs(dot3(sectionX(m), t.up)) * b) / 2,
    middle = sectionPlace(t, face.at)[1],
    limit = face.between.inner - clearance;
  const [low, high] = [middle - half, middle + half],
    over = high - face.between.inner,
    under = -face.between.inner - low;
  if (over <= 0 && under <= 0) return [];
  if (Math.abs(k) < UPRIGHT)
    return 'it lies askew to the flanges of the other: it cannot be coped round them';
  const length = (face.between.reach - gap) / cos + clearance;
  if (length <= 0) return [];
  const notches: Notch[] = [];
  // The side that looks up in the other member is this one's top, unless it stands on its head.
  const add = (isUpper: boolean, depth: number) =>
    notches.push({ end, side: isUpper === k > 0 ? 'top' : 'bottom', depth: depth / Math.abs(k), length });
  if (over > 0) add(true, high - limit);
  if (under > 0) add(false, -limit - low);
  const depth = notches.reduce((sum, n) => sum + n.depth, 0);
  return depth >= h - 1 ? 'the cope would be deeper than its section' : notches;
}
