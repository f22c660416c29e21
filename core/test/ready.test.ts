import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lineworkOfScene, readSvg } from '@calque/core/exchange';
import type { Entity, PaperDrawing, PaperView, Underlay } from '@calque/core/model';
import { PAPER_NAMES } from '@calque/core/papers';
import { doubtsOf, freePlace, layPaper, sizeOfPaper, windowsOf, writeReadySvg } from '@calque/core/ready';
import { houseModel } from './given-house.ts';

const view = (more: Partial<PaperView> = {}): PaperView => ({
  id: 'v',
  planeId: 'ground',
  scale: 100,
  at: [40, 60],
  beneath: false,
  caption: '',
  ...more,
});
const paper = (views: PaperView[], more: Partial<PaperDrawing> = {}): PaperDrawing => ({
  type: 'paperDrawing',
  id: 'd',
  name: 'Boat store <A & B>',
  number: 'A-01',
  revision: '',
  drawnBy: '',
  paper: 'A2',
  standing: false,
  views,
  ...more,
});
const underlay = (more: Partial<Underlay> = {}): Underlay => ({
  type: 'underlay',
  id: 'u',
  name: 'Plan of the client',
  fileId: 'f',
  page: 1,
  planeId: 'ground',
  crop: [0, 0, 800, 600],
  placement: [35, 0, 0, 35, -2000, -1000],
  scaleState: 'calibrated',
  calibration: null,
  visible: true,
  fade: 0,
  locked: true,
  snap: true,
  order: 1,
  ...more,
});

