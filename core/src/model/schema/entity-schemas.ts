import * as yup from 'yup';
import { isFrame } from '../../geometry/index.ts';
import { isSoundText } from '../../texts/index.ts';
import { PAPER_NAMES } from '../../papers/index.ts';
import { UNIT_SYSTEMS } from '../../units/index.ts';
import { LAYER_PURPOSES, MOST_LAYERS, TRACED_TYPES } from '../../kinds/index.ts';
import { PLANE_ROLES, SETTINGS_ID, type Entity, type EntityType } from '../entities.ts';
import {
  bounded,
  boxOrNone,
  colour,
  count,
  finite,
  flag,
  id,
  LONGEST_KEY,
  name,
  note,
  numbers,
  page,
  pair,
  placement,
  positive,
  switchKey,
} from '../../kinds/fields.ts';
import { passes, sure } from '../../kinds/schema.ts';
import { TRACED_SCHEMAS } from '../../kinds/schemas.ts';
import { faceName, PART_SCHEMAS } from '../parts/schema.ts';
import { quickCheck } from '../quick-check.ts';

const MODELS = ['uniform', 'directional', 'affine'] as const;
const calibration = yup
  .object({
    from: pair(),
    to: pair(),
    trueLength: positive(),
    oldLength: positive(),
    factor: positive(),
    typed: note(),
    fit: yup
      .object({
        model: yup
          .string()
          .oneOf([...MODELS])
          .required(),
        wanted: yup
          .string()
          .oneOf(['auto', ...MODELS])
          .required(),
        fitted: count(1),
        tenMetres: finite().min(0),
        across: finite().min(0),
      })
      .noUnknown()
      .strict()
      .nullable()
      .optional()
      .default(undefined),
    against: yup
      .object({
        kind: yup.string().oneOf(['dimensions', 'bar', 'note']).required(),
        count: count(1),
        factor: positive(),
      })
      .noUnknown()
      .strict()
      .nullable()
      .optional()
      .default(undefined),
  })
  .noUnknown()
  .strict();
const scaleState = () => yup.string().oneOf(['paper', 'stated', 'own', 'calibrated']).required();
const known = {
  id: id(),
  from: pair(),
  to: pair(),
  printed: positive(),
  typed: note(),
  use: yup.string().oneOf(['fit', 'check']).optional(),
  sigma: yup.array().of(finite().min(0)).length(2).optional().default(undefined),
  spread: bounded().min(0).optional(),
  origin: yup.string().oneOf(['picked', 'read', 'recognised', 'assumed']).optional(),
};
/** More known dimensions than a sheet could print. */
const MOST_KNOWN = 5000;

/** A place on the shelf that is kept for all projects. */
const shelfId = id().nullable().optional().default(undefined);
/** How far a plane reaches to one side, where that has an end. */
const reach = () => bounded().min(0).nullable().optional().default(undefined);
/** More than a paper has room for. */
const MOST_VIEWS = 60;
const paperView = yup
  .object({
    id: id(),
    planeId: id().nullable().optional().default(undefined),
    sheet: yup
      .object({ fileId: id(), page: page() })
      .noUnknown()
      .strict()
      .nullable()
      .optional()
      .default(undefined),
    window: boxOrNone(),
    scale: positive(),
    at: pair(),
    beneath: flag(),
    building: yup.boolean().strict().nullable().optional().default(undefined),
    caption: note(),
  })
  .noUnknown()
  .strict()
  // What is no view is refused by its own check: this one asks whatever it is given.
  .test(
    'of',
    '${path} shows a plane or a page, one of them',
    (v) => !v || (v.planeId ? !v.sheet : Boolean(v.sheet)),
  );

