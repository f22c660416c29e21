import type { TopoDS_Edge, TopoDS_Face, TopoDS_Wire } from 'replicad-opencascadejs';
import {
  cross3,
  facing,
  isFullTurn,
  pieceStart,
  worldFromPlane,
  type Frame,
  type ModelPoint,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import type { NamedPiece, ProfileRegion } from '../part/index.ts';
import { StepFault } from './fault.ts';
import { kernel, type Scope } from './kernel.ts';

/** An edge and the curve of which it was made. */
interface MadeEdge {
  edge: TopoDS_Edge;
  id: string;
}

export const pointAt = (s: Scope, [x, y, z]: ModelPoint) => s.keep(new (kernel().gp_Pnt)(x, y, z));
export const wayOf = (s: Scope, [x, y, z]: ModelPoint) => s.keep(new (kernel().gp_Dir)(x, y, z));
export const vectorOf = (s: Scope, [x, y, z]: ModelPoint) => s.keep(new (kernel().gp_Vec)(x, y, z));
export const axisAt = (s: Scope, at: ModelPoint, way: ModelPoint) =>
  s.keep(new (kernel().gp_Ax1)(pointAt(s, at), wayOf(s, way)));

/** An edge along a piece of a plane. */
export function edgeOf(s: Scope, frame: Frame, piece: Piece): TopoDS_Edge {
  const k = kernel(),
    at = (p: Point) => pointAt(s, worldFromPlane(frame, p));
  if (piece.kind === 'segment')
    return s.keep(new k.BRepBuilderAPI_MakeEdge(at(piece.from), at(piece.to))).Edge();
  if (piece.kind === 'cubic') {
    const [x0, y0, x1, y1, x2, y2, x3, y3] = piece.cubic,
      poles = s.keep(new k.NCollection_Array1_gp_Pnt(1, 4));
    [[x0, y0] as const, [x1, y1] as const, [x2, y2] as const, [x3, y3] as const].forEach((p, i) =>
      poles.SetValue(i + 1, at(p)),
    );
    return s.keep(new k.BRepBuilderAPI_MakeEdge(s.keep(new k.Geom_BezierCurve(poles)))).Edge();
  }
  const { arc, clockwise } = piece;
  // Clockwise is counter-clockwise about an axis that points the other way.
  const normal = facing(frame),
    axis = clockwise ? ([-normal[0], -normal[1], -normal[2]] as ModelPoint) : normal,
    angle = clockwise ? arc.end : arc.start;
  const along: ModelPoint = turned(frame, angle),
    circle = s.keep(
      new k.gp_Circ(s.keep(new k.gp_Ax2(at([arc.cx, arc.cy]), wayOf(s, axis), wayOf(s, along))), arc.r),
    );
  return isFullTurn(arc)
    ? s.keep(new k.BRepBuilderAPI_MakeEdge(circle)).Edge()
    : s.keep(new k.BRepBuilderAPI_MakeEdge(circle, 0, arc.end - arc.start)).Edge();
}

/** A direction of a plane at an angle from its x, in the model. */
export const turned = ({ across, up }: Frame, angle: number): ModelPoint => {
  const [c, n] = [Math.cos(angle), Math.sin(angle)];
  return [0, 1, 2].map((i) => across[i] * c + up[i] * n) as unknown as ModelPoint;
};

/** A wire of pieces that follow one another. */
export function wireOf(
  s: Scope,
  frame: Frame,
  pieces: readonly NamedPiece[],
): { wire: TopoDS_Wire; edges: MadeEdge[] } {
  const k = kernel(),
    making = s.keep(new k.BRepBuilderAPI_MakeWire()),
    edges: MadeEdge[] = [];
  for (const { id, piece } of pieces) {
    making.Add(edgeOf(s, frame, piece));
    if (!making.IsDone())
      throw new StepFault('Its outline cannot be closed.', worldFromPlane(frame, pieceStart(piece)));
    // As the wire holds it: with the corner that it shares with the one before.
    edges.push({ edge: making.Edge(), id });
  }
  return { wire: making.Wire(), edges };
}

/** A flat face within an outline and without its holes, facing as its plane does. */
export function faceOf(
  s: Scope,
  frame: Frame,
  { outer, holes }: ProfileRegion,
): { face: TopoDS_Face; edges: MadeEdge[] } {
  const k = kernel(),
    plane = s.keep(new k.gp_Pln(s.keep(axes(s, frame)))),
    round = wireOf(s, frame, outer.pieces),
    making = s.keep(new k.BRepBuilderAPI_MakeFace(plane, round.wire, true)),
    edges = [...round.edges];
  for (const hole of holes) {
    const inner = wireOf(s, frame, hole.pieces);
    edges.push(...inner.edges);
    making.Add(k.TopoDS.Wire(inner.wire.Reversed()));
  }
  if (!making.IsDone()) throw new StepFault('Its outline bounds no face.');
  return { face: making.Face(), edges };
}

/** The axes of a plane: z out of it, x along its x. */
export function axes(s: Scope, frame: Frame) {
  return new (kernel().gp_Ax3)(pointAt(s, frame.origin), wayOf(s, facing(frame)), wayOf(s, frame.across));
}

/** The plane square to a direction at a place, with its x where that is easiest. */
export function frameAlong(origin: ModelPoint, way: ModelPoint): Frame {
  const other: ModelPoint = Math.abs(way[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0],
    x = cross3(other, way),
    n = Math.hypot(...x),
    across: ModelPoint = [x[0] / n, x[1] / n, x[2] / n];
  return { origin, across, up: cross3(way, across) };
}

export const plus = (p: ModelPoint, way: ModelPoint, by: number): ModelPoint => [
  p[0] + way[0] * by,
  p[1] + way[1] * by,
  p[2] + way[2] * by,
];
export const shifted = (frame: Frame, by: number): Frame => ({
  ...frame,
  origin: plus(frame.origin, facing(frame), by),
});

/** Axes with z along a way, for what the kernel makes round. */
export function axisPlane(s: Scope, at: ModelPoint, way: ModelPoint) {
  return s.keep(new (kernel().gp_Ax2)(pointAt(s, at), wayOf(s, way)));
}
