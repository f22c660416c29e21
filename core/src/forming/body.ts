import { cast, type AnyShape } from 'replicad';
import type { TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import type { FaceName } from '../model/index.ts';
import { inScope, kernel, type Scope } from './kernel.ts';

/** A face with its name. */
export interface NamedFace {
  face: TopoDS_Shape;
  name: FaceName;
}

/** A solid, or several apart, with all of its faces named. */
export interface Body {
  shape: TopoDS_Shape;
  faces: NamedFace[];
}

/** Parts of a shape of one type, each once. */
export function partsOf(
  shape: TopoDS_Shape,
  type: 'SOLID' | 'FACE' | 'EDGE' | 'VERTEX' | 'WIRE',
): TopoDS_Shape[] {
  const k = kernel(),
    seen = new ShapeMap<true>(),
    out: TopoDS_Shape[] = [];
  inScope((s) => {
    const walk = s.keep(
      new k.TopExp_Explorer(shape, k.TopAbs_ShapeEnum[`TopAbs_${type}`], k.TopAbs_ShapeEnum.TopAbs_SHAPE),
    );
    for (; walk.More(); walk.Next()) {
      const part = walk.Current();
      if (seen.get(part)) continue;
      seen.set(part, true);
      out.push(k.TopoDS[TYPES[type]](part) as TopoDS_Shape);
    }
  });
  return out;
}
const TYPES = { SOLID: 'Solid', FACE: 'Face', EDGE: 'Edge', VERTEX: 'Vertex', WIRE: 'Wire' } as const;

export const facesOf = (shape: TopoDS_Shape): TopoDS_Face[] => partsOf(shape, 'FACE') as TopoDS_Face[];
export const edgesOf = (shape: TopoDS_Shape): TopoDS_Edge[] => partsOf(shape, 'EDGE') as TopoDS_Edge[];

/** Values by shapes, whichever way these are turned. */
export class ShapeMap<V> {
  private readonly by = new Map<number, { shape: TopoDS_Shape; value: V }[]>();

  get(shape: TopoDS_Shape): V | undefined {
    return this.by.get(hashOf(shape))?.find((e) => e.shape.IsSame(shape))?.value;
  }

  set(shape: TopoDS_Shape, value: V): void {
    const hash = hashOf(shape),
      row = this.by.get(hash) ?? [],
      found = row.find((e) => e.shape.IsSame(shape));
    if (found) found.value = value;
    else row.push({ shape, value });
    this.by.set(hash, row);
  }
}

const LARGEST_HASH = 2147483647;
const hashOf = (shape: TopoDS_Shape): number => kernel().ReplicadShapeHasher.HashCode(shape, LARGEST_HASH);

/** The shapes of one of the kernel's lists. */
export function listed(list: {
  IsEmpty(): boolean;
  First(): TopoDS_Shape;
  RemoveFirst(): void;
  delete(): void;
}): TopoDS_Shape[] {
  const out: TopoDS_Shape[] = [];
  while (!list.IsEmpty()) {
    out.push(list.First());
    list.RemoveFirst();
  }
  list.delete();
  return out;
}

/** One of the kernel's lists of shapes. */
export function listOf(scope: Scope, shapes: readonly TopoDS_Shape[]) {
  const list = scope.keep(new (kernel().NCollection_List_TopoDS_Shape)());
  for (const shape of shapes) list.Append(shape);
  return list;
}

/** What an operation of the kernel tells of what became of a shape. */
export interface History {
  Modified(shape: TopoDS_Shape): ReturnType<typeof listOf>;
  IsDeleted(shape: TopoDS_Shape): boolean;
}

/** Faces of a result by what they were before; those that were nothing before are named by what makes them. */
export function renamed(
  result: TopoDS_Shape,
  before: readonly NamedFace[],
  history: History,
  fresh: (face: TopoDS_Face, index: number) => FaceName,
): NamedFace[] {
  const names = new ShapeMap<FaceName>();
  for (const { face, name } of before) {
    if (history.IsDeleted(face)) continue;
    const now = listed(history.Modified(face));
    for (const f of now.length > 0 ? now : [face]) if (names.get(f) === undefined) names.set(f, name);
  }
  let index = 0;
  return facesOf(result).map((face) => ({ face, name: names.get(face) ?? fresh(face, index++) }));
}

/** A shape as the library around the kernel has it. */
export const wrapped = (shape: TopoDS_Shape): AnyShape => cast(shape);

/** Volume, cubic millimetres. */
export function volumeOf(shape: TopoDS_Shape): number {
  return inScope((s) => {
    const k = kernel(),
      props = s.keep(new k.GProp_GProps());
    k.BRepGProp.VolumeProperties(shape, props, false, false, false);
    return props.Mass();
  });
}

/** The box around a shape: [x0, y0, z0, x1, y1, z1]; null for one that holds nothing. */
export function boxOf(shape: TopoDS_Shape): [number, number, number, number, number, number] | null {
  return inScope((s) => {
    const k = kernel(),
      box = s.keep(new k.Bnd_Box());
    // By its surfaces: triangles, where there are any, keep only near to them.
    k.BRepBndLib.AddOptimal(shape, box, false, false);
    if (box.IsVoid()) return null;
    const low = s.keep(box.CornerMin()),
      high = s.keep(box.CornerMax());
    return [low.X(), low.Y(), low.Z(), high.X(), high.Y(), high.Z()];
  });
}
