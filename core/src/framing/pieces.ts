import {
  circleOf,
  cutLength,
  knownSection,
  memberMass,
  ringPieces,
  type KnownSection,
  type Member,
  type Model,
} from '../model/index.ts';
import { areaOfPieces, cross3, dot3, type ModelPoint, type Point } from '../geometry/index.ts';
import {
  hasJoints,
  joinedFrame,
  reachOf,
  shapeVolume,
  type JoinedFrame,
  type PlatePart,
  type Shape,
} from './joints/index.ts';

/** How a section can be laid onto itself: x and y changed in sign, or for one another. */
interface Symmetry {
  sx: 1 | -1;
  sy: 1 | -1;
  swaps: boolean;
}
const same: Symmetry = { sx: 1, sy: 1, swaps: false },
  across: Symmetry = { sx: -1, sy: 1, swaps: false },
  over: Symmetry = { sx: 1, sy: -1, swaps: false },
  both: Symmetry = { sx: -1, sy: -1, swaps: false };

function symmetriesOf({ sizes }: KnownSection): readonly Symmetry[] {
  if (!sizes) return [same];
  const { shape, h, b } = sizes,
    four = [same, across, over, both],
    turned = four.map((s) => ({ ...s, swaps: true }));
  switch (shape) {
    case 'I':
      return four;
    case 'channel':
      return [same, over];
    case 'tee':
      return [same, across];
    case 'angle':
      return h === b ? [same, { ...same, swaps: true }] : [same];
    case 'round':
    case 'round hollow':
      return [...four, ...turned];
    default:
      return h === b ? [...four, ...turned] : four;
  }
}

/** Tenths of a millimetre, and ten thousandths of a slope, parted at odd places: what is drawn in round figures lies between these, not on them. */
const ODD = 0.2371;
const tenth = (v: number) => Math.round(v * 10 + ODD);
const fine = (v: number) => Math.round(v * 1e4 + ODD);

/** A plate on a piece: what it is, and where its middle lies in the coordinates of the section. */
export interface Welded {
  key: string;
  at: ModelPoint;
}

/**
 * What a piece is as it is cut, notched and drilled, the same for every way of holding it: turned round, turned over, or drawn the other way.
 * A mirror image that cannot be turned into it is another piece.
 */
function shapeKey(
  section: KnownSection,
  shape: Shape,
  mirrored: boolean,
  welded: readonly Welded[] = [],
): string {
  const middle = (shape.start.z + shape.end.z) / 2;
  const seen = (s: Symmetry, flips: boolean): string => {
    const xy = (x: number, y: number): [number, number] =>
      s.swaps ? [s.sx * y, s.sy * x] : [s.sx * x, s.sy * y];
    const z = (v: number) => (flips ? 2 * middle - v : v),
      cut = (c: Shape['start']) => {
        const [kx, ky] = xy(c.kx, c.ky);
        return [z(c.z) - middle, flips ? -kx : kx, flips ? -ky : ky].map((v, i) =>
          i === 0 ? tenth(v) : fine(v),
        );
      },
      ends = flips ? [cut(shape.end), cut(shape.start)] : [cut(shape.start), cut(shape.end)],
      notches = shape.notches
        .map((n) => {
          const isUp = (n.side === 'top') === s.sy > 0;
          return [
            (n.end === 'start') !== flips ? 's' : 'e',
            isUp ? 't' : 'b',
            tenth(n.depth),
            tenth(n.length),
          ].join(' ');
        })
        .sort(),
      holes = shape.holes
        .map((h) => {
          const [x, y] = xy(h.x, h.y),
            through = h.through === 'web' ? 'web' : (h.through === 'top') === s.sy > 0 ? 'top' : 'bottom';
          return [through, tenth(through === 'web' ? y : x), tenth(z(h.z) - middle), tenth(h.d)].join(' ');
        })
        .sort();
    const parts = welded
      .map(({ key, at }) => [...xy(at[0], at[1]).map(tenth), tenth(z(at[2]) - middle), key].join(' '))
      .sort();
    return JSON.stringify([ends, notches, holes, parts]);
  };
  // Notches and holes are told by the sides on which they lie, which do not change for one another.
  const isTurned = shape.notches.length === 0 && shape.holes.length === 0;
  const ways = symmetriesOf(section)
    .filter((s) => isTurned || !s.swaps)
    .flatMap((s) =>
      [false, true].map((flips) => {
        const turns = s.sx * s.sy * (s.swaps ? -1 : 1) * (flips ? -1 : 1);
        return { key: seen(s, flips), isMirror: turns < 0 !== mirrored };
      }),
    );
  const own = ways.filter((w) => !w.isMirror),
    from = own.length > 0 ? own : ways;
  return `${own.length > 0 ? '' : 'mirror '}${from.map((w) => w.key).sort()[0]}`;
}

/** Two pieces are cut alike where these are equal and their lengths differ by less than a tenth of a millimetre; empty for one cut square and not drilled. */
export function pieceKey(frame: JoinedFrame, member: Member, section: KnownSection | null): string {
  const shape = frame.shapes.get(member.id);
  if (!shape || !section) return '';
  let key = pieceKeys.get(shape);
  if (key === undefined) pieceKeys.set(shape, (key = keyOf(shape, section, member.mirrored)));
  return key;
}

/** A shape is of one member. */
const pieceKeys = new WeakMap<Shape, string>();

function keyOf(shape: Shape, section: KnownSection, mirrored: boolean): string {
  const isPlain =
    shape.notches.length === 0 &&
    shape.holes.length === 0 &&
    [shape.start, shape.end].every((c) => Math.abs(c.kx) < 1e-6 && Math.abs(c.ky) < 1e-6);
  return isPlain ? '' : shapeKey(section, shape, mirrored);
}

