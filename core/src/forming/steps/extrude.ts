import type { TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import { dot3, facing, type Frame, type ModelPoint } from '../../geometry/index.ts';
import type { ProfileRegion, StepForm } from '../../part/index.ts';
import { facesOf, listed, ShapeMap, type Body, type NamedFace } from '../body.ts';
import { combined, operated } from '../combine.ts';
import { StepFault } from '../fault.ts';
import { formOfFace, planeOfFace } from '../facts.ts';
import { inScope, kernel, type Scope } from '../kernel.ts';
import { axes, faceOf, pointAt, shifted, vectorOf, wayOf } from '../wires.ts';
import { BEYOND, frameNow, reachAlong, type Context } from './context.ts';

/** Less than this the kernel takes for nothing, millimetres. */
const LEAST_DEPTH = 1e-6;

type ExtrudeForm = Extract<StepForm, { kind: 'extrude' }>;

/** From where to where along the way its plane faces, millimetres; `toFace`: what is before it ends at a face. */
interface Extent {
  from: number;
  to: number;
  toFace: { at: ModelPoint; normal: ModelPoint } | null;
}

/** Cuts go into what the plane looks away from, additions out of it. */
const signOf = ({ does, back }: Pick<ExtrudeForm, 'does' | 'back'>): number =>
  (does === 'add' ? 1 : -1) * (back ? -1 : 1);

function extentOf(form: ExtrudeForm, frame: Frame, { body }: Context): Extent {
  const { reach, seat } = form,
    sign = signOf(form),
    normal = facing(frame);
  if (reach.kind === 'depth')
    return reach.both
      ? { from: -reach.depth / 2, to: reach.depth / 2, toFace: null }
      : { from: 0, to: sign * reach.depth, toFace: null };
  if (!body)
    throw new StepFault(
      'The first solid needs a depth: there is nothing yet that it could go through or up to.',
    );
  const [least, most] = reachAlong(body, frame.origin, normal);
  if (reach.kind === 'through') {
    // What lies on no face is drawn anywhere before or behind the part: it goes through either way.
    if (seat.face === null) return { from: least - BEYOND, to: most + BEYOND, toFace: null };
    return { from: 0, to: sign > 0 ? most + BEYOND : least - BEYOND, toFace: null };
  }
  const target = body.faces.find((f) => f.name === reach.face);
  if (!target) throw new StepFault('The face up to which it goes is not there any more.');
  const plane = planeOfFace(target.face);
  if (!plane)
    throw new StepFault('The face up to which it goes is not flat: choose a flat one, or give a depth.');
  const slope = dot3(plane.normal, normal);
  if (Math.abs(slope) < 1e-6) throw new StepFault('It never reaches that face: it runs along it.');
  const off: ModelPoint = [0, 1, 2].map((i) => plane.at[i] - frame.origin[i]) as unknown as ModelPoint;
  if (Math.abs(slope) > 1 - 1e-12) {
    const depth = dot3(off, normal);
    if (!(sign * depth > 1e-9)) throw new StepFault('The face up to which it goes lies the other way.');
    return { from: 0, to: depth, toFace: null };
  }
  return { from: 0, to: sign > 0 ? most + BEYOND : least - BEYOND, toFace: plane };
}

/** The solid that an extrusion makes, with its faces named. */
export function extrudeTool(form: ExtrudeForm, context: Context): Body {
  const { id } = context,
    frame = frameNow(form.seat, context.body),
    extent = extentOf(form, frame, context);
  if (Math.abs(extent.to - extent.from) < LEAST_DEPTH) throw new StepFault('Its depth is nothing.');
  const bodies = form.regions.map((region, i): Body => {
    const prefix = form.regions.length === 1 ? id : `${id}:${i}`;
    const body = inScope((s) => {
      const straight = prism(s, frame, region, extent, prefix);
      return form.draft === 0 ? straight : drafted(s, straight, frame, extent, form.draft);
    });
    return extent.toFace ? upTo(body, extent.toFace, frame, prefix, signOf(form)) : body;
  });
  return bodies.length === 1 ? bodies[0] : combined('add', bodies[0], bodies.slice(1));
}

function prism(s: Scope, frame: Frame, region: ProfileRegion, { from, to }: Extent, id: string): Body {
  const k = kernel(),
    low = Math.min(from, to),
    base = shifted(frame, low),
    { face, edges } = faceOf(s, base, region),
    n = facing(frame),
    depth = Math.abs(to - from),
    making = s.keep(
      new k.BRepPrimAPI_MakePrism(face, vectorOf(s, [n[0] * depth, n[1] * depth, n[2] * depth])),
    ),
    shape = making.Shape(),
    names = new ShapeMap<string>();
  for (const { edge, id: curve } of edges)
    for (const side of listed(making.Generated(edge))) names.set(side, `${id}/side:${curve}`);
  // It begins where its plane is, whichever way it goes.
  const [first, last] = to >= from ? ['start', 'end'] : ['end', 'start'];
  names.set(making.FirstShape(), `${id}/${first}`);
  names.set(making.LastShape(), `${id}/${last}`);
  return {
    shape,
    faces: facesOf(shape).map((f, i) => ({ face: f, name: names.get(f) ?? `${id}/other:${i}` })),
  };
}

/** A straight prism from a plane, so deep along the way that it faces (against it below 0), with its faces named. */
export const prismOf = (frame: Frame, region: ProfileRegion, depth: number, id: string): Body =>
  inScope((s) => prism(s, frame, region, { from: 0, to: depth, toFace: null }, id));

/** With its sides leaning inwards from where its plane is. */
function drafted(s: Scope, body: Body, frame: Frame, { from, to }: Extent, angle: number): Body {
  const k = kernel(),
    making = s.keep(new k.BRepOffsetAPI_DraftAngle(body.shape)),
    neutral = s.keep(new k.gp_Pln(s.keep(axes(s, frame)))),
    n = facing(frame),
    sign = to >= from ? 1 : -1,
    way = wayOf(s, [n[0] * sign, n[1] * sign, n[2] * sign]);
  for (const { face, name } of body.faces) {
    if (!name.includes('/side:')) continue;
    const { kind } = formOfFace(face);
    if (kind !== 'plane' && kind !== 'cylinder')
      throw new StepFault('A draft is made on straight and round sides: its outline has a free curve.');
    making.Add(k.TopoDS.Face(face) as TopoDS_Face, way, angle, neutral, true);
    if (!making.AddDone()) throw new StepFault('A side of it does not allow this draft.');
  }
  making.Build(s.keep(new k.Message_ProgressRange()));
  if (!making.IsDone())
    throw new StepFault('Its sides do not allow this draft: they would meet before its end.');
  const shape = making.Shape(),
    names = new ShapeMap<string>();
  for (const { face, name } of body.faces) names.set(making.ModifiedShape(face), name);
  return {
    shape,
    faces: facesOf(shape).map((f, i): NamedFace => ({
      face: f,
      name: names.get(f) ?? `${body.faces[0].name}:${i}`,
    })),
  };
}

/** Cut off at a slanting face. */
function upTo(
  body: Body,
  plane: { at: ModelPoint; normal: ModelPoint },
  frame: Frame,
  id: string,
  sign: number,
): Body {
  return inScope((s) => {
    const k = kernel(),
      facePlane = s.keep(new k.gp_Pln(pointAt(s, plane.at), wayOf(s, plane.normal))),
      face = s.keep(new k.BRepBuilderAPI_MakeFace(facePlane)).Face() as TopoDS_Face,
      n = facing(frame),
      slope = dot3(plane.normal, n) * sign,
      // On the side of the plane on which it begins.
      side = slope > 0 ? -1 : 1,
      inner: ModelPoint = [0, 1, 2].map(
        (i) => plane.at[i] + side * plane.normal[i] * 10,
      ) as unknown as ModelPoint,
      half = s.keep(new k.BRepPrimAPI_MakeHalfSpace(face, pointAt(s, inner))).Solid() as TopoDS_Shape;
    const cut = operated('common', body.shape, [half], body.faces, false);
    return {
      shape: cut.shape,
      faces: cut.faces.map((f) => (f.name.startsWith('unnamed:') ? { ...f, name: `${id}/end` } : f)),
    };
  });
}
