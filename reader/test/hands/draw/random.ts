import { emptyLinework, kindCode, type Linework } from '@calque/core/linework';
import { chain, dimension, table, type Extra, type Habit } from './dimension.ts';
import { along, chance, DEGREE, Hand, widthOf, type Point } from './hand.ts';
import { centimetres, unicodeHalf, wall } from './plans.ts';

/** What a hand has drawn as a reader would give it, places rounded as files round them. */
export function lineworkOf(hand: Hand, grid = 0.001): Linework {
  const r = (v: number) => Math.round(v / grid) * grid;
  const segments: number[] = [],
    edges: number[] = [],
    circles: number[] = [],
    arcs: number[] = [];
  const l = emptyLinework(hand.width, hand.height);
  const path = (out: number[], points: readonly Point[], close: boolean) =>
    points.forEach((p, i) => {
      const q = points[i + 1] ?? (close ? points[0] : null);
      if (q && Math.hypot(q[0] - p[0], q[1] - p[1]) > 1e-6) out.push(r(p[0]), r(p[1]), r(q[0]), r(q[1]));
    });
  for (const o of hand.ops) {
    if (o.op === 'line') path(segments, o.points, !!o.close);
    else if (o.op === 'fill') path(edges, o.points, true);
    else if (o.op === 'circle') circles.push(r(o.at[0]), r(o.at[1]), o.r);
    else if (o.op === 'arc') arcs.push(r(o.at[0]), r(o.at[1]), o.r, o.start, o.end);
    else {
      const width = widthOf(o.text, o.size),
        back = width * { start: 0, middle: 0.5, end: 1 }[o.anchor];
      l.texts.push({
        text: o.text,
        object: l.texts.length,
        kind: kindCode('text'),
        x: r(o.at[0] - back * Math.cos(o.radians)),
        y: r(o.at[1] - back * Math.sin(o.radians)),
        height: o.size,
        radians: o.radians,
        layer: -1,
        width,
      });
    }
  }
  const ints = (n: number, v: number) => new Int32Array(n).fill(v),
    n = segments.length / 4,
    f = edges.length / 4,
    c = circles.length / 3,
    a = arcs.length / 5;
  return {
    ...l,
    segments: Float64Array.from(segments),
    segmentStyle: ints(2 * n, 0),
    segmentObject: ints(n, 0),
    segmentKind: new Uint8Array(n),
    fillEdges: Float64Array.from(edges),
    fillEdgeStyle: ints(2 * f, -1),
    fillEdgeObject: ints(f, 0),
    fillEdgeKind: new Uint8Array(f),
    circles: Float64Array.from(circles),
    circleStyle: ints(2 * c, 0),
    circleObject: ints(c, 0),
    circleKind: new Uint8Array(c),
    arcs: Float64Array.from(arcs),
    arcStyle: ints(2 * a, 0),
    arcObject: ints(a, 0),
    arcKind: new Uint8Array(a),
  };
}

const feet = (mm: number) => {
  const q = Math.round((mm / 25.4) * 4),
    i = Math.floor(q / 4);
  return `${Math.floor(i / 12)}'-${i % 12}${['', ' 1/4', ' 1/2', ' 3/4'][q % 4]}"`;
};
/** How offices write lengths: the step that they round to, millimetres, the unit that a view then has, and a note where one is needed. */
const WRITINGS: {
  name: string;
  step: number;
  unit: string;
  write: (mm: number) => { text: string; raised?: string };
  note?: string;
  factors: number[];
  size: number;
}[] = [
  { name: 'mm', step: 5, unit: 'mm', write: (mm) => ({ text: String(mm) }), factors: [20, 50, 100], size: 1 },
  {
    name: 'mm grouped',
    step: 1,
    unit: 'mm',
    write: (mm) => ({
      text: mm >= 1000 ? `${Math.floor(mm / 1000)} ${String(mm % 1000).padStart(3, '0')}` : String(mm),
    }),
    factors: [50, 100],
    size: 1,
  },
  { name: 'cm raised', step: 5, unit: 'cm', write: (mm) => centimetres(mm), factors: [50, 100], size: 1 },
  {
    name: 'cm character',
    step: 5,
    unit: 'cm',
    write: (mm) => ({ text: unicodeHalf(mm) }),
    factors: [50, 100],
    size: 1,
  },
  {
    name: 'cm whole',
    step: 10,
    unit: 'cm',
    write: (mm) => ({ text: String(mm / 10) }),
    note: 'Cotes en cm',
    factors: [50, 100],
    size: 1,
  },
  {
    name: 'm',
    step: 10,
    unit: 'm',
    write: (mm) => ({ text: (mm / 1000).toFixed(2) }),
    factors: [50, 100, 200],
    size: 1,
  },
  {
    name: 'm comma',
    step: 1,
    unit: 'm',
    write: (mm) => ({ text: (mm / 1000).toFixed(3).replace('.', ',') }),
    factors: [50, 100, 200],
    size: 1,
  },
  {
    name: 'feet',
    step: 25.4 / 4,
    unit: 'ft',
    write: (mm) => ({ text: feet(mm) }),
    factors: [48, 96],
    size: 1,
  },
  { name: 'said', step: 5, unit: 'mm', write: (mm) => ({ text: `${mm} mm` }), factors: [20, 50], size: 1 },
  {
    name: 'inches',
    step: 25.4 / 8,
    unit: 'in',
    write: (mm) => {
      const e = Math.round((mm / 25.4) * 8),
        w = Math.floor(e / 8),
        f = ['', '1/8', '1/4', '3/8', '1/2', '5/8', '3/4', '7/8'][e % 8];
      return { text: w === 0 ? f : f ? `${w} ${f}` : String(w) };
    },
    factors: [8, 12],
    size: 0.17,
  },
  {
    name: 'decimal inches',
    step: 25.4 / 1000,
    unit: 'in',
    write: (mm) => ({ text: (mm / 25.4).toFixed(3).replace(/^0/, '') }),
    note: 'DIMENSIONS ARE IN INCHES',
    factors: [2, 4],
    size: 0.035,
  },
  {
    name: 'mm part',
    step: 0.1,
    unit: 'mm',
    write: (mm) => ({ text: String(Math.round(mm * 10) / 10) }),
    note: 'All dimensions in mm',
    factors: [1, 2, 5],
    size: 0.025,
  },
];

