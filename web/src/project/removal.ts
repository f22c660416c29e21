import {
  group,
  isTraced,
  ofType,
  setFields,
  type Change,
  type Model,
  type Traced,
  type Underlay,
} from '@calque/core/model';

/** What hangs on an underlay: its known dimensions, and what has been traced on it. */
export interface Dependents {
  checks: number;
  traced: number;
}

const tracedOn = (model: Model, u: Underlay): Traced[] =>
  [...model.values()].filter((e): e is Traced => isTraced(e) && e.source.underlayId === u.id);

export const dependentsOf = (model: Model, underlays: readonly Underlay[]): Dependents => ({
  checks: ofType(model, 'check').filter((c) => underlays.some((u) => u.id === c.underlayId)).length,
  traced: underlays.reduce((n, u) => n + tracedOn(model, u).length, 0),
});

/** Takes underlays off the table with their known dimensions; what was traced on them stays, and keeps their names as its source. */
export function removeUnderlays(model: Model, underlays: readonly Underlay[]): Change | null {
  return group(
    underlays.flatMap((u) => [
      ...tracedOn(model, u).map((e) => setFields<Traced>(e, { source: { ...e.source, sheet: u.name } })),
      ...[...ofType(model, 'check'), ...ofType(model, 'calibration')]
        .filter((c) => c.underlayId === u.id)
        .map((entity): Change => ({ type: 'remove', entity })),
      { type: 'remove', entity: u } as Change,
    ]),
  );
}

/** In words what goes and what stays. */
export function removalWords({ checks, traced }: Dependents, many = false): string {
  const it = many ? 'them' : 'it';
  const go =
    checks === 0
      ? ''
      : `${checks === 1 ? 'One known dimension goes' : `${checks} known dimensions go`} with ${it}. `;
  return `${go}${traced === 0 ? `Nothing has been traced on ${it}. ` : `${traced === 1 ? `The one element traced on ${it} stays, and remembers where it came from` : `The ${traced} elements traced on ${it} stay, and remember where they came from`}. `}`;
}
