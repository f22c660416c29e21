import { cross3, dot3, ringArea, type ModelPoint, type Point } from '../../geometry/index.ts';
import type { Joint, MadeForm, MemberCut, MemberEndName } from '../../model/index.ts';
import { boltLength, boltMass, boltOf } from './bolts.ts';
import type { KnownMember } from './faces.ts';
import type { BoltSet, Hole, JointDoubt, Notch, PlatePart } from './parts.ts';
import { sectionPlace, wallsAlong } from './shape.ts';
import type { Sizes } from './sizes.ts';
import { along, times } from './vectors.ts';

/** What a joint is made of, as far as it is made. */
export interface Made {
  /** The member whose end it is, and all that it cuts, notches or drills. */
  owner: string;
  touches: string[];
  /** Cuts and notches by members. */
  cuts: { id: string; end: MemberEndName; cut: MemberCut }[];
  notches: { id: string; notch: Notch }[];
  holes: { id: string; hole: Hole }[];
  plates: PlatePart[];
  bolts: BoltSet[];
  doubts: JointDoubt[];
}

/** Less thick, millimetres, or of less area, square millimetres, is no plate. */
const LEAST_PLATE = 0.1,
  LEAST_FACE = 1;

/** Edge distances below this many holes are too small (EN 1993-1-8, table 3.3). */
export const LEAST_EDGE = 1.2;

/** Puts together what one joint is made of. */
export class Making {
  readonly made: Omit<Made, 'owner' | 'touches'> = {
    cuts: [],
    notches: [],
    holes: [],
    plates: [],
    bolts: [],
    doubts: [],
  };
  readonly size;

  constructor(
    readonly member: KnownMember,
    readonly joint: Pick<Joint, 'end'> & { form: MadeForm },
    readonly sizes: Sizes,
    /** What it is told by beside others of its member; null for that end. */
    private readonly place: string | null = null,
  ) {
    this.size = boltOf(sizes.bolt);
  }

  done(): Made {
    const { cuts, notches, holes } = this.made;
    return {
      ...this.made,
      owner: this.member.member.id,
      touches: [...new Set([...cuts, ...notches, ...holes].map((t) => t.id))],
    };
  }

  get end(): MemberEndName {
    return this.joint.end;
  }

  private name(of: string): string {
    return `${this.member.member.id}.${this.place ?? this.end}.${of}`;
  }

  /** An angle cleat, its corner at `origin`, its legs along x and y, as long as it is thick in the third direction; its holes are given by both their ends. */
  angle(
    name: string,
    given: Pick<PlatePart, 'origin' | 'x' | 'y' | 'thickness'>,
    { width, leg }: { width: number; leg: number },
    across: { from: ModelPoint; to: ModelPoint }[],
  ): void {
    const { hole } = this.size;
    if (!(leg >= LEAST_PLATE && width > leg && given.thickness >= LEAST_PLATE))
      return this.doubt('its cleats have no legs: type a width above their thickness');
    this.made.plates.push({
      ...given,
      id: this.name(name.replace(/ /g, '-')),
      name: 'cleat',
      form: this.joint.form,
      owner: this.member.member.id,
      weldedTo: null,
      outline: [
        [0, 0],
        [width, 0],
        [width, leg],
        [leg, leg],
        [leg, width],
        [0, width],
      ],
      material: this.member.member.material,
      density: this.member.member.density,
      holes: [],
      slots: [],
      drawn: null,
      angle: {
        section: `L ${[width, width, leg].map((v) => Math.round(v * 10) / 10).join('x')}`,
        leg,
        across: across.map((a) => ({ ...a, d: hole })),
      },
      weld: null,
    });
  }

  doubt(words: string): void {
    this.made.doubts.push({ id: this.member.member.id, end: this.place === null ? this.end : null, words });
  }

  cut(cut: MemberCut | null, of: KnownMember = this.member, end: MemberEndName = this.end): void {
    if (cut) this.made.cuts.push({ id: of.member.id, end, cut });
    else this.doubt('it runs along the face to which it is to be cut: its end stays square');
  }

