import { dot3, minus3, type ModelPoint, type Point } from '../../geometry/index.ts';
import { boltCount, boltPlaces, cutAt } from '../../model/index.ts';
import { boltLength, boltMass, boltOf } from './bolts.ts';
import { distance, type KnownMember } from './faces.ts';
import { LEAST_EDGE, type Made } from './making.ts';
import { flatSlots, placesOfBolts, withinOutline, type OwnBolts } from './own.ts';
import type { BoltSet, Hole, JointDoubt, PlatePart, Shape } from './parts.ts';
import { sectionPlace, sectionX, wallsAlong } from './shape.ts';
import { along, times } from './vectors.ts';

/** What bolts that are drawn by themselves make: themselves, holes in members and plates, and what of them does not come out. */
export interface Drilled {
  bolts: BoltSet[];
  members: Made[];
  plates: ReadonlyMap<PlatePart, PlatePart['holes']>;
  doubts: JointDoubt[];
}

/** A stretch of a bolt's axis that lies in a part: from and to, along the way in which the plane faces. */
interface Stretch {
  low: number;
  high: number;
  part: PlatePart | { of: KnownMember; hole: Hole; edge: number };
}

/** More bolts by themselves than are made at once. */
const MOST_DRILLED = 100000;

/** Parts this near to one another lie on one another; a way this near (cosine) to square is square. Millimetres. */
const TOUCH = 2,
  SQUARE = 1 - 1e-5,
  ALIKE = 0.05;

const TOO_NEAR = 'they stand too near one another';

const isPlate = (p: Stretch['part']): p is PlatePart => 'outline' in p;
const idOf = (p: Stretch['part']): string => (isPlate(p) ? p.id : p.of.member.id);

/** Drills what bolts go through: plates and members whose walls lie square to them, as far as these lie on one another. */
export function drilled(
  patterns: readonly OwnBolts[],
  plates: readonly PlatePart[],
  members: readonly KnownMember[],
  shapeOf: (m: KnownMember) => Pick<Shape, 'start' | 'end'>,
): Drilled {
  const done: Drilled & { plates: Map<PlatePart, PlatePart['holes']> } = {
    bolts: [],
    members: [],
    plates: new Map(),
    doubts: [],
  };
  /** Holes of members that others have drilled already. */
  const taken = new Map<string, Hole[]>();
  let left = MOST_DRILLED;
  for (const own of patterns) {
    left -= boltCount(own.bolts.pattern);
    if (left >= 0) {
      const drilling = new Drilling(own);
      drilling.through(plates, members, shapeOf);
      done.members.push(...drilling.members(taken));
      done.bolts.push(...drilling.sets());
      for (const [part, holes] of drilling.plates) {
        const there = done.plates.get(part) ?? [];
        done.plates.set(part, [...there, ...holes.filter((h) => !drilling.isTaken(h, there))]);
      }
      done.doubts.push(...drilling.doubts());
    } else
      done.doubts.push({
        id: own.bolts.id,
        end: null,
        words: `there are more than ${MOST_DRILLED} bolts by themselves: these are not made`,
      });
  }
  return done;
}

/** One of these while its bolts are put through what they hold. */
class Drilling {
  private readonly size;
  private readonly out: ModelPoint;
  private readonly at: readonly ModelPoint[];
  private readonly words = new Set<string>();
  private readonly byGrip = new Map<string, { low: number; high: number; at: ModelPoint[] }>();
  private readonly holes = new Map<string, { of: KnownMember; holes: Hole[] }>();
  readonly plates = new Map<PlatePart, PlatePart['holes']>();

  constructor(private readonly own: OwnBolts) {
    this.size = boltOf(own.bolts.d);
    const { at, out } = placesOfBolts(own, boltPlaces(own.bolts));
    this.at = at;
    this.out = out;
    if (own.bolts.of === null) this.doubt('the plate or member that they hold is not there any more');
    const apart = Math.min(Infinity, ...at.slice(1, 40).map((p) => distance(p, at[0])));
    if (apart < 2 * this.size.hole) this.doubt(TOO_NEAR);
  }

  private doubt = (text: string): void => void this.words.add(text);

  /** Puts each through all that lies on what they hold. */
  through(
    plates: readonly PlatePart[],
    members: readonly KnownMember[],
    shapeOf: (m: KnownMember) => Pick<Shape, 'start' | 'end'>,
  ): void {
    const { at, out, size } = this,
      { of, rise } = this.own.bolts,
      near = partsNear(at, out, plates, members);
    for (const p of at) {
      const stretches = [
          ...near.plates.flatMap((part) => plateStretch(part, p, out)),
          ...near.members.flatMap((m) => memberStretches(m, p, out, size.hole, shapeOf(m))),
        ],
        stack = stackAt(stretches, of, rise);
      if (stack) this.put(p, stack);
      else
        this.doubt(
          near.plates.length + near.members.length > 0
            ? 'a bolt lies outside of what they hold'
            : 'they hold nothing: no plate or member lies square to them there',
        );
    }
    if (this.byGrip.size > 1) this.doubt('they do not all go through as much: their lengths differ');
  }