/** The same with the plates that are welded to it: what two assemblies have in common that are alike. */
export function assemblyKey(
  frame: JoinedFrame,
  member: Member,
  section: KnownSection,
  welded: readonly Welded[],
): string {
  const shape = frame.shapes.get(member.id);
  return shape ? shapeKey(section, shape, member.mirrored, welded) : '';
}

/** What a plate is, however it is turned or turned over: thickness, material, sides, corners and holes. */
export function plateKey(plate: PlatePart): string {
  let key = plateKeys.get(plate);
  if (key === undefined) plateKeys.set(plate, (key = keyOfPlate(plate)));
  return key;
}

const plateKeys = new WeakMap<PlatePart, string>();

/** Where a ring of words begins so that it comes first of all its rotations (Booth). */
function leastRotation(words: readonly string[]): number {
  const n = words.length;
  let [i, j, k] = [0, 1, 0];
  while (i < n && j < n && k < n) {
    const [a, b] = [words[(i + k) % n], words[(j + k) % n]];
    if (a === b) {
      k++;
      continue;
    }
    if (a > b) i += k + 1;
    else j += k + 1;
    if (i === j) j++;
    k = 0;
  }
  return Math.min(i, j);
}

/** What is cut out of a plate: a place that it lies about, and what it is. */
function cutsOf({ holes, slots }: PlatePart): { corners: readonly Point[]; key: string }[] {
  return [
    ...holes.map(({ at, d }) => ({ corners: [at], key: String(tenth(d)) })),
    ...slots.map((s) => ({
      corners: s.points,
      key: s.bulges
        .map((b) => fine(Math.abs(b)))
        .sort()
        .join('/'),
    })),
  ];
}

const farFrom = (p: Point, cuts: ReturnType<typeof cutsOf>): string[] =>
  cuts
    .map(
      ({ corners, key }) =>
        `${corners
          .map((c) => tenth(Math.hypot(c[0] - p[0], c[1] - p[1])))
          .sort((a, b) => a - b)
          .join('/')} ${key}`,
    )
    .sort();

/** A cleat is the same turned end for end, and with its legs changed for one another. */
function keyOfAngle({ origin, x, y, thickness, material }: PlatePart, angle: Angle): string {
  const z = cross3(x, y),
    holes = angle.across.map(({ from, to, d }) => {
      const middle = [0, 1, 2].map((i) => (from[i] + to[i]) / 2 - origin[i]) as unknown as ModelPoint;
      return { u: dot3(middle, x), v: dot3(middle, y), w: dot3(middle, z), d };
    }),
    seen = (swaps: boolean, flips: boolean) =>
      holes
        .map(({ u, v, w, d }) =>
          [...(swaps ? [v, u] : [u, v]), flips ? thickness - w : w, d].map(tenth).join(' '),
        )
        .sort()
        .join(';'),
    ways = [seen(false, false), seen(true, true), seen(true, false), seen(false, true)];
  return `${angle.section} ${tenth(thickness)} ${material} ${ways.sort()[0]}`;
}
type Angle = NonNullable<PlatePart['angle']>;

function keyOfPlate(plate: PlatePart): string {
  if (plate.angle) return keyOfAngle(plate, plate.angle);
  const { drawn, thickness, material } = plate,
    outline = drawn?.points ?? plate.outline,
    cuts = cutsOf(plate),
    kind = `${tenth(thickness)} ${material}`,
    round = drawn && circleOf(drawn);
  // A round plate begins nowhere: what lies on it is told by its middle, and by one another.
  if (round)
    return `${kind} round ${tenth(round.d)} ${farFrom(round.at, cuts).join()} ${cuts
      .map((c) => farFrom(c.corners[0], cuts).join())
      .sort()
      .join(';')}`;
  const n = outline.length;
  // Bends to the same side are the same whichever way round, and on whichever side, it is looked at.
  const turn = drawn && areaOfPieces(ringPieces(drawn)) < 0 ? -1 : 1,
    bulgeFrom = (i: number, step: 1 | -1): number =>
      drawn ? fine(turn * drawn.bulges[(((step > 0 ? i : i - 1) % n) + n) % n]) : 0;
  const around = (step: 1 | -1): string[] => {
    const at = (i: number) => outline[(((step * i) % n) + n) % n];
    return Array.from({ length: n }, (_, i) => {
      const [p, q, r] = [at(i), at(i + 1), at(i + 2)];
      return [
        tenth(Math.hypot(q[0] - p[0], q[1] - p[1])),
        tenth(Math.hypot(r[0] - p[0], r[1] - p[1])),
        bulgeFrom(step * i, step),
        ...farFrom(p, cuts),
      ].join(',');
    });
  };
  const ways = [around(1), around(-1)].map((corners) => {
    const first = leastRotation(corners);
    return [...corners.slice(first), ...corners.slice(0, first)].join(';');
  });
  return `${kind} ${ways.sort()[0]}`;
}

/** How long a member is cut and what it weighs, millimetres and kg; the mass is null where its section is in no table. */
export function cutFigures(model: Model, m: Member): { length: number; mass: number | null } {
  const shape = hasJoints(model) ? joinedFrame(model).shapes.get(m.id) : undefined,
    section = knownSection(m.section);
  if (!shape || !section) return { length: cutLength(m), mass: memberMass(m) };
  const [low, high] = reachOf(section, shape);
  return { length: high - low, mass: (shapeVolume(section, shape) * m.density) / 1e9 };
}