const KINDS = ['line', 'curve', 'hatch', 'fill', 'text', 'dimension', 'picture', 'markup'] as const;
/** More switches than a sheet could have layers or pens. */
const MOST_SWITCHES = 5000;
const keys = () => yup.array().of(switchKey()).required().max(MOST_SWITCHES);
const switches = yup
  .object({
    layers: yup
      .mixed<Record<string, boolean>>()
      .required()
      .meta({ makeKeysSound: true })
      .test(
        'layers',
        '${path} must hold true or false for each layer',
        (v) =>
          typeof v === 'object' &&
          v !== null &&
          !Array.isArray(v) &&
          Object.keys(v).length <= MOST_SWITCHES &&
          Object.entries(v).every(
            ([key, on]) => key.length <= LONGEST_KEY && isSoundText(key) && typeof on === 'boolean',
          ),
      ),
    kinds: yup
      .array()
      .of(
        yup
          .string()
          .oneOf([...KINDS])
          .required(),
      )
      .required()
      .max(KINDS.length),
    pens: keys(),
    authors: keys(),
    markupKinds: keys(),
  })
  .noUnknown()
  .strict()
  .default(undefined)
  .required();
const look = yup
  .object({
    paper: flag(),
    tint: colour().nullable().defined(),
    linesOnly: flag(),
    frame: flag(),
    inFront: flag(),
    switches,
  })
  .noUnknown()
  .strict();
const MOST_CORNERS = 1000;

/** More elements than a group to be placed many times has. */
export const LARGEST_ASSEMBLY = 20000;
const elements = () =>
  yup
    .mixed<unknown[]>()
    .required()
    .meta({ holdsEntities: true })
    .test(
      'elements',
      `\${path} must be 1 to ${LARGEST_ASSEMBLY} traced elements, no groups among them`,
      (v) =>
        Array.isArray(v) &&
        v.length > 0 &&
        v.length <= LARGEST_ASSEMBLY &&
        v.every((e) =>
          passes(() => {
            const { type } = parseEntity(e);
            return type !== 'placed' && (TRACED_TYPES as readonly string[]).includes(type);
          }),
        ),
    );

const grid = yup
  .object({ origin: pair(), angle: finite(), across: positive(), up: positive(), shown: flag() })
  .noUnknown()
  .strict()
  .nullable()
  .optional()
  .default(undefined);
const framed = sure((v: { across?: number[]; up?: number[] }) =>
  isFrame({ across: v.across as [number, number, number], up: v.up as [number, number, number] }),
);

