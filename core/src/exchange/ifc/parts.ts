import { outlineOf, volumeOfAll } from '../../geometry/index.ts';
import {
  GABLE,
  kindOf,
  roofShape,
  slabArea,
  slopedArea,
  stairFigures,
  type Column,
  type Loose,
  type Model,
  type Roof,
  type Slab,
  type Stair,
} from '../../model/index.ts';
import type { Room } from '../../building/index.ts';
import { lengthOfPieces, ringArea } from '../../geometry/index.ts';
import type { SpaceRow } from '../../takeoff/index.ts';
import type { IfcScope } from './scope.ts';
import { sourceProperties } from './sources.ts';
import { Enum, Int, Typed, type Ref } from '../step/step-text.ts';

const CUBIC_METRE = 1e9,
  SQUARE_METRE = 1e6;

export interface Written {
  ref: Ref;
  name: string;
}

type Part = Slab | Column | Roof | Stair;
export const isPart = (e: Loose): e is Part =>
  e.type === 'slab' || e.type === 'column' || e.type === 'roof' || e.type === 'stair';

const CLASSES = { slab: 'IFCSLAB', column: 'IFCCOLUMN', roof: 'IFCROOF', stair: 'IFCSTAIR' } as const;

function kindOfPart(e: Part): string {
  if (e.type === 'slab') return 'FLOOR';
  if (e.type === 'column') return 'COLUMN';
  if (e.type === 'stair') return e.back ? 'HALF_TURN_STAIR' : 'STRAIGHT_RUN_STAIR';
  if (e.pitches.every((p) => p === 0)) return 'FLAT_ROOF';
  const sloped = e.pitches.filter((p) => p !== GABLE).length;
  if (sloped === e.pitches.length) return 'HIP_ROOF';
  return sloped === 1 ? 'SHED_ROOF' : 'GABLE_ROOF';
}

/** A slab, column, roof or stair; null where no solid can be made of it. */
export function writePart(scope: IfcScope, model: Model, e: Part, storeyPlacement: Ref): Written | null {
  const blocks = kindOf(e).blocks(e as never);
  if (blocks.length === 0) return null;
  const { items, kind } =
    e.type === 'roof' ? { items: [scope.faceted(blocks)], kind: 'Tessellation' } : scope.solids(blocks);
  const ref = scope.file.add(
    CLASSES[e.type],
    scope.id(e.id),
    null,
    NAMES[e.type],
    null,
    null,
    scope.local(storeyPlacement, [0, 0, 0]),
    scope.shape(items, kind),
    null,
    new Enum(kindOfPart(e)),
  );
  const written = { ref, name: e.id },
    volume = volumeOfAll(blocks) / CUBIC_METRE;
  QUANTITIES[e.type](scope, written, e as never, volume);
  sourceProperties(scope, model, written, e);
  return written;
}

const NAMES = { slab: 'Slab', column: 'Column', roof: 'Roof', stair: 'Stair' } as const;

type Count<E> = (scope: IfcScope, written: Written, e: E, volume: number) => void;
const QUANTITIES: { slab: Count<Slab>; column: Count<Column>; roof: Count<Roof>; stair: Count<Stair> } = {
  slab(scope, written, e, volume) {
    scope.quantities(written, 'Qto_SlabBaseQuantities', {
      Width: ['length', e.thickness],
      Perimeter: ['length', lengthOfPieces(kindOf(e).pieces(e))],
      NetArea: ['area', slabArea(e) / SQUARE_METRE],
      NetVolume: ['volume', volume],
    });
  },
  column(scope, written, e, volume) {
    scope.quantities(written, 'Qto_ColumnBaseQuantities', {
      Length: ['length', e.height],
      CrossSectionArea: ['area', (volume * CUBIC_METRE) / e.height / SQUARE_METRE],
      NetVolume: ['volume', volume],
    });
  },
  roof(scope, written, e, volume) {
    const shape = roofShape(e),
      faces = 'why' in shape ? [] : shape.faces;
    scope.quantities(written, 'Qto_RoofBaseQuantities', {
      GrossArea: ['area', faces.reduce((sum, f) => sum + slopedArea(f), 0) / SQUARE_METRE],
      ProjectedArea: ['area', faces.reduce((sum, f) => sum + Math.abs(ringArea(f.ring)), 0) / SQUARE_METRE],
    });
    scope.properties(written, 'Calque_Roof', {
      Volume: new Typed('IFCVOLUMEMEASURE', volume),
      Pitches: [...new Set(faces.map((f) => `${Math.round((f.pitch * 18000) / Math.PI) / 100}°`))].join(', '),
    });
  },
  stair(scope, written, e, volume) {
    const { risers, rise, going } = stairFigures(e);
    scope.properties(written, 'Pset_StairCommon', {
      NumberOfRiser: new Typed('IFCCOUNTMEASURE', new Int(risers)),
      RiserHeight: new Typed('IFCPOSITIVELENGTHMEASURE', rise),
      TreadLength: new Typed('IFCPOSITIVELENGTHMEASURE', going),
    });
    scope.properties(written, 'Calque_Stair', { Volume: new Typed('IFCVOLUMEMEASURE', volume) });
  },
};

/** A room as a space with its outline and its figures. */
export function writeSpace(
  scope: IfcScope,
  { room, row, at }: { room: Room; row: SpaceRow; at: number },
  storeyPlacement: Ref,
): Written {
  const name = `space ${row.storey} ${at}`;
  const ref = scope.file.add(
    'IFCSPACE',
    scope.id(name),
    null,
    row.number || row.name,
    null,
    null,
    scope.local(storeyPlacement, [0, 0, 0]),
    scope.shape(
      [scope.extruded({ outline: outlineOf([room.outline, ...room.islands]), low: 0, high: row.height })],
      'SweptSolid',
    ),
    row.name,
    new Enum('ELEMENT'),
    new Enum('INTERNAL'),
    null,
  );
  const written = { ref, name };
  scope.quantities(written, 'Qto_SpaceBaseQuantities', {
    Height: ['length', row.height],
    GrossPerimeter: ['length', row.perimeter],
    GrossFloorArea: ['area', row.gross],
    NetFloorArea: ['area', row.area],
    NetVolume: ['volume', row.volume],
  });
  scope.properties(written, 'Calque_Source', {
    PrintedArea: row.printed === null ? null : new Typed('IFCAREAMEASURE', row.printed),
    Assumed: row.assumed.length > 0 ? row.assumed.join(', ') : null,
  });
  return written;
}
