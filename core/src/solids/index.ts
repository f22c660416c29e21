export { boltBars, meshOfMember, ownBarsOf, type OwnBars } from './joined.ts';
export { bodiesOf, bodiesOn, coversOver, type Body } from './building.ts';
export { enclosedBy, meshOf, surfaceOf, type Mesh } from './mesh.ts';
export { sceneOf, type Scene, type SceneElement, type SceneGroup } from './scene.ts';
export type { Cover } from './under-roof.ts';
export { wallBlocks } from './wall-blocks.ts';
export { seenFrom, seenFromOutlook, type Seen, type SeenLine } from './seen.ts';
