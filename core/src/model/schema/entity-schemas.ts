import * as yup from 'yup';
import { isSoundText } from '../../texts/index.ts';
import { UNIT_SYSTEMS } from '../../units/index.ts';
import { TRACED_TYPES } from '../../kinds/index.ts';
import { SETTINGS_ID, type Entity, type EntityType } from '../entities.ts';
import { body, bounded, bulges, colour, count, finite, flag, id, LONGEST_KEY, name, note, numbers, page, pair, placement, points, positive, switchKey } from './fields.ts';
import { quickCheck } from '../quick-check.ts';

/** Does a check pass? Its words tell what of an element is wrong, not where in the group. */
function passes(check: () => boolean): boolean {
  try {
    return check();
  } catch {
    return false;
  }
}
/** A test of several fields together: of what is no such thing at all it says no, whatever is missing in it. */
const sure = <T>(test: (value: T) => boolean) => (value: T): boolean => passes(() => test(value));

const apart = (v: { from?: number[]; to?: number[] }) => Math.hypot((v.to?.[0] ?? 0) - (v.from?.[0] ?? 0), (v.to?.[1] ?? 0) - (v.from?.[1] ?? 0)) > 1e-9;

const source = yup.object({
  underlayId: id().nullable().defined() as yup.StringSchema<string | null>,
  sheet: note().nullable().optional().default(undefined),
  ends: yup.string().oneOf(['snapped', 'free', 'typed', 'mixed']).required(),
  thickness: yup.string().oneOf(['typed', 'measured']).required(), ink: yup.boolean().strict().optional().default(undefined),
}).noUnknown().strict();

const MODELS = ['uniform', 'directional', 'affine'] as const;
const calibration = yup.object({
  from: pair(), to: pair(), trueLength: positive(), oldLength: positive(), factor: positive(), typed: note(),
  fit: yup.object({
    model: yup.string().oneOf([...MODELS]).required(), wanted: yup.string().oneOf(['auto', ...MODELS]).required(), fitted: count(1),
    tenMetres: finite().min(0), across: finite().min(0),
  }).noUnknown().strict().nullable().optional().default(undefined),
  against: yup.object({ kind: yup.string().oneOf(['dimensions', 'bar', 'note']).required(), count: count(1), factor: positive() }).noUnknown().strict().nullable().optional().default(undefined),
}).noUnknown().strict();
const scaleState = () => yup.string().oneOf(['paper', 'stated', 'own', 'calibrated']).required();
const known = {
  id: id(), from: pair(), to: pair(), printed: positive(), typed: note(),
  use: yup.string().oneOf(['fit', 'check']).optional(), sigma: yup.array().of(finite().min(0)).length(2).optional().default(undefined), spread: bounded().min(0).optional(),
  origin: yup.string().oneOf(['picked', 'read', 'recognised', 'assumed']).optional(),
};
/** More known dimensions than a sheet could print. */
const MOST_KNOWN = 5000;

const KINDS = ['line', 'curve', 'hatch', 'fill', 'text', 'dimension', 'picture', 'markup'] as const;
/** More switches than a sheet could have layers or pens. */
const MOST_SWITCHES = 5000;
const keys = () => yup.array().of(switchKey()).required().max(MOST_SWITCHES);
const switches = yup.object({
  layers: yup.mixed<Record<string, boolean>>().required().meta({ makeKeysSound: true }).test('layers', '${path} must hold true or false for each layer', (v) => typeof v === 'object' && v !== null && !Array.isArray(v)
    && Object.keys(v).length <= MOST_SWITCHES && Object.entries(v).every(([key, on]) => key.length <= LONGEST_KEY && isSoundText(key) && typeof on === 'boolean')),
  kinds: yup.array().of(yup.string().oneOf([...KINDS]).required()).required().max(KINDS.length), pens: keys(), authors: keys(), markupKinds: keys(),
}).noUnknown().strict();
const look = yup.object({
  paper: flag(), tint: colour().nullable().defined(), linesOnly: flag(), frame: flag(), inFront: flag(), switches,
}).noUnknown().strict();
const MOST_CORNERS = 1000;

