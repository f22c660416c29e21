import { beforeEach, describe, expect, it, vi } from 'vitest';
import { chainRuns, type Converted } from '@calque/core/conversion';
import { segmentPiece } from '@calque/core/geometry';
import { newLayer, ofType, type Area, type TraceLayer, type Underlay, type Wall } from '@calque/core/model';
import { nextWay } from '../src/drawing/next-way.ts';
import {
  closeConvert,
  openConvert,
  startConvert,
  switchesOf,
  useConvert,
} from '../src/stages/trace/convert/convert.ts';
import { takeRegionTool } from '../src/stages/trace/convert/region-tool.ts';
import { addLayer, removeLayer, showAllLayers, showLayerAlone } from '../src/stages/trace/layers.ts';
import { useTraceState } from '../src/drawing/state.ts';
import { takeTakeTool } from '../src/stages/trace/take/take-tool.ts';
import { key, line, pick, tableWith, underlay } from './given-table.ts';

/** Workers that answer when they are told to. */
class FakeWorker {
  static made: FakeWorker[] = [];
  onmessage: ((e: { data: unknown }) => void) | null = null;
  asked: unknown = null;
  ended = false;
  constructor() {
    FakeWorker.made.push(this);
  }
  postMessage(data: unknown): void {
    this.asked = data;
  }
  terminate(): void {
    this.ended = true;
  }
  say(data: unknown): void {
    this.onmessage?.({ data });
  }
}

let pages = 1;
/** Another page each time: what was made ready of one is kept. */
const onSheet = (more: Partial<Underlay> = {}) => {
  const t = tableWith(
    underlay('u', { page: pages++, crop: [0, 0, 10000, 10000], scaleState: 'calibrated', ...more }),
  );
  t.table.setUnderlay('u');
  vi.stubGlobal('Worker', FakeWorker);
  vi.stubGlobal('location', { href: 'http://calque/project/p' });
  Object.assign(t.table, { setMarked: () => {} });
  return t;
};
beforeEach(() => {
  FakeWorker.made = [];
  useTraceState.setState({ layerId: null, thickness: 100, thicknessFrom: 'typed' });
  useConvert.setState({
    underlayId: null,
    ring: null,
    layersOff: [],
    pensOff: [],
    layering: 'file',
    after: 'stays',
    running: null,
    why: null,
  });
});

/** A room 4 by 3 metres within walls of 240. */
const s = (x0: number, y0: number, x1: number, y1: number) => segmentPiece([x0, y0], [x1, y1]);
const ROOM = chainRuns(
  [
    s(0, 0, 4000, 0),
    s(4000, 0, 4000, 3000),
    s(4000, 3000, 0, 3000),
    s(0, 3000, 0, 0),
    s(-240, -240, 4240, -240),
    s(4240, -240, 4240, 3240),
    s(4240, 3240, -240, 3240),
    s(-240, 3240, -240, -240),
  ],
  1,
).map((r) => ({ ...r, dashed: false }));

/** A press of the button and its release at one place. */
const click = (t: ReturnType<typeof tableWith>, at: ReturnType<typeof pick>) => {
  t.tool().press(at);
  t.tool().release?.(at);
};

