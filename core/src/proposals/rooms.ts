import { arcOf, roomsWithin, roomWords, type TextAt } from '../building/index.ts';
import { makeRegion, regionContains, type Point } from '../geometry/index.ts';
import type { Wall } from '../model/index.ts';
import type { ProposedRoom, WallThere } from './types.ts';

/** A text with how tall it is, millimetres of what is shown. */
export type TallText = TextAt & { height: number };

const PLAIN = {
  type: 'wall',
  planeId: '',
  alignment: 'centre',
  height: 0,
  heightAssumed: true,
} as const;

/** The rooms that proposed walls enclose, with what is written in them; and which walls have the outside at one of their sides. */
export function roomsOf(
  walls: readonly WallThere[],
  mm: number,
  texts: readonly TallText[],
): { rooms: ProposedRoom[]; outer: (boolean | null)[] } {
  const made = walls.map(
      ({ from, to, thickness, arc }, i): Wall =>
        ({
          ...PLAIN,
          id: String(i),
          from: [from[0] * mm, from[1] * mm],
          to: [to[0] * mm, to[1] * mm],
          thickness,
          ...(arc && { curve: bulgeOf(arc.sweep) }),
        }) as unknown as Wall,
    ),
    { rooms, outside } = roomsWithin(made),
    around = outside.map((ring) => makeRegion([ring], 'nonzero'));
  const sheet = (p: Point): Point => [p[0] / mm, p[1] / mm];
  return {
    rooms: rooms.map(({ outline, area }): ProposedRoom => {
      const region = makeRegion([outline], 'nonzero'),
        words = roomWords(texts.filter((t) => regionContains(region, t.at[0], t.at[1])));
      const around = made.flatMap((w, i) => (bounds(w, outline) ? [i] : [])),
        sure = Math.min(1, ...around.map((i) => walls[i].confidence));
      return {
        name: words.name,
        number: words.number,
        outline: outline.map(sheet),
        area: area / 1e6,
        printed: words.printed === null ? null : words.printed / 1e6,
        walls: around,
        confidence: sure,
      };
    }),
    outer: made.map((w) => (rooms.length === 0 ? null : isOuter(w, around))),
  };
}

/** The tangent of a quarter of its turn, above 0 counter-clockwise. */
export const bulgeOf = (sweep: number): number => Math.tan(sweep / 4);

/** A wall is an outer one where just beyond one of its faces lies the outside, along most of it. */
function isOuter(wall: Wall, around: readonly ReturnType<typeof makeRegion>[]): boolean {
  const off = wall.thickness / 2 + 20;
  return [1, -1].some((side) => {
    const out = [0.2, 0.35, 0.5, 0.65, 0.8].filter((share) => {
      const [x, y] = besideAt(wall, share, side * off);
      return !around.some((r) => regionContains(r, x, y));
    });
    return out.length >= 3;
  });
}

/** A place beside a wall, at a share of its way, so far to the left of its line. */
function besideAt(wall: Wall, share: number, left: number): Point {
  const arc = arcOf(wall);
  if (!arc) {
    const { from, to } = wall,
      n = Math.hypot(to[0] - from[0], to[1] - from[1]);
    return [
      from[0] + (to[0] - from[0]) * share - (left * (to[1] - from[1])) / n,
      from[1] + (to[1] - from[1]) * share + (left * (to[0] - from[0])) / n,
    ];
  }
  return arc.at(arc.length * share, arc.isLeft ? -left : left);
}

/** Does a wall lie along an outline? */
function bounds(wall: Wall, outline: readonly Point[]): boolean {
  const { from, to, thickness } = wall,
    arc = arcOf(wall);
  if (arc)
    return outline.some(
      ([x, y]) =>
        Math.abs(Math.abs(Math.hypot(x - arc.centre[0], y - arc.centre[1]) - arc.radius) - thickness / 2) <
          10 &&
        arc.along([x, y]) > 1 &&
        arc.along([x, y]) < arc.length - 1,
    );
  const n = Math.hypot(to[0] - from[0], to[1] - from[1]),
    [ux, uy] = [(to[0] - from[0]) / n, (to[1] - from[1]) / n];
  return outline.some((p, i) => {
    const q = outline[(i + 1) % outline.length];
    if (Math.hypot(q[0] - p[0], q[1] - p[1]) < 50) return false;
    const [x, y] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2],
      s = (x - from[0]) * ux + (y - from[1]) * uy,
      v = (y - from[1]) * ux - (x - from[0]) * uy;
    return s > 0 && s < n && Math.abs(Math.abs(v) - thickness / 2) < 10;
  });
}
