import * as yup from 'yup';
import {
  figuresOf,
  whyNoSection,
  SECTION_SHAPES,
  type SectionForm,
  type SectionRing,
} from '../../sections/index.ts';
import { bulges, finite, flag, name, note, pair, points, positive } from '../fields.ts';
import { closes, DRAWN_FIELDS, memberId, stretches, sure, type FieldsOf } from '../schema.ts';
import type { GivenSection } from './given-section.ts';
import { MEMBER_ROLES, PLACING_POINTS, type Member } from './axis.ts';
import {
  JOINT_FORMS,
  JOINT_SIZES,
  MEMBER_ENDS,
  MOST_CLEATS,
  MOST_ROWS,
  meetsAnother,
  type Joint,
} from './joint.ts';
import { hasLength } from './member.ts';

const perhaps = <S extends yup.Schema>(schema: S) =>
  yup.mixed().test('perhaps', '${path} is none', (v) => v === undefined || schema.isValidSync(v));

const hasName = ({ name: given }: { name: unknown }) => typeof given === 'string' && given !== '';
/** Less than this is no section, square millimetres. */
const LEAST_AREA = 1e-3;
const hasArea = (ring: SectionRing) => Math.abs(figuresOf([ring]).area) > LEAST_AREA;

const isSection = sure((s: GivenSection) => {
  if (s.form === 'table') return hasName(s);
  if (s.form === 'outline') return hasName(s) && closes(s) && stretches(s) && hasArea(s);
  return whyNoSection(s) === null;
});

const size = () => perhaps(finite().min(0));

const FORM = {
  shape: yup
    .string()
    .oneOf(SECTION_SHAPES.filter((s) => s !== 'outline'))
    .optional(),
  h: size(),
  b: size(),
  tw: size(),
  tf: size(),
  r: size(),
  tipRadius: size(),
  slope: size(),
  measuredAt: size(),
  innerRadius: size(),
} satisfies Record<keyof SectionForm, yup.Schema>;

const section = yup
  .object({
    form: yup.string().oneOf(['table', 'sizes', 'outline']).required(),
    name: name().optional(),
    points: perhaps(points(2)),
    bulges: perhaps(bulges()),
    ...FORM,
  })
  .noUnknown()
  .strict()
  .test('section', 'its section is none: its sizes make no outline', (s) => isSection(s as GivenSection))
  .default(undefined)
  .required();

/** What is no member is refused by the checks of its fields. */
const long = sure((e: Member) => hasLength(e));

/** What is no joint is refused by its own check. */
const differs = (joints: readonly unknown[]): boolean =>
  new Set(joints.map((j) => (j as Partial<Joint> | null)?.end)).size === joints.length;

/** More than any joint has: millimetres, and rows of bolts. */
const MOST = 5000;
const sizes = () =>
  yup
    .object(
      Object.fromEntries(
        JOINT_SIZES.map((key) => [
          key,
          perhaps(
            finite()
              .min(0)
              .max(key === 'rows' ? MOST_ROWS : MOST),
          ),
        ]),
      ),
    )
    .noUnknown()
    .strict()
    .nullable()
    .optional()
    .default(undefined);

const joint = yup
  .object({
    end: yup
      .string()
      .oneOf([...MEMBER_ENDS])
      .required(),
    form: yup
      .string()
      .oneOf([...JOINT_FORMS])
      .required(),
    to: memberId().nullable().defined(),
    sizes: sizes(),
  })
  .noUnknown()
  .strict()
  .test(
    'to',
    'a joint of the member names no other',
    (j) => (j as Joint).to !== null || !meetsAnother((j as Joint).form),
  );

const cleat = yup.object({ to: memberId().required(), sizes: sizes() }).noUnknown().strict();

const level = yup
  .object({
    end: yup
      .string()
      .oneOf([...MEMBER_ENDS])
      .required(),
    level: finite(),
    text: note(),
    drawn: finite(),
  })
  .noUnknown()
  .strict();

const FIELDS = {
  ...DRAWN_FIELDS,
  from: pair(),
  to: pair(),
  rise: pair(),
  section,
  point: yup
    .number()
    .strict()
    .oneOf([...PLACING_POINTS])
    .required(),
  turn: finite(),
  mirrored: flag(),
  back: pair().test(
    'back',
    'it cannot be cut back by less than nothing',
    (v) => !v || v.every((n) => n >= 0),
  ),
  joints: yup
    .array()
    .of(joint)
    .max(2)
    .test('ends', 'an end of the member is made twice', (v) => !v || differs(v))
    .nullable()
    .optional()
    .default(undefined),
  cleats: yup
    .array()
    .of(cleat)
    .max(MOST_CLEATS)
    .test(
      'cleats',
      'the member is held twice on another',
      (v) => !v || new Set(v.map((c) => (c as { to?: unknown } | null)?.to)).size === v.length,
    )
    .nullable()
    .optional()
    .default(undefined),
  levels: yup
    .array()
    .of(level)
    .max(2)
    .test('ends', 'an end of the member is put at two levels', (v) => !v || differs(v))
    .nullable()
    .optional()
    .default(undefined),
  role: yup
    .string()
    .oneOf([...MEMBER_ROLES])
    .required(),
  material: name(),
  density: positive(),
  mark: note(),
} satisfies FieldsOf<Member>;
export const MEMBER_SCHEMA = yup
  .object(FIELDS)
  .test('length', 'the member has no length', (e) => long(e as never));
