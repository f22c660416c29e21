import * as yup from 'yup';
import type { Dashed, Drawn } from './drawn.ts';
import { bulges, id, note, points, positive } from './fields.ts';

/** A check for each field of an element, optional ones too, and for no other: what a type gains or loses its schema must. What is derived to be shown is never stored. */
export type FieldsOf<E> = Record<Exclude<keyof E, 'type' | 'members' | 'cut'>, yup.ISchema<unknown>>;

/** Does a check pass? Its words tell what of an element is wrong, not where in the group. */
export function passes(check: () => boolean): boolean {
  try {
    return check();
  } catch {
    return false;
  }
}
/** A test of several fields together: of what is no such thing at all it says no, whatever is missing in it. */
export const sure =
  <T>(test: (value: T) => boolean) =>
  (value: T): boolean =>
    passes(() => test(value));

const source = yup
  .object({
    underlayId: id().nullable().defined() as yup.StringSchema<string | null>,
    sheet: note().nullable().optional().default(undefined),
    ends: yup.string().oneOf(['snapped', 'free', 'typed', 'mixed']).required(),
    thickness: yup.string().oneOf(['typed', 'measured']).required(),
    ink: yup.boolean().strict().optional().default(undefined),
  })
  .noUnknown()
  .strict()
  .default(undefined)
  .required();

/** What every traced element has. */
export const DRAWN_FIELDS = {
  id: id(),
  planeId: id(),
  source,
  layerId: id().nullable().optional().default(undefined),
  done: yup.boolean().strict().nullable().optional().default(undefined),
  phase: note().nullable().optional().default(undefined),
  part: id().nullable().optional().default(undefined),
} satisfies FieldsOf<Drawn>;

export const DASHED_FIELDS = {
  dash: yup.array().of(positive()).min(2).max(12).nullable().optional().default(undefined),
} satisfies FieldsOf<Dashed>;

/** A member's id, or a plate's; of one within a placed group behind that group's. */
export const memberId = () =>
  yup
    .string()
    .strict()
    .matches(/^[A-Za-z0-9_-]{1,64}(\/[A-Za-z0-9_-]{1,64})?$/, '${path} is not an id');

/** Two ends that are apart. */
export const apart = sure(
  (v: { from?: number[]; to?: number[] }) =>
    Math.hypot((v.to?.[0] ?? 0) - (v.from?.[0] ?? 0), (v.to?.[1] ?? 0) - (v.from?.[1] ?? 0)) > 1e-9,
);
/** A closed path needs an area: three corners, or two with a bend between them. */
export const closes = (v: { points?: unknown[]; bulges?: (number | undefined)[] }) =>
  (v.points?.length ?? 0) >= 3 || ((v.points?.length ?? 0) === 2 && (v.bulges ?? []).some((b) => b !== 0));
/** One bulge to each stretch. */
export const stretches = (v: { points?: unknown[]; bulges?: unknown[]; closed?: boolean }) =>
  v.bulges?.length === (v.points?.length ?? 0) - (v.closed === false ? 1 : 0);

/** More rings than an area has. */
const MOST_RINGS = 1000;
const ring = yup
  .object({ points: points(2), bulges: bulges() })
  .noUnknown()
  .strict()
  .test(
    'ring',
    'an outline needs three corners',
    sure((v) => closes(v) && stretches(v)),
  );
/** An outline, and its holes after it. */
export const rings = () => yup.array().of(ring).required().min(1).max(MOST_RINGS);
