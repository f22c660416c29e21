import * as yup from 'yup';
import { withoutLevels } from './standing.ts';
import { OPENING_KINDS, type Loose, type OpeningKind } from '../kinds/index.ts';
import { finite, id, name, positive } from '../kinds/fields.ts';
import { soundName } from '../texts/index.ts';
import type { Assembly, WallType } from './entities.ts';
import { ofType, type Model } from './model.ts';
import { parseEntity, soundEntity, LONGEST_TEXT } from './schema/index.ts';

/** An opening as it is usually made, for those to come; millimetres, a width of null is as the plan has it. */
export interface UsualOpening {
  type: 'opening';
  id: string;
  name: string;
  kind: OpeningKind;
  width: number | null;
  sill: number;
  head: number;
}

/** What is kept for all projects: each whole in itself, naming nothing of a project. */
export type ShelfThing = WallType | Assembly | UsualOpening;
/** What of a project can be put on the shelf, and came from it. */
export type Shelved = WallType | Assembly;

const OPENING = yup
  .object({
    type: yup.string().oneOf(['opening']).required(),
    id: id(),
    name: name(),
    kind: yup
      .string()
      .oneOf([...OPENING_KINDS])
      .required(),
    width: positive().nullable(),
    sill: finite().min(0),
    head: positive(),
  })
  .noUnknown()
  .strict()
  .test('heights', 'the sill of the opening lies above its head', (o) => o.sill < o.head);

/** A thing of the shelf that came from outside, made sound; throws yup's ValidationError with words. */
export function parseShelfThing(value: unknown): ShelfThing {
  const type = (value as { type?: unknown } | null)?.type;
  if (type === 'opening') {
    const given = value as UsualOpening,
      sound =
        typeof given.name === 'string' ? { ...given, name: soundName(given.name, LONGEST_TEXT) } : given;
    return OPENING.validateSync(sound, { strict: true }) as UsualOpening;
  }
  if (type !== 'wallType' && type !== 'assembly')
    throw new yup.ValidationError('Wall types, groups and openings can be kept on the shelf, nothing else.');
  return bare(parseEntity(soundEntity(value as WallType)) as Shelved);
}

/** Without what is another project's: layers, sheets, wall types, the place on the shelf, a group's being open. */
function bare(thing: Shelved): Shelved {
  if (thing.type === 'wallType')
    return { type: 'wallType', id: thing.id, name: thing.name, layers: thing.layers };
  return { type: 'assembly', id: thing.id, name: thing.name, elements: thing.elements.map(elementAlone) };
}

function elementAlone(e: Loose): Loose {
  const { layerId: _layer, done: _done, part: _part, ...rest } = e,
    alone = { ...rest, source: { ...e.source, underlayId: null } } as Loose;
  if (alone.type !== 'wall') return alone;
  const wall = withoutLevels(alone, { ...alone, base: null }, () => true);
  return wall.wallType ? { ...wall, wallType: null } : wall;
}

/** What of a project is put on the shelf: at its place there, or at a new one. */
export const forShelf = (thing: Shelved, freshId: string): Shelved => ({
  ...bare(thing),
  id: thing.shelfId ?? freshId,
});

/** Are two the same but for their ids and names? What is in a project differs from the shelf where they are not. */
export function isSameThing(a: ShelfThing, b: ShelfThing): boolean {
  const plain = (thing: ShelfThing) =>
    JSON.stringify({ ...(thing.type === 'opening' ? thing : bare(thing)), id: '', name: '' }, sortedKeys);
  return plain(a) === plain(b);
}
/** Fields in the order of their names: a database keeps none. */
function sortedKeys(_key: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, v]) => v !== undefined && v !== null)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
}

/** What of a project came from a place of the shelf; null where nothing did. */
export const fromShelf = (model: Model, thing: ShelfThing): Shelved | null =>
  thing.type === 'opening'
    ? null
    : ((ofType(model, thing.type) as readonly Shelved[]).find((e) => e.shelfId === thing.id) ?? null);

/** A thing of the shelf as it is taken into a project: with an id and a name of its own there. */
export function intoProject(model: Model, thing: Shelved, freshId: string): Shelved {
  const taken = new Set((ofType(model, thing.type) as readonly Shelved[]).map((e) => e.name.toLowerCase()));
  let own = thing.name;
  for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${thing.name} ${n}`;
  return { ...bare(thing), id: freshId, name: own, shelfId: thing.id };
}
