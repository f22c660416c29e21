import * as yup from 'yup';
import { UNIT_SYSTEMS } from '../units/index.ts';
import type { Entity } from './entities.ts';
import type { Change } from './changes/index.ts';

/** Coordinates beyond this many millimetres (or points) are slips, not drawings. */
const FARTHEST = 1e9;
const LONGEST_TEXT = 200;

const finite = () => yup.number().strict().required().test('finite', '${path} must be a finite number', (v) => Number.isFinite(v) && Math.abs(v) <= FARTHEST);
const positive = () => finite().moreThan(0);
const id = () => yup.string().strict().required().matches(/^[A-Za-z0-9_-]{1,64}$/, '${path} is not an id');
const text = () => yup.string().strict().required().trim().max(LONGEST_TEXT);
const flag = () => yup.boolean().strict().required();
const numbers = (n: number) => yup.array().of(finite()).required().length(n);
const pair = () => numbers(2);

const apart = (v: { from?: number[]; to?: number[] }) => Math.hypot((v.to?.[0] ?? 0) - (v.from?.[0] ?? 0), (v.to?.[1] ?? 0) - (v.from?.[1] ?? 0)) > 1e-9;

const source = yup.object({
  underlayId: id().nullable().defined() as yup.StringSchema<string | null>,
  sheet: yup.string().strict().max(LONGEST_TEXT).nullable().optional().default(undefined),
  ends: yup.string().oneOf(['snapped', 'free', 'typed', 'mixed']).required(),
  thickness: yup.string().oneOf(['typed', 'measured']).required(), ink: yup.boolean().strict().optional().default(undefined),
}).noUnknown().strict();

const MODELS = ['uniform', 'directional', 'affine'] as const;
const calibration = yup.object({
  from: pair(), to: pair(), trueLength: positive(), oldLength: positive(), factor: positive(), typed: yup.string().strict().defined().max(LONGEST_TEXT),
  fit: yup.object({
    model: yup.string().oneOf([...MODELS]).required(), wanted: yup.string().oneOf(['auto', ...MODELS]).required(), fitted: yup.number().strict().integer().min(1).required(),
    tenMetres: finite().min(0), across: finite().min(0),
  }).noUnknown().strict().nullable().optional().default(undefined),
}).noUnknown().strict();
const placement = () => numbers(6).test('placement', 'the placement has no area', (p) => !p || Math.abs(p[0] * p[3] - p[1] * p[2]) > 1e-12);
const scaleState = () => yup.string().oneOf(['paper', 'stated', 'own', 'calibrated']).required();
const known = {
  id: id(), from: pair(), to: pair(), printed: positive(), typed: yup.string().strict().defined().max(LONGEST_TEXT),
  use: yup.string().oneOf(['fit', 'check']).optional(), sigma: yup.array().of(finite().min(0)).length(2).optional().default(undefined), spread: yup.number().strict().min(0).max(FARTHEST).optional(),
  origin: yup.string().oneOf(['picked', 'read', 'recognised', 'assumed']).optional(),
};
/** More known dimensions than a sheet could print. */
const MOST_KNOWN = 5000;

const KINDS = ['line', 'curve', 'hatch', 'fill', 'text', 'dimension', 'picture', 'markup'] as const;
/** More switches than a sheet could have layers or pens. */
const MOST_SWITCHES = 5000, LONGEST_KEY = 500;
const keys = () => yup.array().of(yup.string().strict().defined().max(LONGEST_KEY)).required().max(MOST_SWITCHES);
const switches = yup.object({
  layers: yup.mixed<Record<string, boolean>>().required().test('layers', '${path} must hold true or false for each layer', (v) => typeof v === 'object' && v !== null && !Array.isArray(v)
    && Object.keys(v).length <= MOST_SWITCHES && Object.entries(v).every(([key, on]) => key.length <= LONGEST_KEY && typeof on === 'boolean')),
  kinds: yup.array().of(yup.string().oneOf([...KINDS]).required()).required().max(KINDS.length), pens: keys(), authors: keys(), markupKinds: keys(),
}).noUnknown().strict();
const look = yup.object({
  paper: flag(), tint: yup.number().strict().integer().min(0).max(0xffffff).nullable().defined(), linesOnly: flag(), frame: flag(), inFront: flag(), switches,
}).noUnknown().strict();
const page = () => yup.number().strict().integer().min(1).required();
const note = () => yup.string().strict().defined().max(LONGEST_TEXT);
const MOST_CORNERS = 1000;

