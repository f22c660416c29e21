/** A place, its two figures owned. */
type Pair = [number, number];

/** A closed ring of lines and arcs, millimetres about the middle of the section's box, x across it and y up; bulges as in BulgePath. */
export interface SectionRing {
  points: Pair[];
  bulges: number[];
}

/** A corner of a ring, and the radius with which it is rounded. */
type Corner = readonly [x: number, y: number, radius?: number];

/** A ring by its corners, counter-clockwise; rounded where they say so. A radius that its edges have no room for is refused. */
export function roundedRing(corners: readonly Corner[]): SectionRing {
  const points: Pair[] = [],
    bulges: number[] = [];
  corners.forEach(([x, y, radius = 0], i) => {
    const [px, py] = corners[(i + corners.length - 1) % corners.length],
      [qx, qy] = corners[(i + 1) % corners.length],
      [inX, inY] = [x - px, y - py],
      [outX, outY] = [qx - x, qy - y],
      [before, after] = [Math.hypot(inX, inY), Math.hypot(outX, outY)],
      turn = Math.atan2(inX * outY - inY * outX, inX * outX + inY * outY),
      reach = radius * Math.abs(Math.tan(turn / 2));
    if (reach < 1e-12) {
      points.push([x, y]);
      bulges.push(0);
      return;
    }
    points.push([x - (inX / before) * reach, y - (inY / before) * reach]);
    bulges.push(Math.tan(turn / 4));
    points.push([x + (outX / after) * reach, y + (outY / after) * reach]);
    bulges.push(0);
  });
  return { points, bulges };
}

/** A ring turned the other way round, as a hole is. */
export const reversed = ({ points, bulges }: SectionRing): SectionRing => {
  const n = points.length;
  return {
    points: [...points].reverse(),
    bulges: points.map((_, i) => -bulges[(2 * n - 2 - i) % n]),
  };
};

/** Sizes of a section, millimetres; `slope`: how much its flanges rise inwards, as a share; `tipRadius`: at the ends of flanges or legs. */
export interface SectionSizes {
  h: number;
  b: number;
  tw: number;
  tf: number;
  r: number;
  tipRadius?: number;
  slope?: number;
  /** Where across the flange its thickness is measured, from its free end, as a share of the part that stands out. */
  measuredAt?: number;
}

/** The thickness of a sloped flange at its free end and at the web. */
function flange(
  { tf, slope = 0, measuredAt = 0.5 }: SectionSizes,
  out: number,
): { tip: number; root: number } {
  const tip = tf - slope * out * measuredAt;
  return { tip, root: tip + slope * out };
}

/** An I or H: two flanges on a web, their inner faces level or sloped. */
export function iOutline(s: SectionSizes): SectionRing[] {
  const [x, y, w] = [s.b / 2, s.h / 2, s.tw / 2],
    { tip, root } = flange(s, x - w),
    t = s.tipRadius ?? 0;
  return [
    roundedRing([
      [-x, -y],
      [x, -y],
      [x, tip - y, t],
      [w, root - y, s.r],
      [w, y - root, s.r],
      [x, y - tip, t],
      [x, y],
      [-x, y],
      [-x, y - tip, t],
      [-w, y - root, s.r],
      [-w, root - y, s.r],
      [-x, tip - y, t],
    ]),
  ];
}

/** A channel, its web at the left. */
export function channelOutline(s: SectionSizes): SectionRing[] {
  const [x, y] = [s.b / 2, s.h / 2],
    web = s.tw - x,
    { tip, root } = flange(s, s.b - s.tw),
    t = s.tipRadius ?? 0;
  return [
    roundedRing([
      [-x, -y],
      [x, -y],
      [x, tip - y, t],
      [web, root - y, s.r],
      [web, y - root, s.r],
      [x, y - tip, t],
      [x, y],
      [-x, y],
    ]),
  ];
}

/** A tee: its flange above. */
export function teeOutline({ h, b, tw, tf, r }: SectionSizes): SectionRing[] {
  const [x, y, w] = [b / 2, h / 2, tw / 2];
  return [
    roundedRing([
      [-w, -y],
      [w, -y],
      [w, y - tf, r],
      [x, y - tf],
      [x, y],
      [-x, y],
      [-x, y - tf],
      [-w, y - tf, r],
    ]),
  ];
}

/** An angle, its corner at the lower left; `h` the leg that stands. */
export function angleOutline({ h, b, tw: t, r, tipRadius = 0 }: SectionSizes): SectionRing[] {
  const [x, y] = [b / 2, h / 2];
  return [
    roundedRing([
      [-x, -y],
      [x, -y],
      [x, t - y, tipRadius],
      [t - x, t - y, r],
      [t - x, y, tipRadius],
      [-x, y],
    ]),
  ];
}

const box = (b: number, h: number, r: number): SectionRing =>
  roundedRing([
    [-b / 2, -h / 2, r],
    [b / 2, -h / 2, r],
    [b / 2, h / 2, r],
    [-b / 2, h / 2, r],
  ]);

/** A rectangular hollow section, its corners rounded without and within. */
export const hollowOutline = (
  h: number,
  b: number,
  t: number,
  outer: number,
  inner: number,
): SectionRing[] => [box(b, h, outer), reversed(box(b - 2 * t, h - 2 * t, inner))];

/** A full circle: two half turns. */
const circle = (d: number): SectionRing => ({
  points: [
    [d / 2, 0],
    [-d / 2, 0],
  ],
  bulges: [1, 1],
});

export const rectangleOutline = (b: number, h: number): SectionRing[] => [box(b, h, 0)];
export const roundOutline = (d: number): SectionRing[] => [circle(d)];
export const pipeOutline = (d: number, t: number): SectionRing[] => [circle(d), reversed(circle(d - 2 * t))];
