import {
  boltOf,
  flatSlots,
  perpendicular,
  plateAreas,
  plateVolume,
  type BoltSet,
  type JoinedFrame,
  type PlatePart,
} from '../../framing/index.ts';
import { cross3, lengthOfPieces, segmentPiece, type ModelPoint } from '../../geometry/index.ts';
import type { IfcScope } from './scope.ts';
import type { Written } from './parts.ts';
import { Enum, type Ref } from '../step/step-text.ts';

/** What of a frame's joints a storey has: its members by id, and where these are put together. */
interface Storey {
  placement: Ref;
  level: number;
  members: ReadonlyMap<string, Written>;
  /** Plates and bolts by themselves that stand in it, by id. */
  own: ReadonlySet<string>;
}

const lowered = ([x, y, z]: ModelPoint, level: number): ModelPoint => [x, y, z - level];

/**
 * Plates, bolts, and members put together with the plates that are welded to them. Gives what the storey contains beside its members, and which
 * of these are parts of assemblies, which it contains in their place.
 */
export function writeJoints(
  scope: IfcScope,
  frame: JoinedFrame,
  storey: Storey,
): { contained: Ref[]; inAssemblies: ReadonlySet<Ref> } {
  const contained: Ref[] = [],
    inAssemblies = new Set<Ref>(),
    welded = new Map<string, Ref[]>(),
    isHere = (owner: string) => storey.members.has(owner) || storey.own.has(owner);
  for (const plate of frame.plates) {
    if (!isHere(plate.owner)) continue;
    const ref = writePlate(scope, plate, storey);
    // What is welded to a member of another storey stands by itself in this one.
    if (plate.weldedTo !== null && storey.members.has(plate.weldedTo))
      welded.set(plate.weldedTo, [...(welded.get(plate.weldedTo) ?? []), ref]);
    else contained.push(ref);
  }
  for (const set of frame.bolts) if (isHere(set.owner)) contained.push(writeBolts(scope, set, storey));
  for (const [id, plates] of welded) {
    const main = storey.members.get(id)!.ref,
      assembly = scope.file.add(
        'IFCELEMENTASSEMBLY',
        scope.id(`${id} assembly`),
        null,
        'Assembly',
        null,
        null,
        scope.local(storey.placement, [0, 0, 0]),
        null,
        null,
        new Enum('FACTORY'),
        new Enum('NOTDEFINED'),
      );
    scope.relate('IFCRELAGGREGATES', `${id} is put together of`, assembly, [main, ...plates]);
    inAssemblies.add(main);
    contained.push(assembly);
  }
  return { contained, inAssemblies };
}

