import { invertTransform, translation, type Point, type Transform } from '../geometry/index.ts';
import { copiesOf, removeElements, rested, restingWithin } from './anchors.ts';
import { applyOrThrow, group, setFields, type Change } from './changes/index.ts';
import {
  looseKind,
  withMembers,
  type Bolts,
  type Loose,
  type Member,
  type Placed,
  type Plate,
  type Traced,
} from '../kinds/index.ts';
import { isTraced, type Assembly } from './entities.ts';
import { movedBy } from './moved.ts';
import { standingElement } from './standing.ts';
import { allTraced, get, ofType, tracedOn, type Model } from './model.ts';

/** Separates the id of a placed group from that of its element; no id of an entity has it. */
const WITHIN = '/';

/** The id of what can be picked for an element that is shown: of one within a placed group that group's. */
export const ownerId = (id: string): string => id.split(WITHIN, 1)[0];

const shown = new WeakMap<Placed, { of: Assembly; placed: Placed }>();

function placedShown(placed: Placed, model: Model): Placed {
  const of = get(model, 'assembly', placed.assemblyId);
  if (!of) return placed;
  const known = shown.get(placed);
  // Entities are never changed in place: the same two give the same elements.
  if (known?.of === of) return known.placed;
  const { id, planeId, layerId, done, placement } = placed;
  const own = (member: string) => `${id}${WITHIN}${member}`;
  const members = of.elements.map((e): Loose => {
    const member = {
      ...movedBy(e, placement),
      id: own(e.id),
      planeId,
      ...(!e.layerId && layerId && { layerId }),
      ...(done && { done }),
    };
    return looseKind(member).rests?.renamed(member, (a) => ({ ...a, id: own(a.id) })) ?? member;
  });
  const now = withMembers(placed, members);
  shown.set(placed, { of, placed: now });
  return now;
}

/** An element as it shows: a dimension with its points where what they rest on is now, a placed group with its elements. */
export function shownOf(e: Traced, model: Model): Traced {
  return e.type === 'placed' ? placedShown(e, model) : rested(e, model);
}

/** The elements that an element (as shownOf gives it) consists of: itself, or those of a placed group. */
export const looseOf = (e: Traced): readonly Loose[] => (e.type === 'placed' ? (e.members ?? []) : [e]);

/** All that has been traced, on one plane or on all, placed groups as their elements, walls as they stand. */
export function looseElements(model: Model, planeId?: string): Loose[] {
  const traced = planeId === undefined ? allTraced(model) : tracedOn(model, planeId);
  return traced.flatMap((e) => looseOf(shownOf(e, model))).map((e) => standingElement(model, e));
}

export const placedOf = (model: Model, assembly: Assembly): Placed[] =>
  ofType(model, 'placed').filter((p) => p.assemblyId === assembly.id);

/** The group that is being edited, if one is. */
export const openAssembly = (model: Model): Assembly | null =>
  ofType(model, 'assembly').find((a) => a.open) ?? null;

/** Elements as a group keeps them: about the point by which it is placed, dimensions resting on one another alone, no group within it. */
function keptElements(elements: readonly Traced[], base: Transform, model: Model): Loose[] {
  const loose = elements.flatMap((e) => looseOf(shownOf(e, model)));
  const ids = new Map(loose.map((e) => [e.id, keptId(e.id)]));
  return loose.map((e): Loose => {
    const { part: _, done: __, ...rest } = movedBy(e, base);
    const kept = { ...rest, id: ids.get(e.id)! } as Loose;
    return restingWithin(kept, ids);
  });
}

/** What of a placed group has another id within it. */
const keptId = (id: string): string => id.replaceAll(WITHIN, '_').slice(-64);

/** Members, plates and bolts beside those that meet, hold or are welded to some of them, told what these are called from now on. */
function rejoined(model: Model, names: ReadonlyMap<string, string>): Change | null {
  return group([
    ...[...ofType(model, 'plate'), ...ofType(model, 'bolts')].map((e) => {
      const of = e.type === 'plate' ? e.weldedTo : e.of,
        now = names.has(e.id) || of === null ? undefined : names.get(of);
      if (now === undefined) return null;
      return e.type === 'plate' ? setFields<Plate>(e, { weldedTo: now }) : setFields<Bolts>(e, { of: now });
    }),
    ...ofType(model, 'member').map((m) => {
      const meets = [...(m.joints ?? []), ...(m.cleats ?? [])].some((j) => j.to !== null && names.has(j.to));
      if (names.has(m.id) || !meets) return null;
      return setFields<Member>(m, {
        ...(m.joints && {
          joints: m.joints.map((j) => ({ ...j, to: (j.to !== null && names.get(j.to)) || j.to })),
        }),
        ...(m.cleats && { cleats: m.cleats.map((c) => ({ ...c, to: names.get(c.to) ?? c.to })) }),
      });
    }),
  ]);
}