describe('a ready drawing', () => {
  it('shows all that is traced on a plane, where and as large as it says', () => {
    const model = houseModel(),
      { traced } = windowsOf(model, 'ground'),
      [laid] = layPaper(model, paper([view()])).views;
    expect(laid.window).toEqual(traced);
    expect(laid.box).toEqual([
      40,
      60,
      expect.closeTo(40 + (traced![2] - traced![0]) / 100, 9),
      expect.closeTo(60 + (traced![3] - traced![1]) / 100, 9),
    ]);
    expect([laid.caption, laid.scaleText]).toEqual(['Ground floor', '1:100']);
    // A page is as large as it is on its own paper.
    const [page] = layPaper(
      model,
      paper([view({ planeId: null, sheet: { fileId: 'f', page: 2 }, window: [0, 0, 720, 360], scale: 2 })]),
    ).views;
    expect(page.box[2] - page.box[0]).toBeCloseTo((720 / 72) * 25.4 * 0.5, 9);
  });

  it('tells of what will not print as one may expect, and draws the rest', () => {
    const model = houseModel(
        underlay(),
        underlay({ id: 'loose', name: 'Loose sheet', scaleState: 'paper', order: 2 }),
        underlay({ id: 'unseen', name: 'Unseen', visible: false, scaleState: 'paper' }),
      ),
      told = (views: PaperView[]) => doubtsOf(layPaper(model, paper(views))).join('\n');
    expect(told([view({ window: [0, 0, 9000, 6000] })])).toBe('');
    expect(told([view({ window: [0, 0, 9000, 6000], at: [580, 60] })])).toMatch(/runs over the edge/);
    expect(told([view({ window: [0, 0, 9000, 6000], at: [40, 12] })])).toMatch(/the title block/);
    expect(
      told([
        view({ window: [0, 0, 9000, 6000] }),
        view({ id: 'w', window: [0, 0, 9000, 6000], at: [100, 80] }),
      ]),
    ).toMatch(/lie over one another/);
    expect(told([view({ window: [0, 0, 9000, 6000], beneath: true })])).toBe(
      'Loose sheet, beneath Ground floor, is not to scale yet: it cannot be measured.',
    );
    const gone = layPaper(model, paper([view({ planeId: 'gone', caption: 'Loft' }), view({ id: 'w' })]));
    expect(gone.views.map((v) => v.view.id)).toEqual(['w']);
    expect(doubtsOf(gone)[0]).toBe('Loft is not drawn. Its storey or plane has been removed.');
  });

  it('has its sheets in their order, those in front of the trace above it', () => {
    const model = houseModel(
        underlay({ id: 'top', order: 7 }),
        underlay({ id: 'low', order: 2 }),
        underlay({
          id: 'front',
          order: 1,
          look: {
            paper: true,
            tint: null,
            linesOnly: false,
            frame: true,
            inFront: true,
            switches: { layers: {}, kinds: [], pens: [], authors: [], markupKinds: [] },
          },
        }),
        underlay({ id: 'gone', fade: 1 }),
        underlay({ id: 'elsewhere', planeId: 'loft' }),
      ),
      [laid] = layPaper(model, paper([view({ beneath: true })])).views;
    expect(laid.beneath.map((s) => s.underlay.id)).toEqual(['low', 'top']);
    expect(laid.above.map((s) => s.underlay.id)).toEqual(['front']);
    expect(laid.beneath[0].ring).toEqual([
      [-2000, -1000],
      [26000, -1000],
      [26000, 20000],
      [-2000, 20000],
    ]);
  });

  it('finds room for each further view at the largest usual scale, over none and within the frame', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...PAPER_NAMES),
        fc.boolean(),
        fc.boolean(),
        fc.array(
          fc.tuple(
            fc.double({ min: 500, max: 60000, noNaN: true }),
            fc.double({ min: 500, max: 60000, noNaN: true }),
          ),
          { minLength: 1, maxLength: 6 },
        ),
        (name, standing, imperial, sizes) => {
          const model = houseModel(),
            of = paper([], { paper: name, standing });
          sizes.forEach(([w, h], i) => {
            const free = freePlace(layPaper(model, of), [w, h], 1, imperial);
            of.views = [...of.views, view({ id: `v${i}`, window: [0, 0, w, h], ...free })];
          });
          const laid = layPaper(model, of),
            doubts = doubtsOf(laid);
          // The first always has room; others lie over one another only where there is none, and it is said.
          const [first] = laid.views,
            [width, height] = sizeOfPaper(of);
          expect(first.box[0]).toBeGreaterThan(0);
          expect(first.box[1]).toBeGreaterThan(0);
          expect(first.box[2]).toBeLessThan(width);
          expect(first.box[3]).toBeLessThan(height);
          expect(doubts.filter((d) => /edge of the paper/.test(d))).toEqual([]);
          const meet = laid.views.some((a, i) =>
            laid.views
              .slice(i + 1)
              .some(
                (b) =>
                  a.box[0] < b.box[2] && b.box[0] < a.box[2] && a.box[1] < b.box[3] && b.box[1] < a.box[3],
              ),
          );
          if (meet) expect(doubts.join()).toMatch(/lie over one another/);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('is an SVG that is true on paper, cut at its windows, with words made safe and pictures where they belong', () => {
    const model = houseModel(underlay() as Entity),
      of = paper([
        view({ window: [0, 0, 9000, 6000], beneath: true, caption: 'Ground "floor" & more' }),
        view({ id: 'w', window: [0, 0, 2000, 6000], scale: 50, at: [300, 100] }),
      ]),
      asked: string[] = [],
      svg = writeReadySvg(model, of, '30 Nov 2026', (v, part) => {
        asked.push(`${v.view.id}/${part}`);
        return part === 'beneath' && v.view.id === 'v' ? 'data:image/png;base64,AAAA' : null;
      });
    expect(svg).toContain('width="594mm" height="420mm" viewBox="0 0 594 420"');
    expect(svg).toContain('Boat store &lt;A &amp; B&gt;');
    expect(svg.match(/<image /g)).toHaveLength(1);
    // Nine metres by six at 1:100, its lower left corner 40 and 60 mm from that of the paper.
    expect(svg).toContain('<image x="40" y="300" width="90" height="60" preserveAspectRatio="none"');
    expect(asked).toContain('w/beneath');
    const ids = [...svg.matchAll(/ id="([^"]*)"/g)].map((m) => m[1]);
    expect(new Set(ids).size).toBe(ids.length);
    const words = lineworkOfScene(readSvg(svg), 1)
      .texts.map((t) => t.text)
      .join(' | ');
    expect(words).toContain('Ground "floor" & more');
    expect(words).toContain('1:100, 1:50');
  });
});
