import type { ModelPoint } from '../geometry/index.ts';
import { boxOf, partsOf, type Body } from './body.ts';
import { inScope, kernel } from './kernel.ts';
import { axisAt } from './wires.ts';

/** What a solid is; millimetres, and of density one. */
export interface Measures {
  volume: number;
  surface: number;
  centre: ModelPoint;
  box: [number, number, number, number, number, number];
  /** Moments about axes through its centre, mm5: Ixx, Iyy, Izz, and the products Ixy, Ixz, Iyz as a matrix of inertia has them (negative sums). */
  inertia: [number, number, number, number, number, number];
  solids: number;
  faces: number;
}

/** Volume, surface, centre, moments and the box of a body. */
export function measured(body: Body): Measures {
  return inScope((s) => {
    const k = kernel(),
      props = s.keep(new k.GProp_GProps()),
      skin = s.keep(new k.GProp_GProps());
    k.BRepGProp.VolumeProperties(body.shape, props, false, false, false);
    k.BRepGProp.SurfaceProperties(body.shape, skin, false, false);
    const middle = s.keep(props.CentreOfMass()),
      centre: ModelPoint = [middle.X(), middle.Y(), middle.Z()],
      about = (way: ModelPoint) => props.MomentOfInertia(axisAt(s, centre, way)),
      [x, y, z] = [about([1, 0, 0]), about([0, 1, 0]), about([0, 0, 1])],
      h = Math.SQRT1_2;
    // A moment about the way between two axes is half of both and what they have in common.
    const product = (between: ModelPoint, a: number, b: number) => about(between) - (a + b) / 2;
    return {
      volume: props.Mass(),
      surface: skin.Mass(),
      centre,
      box: boxOf(body.shape) ?? [0, 0, 0, 0, 0, 0],
      inertia: [x, y, z, product([h, h, 0], x, y), product([h, 0, h], x, z), product([0, h, h], y, z)],
      solids: partsOf(body.shape, 'SOLID').length,
      faces: body.faces.length,
    };
  });
}
