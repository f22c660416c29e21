import {
  modelOf,
  type Entity,
  type Feature,
  type FeatureForm,
  type Line,
  type TracedArc,
  type TracedPath,
  type WorkPlane,
} from '@calque/core/model';
import { recipeOf } from '@calque/core/part';
import { Builder, measured } from '@calque/core/forming';

const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;

/** The planes of a part: front looks at x and z, top at x and y, side at y and z. */
export const PLANES = {
  front: { origin: [0, 0, 0], across: [1, 0, 0], up: [0, 0, 1] },
  top: { origin: [0, 0, 0], across: [1, 0, 0], up: [0, 1, 0] },
  side: { origin: [0, 0, 0], across: [0, 1, 0], up: [0, 0, 1] },
} as const;

export const plane = (
  id: string,
  frame: Pick<WorkPlane, 'origin' | 'across' | 'up'>,
  face: string | null = null,
): WorkPlane => ({
  type: 'plane',
  id,
  name: id,
  role: 'face',
  width: 100,
  height: 100,
  partId: 'part',
  face,
  ...(JSON.parse(JSON.stringify(frame)) as typeof frame),
});

/** What a part's test is made of, as a person would draw it. */
export class PartDraft {
  readonly entities: Entity[] = [
    {
      type: 'part',
      id: 'part',
      name: 'Bracket',
      material: 'Steel S235JR',
      density: 7850,
      way: 'milling',
      pieces: 1,
    },
    ...Object.entries(PLANES).map(([id, frame]) => plane(id, frame as never)),
  ];
  private count = 0;

  private id = () => `e${++this.count}`;

  add<E extends Entity>(e: E): string {
    this.entities.push(e);
    return e.id;
  }
  line = (planeId: string, from: [number, number], to: [number, number]): string =>
    this.add<Line>({ type: 'line', id: this.id(), planeId, from, to, source });
  arc = (planeId: string, centre: [number, number], radius: number, start = 0, sweep = 2 * Math.PI): string =>
    this.add<TracedArc>({ type: 'arc', id: this.id(), planeId, centre, radius, start, sweep, source });
  path = (planeId: string, points: [number, number][], bulges?: number[]): string =>
    this.add<TracedPath>({
      type: 'path',
      id: this.id(),
      planeId,
      points,
      bulges: bulges ?? points.map(() => 0),
      closed: true,
      source,
    });
  rectangle = (planeId: string, x: number, y: number, w: number, h: number): string =>
    this.path(planeId, [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ]);
  feature(form: FeatureForm, more: Partial<Feature> = {}): string {
    const id = more.id ?? this.id();
    return this.add<Feature>({
      type: 'feature',
      id,
      partId: 'part',
      order: this.entities.length,
      name: '',
      off: false,
      form,
      ...more,
    });
  }
  /** A profile so deep. */
  extrude = (
    planeId: string,
    curves: string[],
    depth: number,
    more: Partial<Extract<FeatureForm, { kind: 'extrude' }>> = {},
    id?: string,
  ): string =>
    this.feature(
      {
        kind: 'extrude',
        profile: { planeId, curves },
        does: 'add',
        reach: { kind: 'depth', depth, both: false },
        back: false,
        draft: 0,
        ...more,
      },
      id === undefined ? {} : { id },
    );
  hole = (
    planeId: string,
    at: [number, number][],
    diameter: number,
    more: Partial<Extract<FeatureForm, { kind: 'hole' }>> = {},
  ): string =>
    this.feature({
      kind: 'hole',
      planeId,
      at,
      centres: [],
      diameter,
      depth: null,
      tip: null,
      head: null,
      thread: null,
      back: false,
      said: '',
      ...more,
    });

  recipe = () => recipeOf(modelOf(this.entities), 'part');

  /** Made from nothing. */
  made() {
    const { body, states } = new Builder().rebuild(this.recipe());
    return {
      body,
      states,
      failed: states.filter((s) => s.state === 'failed').map((s) => s.words),
      of: body && measured(body),
    };
  }
}