describe('taking from the plan', () => {
  const ready = () => {
    const t = onSheet();
    takeTakeTool(t.table);
    t.tool().move!(pick(2000, -30));
    t.tool().words();
    FakeWorker.made.at(-1)!.say({ type: 'done', runs: ROOM });
    return t;
  };
  it('says that the lines are being made ready, and why they could not be', () => {
    const t = onSheet();
    takeTakeTool(t.table);
    click(t, pick(2000, 0));
    expect(t.told[0]).toContain('being made ready');
    FakeWorker.made.at(-1)!.say({ type: 'failed', why: 'The sheet could not be fetched.' });
    click(t, pick(2000, 0));
    expect(t.told[1]).toContain('could not be fetched');
    expect(FakeWorker.made.at(-1)!.ended).toBe(true);
  });
  it('a wall by both faces has the thickness of the plan, measured, and ends midway at its corners', () => {
    const t = ready();
    t.tool().move!(pick(2000, -30));
    expect(t.tool().words()).toMatch(/240\s*mm thick/);
    click(t, pick(2000, -30));
    const wall = t.all().at(-1) as Wall;
    expect(wall).toMatchObject({
      type: 'wall',
      thickness: 240,
      alignment: 'centre',
      source: { thickness: 'measured', ends: 'snapped', underlayId: 'u' },
    });
    expect([
      wall.from[1],
      wall.to[1],
      Math.min(wall.from[0], wall.to[0]),
      Math.max(wall.from[0], wall.to[0]),
    ]).toEqual([-120, -120, -120, 4120]);
  });
  it('the wall that Tab chose is the one that the click makes, however the pointer trembles on its face', () => {
    const t = onSheet();
    takeTakeTool(t.table);
    t.tool().move!(pick(2000, 5));
    t.tool().words();
    FakeWorker.made.at(-1)!.say({
      type: 'done',
      runs: [
        [0, 4000],
        [120, 4000],
        [-240, 4000],
      ].map(([y, x]) => ({ pieces: [s(0, y, x, y)], closed: false, dashed: false })),
    });
    expect(t.tool().words()).toMatch(/120\s*mm thick, 1 of 2/);
    t.tool().key!(key('Tab'));
    expect(t.tool().words()).toMatch(/240\s*mm thick, 2 of 2/);
    for (const [x, y] of [
      [2003, 4],
      [2000, -3],
      [1990, 2],
    ])
      t.tool().move!(pick(x, y));
    expect(t.tool().words()).toMatch(/240\s*mm thick, 2 of 2/);
    click(t, pick(1990, 2));
    expect(t.all().at(-1)).toMatchObject({ type: 'wall', thickness: 240 });
    // Another face begins with its likeliest again.
    t.tool().move!(pick(2000, 121));
    expect(t.tool().words()).toContain('1 of');
  });
  it('the same wall is not made twice: the one that is there is selected, and it is said', () => {
    const t = ready();
    click(t, pick(2000, -30));
    const made = t.all().filter((e) => e.type === 'wall');
    click(t, pick(1500, -236));
    click(t, pick(2500, -4));
    expect(t.all().filter((e) => e.type === 'wall')).toEqual(made);
    expect(t.told.at(-1)).toContain('there already');
    expect([...t.table.state.getState().selection]).toEqual([made[0].id]);
    // Another one beside it is another wall.
    click(t, pick(-120, 1500));
    expect(t.all().filter((e) => e.type === 'wall')).toHaveLength(2);
  });
  it('a wall along a line lies on the pointer\u2019s side; a line, a run and an outline come as they are', () => {
    const t = ready();
    nextWay(t.table);
    click(t, pick(2000, -5));
    const wall = t.all().at(-1) as Wall;
    // The line runs to the right: its right face is drawn when the wall lies to the left, and the other way round.
    expect(wall.alignment).toBe(wall.to[0] > wall.from[0] ? 'left' : 'right');
    nextWay(t.table);
    click(t, pick(2000, 3));
    expect(t.all().at(-1)).toMatchObject({ type: 'line' });
    nextWay(t.table);
    click(t, pick(2000, 3));
    expect(t.all().at(-1)).toMatchObject({ type: 'path', closed: true });
    nextWay(t.table);
    click(t, pick(2000, 1500));
    const area = t.all().at(-1) as Area;
    expect(area.rings[0].points).toHaveLength(4);
    click(t, pick(9000, 9000));
    expect(t.told.at(-1)).toContain('Nothing is closed around');
    expect(t.labels()).toEqual([
      'Take a wall along a line',
      'Take a line',
      'Take a run of lines',
      'Take an outline',
    ]);
  });
  it('says where nothing lies, and where a face has no other', () => {
    const t = ready();
    click(t, pick(7000, 7000));
    expect(t.told[0]).toContain('No line of the sheet lies here');
  });
  it('a stroke takes the walls that it goes right across as one step, shows them before, and leaves what is there', () => {
    const t = ready();
    const drag = (from: [number, number], to: [number, number]) => {
      t.tool().press(pick(...from));
      t.tool().drag!(pick((from[0] + to[0]) / 2, (from[1] + to[1]) / 2));
      t.tool().drag!(pick(...to));
    };
    drag([2000, -600], [2050, 3600]);
    expect(t.tool().words()).toMatch(/Take 2 walls: 240, 240 thick/);
    t.tool().release!(pick(2050, 3600));
    const walls = t.all().filter((e): e is Wall => e.type === 'wall');
    expect(walls.map((w) => [w.thickness, Math.round(w.from[1])]).sort()).toEqual([
      [240, -120],
      [240, 3120],
    ]);
    expect(t.labels()).toEqual(['Take 2 walls by both faces']);
    drag([1000, -600], [-600, 1500]);
    expect(t.tool().words()).toContain('1 there already');
    t.tool().release!(pick(-600, 1500));
    expect(t.all().filter((e) => e.type === 'wall')).toHaveLength(3);
    drag([1000, 600], [1100, 1500]);
    t.tool().release!(pick(1100, 1500));
    expect(t.told.at(-1)).toContain('goes across no wall');
    // Given up, it takes nothing.
    drag([3900, 1000], [4600, 1000]);
    expect(t.tool().cancel()).toBe(true);
    t.tool().release!(pick(4600, 1000));
    expect(t.all().filter((e) => e.type === 'wall')).toHaveLength(3);
  });
  it('what is there already is said while it is pointed at', () => {
    const t = ready();
    click(t, pick(2000, -30));
    t.tool().move!(pick(2600, -30));
    expect(t.tool().words()).toContain('is there already');
  });
});

