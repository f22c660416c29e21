import type { Block, ModelPoint, Point, Ring } from '../../geometry/index.ts';
import { surfaceOf } from '../../solids/index.ts';
import { globalId } from './guid.ts';
import { DERIVED, Enum, Int, StepFile, Typed, type Ref, type StepValue } from '../step/step-text.ts';

/** What is written for: to be looked at as it is, or to be edited further. */
export type IfcView = 'reference' | 'editable';

/** What all parts of the writer share: the file, and what is referred to from everywhere. */
export class IfcScope {
  readonly file = new StepFile();
  readonly body: Ref;
  readonly axis: Ref;
  private readonly context: Ref;
  /** Placements of what has none of its own. */
  readonly zero: Ref;
  private readonly materials = new Map<string, Ref>();

  constructor(
    readonly view: IfcView,
    /** Ids of two projects differ. */
    private readonly projectKey: string,
    north: number | null,
  ) {
    this.zero = this.placement3([0, 0, 0]);
    this.context = this.file.add(
      'IFCGEOMETRICREPRESENTATIONCONTEXT',
      null,
      'Model',
      new Int(3),
      1e-5,
      this.zero,
      // Where north is in the plan; up the plan where nobody has said.
      north === null ? null : this.file.share('IFCDIRECTION', [Math.cos(north), Math.sin(north)]),
    );
    const part = (name: string, target: string) =>
      this.file.add(
        'IFCGEOMETRICREPRESENTATIONSUBCONTEXT',
        name,
        'Model',
        DERIVED,
        DERIVED,
        DERIVED,
        DERIVED,
        this.context,
        null,
        new Enum(target),
        null,
      );
    this.body = part('Body', 'MODEL_VIEW');
    this.axis = part('Axis', 'GRAPH_VIEW');
  }

  get modelContext(): Ref {
    return this.context;
  }

  id(name: string): string {
    return globalId(UUID.test(name) ? name : `${this.projectKey}/${name}`);
  }

  // --- geometry

  point2 = ([x, y]: Point): Ref => this.file.share('IFCCARTESIANPOINT', [x, y]);
  point3 = ([x, y, z]: ModelPoint): Ref => this.file.share('IFCCARTESIANPOINT', [x, y, z]);

  /** A place with the directions of its z and x. */
  placement3(at: ModelPoint, z: ModelPoint | null = null, x: ModelPoint | null = null): Ref {
    const direction = (d: ModelPoint | null) => (d ? this.file.share('IFCDIRECTION', [...d]) : null);
    return this.file.share('IFCAXIS2PLACEMENT3D', this.point3(at), direction(z), direction(x));
  }

  local(within: Ref | null, at: ModelPoint, x: ModelPoint | null = null): Ref {
    return this.file.add('IFCLOCALPLACEMENT', within, this.placement3(at, x ? [0, 0, 1] : null, x));
  }

  polyline(ring: readonly Point[], closed: boolean): Ref {
    const points = closed ? [...ring, ring[0]] : ring;
    return this.file.add('IFCPOLYLINE', points.map(this.point2));
  }

  profile([outer, ...holes]: readonly Ring[]): Ref {
    const curve = this.polyline(outer, true);
    return holes.length === 0
      ? this.file.add('IFCARBITRARYCLOSEDPROFILEDEF', new Enum('AREA'), null, curve)
      : this.file.add(
          'IFCARBITRARYPROFILEDEFWITHVOIDS',
          new Enum('AREA'),
          null,
          curve,
          holes.map((h) => this.polyline(h, true)),
        );
  }

  /** A block with level faces as an outline drawn upwards. */
  extruded({ outline, low, high }: Block): Ref {
    return this.file.add(
      'IFCEXTRUDEDAREASOLID',
      this.profile(outline),
      this.placement3([0, 0, low as number]),
      this.file.share('IFCDIRECTION', [0, 0, 1]),
      (high as number) - (low as number),
    );
  }

  /** Blocks as a surface of triangles, with each corner once. */
  faceted(blocks: readonly Block[]): Ref {
    return this.triangulated(surfaceOf(blocks));
  }

