import { frameDoubts, joinedFrame } from '@calque/core/framing';
import { writeStep } from '@calque/core/exchange';
import {
  applyOrThrow,
  group,
  groundStorey,
  modelOf,
  ofType,
  setFields,
  type Entity,
  type Joint,
  type Member,
  type Model,
} from '@calque/core/model';
import { sceneOf } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';

/** Storeys, and columns along and across each; four beams start at every column. */
const STOREYS = 10,
  ACROSS = 10,
  BAY = 6000;

const member = (id: string, planeId: string, more: Partial<Member>): Member => ({
  type: 'member',
  id,
  planeId,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
  from: [0, 0],
  to: [0, 0],
  rise: [0, 0],
  section: { form: 'table', name: 'IPE 300' },
  point: 5,
  turn: 0,
  mirrored: false,
  back: [0, 0],
  role: 'beam',
  material: 'S355',
  density: 7850,
  mark: '',
  ...more,
});

/** 5,000 members with 3,100 plates and 20,000 bolts. */
function tower(): Model {
  const entities: Entity[] = [{ type: 'settings', id: 'settings', name: 'Tower', units: 'mm', precision: 0 }];
  for (let s = 0; s < STOREYS; s++) {
    const plane = `s${s}`;
    entities.push({ ...groundStorey(plane), name: `Storey ${s}`, elevation: s * 3500, height: 3500 });
    for (let i = 0; i < ACROSS; i++)
      for (let j = 0; j < ACROSS; j++) {
        const at: [number, number] = [i * BAY, j * BAY],
          column = `c${s}-${i}-${j}`,
          foot: Joint[] = [{ end: 'start', form: 'basePlate', to: null }];
        entities.push(
          member(column, plane, {
            from: at,
            to: at,
            rise: [0, 3500],
            section: { form: 'table', name: 'HEB 300' },
            role: 'column',
            joints: s === 0 ? foot : null,
          }),
        );
        for (let k = 0; k < 4; k++) {
          const along = k < 2,
            rise = 1500 + 1500 * (k % 2),
            sizes = { rows: 5, pitch: 45, bolt: 16, height: 300 };
          entities.push(
            member(`b${s}-${i}-${j}-${k}`, plane, {
              from: at,
              to: along ? [at[0] + BAY, at[1]] : [at[0], at[1] + BAY],
              rise: [rise, rise],
              joints:
                k === 1 ? null : [{ end: 'start', form: along ? 'endPlate' : 'finPlate', to: column, sizes }],
            }),
          );
        }
      }
  }
  return modelOf(entities);
}

/** What a frame costs, milliseconds: everything once, and 500 members that get another section. */
export function frameTimes() {
  const time = (run: () => unknown): number => {
    const began = performance.now();
    run();
    return performance.now() - began;
  };
  const model = tower(),
    joined = time(() => joinedFrame(model)),
    { members, plates, bolts } = joinedFrame(model);
  takeoff(model);
  const beams = ofType(model, 'member')
    .filter((m) => m.role === 'beam')
    .slice(0, 500);
  let after = model;
  const changed = time(() => {
    after = applyOrThrow(
      model,
      group(beams.map((m) => setFields<Member>(m, { section: { form: 'table', name: 'IPE 330' } })))!,
    );
    joinedFrame(after);
  });
  return {
    members: members.length,
    plates: plates.length,
    bolts: bolts.reduce((n, b) => n + b.at.length, 0),
    joined,
    changed,
    counted: time(() => takeoff(after)),
    doubts: time(() => frameDoubts(after)),
    scene: time(() => sceneOf(after)),
    step: time(() => writeStep(after, { at: '2026-11-30T12:00:00' })),
  };
}
