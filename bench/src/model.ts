import { PlaneTrace } from '@calque/core/derive';
import {
  groundStorey,
  modelOf,
  prepare,
  setFields,
  type Change,
  type Line,
  type Model,
  type Wall,
} from '@calque/core/model';
import { quantile } from './quantile.ts';

const DRAWN = {
  planeId: 'ground',
  source: { underlayId: null, ends: 'free', thickness: 'typed' },
} as const;
const lineAt = (n: number): Line => ({
  type: 'line',
  id: `line-${n}`,
  ...DRAWN,
  from: [(n % 1000) * 40, Math.floor(n / 1000) * 40],
  to: [(n % 1000) * 40 + 25, Math.floor(n / 1000) * 40 + 20],
});
const wallAt = (id: string, x: number, y: number, dx: number, dy: number): Wall => ({
  type: 'wall',
  id,
  ...DRAWN,
  from: [x, y],
  to: [x + dx, y + dy],
  thickness: 120,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
});

/** The first runs of a program are slow: they are not counted. */
const WARM = 100,
  RUNS = 400;

interface Spread {
  median: number;
  p99: number;
}
function measured(run: (n: number) => void): Spread {
  const times: number[] = [];
  for (let n = 0; n < WARM + RUNS; n++) {
    const began = performance.now();
    run(n);
    if (n >= WARM) times.push(performance.now() - began);
  }
  return { median: quantile(times, 0.5), p99: quantile(times, 0.99) };
}

/** Times of one step, milliseconds, in a project of so many elements: checked as the server checks it, applied, and what follows from it. */
export function stepTimes(elements: number): Record<'set' | 'add' | 'remove' | 'followed', Spread> {
  let model: Model = modelOf([
    groundStorey('ground'),
    ...Array.from({ length: elements }, (_, n) => lineAt(n)),
  ]);
  const trace = new PlaneTrace('ground');
  trace.follow(model, false);
  const step = (change: Change) => {
    const prepared = prepare(model, change);
    if (!prepared.ok) throw new Error('the step was refused');
    model = prepared.model;
  };
  const set = measured((n) => {
    const e = model.get(`line-${(n * 7919) % elements}`) as Line;
    step(setFields<Line>(e, { to: [e.to[0] + 1, e.to[1]] })!);
  });
  const add = measured((n) => step({ type: 'add', entity: lineAt(elements + n) }));
  trace.follow(model, false);
  const remove = measured((n) => step({ type: 'remove', entity: model.get(`line-${elements + n}`)! }));
  trace.follow(model, false);
  let next = model;
  const followed = measured((n) => {
    trace.follow(next, false);
    const e = next.get(`line-${(n * 104729) % elements}`) as Line;
    const prepared = prepare(next, setFields<Line>(e, { to: [e.to[0], e.to[1] + 1] })!);
    if (prepared.ok) next = prepared.model;
  });
  return { set, add, remove, followed };
}

/** Time until a moved wall and its neighbours are right again among so many walls of a grid of rooms, milliseconds. */
export function wallTimes(walls: number): Spread {
  const side = Math.ceil(Math.sqrt(walls / 2)),
    all: Wall[] = [];
  for (let i = 0; i < side; i++)
    for (let j = 0; j < side; j++)
      all.push(
        wallAt(`h${i}-${j}`, i * 3000, j * 3000, 3000, 0),
        wallAt(`v${i}-${j}`, i * 3000, j * 3000, 0, 3000),
      );
  let model: Model = modelOf([groundStorey('ground'), ...all]);
  const trace = new PlaneTrace('ground');
  trace.follow(model, false);
  const states = Array.from({ length: WARM + RUNS }, (_, n) => {
    const wall = model.get(all[(n * 37) % all.length].id) as Wall,
      prepared = prepare(
        model,
        setFields<Wall>(wall, { to: [wall.to[0] + (n % 2 ? 3 : -3), wall.to[1] + 5] })!,
      );
    if (prepared.ok) model = prepared.model;
    return model;
  });
  return measured((n) => trace.follow(states[n], false));
}
