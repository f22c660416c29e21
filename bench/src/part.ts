import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import init from 'replicad-opencascadejs';
import { Builder, shownSolid, takeKernel, type Kernel } from '@calque/core/forming';
import {
  modelOf,
  type Entity,
  type Feature,
  type FeatureForm,
  type Part,
  type WorkPlane,
} from '@calque/core/model';
import { recipeOf } from '@calque/core/part';

const PART: Part = {
  type: 'part',
  id: 'part',
  name: 'Bench',
  material: 'Steel',
  density: 7850,
  way: 'milling',
  pieces: 1,
};
const TOP: WorkPlane = {
  type: 'plane',
  id: 'top',
  name: 'top',
  role: 'face',
  origin: [0, 0, 0],
  across: [1, 0, 0],
  up: [0, 1, 0],
  width: 100,
  height: 100,
  partId: 'part',
};
const LID: WorkPlane = { ...TOP, id: 'lid', name: 'lid', origin: [0, 0, 12], face: 'f0/end' };

const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;
const rectangle = (id: string, w: number, h: number): Entity => ({
  type: 'path',
  id,
  planeId: 'top',
  points: [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ],
  bulges: [0, 0, 0, 0],
  closed: true,
  source,
});
const features = (forms: readonly FeatureForm[]): Feature[] =>
  forms.map((form, i) => ({
    type: 'feature',
    id: `f${i}`,
    partId: 'part',
    order: i,
    name: '',
    off: false,
    form,
  }));
const plate = (depth: number): FeatureForm => ({
  kind: 'extrude',
  profile: { planeId: 'top', curves: ['outline'] },
  does: 'add',
  reach: { kind: 'depth', depth, both: false },
  back: false,
  draft: 0,
});
const hole = (
  at: [number, number][],
  diameter: number,
  head: Extract<FeatureForm, { kind: 'hole' }>['head'] = null,
): FeatureForm => ({
  kind: 'hole',
  planeId: 'lid',
  at,
  centres: [],
  diameter,
  depth: null,
  tip: null,
  head,
  thread: null,
  back: false,
  said: '',
});

/** A bracket of twenty features: rounded, drilled, with slots, a pattern, a chamfer. */
function bracket(depth: number) {
  const side = (a: number, b: number) => ({
    between: [`f0/side:outline.${a}`, `f0/side:outline.${b}`] as [string, string],
    near: null,
  });
  const forms: FeatureForm[] = [
    plate(depth),
    { kind: 'round', edges: [side(0, 1), side(1, 2), side(2, 3), side(0, 3)], radius: 12 },
    ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((i) => hole([[20 + 18 * i, 20]], 6 + (i % 3))),
    ...[0, 1, 2, 3].map((i) => hole([[25 + 40 * i, 60]], 9, { kind: 'counterbore', diameter: 15, depth: 5 })),
    ...[0, 1].map((i): FeatureForm => ({
      kind: 'slot',
      planeId: 'lid',
      at: [[60 + 70 * i, 40]],
      length: 24,
      width: 8,
      angle: 0,
      depth: null,
      back: false,
    })),
    hole([[30, 40]], 4),
    {
      kind: 'pattern',
      of: ['f17'],
      form: { kind: 'row', planeId: 'lid', step: [6, 0], count: 3, second: null },
    },
    {
      kind: 'chamfer',
      edges: [0, 1, 2, 3].map((i) => ({
        between: ['f0/end', `f0/side:outline.${i}`] as [string, string],
        near: null,
      })),
      distance: 1,
    },
  ];
  return modelOf([PART, TOP, LID, rectangle('outline', 190, 80), ...features(forms)]);
}

function drilledPlate() {
  const at: [number, number][] = [];
  for (let i = 0; i < 20; i++) for (let j = 0; j < 10; j++) at.push([15 + 30 * i, 20 + 40 * j]);
  return modelOf([PART, TOP, LID, rectangle('outline', 600, 400), ...features([plate(12), hole(at, 10)])]);
}

const timed = (work: () => void): number => {
  const began = performance.now();
  work();
  return performance.now() - began;
};

/** What it takes to make parts, and to make them again after a change, milliseconds. */
export async function partTimes() {
  const wasmBinary = readFileSync(createRequire(import.meta.url).resolve('replicad-opencascadejs/wasm')),
    settings: object = { wasmBinary },
    began = performance.now();
  takeKernel(await (init as (given: object) => Promise<Kernel>)(settings));
  const loaded = performance.now() - began,
    builder = new Builder();
  const make = (depth: number) => {
    const { states } = builder.rebuild(recipeOf(bracket(depth), 'part')),
      failed = states.filter((s) => s.state !== 'made');
    if (failed.length > 0) throw new Error(failed.map((s) => s.words).join('; '));
    return states.length;
  };
  let count = 0;
  const first = timed(() => (count = make(12))),
    again = Math.min(...[13, 14, 15].map((d) => timed(() => make(d))));
  const model = bracket(15),
    { body } = builder.rebuild(recipeOf(model, 'part')),
    shown = timed(() => shownSolid(model, PART, body!));
  const plates = drilledPlate(),
    drilled = [0, 1].map(() => timed(() => new Builder().rebuild(recipeOf(plates, 'part')))),
    { body: many } = new Builder().rebuild(recipeOf(plates, 'part'));
  return {
    loaded,
    count,
    first,
    again,
    shown,
    drilled: drilled[1],
    drilledShown: timed(() => shownSolid(plates, PART, many!)),
  };
}
