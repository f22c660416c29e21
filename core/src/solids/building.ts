import { cutWalls, ownBodies } from '../building/index.ts';
import { raised, type Block } from '../geometry/index.ts';
import { looseKind, type Loose } from '../kinds/index.ts';
import {
  looseElements,
  roofShape,
  storeysOf,
  type Model,
  type Roof,
  type Storey,
  type Wall,
} from '../model/index.ts';
import { wallBlocks } from './wall-blocks.ts';
import type { Cover } from './under-roof.ts';

/** An element as a solid: what it is made of, above the level of its storey. */
export interface Body {
  element: Loose;
  storey: Storey;
  blocks: readonly Block[];
}

/** All roofs as what covers the walls of a storey: of its own and of those above. */
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
    own = ownBodies(walls, cutWalls(walls)),
    covers = walls.some((w) => w.underRoof) ? coversOver(model, storey) : [];
  return elements.flatMap((element): Body[] => {
    const blocks =
      element.type === 'wall'
        ? wallBlocks(element, own.get(element.id) ?? [], covers)
        : looseKind(element).blocks(element);
    return blocks.length > 0 ? [{ element, storey, blocks }] : [];
  });
}

/** All that stands on all storeys. */
export const bodiesOf = (model: Model): Body[] => storeysOf(model).flatMap((s) => bodiesOn(model, s));
