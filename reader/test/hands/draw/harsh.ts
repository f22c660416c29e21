import { chain, dimension, mark, table, type Habit } from './dimension.ts';
import { along, chance, DEGREE, distance, Hand, PAPER, widthOf, type Point } from './hand.ts';
import { bar } from './sites.ts';

/** Setting out by running dimensions from a ringed origin along one line, figures near their arrows or along the witness lines. */
export function settingOut(): Hand[] {
  const hand = new Hand(1191, 842),
    factor = 50,
    habit: Habit = { mark: 'arrow', figure: 'above', size: 6.5, beyond: 3 };
  const at = hand.place([150, 220], factor),
    stops = [0, 900, 2340, 3150, 4725, 6300, 8010, 9990],
    ups = [0, 1200, 2685, 4410, 5600];
  hand.pen = 0.8;
  hand.box(at(0, 0), at(9990, 5600));
  for (const x of stops) hand.line(at(x, 0), at(x, 400));
  for (const y of ups) hand.line(at(0, y), at(400, y));
  hand.pen = 0.35;
  const running = (p: Point, q: Point, off: number, values: number[], near: boolean) => {
    const k = PAPER / factor,
      from = along(p, q, 0, off);
    hand.line(from, along(p, q, values[values.length - 1] * k, off));
    hand.circle(from, 2);
    values.forEach((v, i) => {
      const t = v * k,
        place = along(p, q, t, off),
        turn = Math.atan2(q[1] - p[1], q[0] - p[0]);
      hand.line(along(p, q, t, Math.sign(off) * 2), along(p, q, t, off + Math.sign(off) * (near ? 2 : 16)));
      if (i > 0) mark(hand, habit, from, along(p, q, 1e4, off), t, -1);
      if (near)
        hand.text(
          String(v),
          along(p, q, t - (i > 0 ? 0.5 * widthOf(String(v), 6.5) + 7 : -4), off + 2),
          6.5,
          'middle',
          turn,
        );
      else
        hand.text(
          String(v),
          along(p, q, t - 1.5, off + Math.sign(off) * 4),
          6.5,
          off < 0 === Math.cos(turn) > 0.5 ? 'end' : 'start',
          turn + 90 * DEGREE,
        );
      if (i > 0) hand.dim({ text: String(v), kind: 'ordinate', value: v, from, to: place });
    });
  };
  running(at(0, 0), at(9990, 0), -34, stops, true);
  running(at(0, 5600), at(9990, 5600), 40, stops, false);
  dimension(hand, habit, at(0, 5600), at(0, 0), -30, '5600', { value: 5600 });
  hand.text('M 1:50', [900, 60], 9, 'start');
  hand.view(factor, 'mm');
  return [hand];
}

/** A1 printed down to A4: figures under two points high, grid lines as witness lines, oblique slashes with dots. */
export function reducedFrame(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 100 / 0.35,
    habit: Habit = { mark: 'tick', figure: 'above', size: 2.6, beyond: 1.2, over: 1.2 };
  hand.pen = 0.15;
  const at = hand.place([90, 130], factor),
    xs = [0, 6000, 12000, 17500, 24000, 30000, 36600],
    ys = [0, 5400, 11200, 16000];
  for (const x of xs) {
    hand.dashed([5, 1, 1, 1], at(x, -3200), at(x, 17500));
    const p = at(x, 18600);
    hand.circle(p, 3.4);
    hand.text(String(xs.indexOf(x) + 1), [p[0], p[1] - 0.9], 2.6);
  }
  for (const y of ys) {
    hand.dashed([5, 1, 1, 1], at(-3200, y), at(37500, y));
    const p = at(38600, y);
    hand.circle(p, 3.4);
    hand.text('ABCD'[ys.indexOf(y)], [p[0], p[1] - 0.9], 2.6);
  }
  hand.pen = 0.3;
  for (const x of xs)
    for (const y of ys) {
      const [px, py] = at(x, y);
      hand.box([px - 1.5, py - 1.5], [px + 1.5, py + 1.5]);
    }
  hand.pen = 0.12;
  const items = (list: number[]) =>
    list.slice(1).map((v, i) => ({
      text: `${Math.floor((v - list[i]) / 1000)},${String((v - list[i]) % 1000).padStart(3, '0')}`,
      extra: { value: v - list[i] },
    }));
  chain(
    hand,
    { ...habit, apart: 99 },
    xs.map((x) => at(x, 0)),
    -20,
    items(xs),
  );
  dimension(hand, { ...habit, apart: 99 }, at(0, 0), at(36600, 0), -26, '36,600', { value: 36600 });
  const down = [...ys].reverse();
  chain(
    hand,
    { ...habit, apart: 99 },
    down.map((y) => at(0, y)),
    -20,
    down.slice(1).map((y, i) => ({
      text: `${((down[i] - y) / 1000) | 0},${String((down[i] - y) % 1000).padStart(3, '0')}`,
      extra: { value: down[i] - y },
    })),
  );
  dimension(hand, { ...habit, apart: 99 }, at(0, 16000), at(0, 0), -26, '16,000', { value: 16000 });
  const random = chance(31);
  for (let i = 0; i < 30; i++) {
    const p = at(36000 * random(), 15500 * random());
    hand.text(['UB 254x102', 'RHS 100', '+3.250', 'C1', 'TYP.'][i % 5], p, 2.4);
    hand.line(p, [p[0] + 12, p[1] + 5]);
  }
  hand.text('SCALE 1:100 @ A1', [700, 40], 4, 'start');
  hand.view(factor, 'mm');
  return [hand];
}