const SCHEMAS = {
  settings: yup.object({ id: id(), name: text(), units: yup.string().oneOf([...UNIT_SYSTEMS]).required(), precision: yup.number().strict().integer().min(0).max(64).required() }),
  storey: yup.object({ id: id(), name: text(), elevation: finite(), height: positive(), heightAssumed: flag() }),
  underlay: yup.object({
    id: id(), name: text(), fileId: id(), page: page(), storeyId: id(),
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
    id: id(), underlayId: id(), number: yup.number().strict().integer().min(1).required(), at: yup.string().strict().required().max(40), label: text(), by: note().optional(), placement: placement(), scaleState: scaleState(),
    calibration: calibration.nullable().defined(), known: yup.array().of(yup.object(known).noUnknown().strict()).required().max(MOST_KNOWN),
  }),
  wall: yup.object({
    id: id(), storeyId: id(), from: pair(), to: pair(), thickness: positive(), alignment: yup.string().oneOf(['centre', 'left', 'right']).required(),
    height: positive(), heightAssumed: flag(), source,
  }).test('length', 'the wall has no length', apart),
  look: yup.object({ id: id(), name: text(), switches }),
  usualSize: yup.object({ id: id(), name: text(), millimetres: positive(), spread: positive() }),
  sheetName: yup.object({ id: id(), fileId: id(), page: page(), number: note(), title: note() }),
  tick: yup.object({ id: id(), fileId: id(), page: page(), annotation: yup.number().strict().integer().min(0).required() }),
  line: yup.object({ id: id(), storeyId: id(), from: pair(), to: pair(), source }).test('length', 'the line has no length', apart),
} as const;

for (const [type, schema] of Object.entries(SCHEMAS)) {
  (SCHEMAS as Record<string, yup.ObjectSchema<yup.AnyObject>>)[type] = (schema as unknown as yup.ObjectSchema<yup.AnyObject>)
    .shape({ type: yup.string().oneOf([type]).required() }).noUnknown().strict();
}

/** Checks one entity that came from outside; throws yup's ValidationError with words. */
export function parseEntity(value: unknown): Entity {
  const type = (value as { type?: string } | null)?.type;
  const schema = type !== undefined && Object.hasOwn(SCHEMAS, type) ? SCHEMAS[type as keyof typeof SCHEMAS] : null;
  if (!schema) throw new yup.ValidationError(`There is no entity of the type ${JSON.stringify(type)}.`);
  return schema.validateSync(value, { strict: true }) as unknown as Entity;
}

const DEEPEST_GROUP = 4;
const LARGEST_GROUP = 20000;

/** Checks a change that came from outside. Entities that a `set` makes are checked when it is applied. */
export function parseChange(value: unknown, depth = 0): Change {
  const v = value as { type?: unknown; entity?: unknown; id?: unknown; before?: unknown; after?: unknown; changes?: unknown } | null;
  const isRecord = (x: unknown): x is Record<string, unknown> => typeof x === 'object' && x !== null && !Array.isArray(x);
  if (isRecord(v)) {
    if (v.type === 'add' || v.type === 'remove') return { type: v.type, entity: parseEntity(v.entity) };
    if (v.type === 'set' && typeof v.id === 'string' && isRecord(v.before) && isRecord(v.after)) {
      const forbidden = ['id', 'type'].filter((key) => key in (v.after as object));
      if (forbidden.length > 0) throw new yup.ValidationError(`A change may not replace ${forbidden.join(' or ')}.`);
      return { type: 'set', id: v.id, before: v.before, after: v.after };
    }
    if (v.type === 'group' && Array.isArray(v.changes) && v.changes.length <= LARGEST_GROUP && depth < DEEPEST_GROUP) {
      return { type: 'group', changes: v.changes.map((c) => parseChange(c, depth + 1)) };
    }
  }
  throw new yup.ValidationError('This is not a change: it must be add, remove, set or group with their values.');
}
