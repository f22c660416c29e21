import { degrees, PDFDocument } from '@cantoo/pdf-lib';
import { describe, expect, it } from 'vitest';
import { applyTransform, MM_PER_POINT, type Point } from '@calque/core/geometry';
import type { Linework } from '@calque/core/linework';
import {
  modelOf,
  type Entity,
  type Model,
  type PaperDrawing,
  type PaperView,
  type Underlay,
} from '@calque/core/model';
import { writeReadyPdf } from '@calque/core/paper';
import { layPaper } from '@calque/core/ready';
import { bytesOf, read } from './truth.ts';

const STOREY: Entity = {
  type: 'storey',
  id: 'ground',
  name: 'Ground floor',
  elevation: 0,
  height: 3000,
  heightAssumed: false,
};
const WALL: Entity = {
  type: 'wall',
  id: 'w',
  planeId: 'ground',
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
  from: [1000, 2000],
  to: [11000, 2000],
  thickness: 300,
  alignment: 'centre',
  height: 2700,
  heightAssumed: false,
};
const settings: Entity = { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 };

const underlay = (more: Partial<Underlay>): Underlay => ({
  type: 'underlay',
  id: 'u',
  name: 'Plan',
  fileId: 'file',
  page: 1,
  planeId: 'ground',
  crop: [0, 0, 1e4, 1e4],
  placement: [1, 0, 0, 1, 0, 0],
  scaleState: 'calibrated',
  calibration: null,
  visible: true,
  fade: 0,
  locked: true,
  snap: true,
  order: 1,
  ...more,
});

const view = (more: Partial<PaperView> = {}): PaperView => ({
  id: 'v',
  planeId: 'ground',
  scale: 100,
  at: [20, 40],
  beneath: true,
  caption: '',
  ...more,
});
const drawing = (views: PaperView[], more: Partial<PaperDrawing> = {}): PaperDrawing => ({
  type: 'paperDrawing',
  id: 'd',
  name: 'Plans',
  number: 'A-01',
  revision: '',
  drawnBy: '',
  paper: 'A0',
  standing: false,
  views,
  ...more,
});
const modelWith = (...more: Entity[]): Model => modelOf([settings, STOREY, ...more]);

async function write(model: Model, of: PaperDrawing, files: Record<string, Uint8Array> = {}) {
  const written = await writeReadyPdf(model, of, '30 Nov 2026', {
    bytesOf: (id) => files[id] ?? null,
    pictureOf: () => null,
  });
  const { pages } = await read(written.bytes);
  return { ...written, linework: pages[0].linework };
}

/** Segments longer than a few points, by their ends rounded to what a drawing can show; either way round. */
function segmentsOf({ segments: s }: Linework): [Point, Point][] {
  const out: [Point, Point][] = [];
  for (let i = 0; i < s.length; i += 4)
    out.push([
      [s[i], s[i + 1]],
      [s[i + 2], s[i + 3]],
    ]);
  return out;
}
const apart = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);
const has = (list: [Point, Point][], [p, q]: [Point, Point], within: number) =>
  list.some(
    ([a, b]) =>
      (apart(a, p) < within && apart(b, q) < within) || (apart(a, q) < within && apart(b, p) < within),
  );