  /** A plate with its bolt holes, which are held against its edges; gives those that it has. None is made of what has no thickness or no face. */
  plate(
    name: string,
    given: Pick<PlatePart, 'origin' | 'x' | 'y' | 'outline' | 'thickness' | 'weld' | 'weldedTo'>,
    holes: readonly Point[] = [],
  ): readonly Point[] {
    if (!(given.thickness >= LEAST_PLATE && ringArea(given.outline) >= LEAST_FACE)) {
      this.doubt(`its ${name} has no thickness or no face: type larger sizes`);
      return [];
    }
    const { hole } = this.size,
      least = Math.min(Infinity, ...holes.map((p) => toEdge(p, given.outline))),
      apart = Math.min(
        Infinity,
        ...holes.flatMap((p, i) => holes.slice(i + 1).map((q) => Math.hypot(p[0] - q[0], p[1] - q[1]))),
      );
    if (least < hole / 2) this.doubt(`a bolt lies outside its ${name}`);
    else if (least < LEAST_EDGE * hole) this.doubt(`bolts lie too near an edge of its ${name}`);
    if (apart < 2 * hole) this.doubt(`bolts lie too near one another in its ${name}`);
    this.made.plates.push({
      ...given,
      id: this.name(name.replace(/ /g, '-')),
      name,
      form: this.joint.form,
      owner: this.member.member.id,
      material: this.member.member.material,
      density: this.member.member.density,
      holes: holes.map((at) => ({ at, d: hole })),
      slots: [],
      drawn: null,
      angle: null,
    });
    return holes;
  }

  /** Bolts from under their heads along an axis, with holes in the members that they go through. */
  bolts(
    name: string,
    at: readonly ModelPoint[],
    axis: ModelPoint,
    grip: number,
    through: readonly { of: KnownMember; hole: Pick<Hole, 'through'>; depth: number }[],
  ): void {
    if (at.length === 0) return;
    const { size } = this,
      length = boltLength(size, grip);
    if (length === null) this.doubt(`no bolt is as long as a grip of ${Math.round(grip)} mm asks for`);
    for (const { of, hole, depth } of through)
      for (const p of at) {
        const [x, y, z] = inWall(of, hole.through, sectionPlace(of, p));
        this.made.holes.push({ id: of.member.id, hole: { ...hole, x, y, z, d: size.hole, depth } });
      }
    const long = length ?? grip + 2 * size.washer + size.nut + 2 * size.pitch;
    this.made.bolts.push({
      id: this.name(name),
      owner: this.member.member.id,
      d: size.d,
      name: `${size.name} x ${Math.round(long * 10) / 10}`,
      grade: size.grade,
      standard: size.standard,
      grip,
      length: long,
      anchor: false,
      at: [...at],
      axis,
      mass: boltMass(size, long),
    });
  }
}

/** A place of a section in the middle of the wall that is nearest to it, along the axis of a hole. */
function inWall({ section }: KnownMember, through: Hole['through'], [x, y, z]: ModelPoint): ModelPoint {
  const isAcross = through === 'web',
    from = isAcross ? x : y,
    [wall] = wallsAlong(section, isAcross, isAcross ? y : x).sort(
      (a, b) => Math.abs((a[0] + a[1]) / 2 - from) - Math.abs((b[0] + b[1]) / 2 - from),
    );
  if (!wall) return [x, y, z];
  const middle = (wall[0] + wall[1]) / 2;
  return isAcross ? [middle, y, z] : [x, middle, z];
}

/** How far within a ring of straight edges a place lies; below 0 outside of a convex one. */
function toEdge([x, y]: Point, ring: readonly Point[]): number {
  return Math.min(
    ...ring.map(([ax, ay], i) => {
      const [bx, by] = ring[(i + 1) % ring.length],
        length = Math.hypot(bx - ax, by - ay);
      return length === 0 ? Infinity : ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / length;
    }),
  );
}

/** A rectangle about the origin. */
export const rectangle = (w: number, h: number): Point[] => [
  [-w / 2, -h / 2],
  [w / 2, -h / 2],
  [w / 2, h / 2],
  [-w / 2, h / 2],
];

/** So many places, so far apart, about 0. */
export const row = (count: number, pitch: number): number[] =>
  Array.from({ length: Math.round(count) }, (_, i) => (i - (Math.round(count) - 1) / 2) * pitch);

/** Places of a plate in the model. */
export const onPlate =
  ({ origin, x, y }: Pick<PlatePart, 'origin' | 'x' | 'y'>) =>
  ([u, v]: Point, out = 0): ModelPoint => {
    const p = along(along(origin, x, u), y, v);
    return out === 0 ? p : along(p, cross3(x, y), out);
  };

/** How a line along `way` from `from` goes on to a plane: the distance, against it where the plane lies behind. */
export const toPlane = (from: ModelPoint, way: ModelPoint, at: ModelPoint, normal: ModelPoint): number =>
  dot3([at[0] - from[0], at[1] - from[1], at[2] - from[2]], normal) / dot3(way, normal);

export const back = (v: ModelPoint): ModelPoint => times(v, -1);
