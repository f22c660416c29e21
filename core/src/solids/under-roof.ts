import {
  boxesTouch,
  boxOfPoints,
  differenceOf,
  heightAt,
  outlineOf,
  sharedBy,
  type Block,
  type Point,
  type Polygon,
  type Ring,
  type Slope,
} from '../geometry/index.ts';

/** The lower surface of a plane of a roof, above the floor of the storey below it. */
export interface Cover {
  ring: Ring;
  underside: number | Slope;
}

/** The part of a ring over which a surface lies higher than a height; a plane has one straight border there. */
function higherThan(ring: Ring, surface: Slope | number, height: number): Ring {
  const out: Point[] = [];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length],
      dp = heightAt(surface, p) - height,
      dq = heightAt(surface, q) - height;
    if (dp >= 0) out.push(p);
    if ((dp > 0 && dq < 0) || (dp < 0 && dq > 0)) {
      const t = dp / (dp - dq);
      out.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
    }
  });
  return out;
}

/** What stands over a part of the plan up to the roof over it; where no roof is, up to `otherwise`. Nothing where the roof lies below. */
export function upToRoof(
  polygon: Polygon,
  low: number,
  covers: readonly Cover[],
  otherwise: number,
): Block[] {
  const blocks: Block[] = [];
  let free: Polygon[] = [polygon];
  const box = boxOfPoints(polygon[0]);
  for (const { ring, underside } of covers) {
    if (!boxesTouch(box, boxOfPoints(ring))) continue;
    const here = free.flatMap((part) => sharedBy(part, [ring]));
    if (here.length === 0) continue;
    for (const part of here) {
      const rings = part.map((r) => higherThan(r, underside, low)).filter((r) => r.length > 2);
      if (rings.length > 0) blocks.push({ outline: outlineOf(rings), low, high: underside });
    }
    free = free.flatMap((part) => differenceOf(part, [ring]));
  }
  if (otherwise > low)
    for (const part of free) blocks.push({ outline: outlineOf(part), low, high: otherwise });
  return blocks;
}