/** A plan drawn and written at random, in the manner of no office that is known; with its name for a report. */
export function randomSheet(seed: number): { hand: Hand; name: string; grid: number } {
  const random = chance(seed),
    pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)],
    between = (a: number, b: number) => a + (b - a) * random();
  const w = pick(WRITINGS),
    size = between(4, 8.5);
  const habit: Habit = {
    mark: pick(['tick', 'thick', 'arrow', 'open', 'dot', 'ring']),
    figure: pick(['above', 'above', 'gap', 'level']),
    size,
    markSize: between(0.6, 1.3),
    beyond: pick([0, 1, 3, 5]),
    apart: between(0.5, 4),
    fromLeft: random() < 0.3,
    over: pick([0, 0, 3]),
  };
  const small = pick(['overlap', 'step', 'leader'] as const),
    rowGap = between(2.4, 4.5) * size;
  const factor = pick(w.factors) * (random() < 0.5 ? 1 : 1 / between(0.6, 0.98)),
    turn = random() < 0.25 ? between(-40, 40) * DEGREE : 0;
  const hand = new Hand(1191, 842),
    round = (mm: number) => {
      const v = Math.max(1, Math.round((mm * w.size) / w.step)) * w.step;
      return Math.round(v * 1e6) / 1e6;
    };
  const room = (560 * factor * 25.4) / 72,
    pieces = (n: number, span: number) => Array.from({ length: n }, () => (span / n) * between(0.5, 1.4));
  const put = (list: number[]) => list.map((v) => round(v / w.size));
  const thin = () => (between(4, 16) * factor * 25.4) / 72;
  const wide = put(
      pieces(3 + Math.floor(random() * 3), room * 0.9)
        .flatMap((v) => [thin(), v])
        .concat(thin()),
    ),
    high = put(
      pieces(2 + Math.floor(random() * 2), room * 0.55)
        .flatMap((v) => [thin(), v])
        .concat(thin()),
    );
  const sums = (list: number[]) => list.reduce((out, v) => [...out, out[out.length - 1] + v], [0]);
  const xs = sums(wide),
    ys = sums(high),
    W = xs[xs.length - 1],
    H = ys[ys.length - 1],
    at = hand.place(
      turn === 0 ? [190, 190] : [turn > 0 ? 420 : 200, turn > 0 ? 160 : 480],
      factor * (turn === 0 ? 1 : 1.45),
      turn,
    ),
    true_ = factor * (turn === 0 ? 1 : 1.45);
  hand.pen = 0.8;
  for (const x of xs) hand.line(at(x, 0), at(x, H));
  for (const y of ys) hand.line(at(0, y), at(W, y));
  hand.pen = 0.35;
  const per = 72 / 25.4 / true_;
  const item = (mm: number, i: number, n: number): { text: string; extra: Extra } => {
    const { text, raised } = w.write(mm),
      full = widthOf(text, size) + (raised ? 0.4 * size : 0),
      points = mm * per,
      narrow = points < full + 1.5 * size;
    const extra: Extra = { value: Math.round(mm * 1000) / 1000, raised };
    if (!narrow || small === 'overlap') return { text, extra };
    if (i === 0) return { text, extra: { ...extra, shift: [-(points / 2 + full / 2 + 0.5 * size), 0] } };
    if (i === n - 1) return { text, extra: { ...extra, shift: [points / 2 + full / 2 + 0.5 * size, 0] } };
    return {
      text,
      extra: {
        ...extra,
        shift: small === 'step' ? [0, 1.15 * size] : [full / 2 + 1.2 * size, 1.3 * size],
        leader: small === 'leader',
      },
    };
  };
  const items = (list: number[]) => list.map((mm, i) => item(mm, i, list.length));
  const chained: Habit = {
    ...habit,
    figure: habit.figure === 'above' || small !== 'overlap' ? 'above' : habit.figure,
  };
  const row = (places: Point[], list: number[], off: number) => {
    if (chained.figure === 'above') chain(hand, chained, places, off, items(list));
    else
      list.forEach((mm, i) =>
        dimension(hand, chained, places[i], places[i + 1], off, item(mm, i, list.length).text, {
          ...item(mm, i, list.length).extra,
          shift: undefined,
        }),
      );
  };
  const first = 4 * size;
  row(
    xs.map((x) => at(x, 0)),
    wide,
    -(first + rowGap),
  );
  row(
    [...ys].reverse().map((y) => at(0, y)),
    [...high].reverse(),
    -(first + rowGap),
  );
  dimension(hand, habit, at(0, 0), at(W, 0), -(first + 2 * rowGap), w.write(W).text, {
    value: W,
    raised: w.write(W).raised,
  });
  dimension(hand, habit, at(0, H), at(0, 0), -(first + 2 * rowGap), w.write(H).text, {
    value: H,
    raised: w.write(H).raised,
  });
  // Across rooms, here and there.
  xs.slice(1).forEach((x, i) => {
    if (wide[i] * per > 80) {
      const y = H * between(0.25, 0.8),
        d = item(wide[i], 1, 3);
      dimension(hand, { ...habit, apart: 99 }, at(xs[i], y), at(x, y), 0.001, d.text, {
        ...d.extra,
        shift: undefined,
        leader: false,
      });
    }
  });
  clutter(hand, at, W, H, size, random);
  if (w.note) hand.text(w.note, [60, 60], 7, 'start');
  hand.view(true_, w.unit);
  return {
    hand,
    name: `${w.name}, ${habit.mark}, ${habit.figure}, small ${small}, h ${size.toFixed(1)}${turn ? ', turned' : ''}`,
    grid: pick([0.001, 0.01, 0.05]),
  };
}