/** Members that meet some elements, told that these lie within a placed group from now on. */
function metWithin(
  model: Model,
  elements: readonly Traced[],
  placed: Placed | string,
): { rejoin: Change | null; after: Model } {
  const id = typeof placed === 'string' ? placed : placed.id,
    names = new Map(
      elements.flatMap((e) => looseOf(shownOf(e, model))).map((e) => [e.id, `${id}${WITHIN}${keptId(e.id)}`]),
    ),
    rejoin = rejoined(model, names);
  return { rejoin, after: rejoin ? applyOrThrow(model, rejoin) : model };
}

/** Makes a group of elements, placed where they are; `base` is the point by which it will be placed elsewhere. */
export function makeAssembly(
  model: Model,
  elements: readonly Traced[],
  given: { id: string; placedId: string; name: string; base: Point },
): Change | null {
  const [first] = elements;
  if (!first) return null;
  const [x, y] = given.base;
  const assembly: Assembly = {
    type: 'assembly',
    id: given.id,
    name: given.name,
    elements: keptElements(elements, translation(-x, -y), model),
  };
  const placed: Placed = {
    type: 'placed',
    id: given.placedId,
    planeId: first.planeId,
    source: first.source,
    assemblyId: given.id,
    placement: [1, 0, 0, 1, x, y],
  };
  const { rejoin, after } = metWithin(model, elements, given.placedId);
  return group([
    { type: 'add', entity: assembly },
    rejoin,
    removeElements(after, elements),
    { type: 'add', entity: placed },
  ]);
}

/** Puts the elements of a placed group in its place, free or as parts of the group that is being edited. */
function laidOut(
  model: Model,
  placed: Placed,
  newId: () => string,
  part?: string,
): { change: Change | null; elements: Loose[] } {
  const shown = looseOf(shownOf(placed, model)),
    elements = copiesOf(shown, newId, model).map((e): Loose => (part ? { ...e, part } : e)),
    names = new Map(shown.map((e, i) => [e.id, elements[i].id]));
  return {
    change: group([
      rejoined(model, names),
      removeElements(model, [placed]),
      ...elements.map((entity): Change => ({ type: 'add', entity })),
    ]),
    elements,
  };
}

/** Takes one placed group apart; the others and the group itself stay. */
export const takenApart = (model: Model, placed: Placed, newId: () => string): ReturnType<typeof laidOut> =>
  laidOut(model, placed, newId);

/** Opens a group for editing where it is placed: its elements lie among the others, marked as its parts. */
export function openedAssembly(
  model: Model,
  placed: Placed,
  newId: () => string,
): { change: Change | null; elements: Loose[] } | null {
  const assembly = get(model, 'assembly', placed.assemblyId);
  if (!assembly) return null;
  // They keep the ids that they have within the group, where nothing else has these: others that meet them in its other places know them by these.
  const within = looseOf(shownOf(placed, model)).map((e) => e.id.slice(placed.id.length + 1));
  let i = 0;
  const ownId = (): string => {
    const own = within[i++];
    return model.has(own) ? newId() : own;
  };
  const { change, elements } = laidOut(model, placed, ownId, assembly.id);
  return { change: group([change, setFields(assembly, { open: { placed } })]), elements };
}

/** The elements that are parts of the group being edited. */
export function partsOf(model: Model, assembly: Assembly): Loose[] {
  const out: Loose[] = [];
  for (const e of model.values())
    if (isTraced(e) && e.type !== 'placed' && e.part === assembly.id) out.push(e);
  return out;
}

/** Ends editing: what is part of the group now is what it consists of, wherever it is placed. Null where nothing is left of it. */
export function closedAssembly(model: Model, assembly: Assembly): Change | null {
  const parts = partsOf(model, assembly),
    { open } = assembly;
  if (parts.length === 0 || !open) return null;
  const { rejoin, after } = metWithin(model, parts, open.placed);
  return group([
    rejoin,
    removeElements(after, parts),
    setFields(assembly, {
      elements: keptElements(parts, invertTransform(open.placed.placement), model),
      open: null,
    }),
    { type: 'add', entity: open.placed },
  ]);
}

/** Ends editing and leaves the group as it was. */
export function leftAssembly(model: Model, assembly: Assembly): Change | null {
  if (!assembly.open) return null;
  const { placed } = assembly.open,
    parts = partsOf(model, assembly),
    { rejoin, after } = metWithin(model, parts, placed);
  return group([
    rejoin,
    removeElements(after, parts),
    setFields(assembly, { open: null }),
    { type: 'add', entity: placed },
  ]);
}

/** Removes a group; wherever it is placed its elements stay, free. */
export function removedAssembly(model: Model, assembly: Assembly, newId: () => string): Change | null {
  return group([
    ...placedOf(model, assembly).map((p) => laidOut(model, p, newId).change),
    { type: 'remove', entity: assembly },
  ]);
}
