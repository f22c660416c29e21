import { formatLength, formatLengthWithUnit, type LengthStyle } from '../../units/index.ts';
import type { Drawn } from '../drawn.ts';
import { boxOfPieces } from '../path/path.ts';
import { NO_BLOCKS, NO_INSIDE, type Kind } from '../kind.ts';
import { areaOfRings, movedRings, ringedKind, ringPieces, type OutlineRing } from '../ringed.ts';

/** A flat plate of a frame: an outline with its holes and slots on a plane, thick out of it; millimetres. */
export interface Plate extends Drawn {
  type: 'plate';
  /** The outline, and its holes and slots after it. */
  rings: OutlineRing[];
  /** How far out of the plane its nearer face to that lies. */
  rise: number;
  thickness: number;
  /** What it is called in lists; perhaps nothing. */
  name: string;
  material: string;
  /** kg/m3. */
  density: number;
  /** The member to which it is welded; null where it is bolted, or loose. */
  weldedTo: string | null;
}

/** A ring of two points with a half circle to either side: its middle and diameter; null for any other. */
export function circleOf({ points, bulges }: OutlineRing): { at: [number, number]; d: number } | null {
  if (points.length !== 2 || !bulges.every((b) => Math.abs(Math.abs(b) - 1) < 1e-9)) return null;
  if (bulges[0] * bulges[1] < 0) return null;
  const [p, q] = points;
  return { at: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2], d: Math.hypot(q[0] - p[0], q[1] - p[1]) };
}

/** A circle as a ring. */
export const circleRing = ([x, y]: readonly [number, number], d: number): OutlineRing => ({
  points: [
    [x - d / 2, y],
    [x + d / 2, y],
  ],
  bulges: [1, 1],
});

/** A slot as a ring: so long over all and so wide, turned by an angle. */
export function slotRing(
  [x, y]: readonly [number, number],
  length: number,
  width: number,
  angle: number,
): OutlineRing {
  const [c, s] = [Math.cos(angle), Math.sin(angle)],
    [u, v] = [(length - width) / 2, width / 2];
  const place = (a: number, b: number): [number, number] => [x + c * a - s * b, y + s * a + c * b];
  return { points: [place(-u, -v), place(u, -v), place(u, v), place(-u, v)], bulges: [0, 1, 0, 1] };
}

/** Area of its face without what is cut out of it, square millimetres. */
export const plateFace = (e: Pick<Plate, 'rings'>): number => areaOfRings(e);

/** What a plate is called and measures: "gusset, 200 x 150 x 10 mm". */
function plateWords(e: Plate, style: LengthStyle): string {
  const circle = circleOf(e.rings[0]),
    [x0, y0, x1, y1] = boxOfPieces(ringPieces(e.rings[0])),
    size = circle
      ? `⌀ ${formatLength(circle.d, style)}`
      : `${formatLength(x1 - x0, style)} x ${formatLength(y1 - y0, style)}`;
  return [e.name, `${size} x ${formatLengthWithUnit(e.thickness, style)}`].filter((w) => w !== '').join(', ');
}

export const PLATE: Kind<Plate> = {
  ...ringedKind<Plate>(),
  word: () => 'plate',
  summary: plateWords,
  layer: { name: 'Plates', colour: 0x17273a, lineType: 'solid' },
  rests: {
    on: (e) => [e.weldedTo === null ? null : { id: e.weldedTo, grip: 0 }],
    // It stays where it is; what it is welded to is told by name.
    at: (e) => e,
    renamed: (e, to) =>
      e.weldedTo === null ? e : { ...e, weldedTo: to({ id: e.weldedTo, grip: 0 })?.id ?? null },
  },
  shapes: (e, layer) => e.rings.map((r) => ({ kind: 'polyline', layer, ...r, closed: true })),
  inside: NO_INSIDE,
  doubts: null,
  blocks: NO_BLOCKS,
  // What is cut and drilled out of it follows from others: see @calque/core/framing.
  bars: () => [],
  moved: (e, map) => ({ ...e, rings: movedRings(e.rings, map) }),
};
