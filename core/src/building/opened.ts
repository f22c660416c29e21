import { differenceOf, type Point, type Ring } from '../geometry/index.ts';
import { pointAt, type NicheInWall, type WallBand } from './wall-geometry.ts';

type Face = readonly [number, number, number, number];
interface Stretch {
  from: number;
  to: number;
}

const alongOf =
  (b: WallBand) =>
  ([x, y]: Point): number =>
    (x - b.from[0]) * b.ux + (y - b.from[1]) * b.uy;

/** The part of a ring on one side of a line square to the band: beyond (`sign` 1) or before (-1) a distance along it; of fewer than three points where nothing is left. */
export function halfOfRing(ring: Ring, band: WallBand, at: number, sign: 1 | -1): Ring {
  const along = alongOf(band),
    out: Point[] = [];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length],
      dp = sign * (along(p) - at),
      dq = sign * (along(q) - at);
    if (dp >= 0) out.push(p);
    if ((dp > 0 && dq < 0) || (dp < 0 && dq > 0)) {
      const t = dp / (dp - dq);
      out.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
    }
  });
  return out;
}

/** What of a wall's body stands between its openings, as a plan shows it. */
export function solidParts(body: Ring, band: WallBand, open: readonly Stretch[]): Ring[] {
  const bounds = [-Infinity, ...open.flatMap((o) => [o.from, o.to]), Infinity],
    parts: Ring[] = [];
  for (let i = 0; i < bounds.length; i += 2) {
    let part = body;
    if (bounds[i] > -Infinity) part = halfOfRing(part, band, bounds[i], 1);
    if (bounds[i + 1] < Infinity) part = halfOfRing(part, band, bounds[i + 1], -1);
    if (part.length > 2) parts.push(part);
  }
  return parts;
}

/** What niches leave of the outlines of a wall; `within` cuts what they take to the part of a bent wall that they lie in. */
export function withoutNiches(
  rings: readonly Ring[],
  band: WallBand,
  niches: readonly NicheInWall[],
  within: (ring: Ring) => Ring = (ring) => ring,
): Ring[] {
  if (niches.length === 0) return [...rings];
  // Drawn out over the face, so that no skin is left before them.
  const beyond = band.left + band.right,
    taken = niches.map(({ from, to, left, right, toLeft }): Ring => {
      const [low, high] = toLeft ? [right, left + beyond] : [right - beyond, left];
      return within([
        pointAt(band, from, low),
        pointAt(band, to, low),
        pointAt(band, to, high),
        pointAt(band, from, high),
      ]);
    });
  return rings.flatMap((ring) => differenceOf([ring], taken).map(([outer]) => outer));
}

/** Faces of a wall without those before its niches, and with those of the niches themselves. */
export function nichedFaces(faces: readonly Face[], band: WallBand, niches: readonly NicheInWall[]): Face[] {
  const off = ([x0, y0, x1, y1]: Face): number =>
    ((y0 + y1) / 2 - band.from[1]) * band.ux - ((x0 + x1) / 2 - band.from[0]) * band.uy;
  return niches.reduce<readonly Face[]>((some, niche) => {
    const { from, to, left, right, toLeft } = niche,
      face = toLeft ? left : right,
      back = toLeft ? right : left,
      at = (along: number, side: number) => pointAt(band, along, side),
      lines = [
        [at(from, face), at(from, back)],
        [at(to, face), at(to, back)],
        [at(from, back), at(to, back)],
      ];
    return [
      ...some.flatMap((f) => (Math.abs(off(f) - face) < ON_FACE ? openedAlong([f], band, [niche]) : [f])),
      ...lines.map(([p, q]): Face => [p[0], p[1], q[0], q[1]]),
    ];
  }, faces) as Face[];
}
/** A line is part of a face so near to it, millimetres. */
const ON_FACE = 1e-3;

/** The faces of a wall as its openings leave them, with their jambs. */
export function openedFaces(faces: readonly Face[], band: WallBand, open: readonly Stretch[]): Face[] {
  const place = (t: number, side: number): Point => pointAt(band, t, side);
  const jambs = open.flatMap((o) =>
    [o.from, o.to].map((t) => [...place(t, -band.right), ...place(t, band.left)] as unknown as Face),
  );
  return [...openedAlong(faces, band, open), ...jambs];
}

function openedAlong(faces: readonly Face[], band: WallBand, open: readonly Stretch[]): Face[] {
  const along = alongOf(band);
  return faces.flatMap((face): Face[] => {
    const p: Point = [face[0], face[1]],
      q: Point = [face[2], face[3]],
      a = along(p),
      b = along(q);
    // What runs across the wall is an end of it.
    if (Math.abs(b - a) < ACROSS * Math.hypot(q[0] - p[0], q[1] - p[1])) return [face];
    const at = (t: number): Point => {
      const share = (t - a) / (b - a);
      return [p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])];
    };
    const low = Math.min(a, b),
      high = Math.max(a, b),
      out: Face[] = [];
    let from = low;
    for (const o of [...open, { from: high, to: high }]) {
      const to = Math.min(high, Math.max(from, o.from));
      if (to - from > 1e-9) out.push([...at(from), ...at(to)] as unknown as Face);
      from = Math.max(from, Math.min(high, o.to));
    }
    return out;
  });
}

/** A face runs along its wall where at least this share of it does. */
const ACROSS = 0.5;
