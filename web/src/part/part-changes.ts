import {
  group,
  ofType,
  setFields,
  tracedOn,
  type Change,
  type Entity,
  type Feature,
  type FeatureForm,
  type Model,
  type Part,
  type PlaneEntity,
  type WorkPlane,
} from '@calque/core/model';
import { featuresOf, partPlanes, rulesOn } from '@calque/core/part';

/** The planes that a part begins with, as views of a sheet are: looked at from the front, from above, from its right. */
const FIRST_PLANES = [
  { name: 'front', across: [1, 0, 0], up: [0, 0, 1] },
  { name: 'top', across: [1, 0, 0], up: [0, 1, 0] },
  { name: 'side', across: [0, 1, 0], up: [0, 0, 1] },
] as const;
/** What is shown of a plane on which nothing lies yet, millimetres. */
const SHOWN = 200;

export const partsOf = (model: Model): Part[] => ofType(model, 'part');

/** The part whose plane is in hand. */
export const partOf = (plane: PlaneEntity | null, model: Model): Part | null =>
  plane?.type === 'plane' && plane.partId
    ? (partsOf(model).find((p) => p.id === plane.partId) ?? null)
    : null;

export function freePartName(model: Model): string {
  const taken = new Set(partsOf(model).map((p) => p.name));
  for (let n = 1; ; n++) if (!taken.has(`Part ${n}`)) return `Part ${n}`;
}

/** A new part with its first planes. */
export function newPart(
  name: string,
  newId: () => string,
): { change: Change; part: Part; planes: WorkPlane[] } {
  const part: Part = {
    type: 'part',
    id: newId(),
    name,
    material: 'Steel S235JR',
    density: 7850,
    way: 'milling',
    pieces: 1,
  };
  const planes = FIRST_PLANES.map((p): WorkPlane => ({
    type: 'plane',
    id: newId(),
    name: `${name}: ${p.name}`,
    role: 'face',
    origin: [0, 0, 0],
    across: [...p.across],
    up: [...p.up],
    width: SHOWN,
    height: SHOWN,
    partId: part.id,
  }));
  return {
    change: { type: 'group', changes: [part, ...planes].map((entity) => ({ type: 'add', entity })) },
    part,
    planes,
  };
}

/** A feature behind all others of its part. */
export function addedFeature(
  model: Model,
  partId: string,
  form: FeatureForm,
  newId: () => string,
  said = '',
): Feature {
  const last = featuresOf(model, partId).at(-1);
  return {
    type: 'feature',
    id: newId(),
    partId,
    order: (last?.order ?? 0) + 1,
    name: said,
    off: false,
    form,
  };
}

/** One place up or down among the features of its part; null where there is none. */
export function movedFeature(model: Model, feature: Feature, by: -1 | 1): Change | null {
  const all = featuresOf(model, feature.partId),
    at = all.findIndex((f) => f.id === feature.id),
    other = all[at + by];
  if (!other) return null;
  return group([
    setFields<Feature>(feature, { order: other.order }),
    setFields<Feature>(other, { order: feature.order === other.order ? other.order - by : feature.order }),
  ]);
}

/** What stands on the sheets that are laid on a part's planes: known dimensions, calibrations as they were. */
function ofSheets(model: Model, partId: string): Entity[] {
  const planes = new Set(partPlanes(model, partId).map((p) => p.id)),
    sheets = new Set(
      ofType(model, 'underlay')
        .filter((u) => planes.has(u.planeId))
        .map((u) => u.id),
    );
  return [...ofType(model, 'check'), ...ofType(model, 'calibration')].filter((e) => sheets.has(e.underlayId));
}

/** All of a part with its features and planes, which nothing else may lie on. */
export const withoutPart = (model: Model, part: Part): Change => ({
  type: 'group',
  changes: [
    ...featuresOf(model, part.id),
    ...ofSheets(model, part.id),
    ...partPlanes(model, part.id).flatMap((plane) => [
      ...[...model.values()].filter((e) => 'planeId' in e && e.planeId === plane.id),
      plane,
    ]),
    part,
  ].map((entity): Change => ({ type: 'remove', entity })),
});

/** All that a part is made of: itself, its planes, features, rules and what is drawn on its planes. */
export function partEntities(model: Model, partId: string): Entity[] {
  const planes = partPlanes(model, partId);
  return [
    ...partsOf(model).filter((p) => p.id === partId),
    ...planes,
    ...featuresOf(model, partId),
    ...planes.flatMap((p) => [...rulesOn(model, p.id), ...tracedOn(model, p.id)]),
  ];
}
