import { ofType, TRACED_TYPES, type Entity, type EntityType, type Model } from '@calque/core/model';

/** What is drawn by lines alone has no part in a building, and may be most of a project. */
const DRAWN_ALONE: ReadonlySet<string> = new Set([
  'line',
  'arc',
  'path',
  'spline',
  'dimension',
  'gridLine',
  'constructionLine',
]);

const NEEDED: readonly EntityType[] = [
  'settings',
  'storey',
  'plane',
  'layer',
  'wallType',
  'assembly',
  'underlay',
  ...TRACED_TYPES.filter((t) => !DRAWN_ALONE.has(t)),
];

/** All of a project that solids, takeoff and building models are made of: what workers are sent. */
export const buildingEntities = (model: Model): Entity[] =>
  NEEDED.flatMap((t): readonly Entity[] => ofType(model, t));
