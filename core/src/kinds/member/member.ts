import {
  applyTransform,
  determinant,
  lengthOfPieces,
  segmentPiece,
  turnOf,
  type Piece,
} from '../../geometry/index.ts';
import { formatLengthWithUnit } from '../../units/index.ts';
import { isOnePoint, pairOf, shifted } from '../drawn.ts';
import { shapeOfPiece, type Shape } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, type Anchor, type Kind } from '../kind.ts';
import { jointsSwapped, levelsSwapped, type Joint, type PurlinCleat } from './joint.ts';
import { boxOfPieces } from '../path/path.ts';
import { memberAxis, type Member, type PlacingPoint } from './axis.ts';
import { knownSection, nameOfSizes } from './given-section.ts';
import { memberBar, memberLook } from './look.ts';

/** The same point with left and right the other way round. */
export const mirroredPoint = (point: PlacingPoint): PlacingPoint =>
  (point + 2 * (1 - ((point - 1) % 3))) as PlacingPoint;

/** How long it is cut. */
export const cutLength = (e: Member): number => memberAxis(e).length - e.back[0] - e.back[1];

/** The name of its section, also of one that no table has. */
export function sectionName({ section }: Pick<Member, 'section'>): string {
  return section.form === 'sizes' ? nameOfSizes(section) : section.name;
}

/** Its mass, kg: by the area of its section; null where the section is not known. */
export function memberMass(e: Member): number | null {
  const section = knownSection(e.section);
  return section && (section.figures.area * Math.max(0, cutLength(e)) * e.density) / 1e9;
}

/** With start and end changed for one another: it stands where it stood. */
export const endsSwapped = (e: Member): Member => ({
  ...e,
  from: e.to,
  to: e.from,
  rise: [e.rise[1], e.rise[0]],
  back: [e.back[1], e.back[0]],
  ...jointsSwapped(e),
  ...levelsSwapped(e),
  point: mirroredPoint(e.point),
  turn: -e.turn,
  mirrored: !e.mirrored,
});

/** Is there something left of it between its cuts? */
export const hasLength = (e: Pick<Member, 'from' | 'to' | 'rise' | 'back'>): boolean =>
  Math.hypot(e.to[0] - e.from[0], e.to[1] - e.from[1], e.rise[1] - e.rise[0]) - e.back[0] - e.back[1] > 1e-3;

const piecesOf = (e: Member): Piece[] => {
  const look = memberLook(e);
  return [...(memberAxis(e).endOn === 0 ? [segmentPiece(e.from, e.to)] : []), ...look.visible];
};

export const MEMBER: Kind<Member> = {
  word: (e) => (e.role === 'member' ? 'member' : e.role),
  summary: (e, style) =>
    [e.mark, sectionName(e), formatLengthWithUnit(cutLength(e), style)].filter((w) => w !== '').join(', '),
  layer: { name: 'Members', colour: 0x17273a, lineType: 'solid' },
  isRun: false,
  carries: true,
  rests: {
    on: (e) =>
      [...(e.joints ?? []), ...(e.cleats ?? [])].map(({ to }): Anchor | null =>
        to === null ? null : { id: to, grip: 0 },
      ),
    // What meets another is made otherwise when that moves; its own line stays.
    at: (e) => e,
    renamed: (e, to) => {
      if (!e.joints && !e.cleats) return e;
      const joints = (e.joints ?? []).flatMap((j): Joint[] => {
          const now = j.to === null ? null : to({ id: j.to, grip: 0 });
          return now ? [{ ...j, to: now.id }] : j.to === null ? [j] : [];
        }),
        cleats = (e.cleats ?? []).flatMap((c): PurlinCleat[] => {
          const now = to({ id: c.to, grip: 0 });
          return now ? [{ ...c, to: now.id }] : [];
        });
      return {
        ...e,
        ...(e.joints && { joints: joints.length === 0 ? null : joints }),
        ...(e.cleats && { cleats: cleats.length === 0 ? null : cleats }),
      };
    },
  },
  refers: [],
  shapes: (e, layer) => {
    const { visible, hidden } = memberLook(e);
    return [
      ...visible.map((p): Shape => shapeOfPiece(p, layer)),
      ...hidden.map((p): Shape => shapeOfPiece(p, layer, { dash: HIDDEN_DASH })),
    ];
  },
  pieces: piecesOf,
  box: (e) => boxOfPieces(piecesOf(e)),
  length: (e) =>
    memberAxis(e).endOn === 0 ? Math.max(0, cutLength(e)) : lengthOfPieces(memberLook(e).visible),
  frame: NO_FRAME,
  inside: (e) => memberLook(e).rings,
  grips: (e) => (memberAxis(e).endOn === 0 ? [e.from, e.to] : [e.from]),
  joints: (e) => (memberAxis(e).endOn === 0 ? [0, 1] : [0]),
  // It cannot be trimmed or split as a run of lines can.
  ends: () => null,
  edges: NO_EDGES,
  doubts: null,
  blocks: NO_BLOCKS,
  bars: (e) => memberBar(e),
  moved: (e, map) => {
    const isMirrored = determinant(map) < 0,
      { endOn } = memberAxis(e),
      round = endOn === 0 ? 0 : endOn * turnOf(map);
    return {
      ...e,
      from: pairOf(applyTransform(map, e.from)),
      to: pairOf(applyTransform(map, e.to)),
      ...(isMirrored
        ? { mirrored: !e.mirrored, point: mirroredPoint(e.point), turn: -e.turn - round }
        : { turn: e.turn - round }),
    };
  },
  withGrip: (e, grip, to) => {
    const place = pairOf(to),
      next =
        memberAxis(e).endOn !== 0
          ? { ...e, from: place, to: place }
          : grip === 0
            ? { ...e, from: place }
            : { ...e, to: place };
    return hasLength(next) && (memberAxis(e).endOn !== 0 || !isOnePoint(next.from, next.to)) ? next : null;
  },
  stretched: (e, holds, by) => {
    const held = [e.from, e.to].map(holds);
    if (!held[0] && !held[1]) return e;
    const next = {
      ...e,
      from: held[0] ? shifted(e.from, by) : e.from,
      to: held[1] ? shifted(e.to, by) : e.to,
    };
    return hasLength(next) ? next : null;
  },
};

/** Lines that the section itself hides, plane millimetres. */
const HIDDEN_DASH = [60, 40];
