import { writeGlb, writeIfc } from '@calque/core/exchange';
import {
  groundStorey,
  modelOf,
  setFields,
  usualOpening,
  type Entity,
  type Model,
  type Wall,
} from '@calque/core/model';
import { prepare } from '@calque/core/model';
import { uprightPlane } from '@calque/core/planes';
import { bodiesOn, sceneOf, seenFrom, seenFromOutlook } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import { quantile } from './quantile.ts';

const SOURCE = { underlayId: null, ends: 'snapped', thickness: 'typed' } as const;
/** Rooms of each storey along and across it, of so many millimetres. */
const ALONG = 14,
  ACROSS = 6,
  ROOM = 4000;

/** Ten storeys of a grid of rooms: some 2,000 walls with two openings each. */
function tower(storeys: number): Entity[] {
  const out: Entity[] = [];
  for (let s = 0; s < storeys; s++) {
    const planeId = `s${s}`;
    out.push({
      ...groundStorey(planeId),
      name: `Storey ${s}`,
      elevation: s * 3000,
      height: 3000,
      heightAssumed: false,
    });
    const add = (from: [number, number], to: [number, number]) => {
      const at = (t: number): [number, number] => [
        from[0] + (to[0] - from[0]) * t,
        from[1] + (to[1] - from[1]) * t,
      ];
      out.push({
        type: 'wall',
        id: `${planeId}-${out.length}`,
        planeId,
        source: SOURCE,
        from,
        to,
        thickness: 200,
        alignment: 'centre',
        height: 2800,
        heightAssumed: false,
        openings: [
          usualOpening('o1', 'door', at(0.15), at(0.375)),
          usualOpening('o2', 'window', at(0.55), at(0.85)),
        ],
      });
    };
    for (let i = 0; i < ALONG; i++)
      for (let j = 0; j <= ACROSS; j++) add([i * ROOM, j * ROOM], [(i + 1) * ROOM, j * ROOM]);
    for (let i = 0; i <= ALONG; i++)
      for (let j = 0; j < ACROSS; j++) add([i * ROOM, j * ROOM], [i * ROOM, (j + 1) * ROOM]);
  }
  return out;
}

const timeOf = (run: () => unknown): number => {
  const times = Array.from({ length: 3 }, () => {
    const began = performance.now();
    run();
    return performance.now() - began;
  });
  return quantile(times, 0.5);
};

const SOUTH = uprightPlane('south', {
  from: [-1000, -1000],
  to: [90000, -1000],
  height: 30000,
  name: 'South',
  role: 'elevation',
})!;

export interface BuildingTimes {
  walls: number;
  openings: number;
  /** A storey anew after one of its walls has moved: joins, openings, solids. */
  moved: number;
  scene: number;
  counted: number;
  ifc: number;
  glb: number;
  /** An elevation of it, and a picture at an angle: edges without what is hidden. */
  elevation: number;
  outlook: number;
}

/** Times of a building of ten storeys, milliseconds: solids, takeoff, building models. */
export function buildingTimes(): BuildingTimes {
  const entities = tower(10),
    walls = entities.filter((e): e is Wall => e.type === 'wall');
  let model: Model = modelOf(entities);
  const [first] = walls,
    moves = Array.from({ length: 60 }, (_, n) => {
      const e = model.get(first.id) as Wall,
        prepared = prepare(model, setFields<Wall>(e, { to: [e.to[0], e.to[1] + (n % 2 === 0 ? 5 : -5)] })!);
      if (!prepared.ok) throw new Error('the step was refused');
      model = prepared.model;
      const storey = model.get('s0') as Extract<Entity, { type: 'storey' }>,
        began = performance.now();
      bodiesOn(model, storey);
      return performance.now() - began;
    });
  return {
    walls: walls.length,
    openings: walls.length * 2,
    moved: quantile(moves.slice(20), 0.5),
    scene: timeOf(() => sceneOf(model)),
    counted: timeOf(() => takeoff(model)),
    ifc: timeOf(() => writeIfc(model, { view: 'editable', at: '2026-11-29T12:00:00' })),
    glb: timeOf(() => writeGlb(model)),
    elevation: timeOf(() => seenFrom(model, SOUTH)),
    outlook: timeOf(() => seenFromOutlook(model, { round: -1.05, above: 0.5 })),
  };
}