/** Feet with small stacked fractions, figures in boxes, remarks behind figures, white laid under figures, everything drawn twice. */
export function dormerFeet(): Hand[] {
  const hand = new Hand(1224, 792),
    factor = 24,
    inch = 25.4,
    habit: Habit = { mark: 'dot', figure: 'above', size: 8, beyond: 4, over: 5 };
  const at = hand.place([180, 190], factor),
    p = (x: number, y: number) => at(x * inch, y * inch);
  for (let twice = 0; twice < 2; twice++) {
    hand.pen = 0.9;
    hand.box(p(0, 0), p(186.5, 110.25));
    for (const x of [24.5, 62, 124.5, 162]) hand.line(p(x, 0), p(x, 110.25));
    hand.line(p(0, 40.5), p(186.5, 40.5));
  }
  hand.pen = 0.35;
  const stacked = (a: Point, b: Point, off: number, value: number, tail = '') => {
    const whole = Math.floor(value),
      f = Math.round((value - whole) * 4),
      words = `${Math.floor(whole / 12)}'-${whole % 12}`,
      h = habit.size;
    const text = f ? `${words} ${f === 2 ? '1/2' : `${f}/4`}"` : `${words}"${tail}`;
    if (!f) {
      dimension(hand, habit, a, b, off, text, { value: value * inch });
      return;
    }
    const count = hand.ops.length;
    dimension(hand, habit, a, b, off, text, { value: value * inch });
    // The figure again in pieces, its fraction one over the other.
    const at_ = hand.ops.findIndex((o, i) => i >= count && o.op === 'text'),
      o = hand.ops[at_] as Extract<(typeof hand.ops)[number], { op: 'text' }>;
    const c = Math.cos(o.radians),
      s = Math.sin(o.radians),
      w = widthOf(words, h),
      full = w + 0.5 * h + 0.35 * h,
      put = (t: string, u: number, v: number, size: number) =>
        hand.text(
          t,
          [o.at[0] + c * (u - full / 2) - s * v, o.at[1] + s * (u - full / 2) + c * v],
          size,
          'start',
          o.radians,
        );
    hand.ops.splice(at_, 1);
    put(words, 0, 0, h);
    put(f === 2 ? '1' : String(f), w + 0.08 * h, 0.42 * h, 0.55 * h);
    put(f === 2 ? '2' : '4', w + 0.08 * h, -0.14 * h, 0.55 * h);
    hand.line(
      [
        o.at[0] + c * (w + 0.05 * h - full / 2) - s * 0.36 * h,
        o.at[1] + s * (w + 0.05 * h - full / 2) + c * 0.36 * h,
      ],
      [
        o.at[0] + c * (w + 0.42 * h - full / 2) - s * 0.36 * h,
        o.at[1] + s * (w + 0.42 * h - full / 2) + c * 0.36 * h,
      ],
    );
    put('"', w + 0.45 * h, 0, h);
  };
  const xs = [0, 24.5, 62, 124.5, 162, 186.5];
  xs.slice(1).forEach((x, i) => stacked(p(xs[i], 0), p(x, 0), -32, x - xs[i]));
  stacked(p(0, 0), p(186.5, 0), -60, 186.5);
  stacked(p(0, 110.25), p(0, 40.5), -34, 69.75);
  stacked(p(0, 40.5), p(0, 0), -34, 40.5);
  stacked(p(0, 110.25), p(0, 0), -64, 110.25);
  dimension(hand, { ...habit, apart: 99, figure: 'gap' }, p(24.5, 75), p(62, 75), 0.001, `3'-1 1/2" CLR`, {
    value: 37.5 * inch,
  });
  dimension(hand, { ...habit, apart: 99, figure: 'gap' }, p(124.5, 75), p(162, 75), 0.001, `3'-1 1/2" TYP.`, {
    value: 37.5 * inch,
  });
  const boxed = p(93, 20);
  hand.box([boxed[0] - 30, boxed[1] - 4], [boxed[0] + 30, boxed[1] + 10]);
  hand.text(`R.O. 5'-2"`, boxed, 7);
  hand.text(`1/2" = 1'-0"`, [960, 60], 9, 'start');
  hand.text('12:5', p(100, 95), 8);
  hand.view(factor, 'ft');
  return [hand];
}

