import { coresOf, cutWalls, ownBodies } from '../../building/index.ts';
import {
  looseElements,
  ofType,
  settingsOf,
  storeysOf,
  type Bolts,
  type GridLine,
  type Member,
  type Model,
  type PlaceOnMap,
  type PlaneEntity,
  type Plate,
  type Storey,
  type Wall,
} from '../../model/index.ts';
import { worldFromPlane, type Point } from '../../geometry/index.ts';
import { frameOf } from '../../planes/index.ts';
import { coversOver } from '../../solids/index.ts';
import { countedRooms, northOf, takeoff, type SpaceRow, type WallRow } from '../../takeoff/index.ts';
import { writeGrid } from './grids.ts';
import { isPart, writePart, writeSpace, type Written } from './parts.ts';
import { writeJoints } from './joints.ts';
import { MemberWriter } from './members.ts';
import { IfcScope, type IfcView } from './scope.ts';
import { DERIVED, Enum, stepString, type Ref } from '../step/step-text.ts';
import { WallTypes, writeWall } from './walls.ts';

export interface IfcOptions {
  view: IfcView;
  /** When it is written, ISO 8601: the core has no clock. */
  at: string;
  /** Only this storey, by its id. */
  storeyId?: string;
  /** What tells this project from others of its name: its id, where it has one. */
  projectKey?: string;
}

/**
 * A building as IFC4 (ISO 16739-1:2018) in the clear text of ISO 10303-21. What it cannot carry: sheets, known dimensions, the history,
 * drawn lines that are no part of the building. Doors and windows have usual linings, which is said of each. Throws where a figure of
 * the model is not finite.
 */
export function writeIfc(model: Model, { view, at, storeyId, projectKey }: IfcOptions): string {
  const { name, onMap } = settingsOf(model),
    scope = new IfcScope(view, projectKey ?? name, northOf(model)),
    { file } = scope;
  const unit = (kind: string, unitName: string, prefix: string | null = null) =>
    file.add('IFCSIUNIT', DERIVED, new Enum(kind), prefix ? new Enum(prefix) : null, new Enum(unitName));
  const units = file.add('IFCUNITASSIGNMENT', [
    unit('LENGTHUNIT', 'METRE', 'MILLI'),
    unit('AREAUNIT', 'SQUARE_METRE'),
    unit('VOLUMEUNIT', 'CUBIC_METRE'),
    unit('MASSUNIT', 'GRAM', 'KILO'),
    unit('PLANEANGLEUNIT', 'RADIAN'),
  ]);
  if (onMap) writePlaceOnMap(scope, onMap);
  const project = file.add(
    'IFCPROJECT',
    scope.id('project'),
    null,
    name,
    null,
    null,
    null,
    null,
    [scope.modelContext],
    units,
  );
  const sitePlacement = scope.local(null, [0, 0, 0]),
    site = file.add(
      'IFCSITE',
      scope.id('site'),
      null,
      'Site',
      null,
      null,
      sitePlacement,
      null,
      null,
      new Enum('ELEMENT'),
      null,
      null,
      null,
      null,
      null,
    ),
    buildingPlacement = scope.local(sitePlacement, [0, 0, 0]),
    building = file.add(
      'IFCBUILDING',
      scope.id('building'),
      null,
      name,
      null,
      null,
      buildingPlacement,
      null,
      null,
      new Enum('ELEMENT'),
      null,
      null,
      null,
    );
  scope.relate('IFCRELAGGREGATES', 'project has site', project, [site]);
  scope.relate('IFCRELAGGREGATES', 'site has building', site, [building]);
  const rows = new Map(takeoff(model).walls.map((r) => [r.id, r])),
    types = new WallTypes(scope, model),
    frame = new MemberWriter(scope, model),
    standing = frameByStorey(model);
  const storeys = storeysOf(model)
    .filter((s) => storeyId === undefined || s.id === storeyId)
    .map((s) =>
      writeStorey(scope, model, s, {
        buildingPlacement,
        rows,
        types,
        frame,
        standing: standing.get(s.id) ?? [],
      }),
    );
  scope.relate('IFCRELAGGREGATES', 'building has storeys', building, storeys);
  types.close();
  return file.text([
    `FILE_DESCRIPTION(('ViewDefinition [${view === 'reference' ? 'ReferenceView_V1.2' : 'DesignTransferView_V1.1'}]'),'2;1');`,
    `FILE_NAME(${stepString(`${name}.ifc`)},${stepString(at)},(''),(''),'Calque','Calque','');`,
    `FILE_SCHEMA(('IFC4'));`,
  ]);
}

/** Where the model lies on a map (IfcMapConversion): the map is in metres, the model in millimetres. */
function writePlaceOnMap(
  { file, modelContext }: IfcScope,
  { system, east, north, height, turn }: PlaceOnMap,
): void {
  const metre = file.add('IFCSIUNIT', DERIVED, new Enum('LENGTHUNIT'), null, new Enum('METRE')),
    map = file.add('IFCPROJECTEDCRS', system, null, null, null, null, null, metre);
  file.add(
    'IFCMAPCONVERSION',
    modelContext,
    map,
    east,
    north,
    height,
    Math.cos(turn),
    Math.sin(turn),
    METRES_IN_MILLIMETRE,
  );
}
const METRES_IN_MILLIMETRE = 0.001;

interface Around {
  buildingPlacement: Ref;
  rows: ReadonlyMap<string, WallRow>;
  types: WallTypes;
  frame: MemberWriter;
  standing: readonly { e: Member | Plate | Bolts; on: PlaneEntity }[];
}

