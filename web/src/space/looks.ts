import type { Model } from '@calque/core/model';
import type { Outlook } from '@calque/core/planes';
import { northOf } from '@calque/core/takeoff';

export const AT_AN_ANGLE: Outlook = { round: -Math.PI / 3, above: Math.PI / 6 };
const ABOVE: Outlook = { round: -Math.PI / 2, above: Math.PI / 2 };
const QUARTER = Math.PI / 2;

/** Ways to look at the model that are asked for by name: by the winds where a north arrow has been put, else by the sides of the plan. */
export function namedLooks(model: Model): readonly (readonly [string, Outlook])[] {
  const north = northOf(model),
    first = north === null ? -QUARTER : north + Math.PI,
    names =
      north === null
        ? ['From the front', 'From the right', 'From the back', 'From the left']
        : ['From the south', 'From the east', 'From the north', 'From the west'];
  return [
    ['At an angle', AT_AN_ANGLE],
    ['From above', ABOVE],
    ...names.map((words, i) => [words, { round: first + i * QUARTER, above: 0 }] as const),
  ];
}