/** A survey with figures in gaps of their lines, curves by radius and length, old lengths in brackets, a bar whose words are one text a figure. */
export function oldSurvey(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 500 / 0.9,
    at = hand.place([130, 110], factor),
    k = PAPER / factor;
  const corners: [number, number][] = [
    [0, 0],
    [70310, 4200],
    [88650, 41770],
    [61200, 73480],
    [8950, 68020],
    [-9400, 29060],
  ];
  hand.pen = 0.7;
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length],
      p = at(...a),
      q = at(...b),
      mm = Math.hypot(b[0] - a[0], b[1] - a[1]),
      text = `${(mm / 1000).toFixed(2)} m`,
      size = 6.5,
      length = distance(p, q),
      gap = widthOf(text, size) / 2 + 3;
    hand.line(p, along(p, q, length / 2 - gap));
    hand.line(along(p, q, length / 2 + gap), q);
    const angle = Math.atan2(q[1] - p[1], q[0] - p[0]),
      turn = angle > Math.PI / 2 + 1e-6 || angle <= -Math.PI / 2 ? angle + Math.PI : angle;
    hand.text(
      text,
      along(p, q, length / 2, -0.35 * size * (Math.cos(turn - angle) > 0 ? 1 : -1)),
      size,
      'middle',
      turn,
    );
    hand.dim({ text, kind: 'boundary', value: Math.round(mm / 10) * 10, from: p, to: q });
  });
  hand.pen = 0.5;
  hand.box(at(20000, 20000), at(42000, 36000));
  hand.text('Clubhouse', at(31000, 27000), 8);
  const random = chance(14);
  for (let i = 0; i < 15; i++) {
    const p = at(80000 * random(), 5000 + 60000 * random());
    hand.circle(p, 1);
    hand.text((12 + 3 * random()).toFixed(2), [p[0] + 3, p[1] + 1], 5, 'start');
  }
  bar(hand, [560, 50], factor, [0, 10, 20, 50], 1000, 'ticks', { each: 'm' });
  hand.text(`Scale 1:500`, [560, 30], 7, 'start');
  hand.arc(at(61200, 73480), 30 * k * 1000, 3.4, 4.2);
  hand.view(factor, 'm');
  return [hand];
}