/** What else stands on a plan: names, numbers of rooms, areas, furniture, doors, grid lines with their rings, levels, a table. */
function clutter(
  hand: Hand,
  at: (x: number, y: number) => Point,
  W: number,
  H: number,
  size: number,
  random: () => number,
): void {
  const place = (): Point => at(W * (0.1 + 0.8 * random()), H * (0.1 + 0.8 * random()));
  for (let i = 0; i < 4; i++) {
    const p = place();
    hand.text(['Store', 'Bay', 'Café', 'Hall'][i], p, 1.3 * size);
    hand.text(`${(10 + 30 * random()).toFixed(1)} m²`, [p[0], p[1] - 1.4 * size], size);
    hand.text(String(101 + i), [p[0], p[1] - 2.8 * size], size);
  }
  for (let i = 0; i < 40; i++) {
    const [x, y] = place(),
      r = 3 + 20 * random(),
      a = 6.28 * random();
    hand.line([x, y], [x + r * Math.cos(a), y + r * Math.sin(a)]);
  }
  for (let i = 0; i < 6; i++) {
    const [x, y] = place(),
      r = 4 + 12 * random();
    if (i % 2) hand.circle([x, y], r);
    else {
      hand.arc([x, y], r, 0, Math.PI / 2);
      hand.line([x, y], [x + r, y]);
    }
  }
  for (let i = 0; i < 3; i++) {
    const x = W * (0.15 + 0.3 * i),
      top = at(x, H * 1.08),
      low = at(x, -0.02 * H);
    hand.dashed([12, 3, 2, 3], low, top);
    const ring = along(low, top, Math.hypot(top[0] - low[0], top[1] - low[1]) + 1.2 * size);
    hand.circle(ring, 1.2 * size);
    hand.text(String(i + 1), [ring[0], ring[1] - 0.35 * size], size);
  }
  for (let i = 0; i < 3; i++) {
    const [x, y] = place();
    hand.loop([x, y], [x - 3, y + 5], [x + 3, y + 5]);
    hand.text(['+2.70', '2.70', '-0.05'][i], [x + 5, y + 6], 0.9 * size, 'start');
  }
  table(
    hand,
    [940, 620],
    [50, 50, 50, 50],
    2 * size,
    size,
    Array.from({ length: 5 }, (_, r) => [
      `T${r}`,
      String(700 + Math.floor(900 * random())),
      (0.6 + 2 * random()).toFixed(2),
      String(Math.floor(20 * random())),
    ]),
  );
  wall(hand, hand.place([960, 300], 50), 1500, 240, [[400, 900, 'door']], 'x');
}