  private put(p: ModelPoint, { low, high, through }: NonNullable<ReturnType<typeof stackAt>>): void {
    const { hole } = this.size;
    for (const { part } of through) {
      if (isPlate(part)) drillPlate(part, p, hole, this.plates, this.doubt);
      else {
        if (part.edge < LEAST_EDGE * hole) this.doubt('bolts lie too near an end of a member');
        const { id } = part.of.member,
          list = this.holes.get(id) ?? { of: part.of, holes: [] };
        if (list.holes.some((h) => isOneHole(h, part.hole))) this.doubt(TOO_NEAR);
        // One that the end runs through is none.
        else if (part.edge >= hole / 2) list.holes.push({ ...part.hole, d: hole });
        this.holes.set(id, list);
      }
    }
    const key = `${Math.round(low / ALIKE)} ${Math.round(high / ALIKE)}`,
      group = this.byGrip.get(key) ?? { low, high, at: [] };
    group.at.push(p);
    this.byGrip.set(key, group);
  }

  /** Holes of members, as joints make them, but for those that are there, among which they are from now on. */
  members(taken: Map<string, Hole[]>): Made[] {
    return [...this.holes.values()].map(({ of, holes: own }) => {
      const { id } = of.member,
        there = taken.get(id) ?? [],
        holes = own.filter((h) => !there.some((t) => isOneHole(h, t)));
      if (holes.length < own.length) this.doubt('they stand where other bolts do already');
      taken.set(id, [...there, ...holes]);
      return this.made(of, holes);
    });
  }

  private made(of: KnownMember, holes: readonly Hole[]): Made {
    const { id } = of.member;
    return {
      owner: this.own.bolts.id,
      touches: [id],
      cuts: [],
      notches: [],
      holes: holes.map((hole) => ({ id, hole })),
      plates: [],
      bolts: [],
      doubts: [],
    };
  }

  /** A set for each grip: the heads lie where the plane is seen from, unless it is the other way round. */
  sets(): BoltSet[] {
    const { size, out } = this,
      { id, grade, reversed } = this.own.bolts;
    return [...this.byGrip.values()].map(({ low, high, at }, i): BoltSet => {
      const grip = high - low,
        length = boltLength(size, grip),
        long = length ?? grip + 2 * size.washer + size.nut + 2 * size.pitch;
      if (length === null) this.doubt(`no bolt is as long as a grip of ${Math.round(grip)} mm asks for`);
      return {
        id: i === 0 ? id : `${id}.${i + 1}`,
        owner: id,
        d: size.d,
        name: `${size.name} x ${Math.round(long * 10) / 10}`,
        grade: grade ?? size.grade,
        standard: size.standard,
        grip,
        length: long,
        anchor: false,
        at: at.map((p) => along(p, out, reversed ? low : high)),
        axis: reversed ? out : times(out, -1),
        mass: boltMass(size, long),
      };
    });
  }

  /** Is a hole where others have drilled one already? */
  isTaken({ at, d }: PlatePart['holes'][number], there: PlatePart['holes']): boolean {
    const taken = there.some((h) => Math.hypot(h.at[0] - at[0], h.at[1] - at[1]) < (h.d + d) / 2);
    if (taken) this.doubt('they stand where other bolts do already');
    return taken;
  }

  doubts(): JointDoubt[] {
    return [...this.words].map((words) => ({ id: this.own.bolts.id, end: null, words }));
  }
}

/** Do two holes of a wall run into one another? */
const isOneHole = (a: Hole, b: Hole): boolean =>
  a.through === b.through && Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z) < (a.d + b.d) / 2;

/** Plates and members that lie square to a pattern, and not farther beside it than they reach. */
function partsNear(
  at: readonly ModelPoint[],
  out: ModelPoint,
  plates: readonly PlatePart[],
  members: readonly KnownMember[],
): { plates: PlatePart[]; members: KnownMember[] } {
  const middle = times(
      at.reduce<ModelPoint>((s, p) => [s[0] + p[0], s[1] + p[1], s[2] + p[2]], [0, 0, 0]),
      1 / at.length,
    ),
    reach = Math.max(...at.map((p) => distance(p, middle)));
  return {
    plates: plates.filter(
      (p) => Math.abs(dot3(normalOf(p), out)) > SQUARE && comesNear(p, middle, out, reach),
    ),
    members: members.filter(
      (m) => Math.abs(dot3(m.along, out)) < Math.sqrt(1 - SQUARE ** 2) && passesNear(m, middle, out, reach),
    ),
  };
}

const normalOf = ({ x, y }: PlatePart): ModelPoint => [
  x[1] * y[2] - x[2] * y[1],
  x[2] * y[0] - x[0] * y[2],
  x[0] * y[1] - x[1] * y[0],
];

const reaches = new WeakMap<PlatePart, number>();
function comesNear(part: PlatePart, middle: ModelPoint, out: ModelPoint, reach: number): boolean {
  let own = reaches.get(part);
  if (own === undefined)
    reaches.set(part, (own = Math.max(...part.outline.map(([x, y]) => Math.hypot(x, y)))));
  return offAxis(minus3(part.origin, middle), out) <= own + reach + 1;
}