/** A machine part in millimetres: many views' worth of dimensions close together, angles with their figures in gaps, fillets, crossing lines. */
export function oarlock(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 0.5 / 1.06,
    habit: Habit = { mark: 'arrow', figure: 'level', size: 6, beyond: 2, markSize: 0.8 };
  const at = hand.place([180, 170], factor),
    k = PAPER / factor;
  hand.pen = 0.8;
  const outline: [number, number][] = [
    [0, 0],
    [54, 0],
    [54, 12],
    [38, 12],
    [32, 40],
    [22, 40],
    [16, 12],
    [0, 12],
  ];
  hand.loop(...outline.map((c) => at(...c)));
  for (const x of [8, 46]) {
    hand.circle(at(x, 6), 3 * k);
    hand.pen = 0.3;
    hand.dashed([6, 2, 1, 2], at(x - 5, 6), at(x + 5, 6));
    hand.dashed([6, 2, 1, 2], at(x, 1), at(x, 11));
    hand.pen = 0.8;
  }
  hand.pen = 0.3;
  hand.dashed([9, 2, 2, 2], at(27, -3), at(27, 44));
  hand.pen = 0.35;
  const d = (a: Point, b: Point, off: number, text: string, value: number, more = {}) =>
    dimension(
      hand,
      { ...habit, figure: Math.abs(b[0] - a[0]) > Math.abs(b[1] - a[1]) ? 'above' : 'level' },
      a,
      b,
      off,
      text,
      { value, ...more },
    );
  d(at(0, 0), at(8, 0), -20, '8', 8);
  d(at(8, 0), at(46, 0), -20, '38 ±0.05', 38);
  d(at(0, 0), at(54, 0), -40, '54', 54);
  d(at(16, 12), at(38, 12), -62 - 12 * k + 62, '22', 22, { shift: [0, 0] });
  d(at(22, 40), at(32, 40), 18, '10', 10);
  d(at(0, 12), at(0, 0), -24, '12', 12);
  d(at(54, 0), at(54, 40), -40, '40', 40);
  d(at(54, 0), at(54, 6), -18, '6', 6);
  for (const [x, angle] of [
    [8, 140],
    [46, 35],
  ] as const) {
    const c = at(x, 6),
      tip = along(c, [c[0] + Math.cos(angle * DEGREE), c[1] + Math.sin(angle * DEGREE)], 3 * k),
      knee = along(c, [c[0] + Math.cos(angle * DEGREE), c[1] + Math.sin(angle * DEGREE)], 3 * k + 46),
      side = Math.cos(angle * DEGREE) > 0 ? 1 : -1;
    hand.line(tip, knee, [knee[0] + side * 34, knee[1]]);
    mark(hand, habit, tip, knee, 0, 1);
    hand.text(side > 0 ? 'Ø6 H8' : '2x Ø6', [knee[0] + side * 17, knee[1] + 2], 6);
    hand.dim({
      text: side > 0 ? 'Ø6 H8' : '2x Ø6',
      kind: 'diameter',
      value: 6,
      from: [2 * c[0] - tip[0], 2 * c[1] - tip[1]],
      to: tip,
    });
  }
  // An angle whose figure stands in a gap of its arc.
  const v = at(38, 12),
    a0 = Math.atan2(28, -6),
    r = 70;
  hand.line(v, [v[0] + 90, v[1]]);
  hand.line(v, along(v, [v[0] + Math.cos(a0), v[1] + Math.sin(a0)], 90));
  const middle = a0 / 2;
  hand.arc(v, r, 0, middle - 0.16);
  hand.arc(v, r, middle + 0.16, a0);
  const on = (a: number): Point => [v[0] + r * Math.cos(a), v[1] + r * Math.sin(a)];
  mark(hand, habit, on(0), [on(0)[0], on(0)[1] + 10], 0, 1);
  mark(hand, habit, on(a0), [on(a0)[0] + 10 * Math.sin(a0), on(a0)[1] - 10 * Math.cos(a0)], 0, 1);
  hand.text('102.1°', [on(middle)[0], on(middle)[1] - 2], 6);
  hand.dim({ text: '102.1°', kind: 'angle', value: 102.1, from: on(0), to: on(a0) });
  table(hand, [560, 90], [50, 120, 50], 14, 6.5, [
    ['Pos', 'Name', 'Qty'],
    ['1', 'Oarlock', '8'],
    ['2', 'Pin 12', '8'],
    ['3', 'Washer 22', '16'],
  ]);
  hand.text('2:1', [700, 60], 10, 'start');
  hand.text('All dimensions in millimetres unless noted', [40, 40], 6.5, 'start');
  hand.view(factor, 'mm');
  return [hand];
}

/** A kitchen elevation by a joiner: figures below their lines, decimal centimetres, rings, level figures, a plan with the same numbers, no note. */
export function galleyJoinery(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 25,
    habit: Habit = { mark: 'ring', figure: 'below', size: 6, beyond: 2 };
  const at = hand.place([110, 190], factor),
    cm = (v: number) => ({ text: (v / 10).toFixed(1), extra: { value: v } });
  const xs = [0, 45, 645, 1245, 2145, 2745, 2790],
    ys = [0, 100, 820, 860, 1400, 2120];
  hand.pen = 0.8;
  hand.box(at(0, 0), at(2790, 2120));
  for (const x of xs) hand.line(at(x, 0), at(x, 860));
  for (const y of ys) hand.line(at(0, y), at(2790, y));
  hand.pen = 0.3;
  for (const x of [345, 945]) {
    hand.line(at(x - 300, 100), at(x + 300, 460));
    hand.line(at(x - 300, 820), at(x + 300, 460));
  }
  chain(
    hand,
    habit,
    xs.map((x) => at(x, 0)),
    -24,
    xs.slice(1).map((x, i) => cm(x - xs[i])),
  );
  dimension(hand, habit, at(0, 0), at(2790, 0), -46, '279.0', { value: 2790 });
  const down = [...ys].reverse();
  chain(
    hand,
    habit,
    down.map((y) => at(0, y)),
    -28,
    down.slice(1).map((y, i) => cm(down[i] - y)),
  );
  dimension(hand, { ...habit, figure: 'level' }, at(2790, 0), at(2790, 2120), -40, '212.0', { value: 2120 });
  hand.text('60 x 60', at(1700, 400), 6);
  hand.text('LED 3000 K', at(1400, 1600), 6);
  hand.text('1:25', [740, 40], 8, 'start');
  hand.view(factor, 'cm');
  return [hand];
}
