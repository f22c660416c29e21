import { chain, dimension, mark, table, type Habit } from './dimension.ts';
import { along, chance, distance, Hand, PAPER, type Point } from './hand.ts';
import { centimetres, plan, wall } from './plans.ts';
import { bar } from './sites.ts';

/** Kept apart: nothing of the reading was tuned on these. */

/** A café over the boat bay: centimetres with a comma and raised halves, openings as width/height in one figure, ticks, 1:100 at 91 %. */
export function cafe(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 100 / 0.91,
    habit: Habit = { mark: 'tick', figure: 'above', size: 5.2, beyond: 2.5, over: 3 };
  const { at } = plan(hand, {
    factor,
    origin: [170, 180],
    habit,
    write: (mm) => centimetres(mm, ','),
    wide: [425, 5175, 175, 4385, 425],
    high: [425, 3625, 115, 4510, 425],
    openings: [
      { at: 1500, width: 1260, height: 1385 },
      { at: 6800, width: 2010, height: 1385 },
    ],
    rowGap: 19,
  });
  hand.text('Café', at(2600, 6300), 8);
  hand.text('28,41 m²', at(2600, 5900), 5.2);
  hand.text('T 90/210', at(7600, 3000), 5.2);
  hand.line(at(400, 4900), at(1400, 4900));
  hand.text('ab +1,05', at(900, 4960), 5);
  table(hand, [560, 430], [40, 50, 50, 50], 12, 5.4, [
    ['Pos', 'b', 'h', 'Stk'],
    ['1', '1,26', '1,38', '2'],
    ['2', '2,01', '1,38', '1'],
    ['3', '88', '2,01', '2'],
  ]);
  hand.text('Alle Maße in cm und m', [560, 80], 6, 'start');
  hand.view(factor, 'cm');
  return [hand];
}

/** A turned spindle from the side and the end: diameters across, chamfer, groove, tolerances, 2:1. */
export function spindle(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 0.5,
    habit: Habit = { mark: 'arrow', figure: 'above', size: 7, beyond: 3, markSize: 0.9 };
  const at = hand.place([150, 300], factor),
    k = PAPER / factor;
  hand.pen = 0.9;
  const profile: [number, number][] = [
    [0, 8],
    [18, 8],
    [18, 12],
    [21, 12],
    [21, 15],
    [56, 15],
    [56, 10],
    [76, 10],
  ];
  for (const side of [1, -1]) hand.line(...profile.map(([x, r]) => at(x, side * r)));
  for (const [x, r] of [
    [0, 8],
    [18, 12],
    [21, 15],
    [56, 15],
    [76, 10],
  ] as const)
    hand.line(at(x, -r), at(x, r));
  hand.pen = 0.3;
  hand.dashed([9, 2, 2, 2], at(-5, 0), at(81, 0));
  const d = (a: Point, b: Point, off: number, text: string, value: number, more = {}) =>
    dimension(hand, habit, a, b, off, text, { value, ...more });
  d(at(0, -15), at(18, -15), -26, '18', 18);
  d(at(18, -15), at(21, -15), -26, '3', 3, { outside: true, shift: [0, 7] });
  d(at(21, -15), at(56, -15), -26, '35 ±0.1', 35);
  d(at(56, -15), at(76, -15), -26, '20', 20);
  d(at(0, -15), at(76, -15), -52, '76', 76);
  d(at(0, 8), at(0, -8), -24, 'Ø16 h6', 16, { kind: 'diameter' });
  d(at(76, -10), at(76, 10), -24, 'Ø20', 20, { kind: 'diameter' });
  d(at(38, -15), at(38, 15), 0.001, 'Ø30', 30, { kind: 'diameter' });
  const end: Point = [730, 300];
  hand.pen = 0.9;
  hand.circle(end, 15 * k);
  hand.circle(end, 4 * k);
  hand.pen = 0.35;
  const tip = along(end, [end[0] + 10, end[1] + 14], 4 * k),
    knee = along(end, [end[0] + 10, end[1] + 14], 4 * k + 60);
  hand.line(tip, knee, [knee[0] + 30, knee[1]]);
  mark(hand, habit, tip, knee, 0, 1);
  hand.text('Ø8', [knee[0] + 16, knee[1] + 2], 7);
  hand.dim({
    text: 'Ø8',
    kind: 'diameter',
    value: 8,
    from: [2 * end[0] - tip[0], 2 * end[1] - tip[1]],
    to: tip,
  });
  hand.text('2x45°', at(78, 17), 7);
  hand.text('M 2:1', [640, 60], 9, 'start');
  hand.text('Ra 3.2', [640, 80], 7, 'start');
  hand.view(factor, 'mm');
  return [hand];
}

