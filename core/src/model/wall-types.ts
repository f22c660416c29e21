import { coreDepths, thicknessOfLayers, type Wall } from '../kinds/index.ts';
import { group, setFields, type Change } from './changes/index.ts';
import type { Assembly, WallType } from './entities.ts';
import { get, ofType, type Model } from './model.ts';

/** Thicknesses this near, millimetres, are one. */
const SAME = 1e-6;

/** The type that a wall is of; null for one of none, and for one that has another thickness than the type that it names. */
export function wallTypeOf(model: Model, wall: Wall): WallType | null {
  const type = wall.wallType ? get(model, 'wallType', wall.wallType) : null;
  return type && Math.abs(thicknessOfLayers(type.layers) - wall.thickness) < SAME ? type : null;
}

/** What a wall is of, as tables name it: its type, or its thickness in millimetres. */
export const wallTypeName = (model: Model, wall: Wall): string =>
  wallTypeOf(model, wall)?.name ?? `Wall ${Math.round(wall.thickness * 10) / 10}`;

/** Fields of a wall that say what it is of and where its line lies. */
export type TypedFields = Pick<Wall, 'thickness' | 'alignment' | 'wallType' | 'firstLayer' | 'inset'>;

/** Where the drawn line of a wall of a type can lie: on its middle, on a face, or on the core behind that face. */
export interface WallFace {
  alignment: Wall['alignment'];
  core: boolean;
}

/** How deep the core of a type lies behind a face of a wall, millimetres: 0 where the type has none, or nothing before it. */
export function coreInset(
  type: Pick<WallType, 'layers'>,
  alignment: Wall['alignment'],
  firstLayer: 'left' | 'right',
): number {
  const depths = coreDepths(type.layers);
  if (!depths || alignment === 'centre') return 0;
  return alignment === firstLayer ? depths.first : depths.last;
}

/** What a wall of a type is, drawn by a face. */
export function fieldsOfType(
  type: WallType,
  { alignment, core }: WallFace,
  firstLayer: 'left' | 'right' = 'left',
): TypedFields {
  return {
    thickness: thicknessOfLayers(type.layers),
    alignment,
    wallType: type.id,
    firstLayer,
    inset: (core && coreInset(type, alignment, firstLayer)) || null,
  };
}

/** By which face is a wall drawn? */
export const faceOfWall = (wall: Pick<Wall, 'alignment' | 'inset'>): WallFace => ({
  alignment: wall.alignment,
  core: (wall.inset ?? 0) > 0,
});

/** A wall of another type, its line where it was, by the same face. */
export const typedAs = (wall: Wall, type: WallType): TypedFields =>
  fieldsOfType(type, faceOfWall(wall), wall.firstLayer ?? 'left');

/** A wall of no type, with a thickness of its own. */
export const untyped = (wall: Wall, thickness = wall.thickness): TypedFields => ({
  thickness,
  alignment: wall.alignment,
  wallType: null,
  firstLayer: null,
  inset: null,
});

/** The walls that are of a type, without those in groups. */
export const wallsOfType = (model: Model, typeId: string): Wall[] =>
  ofType(model, 'wall').filter((w) => w.wallType === typeId);

/** What a step makes of all walls of a type, those in groups too. */
function ofAllWalls(model: Model, typeId: string, fields: (w: Wall) => Partial<Wall>): (Change | null)[] {
  const isMeant = (e: { type: string; wallType?: string | null }): e is Wall =>
    e.type === 'wall' && e.wallType === typeId;
  return [
    ...wallsOfType(model, typeId).map((w) => setFields<Wall>(w, fields(w))),
    ...ofType(model, 'assembly')
      .filter((a) => a.elements.some(isMeant))
      .map((a) =>
        setFields<Assembly>(a, {
          elements: a.elements.map((e) => (isMeant(e) ? { ...e, ...fields(e) } : e)),
        }),
      ),
  ];
}

/** A type as it is from now on, with all its walls. Null where nothing changes. */
export function retyped(model: Model, next: WallType): Change | null {
  const now = get(model, 'wallType', next.id);
  if (!now) return null;
  return group([
    setFields<WallType>(now, { name: next.name, layers: next.layers }),
    ...ofAllWalls(model, next.id, (w) => (wallTypeOf(model, w) ? typedAs(w, next) : {})),
  ]);
}

/** Without a type; its walls stay as they are, of none. */
export const withoutType = (model: Model, type: WallType): Change | null =>
  group([...ofAllWalls(model, type.id, (w) => untyped(w)), { type: 'remove', entity: type }]);

/** A type to begin with: one layer of structure, under a name that none has yet. */
export function newWallType(id: string, taken: readonly string[], thickness: number): WallType {
  const names = new Set(taken.map((t) => t.toLowerCase()));
  let n = 1;
  while (names.has(`wall type ${n}`)) n++;
  return {
    type: 'wallType',
    id,
    name: `Wall type ${n}`,
    layers: [{ material: 'Structure', purpose: 'structure', thickness }],
  };
}
