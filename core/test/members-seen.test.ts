import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyLinework, kindCode, type Linework, type PageText } from '@calque/core/linework';
import { isSectionName, proposalsOn } from '@calque/core/proposals';

type Place = [number, number];
interface Drawn {
  from: Place;
  to: Place;
  /** 0 thick, 1 fine, 2 fine with dashes. */
  pen: number;
}

const text = (words: string, [x, y]: Place, radians = 0): PageText => {
  const width = 5.5 * words.length;
  return {
    text: words,
    object: 0,
    kind: kindCode('text'),
    x: x - (width / 2) * Math.cos(radians),
    y: y - (width / 2) * Math.sin(radians),
    height: 9,
    radians,
    layer: -1,
    width,
  };
};

function sheet(lines: readonly Drawn[], texts: readonly PageText[]): Linework {
  const l = emptyLinework(900, 700);
  l.pens = [
    { width: 1.6, colour: 0, dash: [] },
    { width: 0.3, colour: 0, dash: [] },
    { width: 0.3, colour: 0, dash: [8, 2, 2, 2] },
  ];
  // Enough of what is fine, as every sheet has it.
  const all: Drawn[] = [
    ...lines,
    ...Array.from({ length: 12 }, (_, i): Drawn => ({
      from: [20, 20 + 3.7 * i * i],
      to: [60, 24 + 3.7 * i * i],
      pen: 1,
    })),
  ];
  l.segments = Float64Array.from(all.flatMap((d) => [...d.from, ...d.to]));
  l.segmentStyle = Int32Array.from(all.flatMap((d) => [-1, d.pen]));
  l.segmentKind = new Uint8Array(all.length).fill(kindCode('line'));
  l.texts = [...texts];
  return l;
}

describe('names of sections', () => {
  it.each([
    'IPE 300',
    'HEB200',
    'HEA 160',
    'UB 305x165x40',
    'SHS 100x100x5',
    'W12x26',
    'C24 80x200',
    '80x200',
    '2x IPE 200',
  ])('%s is one', (name) => expect(isSectionName(name)).toBe(true));
  it.each(['Hall', '12.4 m²', 'D04', '2400', 'Scale 1:100', 'Section A-A', 'Level 2', 'W'])(
    '%s is none',
    (name) => expect(isSectionName(name)).toBe(false),
  );
});

describe('members of a frame', () => {
  it('are thick lines with their mark, and edges with a line in the middle with the name of their section; at any turn', () => {
    fc.assert(
      fc.property(fc.double({ min: -1.5, max: 1.5, noNaN: true }), (angle) => {
        const turn = ([x, y]: Place): Place => [
            450 + x * Math.cos(angle) - y * Math.sin(angle),
            350 + x * Math.sin(angle) + y * Math.cos(angle),
          ],
          line = (from: Place, to: Place, pen: number): Drawn => ({ from: turn(from), to: turn(to), pen });
        const l = sheet(
          [
            // A thick one in two pieces.
            line([-150, 0], [10, 0], 0),
            line([10, 0], [150, 0], 0),
            // Edges and a middle.
            line([-150, 60], [150, 60], 1),
            line([-150, 66], [150, 66], 1),
            line([-150, 63], [150, 63], 2),
            // A fine line with a mark is none.
            line([-150, 120], [150, 120], 1),
          ],
          [
            text('B12', turn([0, 6]), angle),
            text('IPE 300', turn([20, 72]), angle),
            text('N4', turn([0, 126]), angle),
          ],
        );
        const { members } = proposalsOn(l, 50);
        expect(members.map((m) => m.mark).sort()).toEqual(['B12', 'IPE 300']);
        const beam = members.find((m) => m.mark === 'IPE 300')!,
          ends = [beam.from, beam.to].sort((a, b) => a[0] - b[0] || a[1] - b[1]),
          truth = [turn([-150, 63]), turn([150, 63])].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
        ends.forEach((p, i) => expect(Math.hypot(p[0] - truth[i][0], p[1] - truth[i][1])).toBeLessThan(0.5));
        const thick = members.find((m) => m.mark === 'B12')!;
        expect(Math.hypot(thick.to[0] - thick.from[0], thick.to[1] - thick.from[1])).toBeCloseTo(300, 1);
      }),
      { numRuns: 30 },
    );
  });

  it('named and marked is one, by the name of its section', () => {
    const l = sheet(
      [{ from: [100, 300], to: [500, 300], pen: 0 }],
      [text('R3', [200, 308]), text('HEA 200', [380, 308])],
    );
    expect(proposalsOn(l, 50).members.map((m) => m.mark)).toEqual(['HEA 200']);
  });

  it('are none where a text stands by itself', () => {
    const l = sheet([{ from: [100, 300], to: [500, 300], pen: 0 }], [text('IPE 300', [300, 500])]);
    expect(proposalsOn(l, 50).members).toEqual([]);
  });
});