  /** Triangles, nine figures each, counter-clockwise seen from outside. */
  triangulated(triangles: ArrayLike<number>): Ref {
    const known = new Map<string, number>(),
      points: StepValue[] = [],
      faces: StepValue[] = [];
    for (let i = 0; i < triangles.length; i += 9) {
      const corners = [0, 3, 6].map((k) => {
        const p = [0, 1, 2].map((axis) => Math.round(triangles[i + k + axis] * 1e6) / 1e6),
          key = p.join();
        let at = known.get(key);
        if (at === undefined) {
          points.push(p);
          known.set(key, (at = points.length));
        }
        return at;
      });
      if (new Set(corners).size === 3) faces.push(corners.map((n) => new Int(n)));
    }
    return this.file.add(
      'IFCTRIANGULATEDFACESET',
      this.file.add('IFCCARTESIANPOINTLIST3D', points),
      null,
      null,
      faces,
      null,
    );
  }

  /** Blocks in the way that suits them: outlines drawn upwards where all are level. */
  solids(blocks: readonly Block[]): { items: Ref[]; kind: string } {
    const level = blocks.every((b) => typeof b.low === 'number' && typeof b.high === 'number');
    return level
      ? { items: blocks.map((b) => this.extruded(b)), kind: 'SweptSolid' }
      : { items: [this.faceted(blocks)], kind: 'Tessellation' };
  }

  shape(items: readonly Ref[], kind: string, axis?: Ref): Ref {
    const body = this.file.add('IFCSHAPEREPRESENTATION', this.body, 'Body', kind, [...items]);
    const line = axis && this.file.add('IFCSHAPEREPRESENTATION', this.axis, 'Axis', 'Curve2D', [axis]);
    return this.file.add('IFCPRODUCTDEFINITIONSHAPE', null, null, line ? [line, body] : [body]);
  }

  /** Lines in plan as what is seen of a thing. */
  footprint(curves: readonly Ref[]): Ref {
    const set = this.file.add('IFCGEOMETRICCURVESET', [...curves]);
    return this.file.add('IFCPRODUCTDEFINITIONSHAPE', null, null, [
      this.file.add('IFCSHAPEREPRESENTATION', this.axis, 'FootPrint', 'GeometricCurveSet', [set]),
    ]);
  }

  // --- what is said of things

  material(name: string): Ref {
    let ref = this.materials.get(name);
    if (!ref) this.materials.set(name, (ref = this.file.add('IFCMATERIAL', name, null, null)));
    return ref;
  }

  relate(type: string, name: string, ...values: StepValue[]): Ref {
    return this.file.add(type, this.id(name), null, null, null, ...values);
  }

  /** A property set of one thing; what is null is left out. */
  properties(
    owner: { ref: Ref; name: string },
    set: string,
    values: Readonly<Record<string, string | number | boolean | Typed | null>>,
  ): void {
    const list = Object.entries(values).flatMap(([name, value]) =>
      value === null ? [] : [this.file.add('IFCPROPERTYSINGLEVALUE', name, null, valueOf(value), null)],
    );
    if (list.length === 0) return;
    const ref = this.file.add('IFCPROPERTYSET', this.id(`${owner.name} ${set}`), null, set, null, list);
    this.relate('IFCRELDEFINESBYPROPERTIES', `${owner.name} has ${set}`, [owner.ref], ref);
  }

  /** Measured quantities: lengths in millimetres, areas in square metres, volumes in cubic metres, weights (masses) in kilograms, as the units of the file are. */
  quantities(
    owner: { ref: Ref; name: string },
    set: string,
    values: Readonly<Record<string, readonly ['length' | 'area' | 'volume' | 'count' | 'weight', number]>>,
  ): void {
    const list = Object.entries(values).map(([name, [kind, value]]) =>
      this.file.add(`IFCQUANTITY${kind.toUpperCase()}`, name, null, null, value, null),
    );
    const ref = this.file.add(
      'IFCELEMENTQUANTITY',
      this.id(`${owner.name} ${set}`),
      null,
      set,
      null,
      null,
      list,
    );
    this.relate('IFCRELDEFINESBYPROPERTIES', `${owner.name} has ${set}`, [owner.ref], ref);
  }
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

function valueOf(value: string | number | boolean | Typed): Typed {
  if (value instanceof Typed) return value;
  if (typeof value === 'boolean') return new Typed('IFCBOOLEAN', value);
  return typeof value === 'number' ? new Typed('IFCREAL', value) : new Typed('IFCLABEL', value);
}