describe('converting a region', () => {
  const line1 = { ...line('', [0, 0], [1000, 0]) };
  const converted = (): Converted => ({
    layers: [
      { name: 'A-WALL', colour: 0x112233, weight: 0.5 },
      { name: 'Texts', colour: 0, weight: 0.13 },
    ],
    elements: [line1, { ...line1, to: [0, 900] }, { ...line1, to: [7, 7] }],
    layerOf: [0, 0, 1],
    kindOf: ['line', 'line', 'text'],
    from: 12,
  });
  it('asks for a sheet first; picks a rectangle or a polygon on it, in its own points', () => {
    const none = tableWith();
    openConvert(none.table);
    expect(none.told[0]).toContain('Choose a sheet');
    const t = onSheet({ placement: [10, 0, 0, 10, 100, 0] });
    openConvert(t.table);
    takeRegionTool(t.table, t.get<Underlay>('u'), false);
    t.tool().press(pick(100, 0));
    t.tool().press(pick(100, 0));
    expect(t.told[0]).toContain('no area');
    t.tool().press(pick(1100, 500));
    expect(useConvert.getState().ring).toEqual([
      [0, 0],
      [100, 0],
      [100, 50],
      [0, 50],
    ]);
    takeRegionTool(t.table, t.get<Underlay>('u'), true);
    for (const [x, y] of [
      [100, 0],
      [600, 0],
      [600, 700],
      [9, 9],
    ] as const)
      t.tool().press(pick(x, y));
    t.tool().key!(key('Backspace'));
    t.tool().key!(key('Enter'));
    expect(useConvert.getState().ring).toEqual([
      [0, 0],
      [50, 0],
      [50, 70],
    ]);
  });
  it('puts layers, elements and what becomes of the sheet as one step; a layer of the name is used again', () => {
    const t = onSheet();
    t.table.session.do({ type: 'add', entity: newLayer('known', 'A-WALL', 0) }, 'x');
    openConvert(t.table);
    useConvert.setState({ after: 'hidden' });
    startConvert(t.table, t.get<Underlay>('u'));
    const worker = FakeWorker.made.at(-1)!;
    expect(worker.asked).toMatchObject({
      ask: { layering: 'file', planeId: 'ground', source: { underlayId: 'u' } },
    });
    worker.say({ type: 'progress', share: 0.4 });
    expect(useConvert.getState().running?.share).toBe(0.4);
    worker.say({ type: 'done', converted: converted() });
    const lines = t.all().filter((e) => e.type === 'line');
    expect(lines.map((e) => e.layerId === 'known')).toEqual([true, true, false]);
    expect(ofType(t.table.session.state.model, 'layer').map((l) => l.name)).toEqual(['A-WALL', 'Texts']);
    expect(t.get<Underlay>('u').visible).toBe(false);
    expect(t.labels()).toHaveLength(2);
    expect(useConvert.getState()).toMatchObject({ underlayId: null, running: null });
    t.table.session.undo();
    expect(t.all().map((e) => e.id)).toEqual(['u', 'known']);
    expect(t.get<Underlay>('u').visible).toBe(true);
  });
  it('can be stopped half-way with nothing done, and says why it failed', () => {
    const t = onSheet();
    openConvert(t.table);
    startConvert(t.table, t.get<Underlay>('u'));
    useConvert.getState().running!.stop();
    expect([FakeWorker.made.at(-1)!.ended, useConvert.getState().running, t.labels()]).toEqual([
      true,
      null,
      [],
    ]);
    startConvert(t.table, t.get<Underlay>('u'));
    FakeWorker.made.at(-1)!.say({ type: 'failed', why: 'no' });
    expect(useConvert.getState()).toMatchObject({ why: 'no', running: null });
    startConvert(t.table, t.get<Underlay>('u'));
    FakeWorker.made
      .at(-1)!
      .say({ type: 'done', converted: { layers: [], elements: [], layerOf: [], from: 0 } });
    expect(useConvert.getState().why).toContain('Nothing that is switched on');
    closeConvert(t.table);
    expect(useConvert.getState().underlayId).toBeNull();
  });
  it('leaves out what the sheet itself has off, and what was put off here', () => {
    const u = underlay('u', {
      look: {
        paper: true,
        tint: null,
        linesOnly: false,
        frame: true,
        inFront: false,
        switches: { layers: { HATCH: false }, kinds: ['text'], pens: ['x'], authors: [], markupKinds: [] },
      },
    });
    expect(switchesOf(u, { off: ['hatch', 'text'], layersOff: ['DIMS'], pensOff: ['x', 'y'] })).toMatchObject(
      { kinds: ['text', 'hatch'], layers: { HATCH: false, DIMS: false }, pens: ['x', 'y'] },
    );
  });
});