/** Members, plates and bolts by the storey in which they stand: their own, or that on whose floor or above it the lower end of those on upright planes lies. */
function frameByStorey(model: Model): Map<string, Around['standing'][number][]> {
  const storeys = [...storeysOf(model)].sort((a, b) => a.elevation - b.elevation),
    found = new Map<string, Around['standing'][number][]>();
  for (const on of [...storeys, ...ofType(model, 'plane')])
    for (const e of looseElements(model, on.id)) {
      if (e.type !== 'member' && e.type !== 'plate' && e.type !== 'bolts') continue;
      const low = Math.min(...lowOf(e).map((p) => worldFromPlane(frameOf(on), p)[2])),
        storey =
          on.type === 'storey' ? on : (storeys.filter((s) => s.elevation <= low + 1).at(-1) ?? storeys[0]);
      if (!storey) continue;
      const list = found.get(storey.id);
      if (list) list.push({ e, on });
      else found.set(storey.id, [{ e, on }]);
    }
  return found;
}

/** Places of which the lowest tells the storey. */
const lowOf = (e: Member | Plate | Bolts): readonly Point[] =>
  e.type === 'member' ? [e.from, e.to] : e.type === 'bolts' ? [e.at] : e.rings[0].points;

function writeStorey(
  scope: IfcScope,
  model: Model,
  storey: Storey,
  { buildingPlacement, rows, types, frame, standing }: Around,
): Ref {
  const placement = scope.local(buildingPlacement, [0, 0, storey.elevation]),
    ref = scope.file.add(
      'IFCBUILDINGSTOREY',
      scope.id(`storey ${storey.id}`),
      null,
      storey.name,
      null,
      null,
      placement,
      null,
      null,
      new Enum('ELEMENT'),
      storey.elevation,
    );
  const elements = looseElements(model, storey.id),
    walls = elements.filter((e): e is Wall => e.type === 'wall'),
    own = ownBodies(walls, cutWalls(walls), coresOf(model)),
    covers = walls.some((w) => w.underRoof) ? coversOver(model, storey) : [],
    rooms = countedRooms(model, storey, walls),
    external = externalWalls(rooms.map(({ row }) => row)),
    contained: Ref[] = [],
    byId = new Map<string, Ref>(),
    steel = new Map<string, Written>();
  for (const wall of walls) {
    const done = writeWall(scope, model, wall, placement, {
      own: own.get(wall.id) ?? [],
      covers,
      row: rows.get(wall.id)!,
      isExternal: external.has(wall.id),
    });
    if (!done) continue;
    types.add(done.written);
    byId.set(wall.id, done.written.ref);
    contained.push(done.written.ref, ...done.filled.map((f) => f.ref));
  }
  for (const e of elements) {
    const part = isPart(e) ? writePart(scope, model, e, placement) : null;
    if (part) contained.push(part.ref);
  }
  for (const { e, on } of standing) {
    if (e.type !== 'member') continue;
    const done = frame.write(e, frameOf(on), { placement, level: storey.elevation });
    if (done) steel.set(e.id, done);
  }
  const joined = writeJoints(scope, frame.joined, {
    placement,
    own: new Set(standing.flatMap(({ e }) => (e.type === 'member' ? [] : [e.id]))),
    level: storey.elevation,
    members: steel,
  });
  contained.push(
    ...[...steel.values()].map((w) => w.ref).filter((ref) => !joined.inAssemblies.has(ref)),
    ...joined.contained,
  );
  const grid = writeGrid(
    scope,
    storey.id,
    elements.filter((e): e is GridLine => e.type === 'gridLine'),
    placement,
  );
  if (grid) contained.push(grid);
  if (contained.length > 0)
    scope.relate('IFCRELCONTAINEDINSPATIALSTRUCTURE', `${storey.id} contains`, contained, ref);
  const spaces = rooms.map(({ room, row }, at) => {
    const written = writeSpace(scope, { room, row, at }, placement);
    const open = writeBoundaries(scope, written, row, byId);
    if (open.length > 0)
      scope.relate('IFCRELCONTAINEDINSPATIALSTRUCTURE', `${written.name} ends at`, open, ref);
    return written.ref;
  });
  if (spaces.length > 0) scope.relate('IFCRELAGGREGATES', `${storey.id} has spaces`, ref, spaces);
  return ref;
}

/** Walls that have the outside behind a room of theirs. */
const externalWalls = (rows: readonly SpaceRow[]): ReadonlySet<string> =>
  new Set(
    rows.flatMap((r) =>
      r.boundaries.flatMap((b) => (b.beyond === 'outside' && b.wall !== null ? [b.wall] : [])),
    ),
  );

/** Sides of a space, by walls and, where it runs into another, by elements that are not there; these are returned. */
function writeBoundaries(
  scope: IfcScope,
  space: Written,
  row: SpaceRow,
  walls: ReadonlyMap<string, Ref>,
): Ref[] {
  const open: Ref[] = [];
  row.boundaries.forEach((b, i) => {
    if (b.side === 'open') open.push(virtualElement(scope, `${space.name} open boundary ${i}`));
    const element = b.side === 'open' ? open.at(-1) : walls.get(b.wall ?? '');
    if (!element) return;
    scope.file.add(
      'IFCRELSPACEBOUNDARY',
      scope.id(`${space.name} boundary ${i}`),
      null,
      null,
      b.beyond,
      space.ref,
      element,
      null,
      new Enum(b.side === 'open' ? 'VIRTUAL' : 'PHYSICAL'),
      new Enum(b.beyond === 'outside' ? 'EXTERNAL' : 'INTERNAL'),
    );
  });
  return open;
}

const virtualElement = (scope: IfcScope, name: string): Ref =>
  scope.file.add('IFCVIRTUALELEMENT', scope.id(name), null, 'Open boundary', null, null, null, null, null);