/** A jetty: only a bar, its unit behind each figure; the note beside it says 1:200. */
export function jetty(): Hand[] {
  const hand = new Hand(1191, 842),
    factor = 200 / 0.66,
    at = hand.place([120, 240], factor);
  hand.pen = 0.8;
  for (let i = 0; i < 16; i++) {
    hand.circle(at(4000 * i, 0), 3);
    hand.circle(at(4000 * i, 3000), 3);
  }
  hand.line(at(0, 0), at(60000, 0));
  hand.line(at(0, 3000), at(60000, 3000));
  hand.pen = 0.35;
  for (let i = 0; i < 15; i++) hand.text(String(i + 1), [at(4000 * i + 2000, 1500)[0], at(0, 1300)[1]], 6);
  hand.text('Jetty', at(30000, 9000), 12);
  hand.text('HWS 3.40', at(50000, 6000), 6);
  hand.text('LWS 0.85', at(50000, -4000), 6);
  bar(hand, [700, 90], factor, [0, 5, 10, 15, 20], 1000, 'ticks', { each: 'm' });
  hand.text('1:200', [640, 92], 8, 'start');
  hand.view(factor, 'm');
  return [hand];
}

/** A portal frame in feet and inches: crowded gusset, leaders, slanting rafters, thick ticks. */
export function portal(): Hand[] {
  const hand = new Hand(1224, 792),
    factor = 64,
    habit: Habit = { mark: 'thick', figure: 'above', size: 6, beyond: 3, over: 3 },
    inch = 25.4;
  const at = hand.place([170, 190], factor),
    p = (x: number, y: number) => at(x * inch, y * inch);
  const feet = (v: number) => {
    const w = Math.floor(v),
      f = Math.round((v - w) * 16);
    let [a, b] = [f, 16];
    while (a && a % 2 === 0) {
      a /= 2;
      b /= 2;
    }
    return `${w >= 12 ? `${Math.floor(w / 12)}'-${w % 12}` : String(w)}${f ? ` ${a}/${b}` : ''}"`;
  };
  hand.pen = 0.8;
  hand.line(p(0, 0), p(0, 168), p(240, 258), p(480, 168), p(480, 0));
  hand.line(p(10, 0), p(10, 160), p(240, 246), p(470, 160), p(470, 0));
  hand.line(p(-30, 0), p(510, 0));
  hand.pen = 0.35;
  const xs = [0, 10, 118.5, 121.75, 240, 358.25, 361.5, 470, 480];
  for (const x of xs.slice(2, 7)) hand.line(p(x, 0), p(x, 250 - Math.abs(x - 240) * 0.375));
  chain(
    hand,
    habit,
    xs.map((x) => p(x, 0)),
    -34,
    xs.slice(1).map((x, i) => {
      const v = x - xs[i];
      return {
        text: feet(v),
        extra: {
          value: v * inch,
          ...(v < 12 && {
            shift: (i === 0 ? [-16, 0] : i === 7 ? [16, 0] : [12, 11]) as [number, number],
            leader: i !== 0 && i !== 7,
          }),
        },
      };
    }),
  );
  dimension(hand, habit, p(0, 0), p(480, 0), -64, `40'-0"`, { value: 480 * inch });
  dimension(hand, habit, p(0, 168), p(0, 0), -40, `14'-0"`, { value: 168 * inch });
  dimension(hand, habit, p(480, 0), p(480, 258), -70, `21'-6"`, { value: 258 * inch });
  const slope = Math.hypot(240, 90);
  chain(
    hand,
    { ...habit, mark: 'dot' },
    [0, 60, 120, 180, slope].map((t) => along(p(0, 168), p(240, 258), (t * inch * PAPER) / factor)),
    24,
    [60, 60, 60]
      .map((v) => ({ text: feet(v), extra: { value: v * inch } }))
      .concat([
        {
          text: feet(Math.round((slope - 180) * 4) / 4),
          extra: { value: (Math.round((slope - 180) * 4) / 4) * inch },
        },
      ]),
  );
  hand.text('W10x22', p(100, 190), 6);
  hand.text('T.O.S. EL. 14\'-0"', p(380, 200), 6, 'start');
  hand.text(`3/16" = 1'-0"`, [900, 50], 9, 'start');
  table(hand, [830, 640], [60, 80, 80], 14, 6.5, [
    ['Mark', 'Length', 'Qty'],
    ['B1', `21'-4 1/4"`, '4'],
    ['C1', `14'-0"`, '4'],
    ['G1', `10'-0"`, '2'],
  ]);
  hand.view(factor, 'ft');
  return [hand];
}