describe('layers', () => {
  it('are added under a name of their own, shown alone and all, and leave what lies on them', () => {
    const t = tableWith({ ...line('l', [0, 0], [1, 1]) });
    expect(addLayer(t.table.session, '  ')).toContain('a name');
    expect(addLayer(t.table.session, 'Joinery')).toBeNull();
    expect(addLayer(t.table.session, 'JOINERY')).toContain('already');
    expect(addLayer(t.table.session, 'Tiles')).toBeNull();
    const [joinery, tiles] = ofType(t.table.session.state.model, 'layer');
    expect(useTraceState.getState().layerId).toBe(tiles.id);
    showLayerAlone(t.table.session, joinery);
    const seen = () => ofType(t.table.session.state.model, 'layer').map((l) => l.visible);
    expect(seen()).toEqual([true, false]);
    showAllLayers(t.table.session);
    expect(seen()).toEqual([true, true]);
    t.table.session.do(
      { type: 'set', id: 'l', before: { layerId: null }, after: { layerId: joinery.id } },
      'x',
    );
    removeLayer(t.table.session, t.get<TraceLayer>(joinery.id));
    expect(t.get('l')).toMatchObject({ layerId: null });
    t.table.session.undo();
    expect(t.get('l')).toMatchObject({ layerId: joinery.id });
  });
});
