import { group, lookOf, setFields, type Change, type Model, type Underlay } from '@calque/core/model';
import { stackOf } from '@/project/views';

/** Stands for the trace among the slips of the stack. */
export const TRACE = 'trace';

/** Slips of a storey, the top first, with the trace in its place. */
export function slipsOf(model: Model, planeId: string): string[] {
  const stack = stackOf(model, planeId);
  const ids = (inFront: boolean) => stack.filter((u) => lookOf(u).inFront === inFront).map((u) => u.id);
  return [...ids(true), TRACE, ...ids(false)];
}

/** The change that brings the slips into an order, the top first; what lies above the trace is in front of it. */
function ordered(model: Model, slips: readonly string[]): Change | null {
  const trace = slips.indexOf(TRACE);
  return group(
    slips.map((id, i) => {
      const u = model.get(id);
      if (u?.type !== 'underlay') return null;
      const look = lookOf(u),
        inFront = i < trace;
      return setFields(u, {
        order: slips.length - i,
        ...(look.inFront !== inFront && { look: { ...look, inFront } }),
      });
    }),
  );
}

/** Lays one underlay just above another slip. */
export function moveInStack(model: Model, planeId: string, moved: string, onto: string): Change | null {
  const slips = slipsOf(model, planeId).filter((id) => id !== moved);
  const at = slips.indexOf(onto);
  if (at < 0 || moved === onto) return null;
  return ordered(model, [...slips.slice(0, at), moved, ...slips.slice(at)]);
}

/** One place up (1) or down (-1), past the trace too. */
export function stepInStack(model: Model, u: Underlay, step: 1 | -1): Change | null {
  const slips = slipsOf(model, u.planeId);
  const from = slips.indexOf(u.id),
    to = from - step;
  if (to < 0 || to >= slips.length) return null;
  [slips[from], slips[to]] = [slips[to], slips[from]];
  return ordered(model, slips);
}

/** The same page once more, with a crop and calibration of its own from then on. */
export function duplicateOf(model: Model, u: Underlay): Underlay {
  const names = new Set(stackOf(model, u.planeId).map((x) => x.name));
  let name = `${u.name}, copy`;
  for (let n = 2; names.has(name); n++) name = `${u.name}, copy ${n}`;
  return {
    ...u,
    id: crypto.randomUUID(),
    name: name.slice(0, 200),
    order: Math.max(...stackOf(model, u.planeId).map((x) => x.order)) + 1,
    locked: false,
  };
}
