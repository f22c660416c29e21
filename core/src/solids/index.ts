export {
  boltBars,
  meshOfMember,
  ownBarsOf,
  pieceSurfaces,
  type OwnBars,
  type PieceHole,
  type PieceSurfaces,
} from './joined.ts';
export { bodiesOf, bodiesOn, coversOver, type Body } from './building.ts';
export { enclosedBy, meshOf, surfaceOf, type Mesh } from './mesh.ts';
export { sceneOf, type Scene, type SceneElement, type SceneGroup } from './scene.ts';
export type { Cover } from './under-roof.ts';
export { wallBlocks } from './wall-blocks.ts';
export { seenFrom, seenFromOutlook, seenOfSurfaces, type Seen, type SeenLine } from './seen.ts';
