import * as yup from 'yup';
import { isSoundText, soundBody, soundName, soundNote } from '../texts/index.ts';

/** Coordinates and lengths beyond this many millimetres (or points) are slips, not drawings. */
export const FARTHEST = 1e9;
/** Most UTF-16 units of a name or remark, of a text of the drawing, and of the name of a switch. */
export const LONGEST_TEXT = 200,
  LONGEST_BODY = 2000,
  LONGEST_KEY = 500;
/** Counts and page numbers beyond this are slips too. */
const MOST_COUNTED = 1e7;

/** How a text field is made sound where it enters; stands in the schema's meta. */
export type MakeSound = (text: string) => string;
declare module 'yup' {
  interface CustomSchemaMetadata {
    makeSound?: (text: string) => string;
    makeKeysSound?: boolean;
    holdsEntities?: boolean;
    holdsPlaced?: boolean;
    /** Shapes told apart by their field "kind". */
    oneOfKinds?: Readonly<Record<string, yup.ObjectSchema<yup.AnyObject>>>;
  }
}

const wellFormed = (v: string | null | undefined): boolean => v === null || v === undefined || isSoundText(v);
const textField = (makeSound: MakeSound) =>
  yup
    .string()
    .strict()
    .meta({ makeSound })
    .test('sound', '${path} holds characters that cannot be kept', wellFormed);

/** A name: never empty, trimmed. */
export const name = () =>
  textField((t) => soundName(t, LONGEST_TEXT))
    .required()
    .trim()
    .max(LONGEST_TEXT);
/** A remark, perhaps empty. */
export const note = () =>
  textField((t) => soundNote(t, LONGEST_TEXT))
    .defined()
    .max(LONGEST_TEXT);
/** A text of the drawing. */
export const body = () =>
  textField((t) => soundBody(t, LONGEST_BODY))
    .required()
    .max(LONGEST_BODY);
/** The name of something that is switched, as its sheet gives it. */
export const switchKey = () =>
  textField((t) => soundBody(t, LONGEST_KEY))
    .defined()
    .max(LONGEST_KEY);

export const isFigure = (v: unknown): boolean =>
  typeof v === 'number' && Number.isFinite(v) && Math.abs(v) <= FARTHEST;
/** A number as every number of an entity is: finite, and no farther than drawings go. */
export const bounded = () =>
  yup
    .number()
    .strict()
    .test('finite', '${path} must be a finite number', (v) => v === undefined || v === null || isFigure(v));
export const finite = () => bounded().required();
export const positive = () => finite().moreThan(0);
export const count = (from: number) => yup.number().strict().integer().min(from).max(MOST_COUNTED).required();
export const colour = () => yup.number().strict().integer().min(0).max(0xffffff);
export const id = () =>
  yup
    .string()
    .strict()
    .required()
    .matches(/^[A-Za-z0-9_-]{1,64}$/, '${path} is not an id');
export const flag = () => yup.boolean().strict().required();
export const page = () => count(1);

/** Rows of numbers are checked in one go: a schema to each number would take a converted sheet seconds. */
const isRow = (v: unknown, n: number): v is number[] =>
  Array.isArray(v) && v.length === n && v.every(isFigure);
export const numbers = (n: number) =>
  yup
    .mixed<number[]>()
    .required()
    .test('numbers', `\${path} must be ${n} finite numbers`, (v) => isRow(v, n));
/** The same, or nothing. */
export const numbersOrNull = (n: number) =>
  yup
    .mixed<number[]>()
    .nullable()
    .test(
      'numbers',
      `\${path} must be ${n} finite numbers, or nothing`,
      (v) => v === undefined || v === null || isRow(v, n),
    );
export const pair = () => numbers(2);
/** [minX, minY, maxX, maxY] of some area; may be absent. */
export const boxOrNone = () =>
  yup
    .mixed<[number, number, number, number]>()
    .nullable()
    .optional()
    .default(undefined)
    .test(
      'box',
      '${path} must be four finite numbers with some area between them',
      (v) => v === undefined || v === null || (isRow(v, 4) && v[2] > v[0] && v[3] > v[1]),
    );
export const placement = () =>
  numbers(6).test(
    'placement',
    'the placement has no area',
    (p) => !p || Math.abs(p[0] * p[3] - p[1] * p[2]) > 1e-12,
  );

/** More corners than a converted curve has. */
const MOST_POINTS = 100000;
export const points = (least: number) =>
  yup
    .mixed<number[][]>()
    .required()
    .test(
      'points',
      `\${path} must be ${least} to ${MOST_POINTS} pairs of finite numbers`,
      (v) => Array.isArray(v) && v.length >= least && v.length <= MOST_POINTS && v.every((p) => isRow(p, 2)),
    );
export const bulges = () =>
  yup
    .mixed<number[]>()
    .required()
    .test(
      'bulges',
      `\${path} must be up to ${MOST_POINTS} finite numbers`,
      (v) => Array.isArray(v) && v.length <= MOST_POINTS && v.every(isFigure),
    );
/** Which of an element's measures nobody has said. */
export const measures = <M extends string>(all: readonly M[]) =>
  yup
    .array()
    .of(
      yup
        .string()
        .oneOf([...all])
        .required(),
    )
    .max(all.length)
    .required();
