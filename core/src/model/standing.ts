import type { AtLevel, Loose, Wall } from '../kinds/index.ts';
import { group, setFields, type Change } from './changes/index.ts';
import type { Assembly, Storey } from './entities.ts';
import { get, ofType, storeysOf, type Model } from './model.ts';

/** A wall less high than this, millimetres, is none: what its levels leave of it. */
const LEAST_HEIGHT = 1;

/** How a wall stands: its foot above the floor of its storey and its height above its foot, millimetres. */
export interface Standing {
  foot: number;
  height: number;
  heightAssumed: boolean;
  /** Why a level that it names does not hold, in words; null where all do. */
  doubt: string | null;
}

type Levels = Pick<Wall, 'planeId' | 'base' | 'top' | 'height' | 'heightAssumed'>;

/** Where a wall's foot and top lie by the levels that it names, as those are now. A level that is gone does not hold: then its floor and its own height do. */
export function standingOf(model: Model, wall: Levels): Standing {
  const own = get(model, 'storey', wall.planeId),
    { base, top } = wall,
    doubts: string[] = [];
  const levelOf = ({ storeyId, offset }: AtLevel, ownLevel: (s: Storey) => number): number | null => {
    const storey = storeyId === null ? own : get(model, 'storey', storeyId);
    if (!own || !storey) return null;
    return (storeyId === null ? ownLevel(own) : storey.elevation) - own.elevation + offset;
  };
  let foot = 0,
    { height, heightAssumed } = wall;
  if (base) {
    const at = levelOf(base, (s) => s.elevation);
    if (at === null) doubts.push('the level of its foot is not there: it stands on the floor');
    else foot = at;
  }
  if (top) {
    const at = levelOf(top, (s) => s.elevation + s.height);
    if (at === null) doubts.push('the level of its top is not there: its own height holds');
    else if (at - foot < LEAST_HEIGHT) doubts.push('its top lies below its foot: its own height holds');
    else {
      height = at - foot;
      heightAssumed = !!own && restsOnAssumed(model, own, top);
    }
  }
  return { foot, height, heightAssumed, doubt: doubts.join('; ') || null };
}

/** Does the level of a top rest on the height of a storey that nobody has confirmed? */
function restsOnAssumed(model: Model, own: Storey, { storeyId }: AtLevel): boolean {
  if (storeyId === null) return own.heightAssumed;
  const level = get(model, 'storey', storeyId)?.elevation ?? -Infinity;
  return storeysOf(model).some((s) => s.heightAssumed && s.elevation >= own.elevation && s.elevation < level);
}

const stood = new WeakMap<Wall, Wall>();

/** A wall as it stands: its height that of its levels, its base, if any, above the floor of its own storey. */
export function standing(model: Model, wall: Wall): Wall {
  if (!wall.base && !wall.top) return wall;
  const { foot, height, heightAssumed } = standingOf(model, wall),
    own = get(model, 'storey', wall.planeId),
    known = stood.get(wall);
  // The same wall for the same heights, so that what follows from it is known again.
  if (
    known?.height === height &&
    footOf(known) === foot &&
    known.heightAssumed === heightAssumed &&
    known.top?.offset === (wall.top && own ? foot + height - own.height : undefined)
  )
    return known;
  const now: Wall = {
    ...wall,
    base: foot === 0 ? null : { storeyId: null, offset: foot },
    // Still by a level, that of its own storey.
    top: wall.top && own ? { storeyId: null, offset: foot + height - own.height } : null,
    height,
    heightAssumed,
  };
  stood.set(wall, now);
  return now;
}

/** The foot of a wall as it stands above the floor of its storey, millimetres. */
export const footOf = ({ base }: Pick<Wall, 'base'>): number => base?.offset ?? 0;

/** The top of a wall as it stands by its own height above the floor of its storey, millimetres. */
export const topOf = (wall: Pick<Wall, 'base' | 'height'>): number => footOf(wall) + wall.height;

export const standingElement = (model: Model, e: Loose): Loose =>
  e.type === 'wall' ? standing(model, e) : e;

/** What makes a wall go up to the roof over it, in place of a level; where none is it is as high as it stands. */
export const toRoof = (model: Model, wall: Wall): Partial<Wall> => {
  const { height, heightAssumed } = standingOf(model, wall);
  return { underRoof: true, ...(wall.top && { top: null, height, heightAssumed }) };
};

/** Takes a storey away on which nothing lies; walls that name its level stay as high as they stand. */
export function withoutStorey(model: Model, storey: Storey): Change | null {
  const own = (w: Wall): Wall => withoutLevels(w, standing(model, w), (id) => id === storey.id);
  return group([
    ...ofType(model, 'wall').map((w) => {
      const { base, top, height } = own(w);
      return setFields<Wall>(w, { base, top, height });
    }),
    // Elements of a group stand on no storey by themselves: their own heights hold.
    ...ofType(model, 'assembly').map((a) =>
      setFields<Assembly>(a, {
        elements: a.elements.map((e) =>
          e.type === 'wall' ? withoutLevels(e, { ...e, base: null }, (id) => id === storey.id) : e,
        ),
      }),
    ),
    { type: 'remove', entity: storey },
  ]);
}

/** A wall that was copied elsewhere, on a storey of this project: of levels that are not here its height stays. */
export function pastedWall(model: Model, wall: Wall, planeId: string): Wall {
  const known = withoutLevels(wall, { ...wall, base: null }, (id) => !get(model, 'storey', id));
  return onOtherStorey(model, known, planeId);
}

/** A wall without the levels of storeys that are to go, or are not in the project it comes to: as high as it stands. */
export function withoutLevels(wall: Wall, standsAs: Wall, goes: (storeyId: string) => boolean): Wall {
  const gone = (at: AtLevel | null | undefined) => !!at && at.storeyId !== null && goes(at.storeyId);
  if (!gone(wall.base) && !gone(wall.top)) return wall;
  return {
    ...wall,
    base: gone(wall.base) ? (standsAs.base ?? null) : wall.base,
    top: gone(wall.top) ? null : wall.top,
    height: standsAs.height,
  };
}

/** A wall on another storey of the project: the levels that it names lie as many storeys from it as before; where there is none, its height holds. */
export function onOtherStorey(model: Model, wall: Wall, planeId: string): Wall {
  const moved = { ...wall, planeId },
    storeys = storeysOf(model),
    from = storeys.findIndex((s) => s.id === wall.planeId),
    to = storeys.findIndex((s) => s.id === planeId);
  if (from < 0 || to < 0 || from === to) return moved;
  const stands = standing(model, wall);
  const shifted = (at: AtLevel | null | undefined): AtLevel | null | undefined => {
    if (!at || at.storeyId === null) return at;
    const rank = storeys.findIndex((s) => s.id === at.storeyId),
      storey = rank < 0 ? undefined : storeys[rank + to - from];
    return storey ? { ...at, storeyId: storey.id } : undefined;
  };
  const base = shifted(wall.base),
    top = shifted(wall.top);
  return {
    ...moved,
    ...(wall.base && { base: base ?? stands.base ?? null }),
    ...(wall.top && { top: top ?? null }),
    ...((wall.base || wall.top) && { height: stands.height }),
  };
}
