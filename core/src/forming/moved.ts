import type { Movement } from '../part/index.ts';
import { facesOf, ShapeMap, type Body } from './body.ts';
import { inScope, kernel } from './kernel.ts';

/** A body somewhere else, perhaps mirrored; its faces are called by `name` of what they were. */
export function movedBody(body: Body, movement: Movement, name: (was: string) => string): Body {
  return inScope((s) => {
    const k = kernel(),
      trsf = s.keep(new k.gp_Trsf());
    trsf.SetValues(...(movement as Parameters<typeof trsf.SetValues>));
    const making = s.keep(new k.BRepBuilderAPI_Transform(body.shape, trsf, true, false)),
      shape = making.Shape(),
      names = new ShapeMap<string>();
    for (const { face, name: was } of body.faces) names.set(making.ModifiedShape(face), name(was));
    return {
      shape,
      faces: facesOf(shape).map((face, i) => ({ face, name: names.get(face) ?? name(`other:${i}`) })),
    };
  });
}