const SCHEMAS = {
  ...TRACED_SCHEMAS,
  ...PART_SCHEMAS,
  settings: yup.object({
    id: id(),
    name: name(),
    units: yup
      .string()
      .oneOf([...UNIT_SYSTEMS])
      .required(),
    precision: yup.number().strict().integer().min(0).max(64).required(),
    grid,
    onMap: yup
      .object({ system: name(), east: finite(), north: finite(), height: finite(), turn: finite() })
      .noUnknown()
      .strict()
      .nullable()
      .optional()
      .default(undefined),
  }),
  plane: yup
    .object({
      id: id(),
      name: name(),
      role: yup
        .string()
        .oneOf([...PLANE_ROLES])
        .required(),
      origin: numbers(3),
      across: numbers(3),
      up: numbers(3),
      width: positive(),
      height: positive(),
      depth: yup
        .object({ before: reach(), behind: reach() })
        .noUnknown()
        .strict()
        .nullable()
        .optional()
        .default(undefined),
      grid,
      partId: id().nullable().optional().default(undefined),
      face: faceName().nullable().optional().default(undefined),
    })
    .test('frame', 'the directions of a plane must be of length one and square to one another', framed),
  storey: yup.object({
    id: id(),
    name: name(),
    elevation: finite(),
    height: positive(),
    heightAssumed: flag(),
    grid,
  }),
  underlay: yup.object({
    id: id(),
    name: name(),
    fileId: id(),
    page: page(),
    planeId: id(),
    crop: numbers(4).test('crop', 'the crop is empty', (c) => !c || (c[2] > c[0] && c[3] > c[1])),
    placement: placement(),
    scaleState: scaleState(),
    calibration: calibration.nullable().defined(),
    visible: flag(),
    fade: finite().min(0).max(1),
    locked: flag(),
    snap: flag(),
    order: finite(),
    former: yup
      .object({ fileId: id(), page: page() })
      .noUnknown()
      .strict()
      .nullable()
      .optional()
      .default(undefined),
    outline: yup.array().of(pair()).min(3).max(MOST_CORNERS).nullable().optional(),
    look: look.nullable().optional().default(undefined),
    straightened: yup
      .object({ across: finite().min(0) })
      .noUnknown()
      .strict()
      .nullable()
      .optional()
      .default(undefined),
  }),
  check: yup.object({ ...known, underlayId: id() }),
  calibration: yup.object({
    id: id(),
    underlayId: id(),
    number: count(1),
    at: yup
      .string()
      .strict()
      .required()
      .max(40)
      .matches(/^[ -~]*$/, '${path} is not a time'),
    label: name(),
    by: note().optional(),
    placement: placement(),
    scaleState: scaleState(),
    calibration: calibration.nullable().defined(),
    known: yup.array().of(yup.object(known).noUnknown().strict()).required().max(MOST_KNOWN),
  }),
  look: yup.object({ id: id(), name: name(), switches }),
  usualSize: yup.object({ id: id(), name: name(), millimetres: positive(), spread: positive() }),
  wallType: yup.object({
    id: id(),
    name: name(),
    layers: yup
      .array()
      .of(
        yup
          .object({
            material: name(),
            purpose: yup
              .string()
              .oneOf([...LAYER_PURPOSES])
              .required(),
            thickness: positive(),
          })
          .noUnknown()
          .strict(),
      )
      .required()
      .min(1)
      .max(MOST_LAYERS),
    shelfId,
  }),
  paperDrawing: yup.object({
    id: id(),
    name: name(),
    number: note(),
    revision: note(),
    drawnBy: note(),
    paper: yup
      .string()
      .oneOf([...PAPER_NAMES])
      .required(),
    standing: flag(),
    views: yup.array().of(paperView).required().max(MOST_VIEWS),
  }),
  sheetName: yup.object({ id: id(), fileId: id(), page: page(), number: note(), title: note() }),
  tick: yup.object({ id: id(), fileId: id(), page: page(), annotation: count(0) }),
  assembly: yup.object({
    id: id(),
    name: name(),
    shelfId,
    elements: elements(),
    open: yup
      .mixed<{ placed: unknown }>()
      .meta({ holdsPlaced: true })
      .nullable()
      .optional()
      .default(undefined)
      .test(
        'open',
        '${path} must hold the placed group',
        (v) => v === null || v === undefined || passes(() => parseEntity(v.placed).type === 'placed'),
      ),
  }),
  layer: yup.object({
    id: id(),
    name: name(),
    colour: colour().required(),
    lineType: yup.string().oneOf(['solid', 'dashed', 'dotted', 'dash-dot']).required(),
    weight: positive().max(10),
    visible: flag(),
    locked: flag(),
    fade: finite().min(0).max(1),
  }),
} as const;

export type EntitySchema = yup.ObjectSchema<yup.AnyObject>;

/** The schema of each type, whole: with its type, and nothing that is not named. */
export const ENTITY_SCHEMAS = Object.fromEntries(
  Object.entries(SCHEMAS).map(([type, schema]) => [
    type,
    (schema as unknown as EntitySchema)
      .shape({ type: yup.string().oneOf([type]).required() })
      .noUnknown()
      .strict(),
  ]),
) as Record<string, EntitySchema> as Readonly<Record<EntityType, EntitySchema>>;
const QUICK = new Map(Object.entries(ENTITY_SCHEMAS).map(([type, schema]) => [type, quickCheck(schema)]));

/** What has been found sound: entities are never changed in place, so that a second look at one costs nothing. */
const sound = new WeakSet<object>();

/** Checks one entity that came from outside; throws yup's ValidationError with words. */
export function parseEntity(value: unknown): Entity {
  if (typeof value === 'object' && value !== null && sound.has(value)) return value as Entity;
  const type = (value as { type?: string } | null)?.type;
  const schema =
    typeof type === 'string' && Object.hasOwn(ENTITY_SCHEMAS, type)
      ? ENTITY_SCHEMAS[type as EntityType]
      : null;
  if (!schema)
    throw new yup.ValidationError(
      `There is no entity of the type ${String(JSON.stringify(type)).slice(0, 60)}.`,
    );
  if (!QUICK.get(type!)!(value)) schema.validateSync(value, { strict: true });
  const entity = value as Entity;
  if ((entity.id === SETTINGS_ID) !== (entity.type === 'settings'))
    throw new yup.ValidationError('A project has one entity of settings, with the id "settings".');
  sound.add(entity);
  return entity;
}
