import { coresOf, cutWalls, ownBodies } from '../building/index.ts';
import { raised, type Block } from '../geometry/index.ts';
import { looseKind, type Loose } from '../kinds/index.ts';
import {
  looseElements,
  ofType,
  roofShape,
  storeysOf,
  type Model,
  type PlaneEntity,
  type Roof,
  type Storey,
  type Wall,
  type WorkPlane,
} from '../model/index.ts';
import { frameOf } from '../planes/index.ts';
import { joinedFrame } from '../framing/index.ts';
import { meshOfBars } from './bars.ts';
import { memberBody, ownBody } from './joined.ts';
import { meshOf, type Mesh } from './mesh.ts';
import { wallBlocks } from './wall-blocks.ts';
import type { Cover } from './under-roof.ts';

/** An element as a solid. */
export interface Body {
  element: Loose;
  /** What it is drawn on. */
  on: PlaneEntity;
  /** What it is made of above the level of its storey; nothing for what is made of bars. */
  blocks: readonly Block[];
  /** So much is to be added to the heights of its surface, millimetres: the level of its storey. */
  lift: number;
  /** Its surface with its edges. */
  mesh(): Mesh;
}

/** All roofs as what covers a storey, above its floor: of its own and of those above. */
export function coversOver(model: Model, storey: Storey): Cover[] {
  return storeysOf(model)
    .filter((s) => s.elevation >= storey.elevation)
    .flatMap((s) =>
      looseElements(model, s.id)
        .filter((e): e is Roof => e.type === 'roof')
        .flatMap((roof) => {
          const shape = roofShape(roof);
          return 'why' in shape
            ? []
            : shape.faces.map(({ ring, surface }): Cover => ({
                ring,
                underside: raised(surface, s.elevation - storey.elevation - roof.thickness),
              }));
        }),
    );
}

/** What stands on a storey as solids: walls cut to one another, with their openings, and all that is a solid by itself. */
export function bodiesOn(model: Model, storey: Storey): Body[] {
  const elements = looseElements(model, storey.id),
    walls = elements.filter((e): e is Wall => e.type === 'wall'),
    own = ownBodies(walls, cutWalls(walls), coresOf(model)),
    covers = walls.some((w) => w.underRoof) ? coversOver(model, storey) : [];
  return elements.flatMap((element): Body[] => {
    const blocks =
      element.type === 'wall'
        ? wallBlocks(element, own.get(element.id) ?? [], covers)
        : looseKind(element).blocks(element);
    return blocks.length > 0
      ? [{ element, on: storey, blocks, lift: storey.elevation, mesh: () => meshOf(blocks) }]
      : barBody(model, element, storey);
  });
}

/** What is made of bars, where it stands in the model. */
function barBody(model: Model, element: Loose, on: PlaneEntity): Body[] {
  if (element.type === 'member') {
    const mesh = memberBody(joinedFrame(model), element, on);
    return mesh ? [{ element, on, blocks: [], lift: 0, mesh }] : [];
  }
  if (element.type === 'plate' || element.type === 'bolts') {
    const mesh = ownBody(joinedFrame(model), element.id);
    return mesh ? [{ element, on, blocks: [], lift: 0, mesh }] : [];
  }
  const bars = looseKind(element).bars?.(element) ?? [];
  return bars.length > 0
    ? [{ element, on, blocks: [], lift: 0, mesh: () => meshOfBars(bars, frameOf(on)) }]
    : [];
}

/** What stands on an upright plane, or any that is no storey: what is made of bars. */
export const bodiesOnPlane = (model: Model, plane: WorkPlane): Body[] =>
  looseElements(model, plane.id).flatMap((e) => barBody(model, e, plane));

/** All that stands on all storeys and planes. */
export const bodiesOf = (model: Model): Body[] => [
  ...storeysOf(model).flatMap((s) => bodiesOn(model, s)),
  ...ofType(model, 'plane').flatMap((p) => bodiesOnPlane(model, p)),
];
