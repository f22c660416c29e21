import { describe, expect, it } from 'vitest';
import type { ShownEdge, ShownFace, ShownSolid } from '@calque/core/forming';
import { loopsOf } from '../src/part/edge-loops.ts';
import { measuredWords } from '../src/part/measured-words.ts';
import { colourAt, THICKNESS_STOPS } from '../src/part/shade-colours.ts';
import { edgesSnapper } from '../src/part/solid-edges.ts';

type Place = [number, number, number];
const edge = (a: Place, b: Place, between: [string, string], radius: number | null = null): ShownEdge => ({
  between,
  middle: [0, 1, 2].map((k) => (a[k] + b[k]) / 2) as Place,
  length: Math.hypot(...a.map((v, k) => v - b[k])),
  radius,
  points: Float32Array.from([...a, ...b]),
});
/** A lid of 60 x 40 at height 10 with a square hole of 10 in it, and one upright edge at its corner. */
const CORNERS: Place[] = [
  [0, 0, 10],
  [60, 0, 10],
  [60, 40, 10],
  [0, 40, 10],
];
const HOLE: Place[] = [
  [20, 20, 10],
  [30, 20, 10],
  [30, 30, 10],
  [20, 30, 10],
];
const around = (points: Place[], name: string) =>
  points.map((p, i) => edge(p, points[(i + 1) % points.length], ['lid', `${name}${i}`]));
const RIM = around(CORNERS, 'side'),
  INNER = around(HOLE, 'wall'),
  UPRIGHT = edge([0, 0, 0], [0, 0, 10], ['side0', 'side3']);

describe('loops of an edge', () => {
  it('are all edges of a face that hang together with it: the rim, not the hole within', () => {
    const all = [...RIM, ...INNER, UPRIGHT],
      [lid, side] = loopsOf(RIM[0], all);
    expect(new Set(lid)).toEqual(new Set(RIM));
    expect(new Set(side)).toEqual(new Set([RIM[0], UPRIGHT]));
    expect(new Set(loopsOf(INNER[2], all)[0])).toEqual(new Set(INNER));
  });
});

const face = (name: string, form: ShownFace['form'], area = 100): ShownFace => ({
  name,
  form,
  area,
  start: 0,
  count: 0,
});
const solid = (faces: ShownFace[]) => ({ skin: { faces } }) as unknown as ShownSolid;
const STYLE = { units: 'mm', precision: 0 } as const;
const said = (faces: ShownFace[], edges: ShownEdge[] = []) =>
  measuredWords(
    solid(faces),
    faces.map((f) => f.name),
    edges,
    STYLE,
  ).replace(/[\u2009\u00a0\u202f]/g, ' ');

describe('what is chosen, measured', () => {
  const flat = (name: string, at: Place, normal: Place) => face(name, { kind: 'plane', at, normal }),
    round = (name: string, at: Place, radius: number) =>
      face(name, { kind: 'cylinder', at, axis: [0, 0, 1], radius, hollow: true });

  it('faces: their size, how far apart they are, at which angle', () => {
    expect(said([flat('a', [0, 0, 0], [0, 0, 1])])).toBe('flat, 1.000 cm²');
    expect(said([flat('a', [0, 0, 12.5], [0, 0, 1]), flat('b', [7, 3, 0], [0, 0, -1])])).toBe(
      '12.5 mm apart',
    );
    // Faces of a corner of 90 degrees look away from one another by as much.
    expect(said([flat('a', [0, 0, 0], [0, 0, 1]), flat('b', [0, 0, 0], [1, 0, 0])])).toBe(
      'at 90.000° to one another',
    );
    expect(said([round('a', [0, 0, 0], 4.5), round('b', [30, 40, 9], 4.5)])).toBe('axes 50 mm apart');
    expect(said([round('a', [12, 0, 3], 4.5), flat('b', [0, 5, 5], [-1, 0, 0])])).toBe(
      'axis 12 mm from the face',
    );
    expect(said([round('a', [0, 0, 0], 4.5)])).toBe('round, radius 4.5 mm, about 1.000 cm²');
  });

  it('edges: their length, radius, and how far their middles are apart', () => {
    expect(said([], [RIM[0]])).toBe('long 60 mm');
    expect(said([], [edge([0, 0, 0], [3, 4, 0], ['a', 'b'], 2.5)])).toBe('radius 2.5 mm, long 5 mm');
    expect(said([], [RIM[0], RIM[2]])).toBe(
      'together long 120 mm; their middles 40 mm apart (0 mm, 40 mm, 0 mm)',
    );
    expect(said([], [])).toBe('');
  });
});

describe('colours and picks of a solid', () => {
  it('goes through its stops, keeps to its ends, and has none for what was not measured', () => {
    expect(colourAt(THICKNESS_STOPS, 0)).toBe(THICKNESS_STOPS[0]);
    expect(colourAt(THICKNESS_STOPS, 1)).toBe(THICKNESS_STOPS[4]);
    expect(colourAt(THICKNESS_STOPS, 7)).toBe(THICKNESS_STOPS[4]);
    expect(colourAt(THICKNESS_STOPS, NaN)).toBe('#9aa2a8');
    expect(new Set([0.1, 0.4, 0.6, 0.9].map((v) => colourAt(THICKNESS_STOPS, v))).size).toBe(4);
  });

  it('finds ends and centres of what is seen of it, hidden lines too', () => {
    const snapper = edgesSnapper({
      visible: [
        { kind: 'segment', from: [0, 0], to: [100, 0] },
        { kind: 'arc', arc: { cx: 40, cy: 30, r: 8, start: 0, end: 2 * Math.PI }, clockwise: false },
      ],
      hidden: [{ kind: 'segment', from: [70, 0], to: [70, 60] }],
    });
    const kinds = (x: number, y: number) => snapper.query(x, y, 2, {}).map((c) => c.kind);
    expect(kinds(99.5, 0.3)).toContain('end');
    expect(kinds(40.4, 30)).toContain('centre');
    expect(kinds(70, 59.6)).toContain('end');
    expect(kinds(70.2, 0.2)).toContain('along');
    expect(kinds(20, 50)).toEqual([]);
  });
});
