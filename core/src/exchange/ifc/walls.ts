import { bandOf, straightParts } from '../../building/index.ts';
import type { Block, ModelPoint, Point, Polygon } from '../../geometry/index.ts';
import {
  wallTypeName,
  wallTypeOf,
  type LayerPurpose,
  type Model,
  type Wall,
  type WallType,
} from '../../model/index.ts';
import { wallBlocks, type Cover } from '../../solids/index.ts';
import type { WallRow } from '../../takeoff/index.ts';
import { writeOpenings, type Filled, type WrittenWall } from './openings.ts';
import type { IfcScope } from './scope.ts';
import { sourceProperties } from './sources.ts';
import { Enum, type Ref } from '../step/step-text.ts';

/** A layer as IFC has it: its material, its thickness, and what it is for. */
interface Layer {
  material: string;
  thickness: number;
  purpose: LayerPurpose | null;
}

/** Wall types, and for walls of none one for each thickness: written once, with the walls that are of them. */
export class WallTypes {
  private readonly known = new Map<string, { type: Ref; set: Ref; walls: Ref[] }>();
  constructor(
    private readonly scope: IfcScope,
    private readonly model: Model,
  ) {}

  add({ ref, wall }: WrittenWall): void {
    const type = wallTypeOf(this.model, wall),
      entry = this.entryOf(wall, type),
      band = bandOf(wall),
      fromLeft = type !== null && wall.firstLayer !== 'right';
    entry.walls.push(ref);
    // Layers are counted from the first: from the right face to the left, or the other way.
    const usage = this.scope.file.add(
      'IFCMATERIALLAYERSETUSAGE',
      entry.set,
      new Enum('AXIS2'),
      new Enum(fromLeft ? 'NEGATIVE' : 'POSITIVE'),
      fromLeft ? band.left : -band.right,
      null,
    );
    this.scope.relate('IFCRELASSOCIATESMATERIAL', `${wall.id} is of`, [ref], usage);
  }

  private entryOf(wall: Wall, type: WallType | null) {
    const key = type ? `type ${type.id}` : `thickness ${wall.thickness}`,
      known = this.known.get(key);
    if (known) return known;
    const { file } = this.scope,
      name = wallTypeName(this.model, wall),
      layers: Layer[] = type?.layers ?? [{ material: 'Wall', thickness: wall.thickness, purpose: null }];
    const set = file.add(
        'IFCMATERIALLAYERSET',
        layers.map((l) =>
          file.add(
            'IFCMATERIALLAYER',
            this.scope.material(l.material),
            l.thickness,
            null,
            l.material,
            null,
            l.purpose,
            null,
          ),
        ),
        name,
        null,
      ),
      ref = file.add(
        'IFCWALLTYPE',
        this.scope.id(`wall ${key}`),
        null,
        name,
        null,
        null,
        null,
        null,
        null,
        null,
        new Enum('STANDARD'),
      ),
      entry = { type: ref, set, walls: [] };
    this.known.set(key, entry);
    this.scope.relate('IFCRELASSOCIATESMATERIAL', `${key} is of`, [ref], set);
    return entry;
  }

  close(): void {
    for (const [key, { type, walls }] of this.known)
      this.scope.relate('IFCRELDEFINESBYTYPE', `walls of ${key}`, walls, type);
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
    { row } = given,
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
  const parts = straightParts(wall),
    axis = scope.polyline([to(wall.from), ...parts.map((p) => to(p.wall.to))], false);
  const ref = scope.file.add(
    'IFCWALL',
    scope.id(wall.id),
    null,
    row.type,
    null,
    null,
    placement,
    scope.shape(items, kind, axis),
    null,
    new Enum('STANDARD'),
  );
  const written: WrittenWall = { wall, band, ref, placement, storeyPlacement, name: wall.id };
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