/** More doors and windows than a wall has. */
const MOST_OPENINGS = 1000;
/** More rings than an area has. */
const MOST_RINGS = 1000;
const drawn = { id: id(), storeyId: id(), source, layerId: id().nullable().optional().default(undefined) as yup.StringSchema<string | null | undefined>, done: yup.boolean().strict().nullable().optional().default(undefined), part: id().nullable().optional().default(undefined) as yup.StringSchema<string | null | undefined> };
const dash = yup.array().of(positive()).min(2).max(12).nullable().optional().default(undefined);
/** A closed path needs an area: three corners, or two with a bend between them. */
const closes = (v: { points?: unknown[]; bulges?: (number | undefined)[] }) => (v.points?.length ?? 0) >= 3 || ((v.points?.length ?? 0) === 2 && (v.bulges ?? []).some((b) => b !== 0));
const stretches = (v: { points?: unknown[]; bulges?: unknown[]; closed?: boolean }) => v.bulges?.length === (v.points?.length ?? 0) - (v.closed === false ? 1 : 0);
const anchor = yup.object({ id: id(), grip: count(0) }).noUnknown().strict().nullable().defined();
const POINTS_OF = { aligned: 2, horizontal: 2, vertical: 2, radius: 2, angle: 3 } as const;
const TURN = 2 * Math.PI + 1e-9;

/** More elements than a group to be placed many times has. */
export const LARGEST_ASSEMBLY = 20000;
const elements = () => yup.mixed<unknown[]>().required().meta({ holdsEntities: true }).test('elements', `\${path} must be 1 to ${LARGEST_ASSEMBLY} traced elements, no groups among them`, (v) => Array.isArray(v) && v.length > 0 && v.length <= LARGEST_ASSEMBLY
  && v.every((e) => passes(() => { const { type } = parseEntity(e); return type !== 'placed' && (TRACED_TYPES as readonly string[]).includes(type); })));

const SCHEMAS = {
  settings: yup.object({
    id: id(), name: name(), units: yup.string().oneOf([...UNIT_SYSTEMS]).required(), precision: yup.number().strict().integer().min(0).max(64).required(),
    grid: yup.object({ origin: pair(), angle: finite(), across: positive(), up: positive(), shown: flag() }).noUnknown().strict().nullable().optional().default(undefined),
  }),
  storey: yup.object({ id: id(), name: name(), elevation: finite(), height: positive(), heightAssumed: flag() }),
  underlay: yup.object({
    id: id(), name: name(), fileId: id(), page: page(), storeyId: id(),
    crop: numbers(4).test('crop', 'the crop is empty', (c) => !c || (c[2] > c[0] && c[3] > c[1])),
    placement: placement(),
    scaleState: scaleState(),
    calibration: calibration.nullable().defined(), visible: flag(), fade: finite().min(0).max(1), locked: flag(), snap: flag(), order: finite(),
    former: yup.object({ fileId: id(), page: page() }).noUnknown().strict().nullable().optional().default(undefined),
    outline: yup.array().of(pair()).min(3).max(MOST_CORNERS).nullable().optional(), look: look.nullable().optional().default(undefined),
    straightened: yup.object({ across: finite().min(0) }).noUnknown().strict().nullable().optional().default(undefined),
  }),
  check: yup.object({ ...known, underlayId: id() }),
  calibration: yup.object({
    id: id(), underlayId: id(), number: count(1), at: yup.string().strict().required().max(40).matches(/^[ -~]*$/, '${path} is not a time'), label: name(), by: note().optional(), placement: placement(), scaleState: scaleState(),
    calibration: calibration.nullable().defined(), known: yup.array().of(yup.object(known).noUnknown().strict()).required().max(MOST_KNOWN),
  }),
  wall: yup.object({
    ...drawn, from: pair(), to: pair(), thickness: positive(), alignment: yup.string().oneOf(['centre', 'left', 'right']).required(),
    height: positive(), heightAssumed: flag(),
    openings: yup.array().of(yup.object({ from: pair(), to: pair() }).noUnknown().strict()).max(MOST_OPENINGS).nullable().optional().default(undefined),
  }).test('length', 'the wall has no length', sure(apart)),
  look: yup.object({ id: id(), name: name(), switches }),
  usualSize: yup.object({ id: id(), name: name(), millimetres: positive(), spread: positive() }),
  sheetName: yup.object({ id: id(), fileId: id(), page: page(), number: note(), title: note() }),
  tick: yup.object({ id: id(), fileId: id(), page: page(), annotation: count(0) }),
  line: yup.object({ ...drawn, dash, from: pair(), to: pair() }).test('length', 'the line has no length', sure(apart)),
  gridLine: yup.object({ ...drawn, from: pair(), to: pair(), name: name() }).test('length', 'the grid line has no length', sure(apart)),
  arc: yup.object({ ...drawn, dash, centre: pair(), radius: positive(), start: finite(), sweep: positive().max(TURN) }),
  path: yup.object({ ...drawn, dash, points: points(2), bulges: bulges(), closed: flag() })
    .test('stretches', 'a path needs one bulge to each stretch', sure(stretches)).test('closed', 'a closed path needs three corners', sure((v) => !v.closed || closes(v))),
  spline: yup.object({ ...drawn, dash, controls: points(4) }).test('controls', 'a curve needs three control points for each piece and one more', sure((v) => v.controls.length % 3 === 1)),
  text: yup.object({ ...drawn, at: pair(), angle: finite(), height: positive(), text: body() }),
  dimension: yup.object({
    ...drawn, measures: yup.string().oneOf(['aligned', 'horizontal', 'vertical', 'radius', 'angle']).required(), points: points(2), on: yup.array().of(anchor).required().max(3), at: pair(), height: positive(),
  }).test('points', 'the dimension has not the points that it measures between', sure((v) => v.points.length === POINTS_OF[v.measures] && v.on.length === v.points.length)),
  area: yup.object({
    ...drawn, rings: yup.array().of(yup.object({ points: points(2), bulges: bulges() }).noUnknown().strict().test('ring', 'an outline needs three corners', sure((v) => closes(v) && stretches(v)))).required().min(1).max(MOST_RINGS),
    // An angle of null was written for an infinite one once; such areas still open.
    fill: yup.object({ kind: yup.string().oneOf(['none', 'solid', 'hatch']).required(), angle: bounded().nullable().optional(), spacing: bounded().moreThan(0).optional(), crossed: yup.boolean().strict().optional() }).noUnknown().strict()
      .test('hatch', 'a hatch needs its angle and spacing', sure((f) => f.kind !== 'hatch' || (f.angle !== undefined && f.spacing !== undefined && f.crossed !== undefined))),
    name: note(), figure: flag(),
  }),
  placed: yup.object({ ...drawn, assemblyId: id(), placement: placement() }),
  assembly: yup.object({
    id: id(), name: name(), elements: elements(),
    open: yup.mixed<{ placed: unknown }>().meta({ holdsPlaced: true }).nullable().optional().default(undefined).test('open', '${path} must hold the placed group', (v) => v === null || v === undefined || passes(() => parseEntity(v.placed).type === 'placed')),
  }),
  layer: yup.object({
    id: id(), name: name(), colour: colour().required(), lineType: yup.string().oneOf(['solid', 'dashed', 'dotted', 'dash-dot']).required(),
    weight: positive().max(10), visible: flag(), locked: flag(), fade: finite().min(0).max(1),
  }),
} as const;