/** Lots along a river in decimal feet, lengths along the lines, printed at an odd size, a bar in feet. */
export function lots(): Hand[] {
  const hand = new Hand(792, 612),
    foot = 304.8,
    factor = 480 / 0.93,
    at = hand.place([120, 130], factor),
    p = (x: number, y: number) => at(x * foot, y * foot);
  hand.pen = 0.8;
  const lengths = (a: readonly [number, number], b: readonly [number, number], above: boolean) => {
    const from = p(...a),
      to = p(...b),
      ft = Math.hypot(b[0] - a[0], b[1] - a[1]),
      angle = Math.atan2(to[1] - from[1], to[0] - from[0]),
      turn = angle > Math.PI / 2 + 1e-6 || angle <= -Math.PI / 2 ? angle + Math.PI : angle;
    hand.line(from, to);
    hand.text(
      `${ft.toFixed(2)}'`,
      along(
        from,
        to,
        distance(from, to) / 2,
        (above ? 1 : -1) * (Math.cos(turn - angle) > 0 ? 1 : -1) * (above ? 2.5 : 8.5),
      ),
      6.5,
      'middle',
      turn,
    );
    hand.dim({
      text: `${ft.toFixed(2)}'`,
      kind: 'boundary',
      value: (Math.round(ft * 100) * foot) / 100,
      from,
      to,
    });
  };
  const bottom: [number, number][] = [
      [0, 0],
      [62, 3],
      [124, 6],
      [190, 9],
    ],
    top: [number, number][] = [
      [-6, 150],
      [58, 158],
      [121, 161],
      [193, 168],
    ];
  for (let i = 0; i < 3; i++) {
    lengths(bottom[i], bottom[i + 1], true);
    lengths(top[i], top[i + 1], true);
  }
  for (let i = 0; i < 4; i++) lengths(bottom[i], top[i], i !== 3);
  ['41', '42', '43'].forEach((t, i) => {
    const c = p(30 + 62 * i, 80);
    hand.circle(c, 9);
    hand.text(t, [c[0], c[1] - 3], 8);
    hand.text(`${(0.2 + i * 0.021).toFixed(3)} AC`, [c[0], c[1] - 20], 6);
  });
  const random = chance(21);
  for (let i = 0; i < 9; i++)
    hand.text((610 + 9 * random()).toFixed(1), p(180 * random(), 20 + 120 * random()), 5.5);
  bar(hand, [470, 60], factor, [0, 20, 40, 80], foot, 'halves', { title: 'GRAPHIC SCALE IN FEET' });
  hand.view(factor, 'ft');
  return [hand];
}

/** A deck: plan and two details, a cutting list whose columns are as wide as their figures say, figures below their lines. */
export function deck(): Hand[] {
  const hand = new Hand(1191, 842),
    factor = 25,
    habit: Habit = { mark: 'open', figure: 'gap', size: 6.5, beyond: 3 };
  const at = hand.place([150, 300], factor);
  hand.pen = 0.7;
  hand.box(at(0, 0), at(6120, 3340));
  for (let i = 1; i < 12; i++) hand.line(at(510 * i, 0), at(510 * i, 3340));
  wall(hand, at, 6120, 90, [], 'x', 0, -400);
  hand.pen = 0.35;
  const xs = [0, 45, 1530, 1575, 3060, 4545, 4590, 6120];
  chain(
    hand,
    { ...habit, figure: 'above', mark: 'tick' },
    xs.map((x) => at(x, 0)),
    -52,
    xs.slice(1).map((x, i) => ({
      text: String(x - xs[i]),
      extra: {
        value: x - xs[i],
        ...(x - xs[i] < 100 && { shift: [i === 0 ? -10 : 0, i === 0 ? 0 : 8] as const }),
      },
    })),
  );
  dimension(hand, habit, at(0, 0), at(6120, 0), -76, '6120', { value: 6120 });
  dimension(hand, habit, at(0, 3340), at(0, 0), -30, '3340', { value: 3340 });
  dimension(hand, { ...habit, apart: 99 }, at(600, 2000), at(3900, 2000), 0.001, '3150', {
    value: 3150,
    free: true,
  });
  hand.view(factor, 'mm', [20, 150, 790, 822]);
  const detail = hand.place([890, 560], 2);
  hand.pen = 0.8;
  hand.box(detail(0, 0), detail(90, 45));
  hand.box(detail(0, 45), detail(145, 73));
  hand.pen = 0.35;
  dimension(hand, habit, detail(0, 0), detail(90, 0), -26, '90', { value: 90 });
  dimension(hand, habit, detail(0, 73), detail(145, 73), 24, '145', { value: 145 });
  dimension(hand, habit, detail(0, 45), detail(0, 0), -24, '45', { value: 45 });
  dimension(hand, habit, detail(0, 73), detail(0, 45), -24, '28', { value: 28 });
  hand.text('Joist and board 1:2', detail(70, -26), 8);
  hand.view(2, 'mm', [795, 480, 1171, 822]);
  // Columns exactly as wide as their figures say at the plan's scale.
  const k = PAPER / factor;
  table(hand, [820, 60], [1530 * k, 510 * k, 1020 * k], 16, 7, [
    ['Length', 'No', 'Section'],
    ['1530', '510', '1020'],
    ['3340', '12', '90'],
    ['6120', '26', '145'],
  ]);
  hand.text('Deck plan 1:25', at(3000, 3700), 9);
  return [hand];
}

export function titlePage(): Hand[] {
  const hand = new Hand(595, 842),
    random = chance(2);
  hand.text('Boathouse', [300, 700], 40);
  hand.text('Calculations', [300, 650], 18);
  for (let i = 0; i < 30; i++)
    hand.text(
      `${i + 1}. ${['Loads', 'Rafters', 'Footings', 'Walls'][i % 4]} ${(10 * random()).toFixed(2)} kN/m  ${Math.floor(4000 * random())}`,
      [80, 560 - 16 * i],
      9,
      'start',
    );
  hand.box([60, 60], [535, 590]);
  return [hand];
}