describe('a ready drawing as PDF', () => {
  it.each([
    ['01_cairo_plan_100.pdf', 0, 0],
    ['01_cairo_plan_100.pdf', 90, 0],
    ['01_cairo_plan_100.pdf', 180, 0.4],
    ['06g_rotate270_crop_userunit15.pdf', 270, -1.1],
    ['05_rsvg_nested_forms_clips.pdf', 0, 2.5],
  ])(
    'has the lines of %s, a page turned by %i, where the sheet lies turned by %f',
    async (name, page, turn) => {
      const bytes = await turned(bytesOf(name), page),
        { pages } = await read(bytes),
        { linework } = pages[0],
        // At 1:100 and turned; the whole of it is on the paper.
        k = MM_PER_POINT * 100,
        placement: Underlay['placement'] = [
          k * Math.cos(turn),
          k * Math.sin(turn),
          -k * Math.sin(turn),
          k * Math.cos(turn),
          3000,
          -700,
        ],
        corners: Point[] = [
          [0, 0],
          [linework.width, 0],
          [linework.width, linework.height],
          [0, linework.height],
        ].map((p) => applyTransform(placement, p as unknown as Point)),
        xs = corners.map((p) => p[0]),
        ys = corners.map((p) => p[1]),
        window: [number, number, number, number] = [
          Math.min(...xs),
          Math.min(...ys),
          Math.max(...xs),
          Math.max(...ys),
        ],
        model = modelWith(underlay({ placement, crop: [0, 0, linework.width, linework.height] })),
        scale = Math.max(100, (window[3] - window[1]) / 780, (window[2] - window[0]) / 1140),
        of = drawing([view({ window, scale })]);
      const { linework: back, leftOut } = await write(model, of, { file: bytes });
      expect(leftOut).toEqual([]);
      const [laid] = layPaper(model, of).views,
        to = (p: Point): Point => {
          const [x, y] = applyTransform(placement, p);
          return [
            (laid.box[0] + (x - window[0]) * laid.unit) / MM_PER_POINT,
            (laid.box[1] + (y - window[1]) * laid.unit) / MM_PER_POINT,
          ];
        },
        there = segmentsOf(back),
        all = segmentsOf(linework).filter(([p, q]) => apart(p, q) > 5),
        some = all.filter((_, i) => i % Math.ceil(all.length / 200) === 0);
      expect(some.length).toBeGreaterThan(20);
      const missing = some.filter(([p, q]) => !has(there, [to(p), to(q)], 0.02));
      expect(missing).toEqual([]);
    },
  );

  it('has the trace at its scale, each view within its own window, captions and the title block', async () => {
    const far: Entity = { ...(WALL as object), id: 'far', from: [1000, 9000], to: [11000, 9000] } as Entity,
      note = (id: string, at: [number, number], text: string): Entity =>
        ({
          type: 'text',
          id,
          planeId: 'ground',
          source: null,
          at,
          text,
          height: 250,
          radians: 0,
        }) as unknown as Entity,
      of = drawing(
        [
          view({ window: [0, 0, 12000, 4000] }),
          view({
            id: 'near',
            window: [500, 8000, 6000, 10000],
            scale: 50,
            at: [200, 100],
            caption: 'River wall',
          }),
        ],
        { drawnBy: 'M. Okafor', revision: 'B' },
      ),
      { linework } = await write(
        modelWith(WALL, far, note('t1', [2000, 3000], 'OARS'), note('t2', [2000, 9500], 'BOW')),
        of,
      ),
      lines = segmentsOf(linework),
      at = (x: number, y: number): Point => [x / MM_PER_POINT, y / MM_PER_POINT];
    // Its faces: ten metres are 100.0 mm at 1:100, three hundred millimetres 3.0.
    for (const y of [58.5, 61.5]) expect(has(lines, [at(30, y), at(130, y)], 0.002)).toBe(true);
    // The other at 1:50 goes on beyond its window, and is cut there.
    const [cut] = lines.filter(
      ([p, q]) => Math.abs(p[1] - q[1]) < 0.01 && Math.abs(p[1] * MM_PER_POINT - 123) < 0.01,
    );
    expect(Math.min(cut[0][0], cut[1][0]) * MM_PER_POINT).toBeCloseTo(210, 2);
    expect(Math.max(cut[0][0], cut[1][0]) * MM_PER_POINT).toBeLessThanOrEqual(310.6);
    const texts = linework.texts.map((t) => t.text).join('\n');
    for (const words of [
      'OARS',
      'BOW',
      'River wall 1:50',
      'Ground floor 1:100',
      'M. Okafor',
      'A-01',
      '1:100, 1:50',
      '50 mm on A0',
    ])
      expect(texts.replace(/\s+/g, ' '), words).toContain(words);
    const oars = linework.texts.find((t) => t.text === 'OARS')!;
    expect([oars.x * MM_PER_POINT, oars.y * MM_PER_POINT]).toEqual([
      expect.closeTo(40, 1),
      expect.closeTo(70, 1),
    ]);
  });

  it('places a page beside it at its own size, cut to the part that is wanted', async () => {
    const bytes = bytesOf('01_cairo_plan_100.pdf'),
      { linework } = (await read(bytes)).pages[0],
      part: [number, number, number, number] = [0, 0, linework.width / 2, linework.height],
      of = drawing([
        view({ planeId: null, sheet: { fileId: 'file', page: 1 }, window: part, scale: 1, at: [100, 50] }),
      ]),
      there = segmentsOf((await write(modelWith(), of, { file: bytes })).linework),
      inside = segmentsOf(linework).filter(([p, q]) => apart(p, q) > 5 && Math.max(p[0], q[0]) < part[2] - 1),
      to = ([x, y]: Point): Point => [x + 100 / MM_PER_POINT, y + 50 / MM_PER_POINT];
    expect(inside.length).toBeGreaterThan(20);
    for (const [p, q] of inside.slice(0, 50)) expect(has(there, [to(p), to(q)], 0.02)).toBe(true);
    const right = part[2] + 100 / MM_PER_POINT + 2;
    expect(there.filter(([p, q]) => apart(p, q) > 5 && p[1] > 120 && Math.min(p[0], q[0]) > right)).toEqual(
      [],
    );
  });

  it('shows a faded sheet faintly as one, and nothing beyond its outline', async () => {
    const bytes = bytesOf('01_cairo_plan_100.pdf'),
      { linework } = (await read(bytes)).pages[0],
      k = MM_PER_POINT * 100,
      half: [number, number][] = [
        [0, 0],
        [linework.width / 2, 0],
        [linework.width / 2, linework.height],
        [0, linework.height],
      ],
      model = modelWith(
        underlay({
          placement: [k, 0, 0, k, 0, 0],
          crop: [0, 0, linework.width / 2, linework.height],
          outline: half,
          fade: 0.7,
        }),
      ),
      of = drawing([view({ window: [0, 0, linework.width * k, linework.height * k] })]),
      written = await write(model, of, { file: bytes }),
      right = 20 / MM_PER_POINT + linework.width / 2 + 2;
    expect(
      segmentsOf(written.linework).filter(
        ([p, q]) => apart(p, q) > 5 && p[1] > 120 && p[0] < 2000 && Math.min(p[0], q[0]) > right,
      ),
    ).toEqual([]);
    const made = await PDFDocument.load(written.bytes),
      states = made.context
        .enumerateIndirectObjects()
        .map(([, o]) => String(o))
        .join('\n');
    expect(states).toMatch(/\/Group <<\s*\/S \/Transparency/);
    expect(String(made.getPage(0).node.Resources())).toMatch(/\/ca 0\.3|Fade/);
  });

  it('leaves out what cannot be put beneath it, and says so; the rest is there', async () => {
    const model = modelWith(
        WALL,
        underlay({ id: 'locked', name: 'Locked', fileId: 'locked' }),
        underlay({ id: 'broken', name: 'Broken', fileId: 'broken' }),
        underlay({ id: 'away', name: 'Away', fileId: 'away' }),
        underlay({ id: 'short', name: 'Short', fileId: 'short', page: 40 }),
        underlay({ id: 'hidden', name: 'Hidden', fileId: 'away', visible: false }),
      ),
      { leftOut, linework } = await write(model, drawing([view({ window: [0, 0, 12000, 4000] })]), {
        locked: bytesOf('13e_password.pdf'),
        broken: new TextEncoder().encode('no PDF at all'),
        short: bytesOf('01_cairo_plan_100.pdf'),
      });
    expect(leftOut).toEqual([
      'Locked is left out: its file is protected.',
      'Broken is left out: its file is not built as a PDF should be.',
      'Away is left out: its file is not here.',
      'Short is left out: it has 1 page, not 40.',
    ]);
    expect(
      has(
        segmentsOf(linework),
        [
          [30 / MM_PER_POINT, 58.5 / MM_PER_POINT],
          [130 / MM_PER_POINT, 58.5 / MM_PER_POINT],
        ],
        0.002,
      ),
    ).toBe(true);
  });
});

/** The first page of a file turned by so much more, and cropped where it is. */
async function turned(bytes: Uint8Array, by: number): Promise<Uint8Array> {
  if (by === 0 || by === 270) return bytes;
  const document = await PDFDocument.load(bytes),
    page = document.getPage(0),
    { x, y, width, height } = page.getMediaBox();
  page.setRotation(degrees(by));
  page.setCropBox(x + 12, y + 7, width - 20, height - 30);
  return document.save();
}