export type EntitySchema = yup.ObjectSchema<yup.AnyObject>;

/** The schema of each type, whole: with its type, and nothing that is not named. */
export const ENTITY_SCHEMAS = Object.fromEntries(Object.entries(SCHEMAS).map(([type, schema]) => [type, (schema as unknown as EntitySchema)
  .shape({ type: yup.string().oneOf([type]).required() }).noUnknown().strict()])) as Record<string, EntitySchema> as Readonly<Record<EntityType, EntitySchema>>;
const QUICK = new Map(Object.entries(ENTITY_SCHEMAS).map(([type, schema]) => [type, quickCheck(schema)]));

/** What has been found sound: entities are never changed in place, so that a second look at one costs nothing. */
const sound = new WeakSet<object>();

/** Checks one entity that came from outside; throws yup's ValidationError with words. */
export function parseEntity(value: unknown): Entity {
  if (typeof value === 'object' && value !== null && sound.has(value)) return value as Entity;
  const type = (value as { type?: string } | null)?.type;
  const schema = typeof type === 'string' && Object.hasOwn(ENTITY_SCHEMAS, type) ? ENTITY_SCHEMAS[type as EntityType] : null;
  if (!schema) throw new yup.ValidationError(`There is no entity of the type ${String(JSON.stringify(type)).slice(0, 60)}.`);
  if (!QUICK.get(type!)!(value)) schema.validateSync(value, { strict: true });
  const entity = value as Entity;
  if ((entity.id === SETTINGS_ID) !== (entity.type === 'settings')) throw new yup.ValidationError('A project has one entity of settings, with the id "settings".');
  sound.add(entity);
  return entity;
}