function writePlate(scope: IfcScope, plate: PlatePart, { placement, level }: Storey): Ref {
  const { file } = scope,
    { outline, holes, thickness, density, angle, x, y } = plate,
    circles = holes.map(({ at, d }) =>
      file.add('IFCCIRCLE', file.share('IFCAXIS2PLACEMENT2D', scope.point2(at), null), d / 2),
    ),
    cuts = [...circles, ...flatSlots(plate).map((ring) => scope.polyline(ring, true))],
    curve = scope.polyline(outline, true),
    profile =
      cuts.length === 0
        ? file.add('IFCARBITRARYCLOSEDPROFILEDEF', new Enum('AREA'), null, curve)
        : file.add('IFCARBITRARYPROFILEDEFWITHVOIDS', new Enum('AREA'), null, curve, cuts),
    solid = file.add(
      'IFCEXTRUDEDAREASOLID',
      profile,
      scope.placement3(lowered(plate.origin, level), cross3(x, y), x),
      file.share('IFCDIRECTION', [0, 0, 1]),
      thickness,
    );
  const ref = file.add(
    // A cleat is cut from an angle: no plate, but what holds others.
    angle ? 'IFCDISCRETEACCESSORY' : 'IFCPLATE',
    scope.id(plate.id),
    null,
    plate.name.replace(/^./, (c) => c.toUpperCase()),
    null,
    angle?.section ?? null,
    scope.local(placement, [0, 0, 0]),
    scope.shape([solid], 'SweptSolid'),
    null,
    new Enum(angle ? 'BRACKET' : 'SHEET'),
  );
  const { gross, net } = plateAreas(plate),
    round = outline.map((p, i) => segmentPiece(p, outline[(i + 1) % outline.length])),
    written = { ref, name: plate.id };
  scope.relate('IFCRELASSOCIATESMATERIAL', `${plate.id} is of`, [ref], scope.material(plate.material));
  if (angle) {
    const volume = plateVolume(plate);
    scope.quantities(written, 'Calque_CleatQuantities', {
      Length: ['length', thickness],
      NetVolume: ['volume', volume / 1e9],
      NetWeight: ['weight', (volume * density) / 1e9],
    });
    return ref;
  }
  scope.quantities(written, 'Qto_PlateBaseQuantities', {
    Width: ['length', thickness],
    Perimeter: ['length', lengthOfPieces(round)],
    GrossArea: ['area', gross / 1e6],
    NetArea: ['area', net / 1e6],
    NetVolume: ['volume', (net * thickness) / 1e9],
    NetWeight: ['weight', (net * thickness * density) / 1e9],
  });
  scope.properties(written, 'Calque_Plate', {
    WeldSize: plate.weld?.size ?? null,
    WeldLength: plate.weld?.length ?? null,
  });
  return ref;
}

/** Bolts of one pattern, each from its head to its nut as a six-sided bar. */
function writeBolts(scope: IfcScope, set: BoltSet, { placement, level }: Storey): Ref {
  const { file } = scope,
    size = boltOf(set.d),
    r = size.flats / Math.sqrt(3),
    head = set.anchor ? size.nut : size.head,
    long = set.anchor ? head + set.length : head + set.grip + size.nut,
    hexagon = file.share('IFCARBITRARYCLOSEDPROFILEDEF', new Enum('AREA'), null, hexagonOf(scope, r)),
    side = perpendicular(set.axis);
  const solids = set.at.map((p) =>
    file.add(
      'IFCEXTRUDEDAREASOLID',
      hexagon,
      scope.placement3(
        lowered(p.map((c, i) => c - head * set.axis[i]) as unknown as ModelPoint, level),
        set.axis,
        side,
      ),
      file.share('IFCDIRECTION', [0, 0, 1]),
      long,
    ),
  );
  const ref = file.add(
    'IFCMECHANICALFASTENER',
    scope.id(set.id),
    null,
    set.name,
    null,
    set.grade,
    scope.local(placement, [0, 0, 0]),
    scope.shape(solids, 'SweptSolid'),
    null,
    set.d,
    set.length,
    new Enum(set.anchor ? 'ANCHORBOLT' : 'BOLT'),
  );
  const written = { ref, name: set.id };
  scope.quantities(written, 'Calque_FastenerQuantities', {
    Count: ['count', set.at.length],
    NetWeight: ['weight', set.mass * set.at.length],
  });
  scope.properties(written, 'Calque_Fastener', {
    Standard: set.standard,
    Grade: set.grade,
    Grip: set.grip,
  });
  return ref;
}

const hexagons = new WeakMap<IfcScope, Map<number, Ref>>();
function hexagonOf(scope: IfcScope, r: number): Ref {
  let known = hexagons.get(scope);
  if (!known) hexagons.set(scope, (known = new Map()));
  let ref = known.get(r);
  if (!ref)
    known.set(
      r,
      (ref = scope.polyline(
        [0, 1, 2, 3, 4, 5].map((k): [number, number] => [
          r * Math.cos((k * Math.PI) / 3),
          r * Math.sin((k * Math.PI) / 3),
        ]),
        true,
      )),
    );
  return ref;
}
