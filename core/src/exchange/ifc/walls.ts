import { bandOf } from '../../building/index.ts';
import type { Block, ModelPoint, Point, Polygon } from '../../geometry/index.ts';
import type { Model, Wall } from '../../model/index.ts';
import { wallBlocks, type Cover } from '../../solids/index.ts';
import type { WallRow } from '../../takeoff/index.ts';
import { writeOpenings, type Filled, type WrittenWall } from './openings.ts';
import type { IfcScope } from './scope.ts';
import { sourceProperties } from './sources.ts';
import { Enum, type Ref } from './step-text.ts';

/** Wall types by their thickness: written once, with the walls that are of them. */
export class WallTypes {
  private readonly known = new Map<number, { type: Ref; set: Ref; walls: Ref[] }>();
  constructor(private readonly scope: IfcScope) {}

  add({ ref, wall }: WrittenWall): void {
    const { file } = this.scope,
      name = `Wall ${Math.round(wall.thickness * 10) / 10}`;
    let entry = this.known.get(wall.thickness);
    if (!entry) {
      const layer = file.add(
        'IFCMATERIALLAYER',
        this.scope.material('Wall'),
        wall.thickness,
        null,
        'Wall',
        null,
        null,
        null,
      );
      const set = file.add('IFCMATERIALLAYERSET', [layer], name, null);
      const type = file.add(
        'IFCWALLTYPE',
        this.scope.id(`wall type ${wall.thickness}`),
        null,
        name,
        null,
        null,
        null,
        null,
        null,
        null,
        new Enum('STANDARD'),
      );
      this.known.set(wall.thickness, (entry = { type, set, walls: [] }));
      this.scope.relate('IFCRELASSOCIATESMATERIAL', `${name} is of`, [type], set);
    }
    entry.walls.push(ref);
    const band = bandOf(wall),
      usage = file.add(
        'IFCMATERIALLAYERSETUSAGE',
        entry.set,
        new Enum('AXIS2'),
        new Enum('POSITIVE'),
        -band.right,
        null,
      );
    this.scope.relate('IFCRELASSOCIATESMATERIAL', `${wall.id} is of`, [ref], usage);
  }

  close(): void {
    for (const [thickness, { type, walls }] of this.known)
      this.scope.relate('IFCRELDEFINESBYTYPE', `walls of ${thickness}`, walls, type);
  }
}

/** Places of a storey as its wall sees them: along its drawn line from its first end, and to the left of it. */
function within(wall: Wall): (p: Point) => Point {
  const band = bandOf(wall);
  return ([x, y]) => [
    (x - band.from[0]) * band.ux + (y - band.from[1]) * band.uy,
    -(x - band.from[0]) * band.uy + (y - band.from[1]) * band.ux,
  ];
}

/** A block in the coordinates of its wall. */
function localBlock(block: Block, to: (p: Point) => Point, wall: Wall): Block {
  const { ux, uy } = bandOf(wall),
    height = (h: Block['low']): Block['low'] =>
      typeof h === 'number'
        ? h
        : { at: to(h.at), z: h.z, dx: h.dx * ux + h.dy * uy, dy: -h.dx * uy + h.dy * ux };
  return { outline: block.outline.map((r) => r.map(to)), low: height(block.low), high: height(block.high) };
}

/** A wall with its axis, its body, what it is made of, and its openings. */
export function writeWall(
  scope: IfcScope,
  model: Model,
  wall: Wall,
  storeyPlacement: Ref,
  given: { own: readonly Polygon[]; covers: readonly Cover[]; row: WallRow; isExternal: boolean },
): { written: WrittenWall; filled: Filled[] } | null {
  const band = bandOf(wall),
    // Where the model is to be edited openings are cut by elements of their own. Bodies of triangles, under roofs, are not cut well by
    // readers: they are written as they stand.
    cutByOpenings = scope.view === 'editable' && !wall.underRoof,
    to = within(wall),
    blocks = wallBlocks(cutByOpenings ? { ...wall, openings: null } : wall, given.own, given.covers).map(
      (b) => localBlock(b, to, wall),
    );
  if (blocks.length === 0) return null;
  const along: ModelPoint = [band.ux, band.uy, 0],
    placement = scope.local(storeyPlacement, [wall.from[0], wall.from[1], 0], along),
    { items, kind } = cutByOpenings
      ? scope.solids(blocks)
      : { items: [scope.faceted(blocks)], kind: 'Tessellation' };
  const axis = scope.polyline(
    [
      [0, 0],
      [band.length, 0],
    ],
    false,
  );
  const ref = scope.file.add(
    'IFCWALL',
    scope.id(wall.id),
    null,
    `Wall ${Math.round(wall.thickness * 10) / 10}`,
    null,
    null,
    placement,
    scope.shape(items, kind, axis),
    null,
    new Enum('STANDARD'),
  );
  const written: WrittenWall = { wall, band, ref, placement, storeyPlacement, name: wall.id },
    { row } = given;
  scope.quantities(written, 'Qto_WallBaseQuantities', {
    Length: ['length', row.length],
    Width: ['length', row.thickness],
    Height: ['length', row.height],
    GrossSideArea: ['area', row.area],
    NetSideArea: ['area', row.net],
    NetVolume: ['volume', row.volume],
  });
  scope.properties(written, 'Pset_WallCommon', { IsExternal: given.isExternal });
  sourceProperties(scope, model, written, wall);
  return { written, filled: writeOpenings(scope, written, cutByOpenings) };
}