/** How far beside an axis a place lies. */
const offAxis = (d: ModelPoint, way: ModelPoint): number => {
  const t = dot3(d, way);
  return Math.sqrt(Math.max(0, dot3(d, d) - t * t));
};

function passesNear(m: KnownMember, middle: ModelPoint, out: ModelPoint, reach: number): boolean {
  const t = Math.min(Math.max(dot3(minus3(middle, m.from), m.along), 0), distance(m.from, m.to));
  return (
    offAxis(minus3(along(m.from, m.along, t), middle), out) <=
    reach + Math.hypot(m.section.b, m.section.h) / 2 + 1
  );
}

/** A place in the axes of a plate. */
const placeOn = ({ origin, x, y }: PlatePart, p: ModelPoint): Point => {
  const d = minus3(p, origin);
  return [dot3(d, x), dot3(d, y)];
};

function plateStretch(part: PlatePart, p: ModelPoint, out: ModelPoint): Stretch[] {
  if (withinOutline(placeOn(part, p), part.outline) <= 0) return [];
  const at = dot3(minus3(part.origin, p), out),
    far = at + (dot3(normalOf(part), out) > 0 ? part.thickness : -part.thickness);
  return [{ low: Math.min(at, far), high: Math.max(at, far), part }];
}

/** Walls of a member's section that an axis goes square through. */
function memberStretches(
  m: KnownMember,
  p: ModelPoint,
  out: ModelPoint,
  hole: number,
  { start, end }: Pick<Shape, 'start' | 'end'>,
): Stretch[] {
  const [x, y, z] = sectionPlace(m, p),
    [dx, dy] = [dot3(out, sectionX(m)), dot3(out, m.up)],
    isAcross = Math.abs(dx) > SQUARE;
  if (!isAcross && Math.abs(dy) <= SQUARE) return [];
  const sign = Math.sign(isAcross ? dx : dy),
    from = isAcross ? x : y;
  return wallsAlong(m.section, isAcross, isAcross ? y : x).flatMap(([a, b]): Stretch[] => {
    const middle = (a + b) / 2,
      place: Point = isAcross ? [middle, y] : [x, middle],
      edge = Math.min(z - cutAt(start, place), cutAt(end, place) - z);
    if (edge <= 0) return [];
    const [low, high] = [(a - from) * sign, (b - from) * sign].sort((s, t) => s - t);
    const through = isAcross ? 'web' : middle >= 0 ? 'top' : 'bottom';
    return [
      {
        low,
        high,
        part: { of: m, edge, hole: { through, x: place[0], y: place[1], z, d: hole, depth: b - a } },
      },
    ];
  });
}

/** All that lies on one another about what bolts hold; null where an axis misses that. */
function stackAt(
  stretches: readonly Stretch[],
  of: string | null,
  rise: number,
): { low: number; high: number; through: Stretch[] } | null {
  const far = (s: Stretch) => Math.max(s.low - rise, rise - s.high, 0),
    [seed] = stretches.filter((s) => of === null || idOf(s.part) === of).sort((a, b) => far(a) - far(b));
  if (!seed) return null;
  let { low, high } = seed;
  const through = [seed],
    rest = new Set(stretches.filter((s) => s !== seed));
  for (let grew = true; grew;) {
    grew = false;
    for (const s of rest) {
      if (s.low > high + TOUCH || s.high < low - TOUCH) continue;
      [low, high] = [Math.min(low, s.low), Math.max(high, s.high)];
      through.push(s);
      rest.delete(s);
      grew = true;
    }
  }
  return { low, high, through };
}

function drillPlate(
  part: PlatePart,
  p: ModelPoint,
  d: number,
  drilledPlates: Map<PlatePart, PlatePart['holes']>,
  doubt: (words: string) => void,
): void {
  const at = placeOn(part, p),
    within = withinOutline(at, part.outline);
  if (within < LEAST_EDGE * d) doubt(`bolts lie too near an edge of a ${part.name}`);
  // A hole that the edge runs through is none.
  if (within < d / 2) return;
  // Through a hole or a slot that is there nothing more is drilled.
  const far = (h: { at: Point }) => Math.hypot(h.at[0] - at[0], h.at[1] - at[1]),
    slots = flatSlots(part);
  if (part.holes.some((h) => far(h) + d / 2 <= h.d / 2 + ALIKE)) return;
  if (slots.some((slot) => withinOutline(at, slot) >= d / 2 - ALIKE)) return;
  if (part.holes.some((h) => far(h) < (h.d + d) / 2) || slots.some((s) => withinOutline(at, s) > -d / 2))
    return doubt(`bolts run into a hole of a ${part.name} that is too small for them`);
  const list = drilledPlates.get(part) ?? [];
  if (list.some((h) => far(h) < (h.d + d) / 2)) return doubt(TOO_NEAR);
  list.push({ at: [at[0], at[1]], d });
  drilledPlates.set(part, list);
}
