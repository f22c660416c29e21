import { chain, dimension, table, type Extra, type Habit } from './dimension.ts';
import { along, chance, DEGREE, Hand, type Point } from './hand.ts';

/** Centimetres as they are written on the continent: halves raised, a metre and more with a point. */
export function centimetres(mm: number, point = '.'): { text: string; raised?: string } {
  const half = mm % 10 === 5,
    cm = Math.floor(mm / 10);
  const text =
    mm >= 1000 ? `${Math.floor(mm / 1000)}${point}${String(cm % 100).padStart(2, '0')}` : String(cm);
  return half ? { text, raised: '5' } : { text };
}
const SUPER = '⁰¹²³⁴⁵⁶⁷⁸⁹';
export const unicodeHalf = (mm: number, point = ',') => {
  const { text, raised } = centimetres(mm, point);
  return text + (raised ? SUPER[5] : '');
};
export const millimetres = (mm: number) => String(mm);

/** A wall between places with openings left out: two faces, jambs, and a sill line in each window. */
export function wall(
  hand: Hand,
  at: (x: number, y: number) => Point,
  length: number,
  thickness: number,
  openings: readonly [number, number, 'door' | 'window'][],
  along: 'x' | 'y',
  x0 = 0,
  y0 = 0,
): void {
  const p = (t: number, v: number) => (along === 'x' ? at(x0 + t, y0 + v) : at(x0 + v, y0 + t));
  let from = 0;
  hand.pen = 0.9;
  for (const [a, b, kind] of [...openings, [length, length, 'door'] as const]) {
    if (a > from) {
      hand.line(p(from, 0), p(a, 0));
      hand.line(p(from, thickness), p(a, thickness));
      hand.line(p(a, 0), p(a, thickness));
    }
    if (b > a) hand.line(p(b, 0), p(b, thickness));
    if (kind === 'window') {
      hand.pen = 0.3;
      for (const v of [0, 0.45, 0.55, 1]) hand.line(p(a, v * thickness), p(b, v * thickness));
      hand.pen = 0.9;
    }
    from = b;
  }
  hand.pen = 0.35;
}

/** A plan with chains in the manner of a habit: outside below and at the left, inside across the rooms. */
export interface PlanGiven {
  factor: number;
  origin: Point;
  habit: Habit;
  write: (mm: number) => { text: string; raised?: string };
  wide: number[];
  high: number[];
  openings?: { at: number; width: number; height?: number }[];
  rowGap?: number;
  turned?: number;
}
export function plan(
  hand: Hand,
  { factor, origin, habit, write, wide, high, openings = [], rowGap = 22, turned = 0 }: PlanGiven,
): { at: (x: number, y: number) => Point; width: number; height: number } {
  const at = hand.place(origin, factor, turned);
  const marks = (list: number[]) => list.reduce((out, v) => [...out, out[out.length - 1] + v], [0]);
  const xs = marks(wide),
    ys = marks(high),
    W = xs[xs.length - 1],
    H = ys[ys.length - 1];
  const item = (mm: number, more: Partial<Extra> = {}) => {
    const { text, raised } = write(mm);
    return { text, extra: { value: mm, raised, ...more } };
  };
  const t = wide.find((v) => v < 600) ?? 240;
  wall(
    hand,
    at,
    W,
    t,
    openings.map((o) => [o.at, o.at + o.width, o.height && o.height < 1900 ? 'window' : 'door']),
    'x',
  );
  wall(hand, at, W, t, [], 'x', 0, H - t);
  wall(hand, at, H, t, [], 'y');
  wall(hand, at, H, t, [], 'y', W - t);
  hand.pen = 0.35;
  const row = (k: number) => -(30 + k * rowGap);
  chain(
    hand,
    habit,
    xs.map((x) => at(x, 0)),
    row(1),
    wide.map((mm) => item(mm)),
  );
  dimension(hand, habit, at(0, 0), at(W, 0), row(2), item(W).text, item(W).extra);
  if (openings.length > 0) {
    const stops = [0, ...openings.flatMap((o) => [o.at, o.at + o.width]), W];
    chain(
      hand,
      habit,
      stops.map((x) => at(x, 0)),
      row(0),
      stops.slice(1).map((x, i) => {
        const opening = i % 2 === 1 ? openings[(i - 1) / 2] : undefined;
        const below = opening?.height ? write(opening.height) : undefined;
        return item(
          x - stops[i],
          below ? { below: below.text, belowRaised: below.raised, height: opening!.height } : {},
        );
      }),
    );
  }
  chain(
    hand,
    habit,
    [...ys].reverse().map((y) => at(0, y)),
    row(0),
    [...high].reverse().map((mm) => item(mm)),
  );
  dimension(hand, habit, at(0, H), at(0, 0), row(1), item(H).text, item(H).extra);
  // Rooms: clear widths and heights.
  for (let i = 0; i + 1 < xs.length; i++)
    if (wide[i] > 1500) {
      const y = H * (0.3 + 0.1 * (i % 3));
      dimension(
        hand,
        { ...habit, apart: 99 },
        at(xs[i], y),
        at(xs[i + 1], y),
        0.001,
        item(wide[i]).text,
        item(wide[i]).extra,
      );
    }
  for (let i = 0; i + 1 < ys.length; i++)
    if (high[i] > 1500) {
      const x = W * (0.22 + 0.13 * (i % 3));
      dimension(
        hand,
        { ...habit, apart: 99 },
        at(x, ys[i + 1]),
        at(x, ys[i]),
        0.001,
        item(high[i]).text,
        item(high[i]).extra,
      );
    }
  for (let i = 0; i + 1 < xs.length; i++)
    if (wide[i] < 600) {
      hand.pen = 0.9;
      hand.line(at(xs[i], 0), at(xs[i], H));
      hand.line(at(xs[i + 1], 0), at(xs[i + 1], H));
      hand.pen = 0.35;
    }
  for (let i = 0; i + 1 < ys.length; i++)
    if (high[i] < 600) {
      hand.pen = 0.9;
      hand.line(at(0, ys[i]), at(W, ys[i]));
      hand.line(at(0, ys[i + 1]), at(W, ys[i + 1]));
      hand.pen = 0.35;
    }
  hand.pen = 0.35;
  return { at, width: W, height: H };
}

function frame(hand: Hand, lines: readonly string[]): void {
  hand.pen = 0.7;
  hand.box([20, 20], [hand.width - 20, hand.height - 20]);
  hand.box([hand.width - 220, 20], [hand.width - 20, 20 + 14 * lines.length + 6]);
  lines.forEach((text, i) => hand.text(text, [hand.width - 212, 14 * (lines.length - i) + 10], 8, 'start'));
  hand.pen = 0.35;
}
const levelMark = (hand: Hand, [x, y]: Point, text: string) => {
  hand.loop([x - 4, y + 7], [x + 4, y + 7], [x, y]);
  hand.line([x - 4, y + 7], [x + 26, y + 7]);
  hand.text(text, [x + 8, y + 9], 6, 'start');
};

/** Centimetres with raised halves in small figures, thick ticks, heights of openings below the line, 1:50. */
export function boatStore(): Hand[] {
  const hand = new Hand(1191, 842),
    factor = 50;
  const habit: Habit = { mark: 'thick', figure: 'above', size: 6.5, beyond: 3, over: 4 };
  const { at, width, height } = plan(hand, {
    factor,
    origin: [190, 190],
    habit,
    write: (mm) => centimetres(mm),
    wide: [365, 4015, 115, 2760, 240, 5135, 365],
    high: [365, 3885, 175, 2510, 365],
    openings: [
      { at: 1115, width: 1510, height: 1385 },
      { at: 4790, width: 1010, height: 2135 },
      { at: 8365, width: 2385, height: 1385 },
      { at: 11365, width: 885, height: 2010 },
    ],
  });
  hand.text('Bootslager', at(2000, 2600), 9);
  hand.text('58.24 m²', at(2000, 2300), 6.5);
  hand.text('Umkleide', at(5900, 3200), 9);
  hand.text('BRH 90', at(1870, 500), 5);
  levelMark(hand, at(6000, 2000), '+0.15');
  levelMark(hand, at(9000, 2000), '-0.02');
  hand.text('A', at(-500, height / 2), 12);
  hand.text('A', at(width + 700, height / 2), 12);
  table(hand, [850, 640], [60, 50, 50, 60], 13, 6.5, [
    ['Nr', 'B', 'H', 'Stück'],
    ['F1', '1.51', '1.38', '2'],
    ['F2', '2.38', '1.38', '1'],
    ['T1', '1.01', '2.13', '1'],
    ['T2', '88', '2.01', '3'],
  ]);
  frame(hand, ['Ruderverein', 'Erdgeschoss', 'M 1:50']);
  hand.view(factor, 'cm');
  return [hand];
}

/** Centimetres with a comma and the half as a character of its own, dots, printed at 94 %, no scale stated; a note says the unit. */
export function clubRooms(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 100 / 0.94;
  const habit: Habit = { mark: 'dot', figure: 'above', size: 5, beyond: 2, over: 0, fromLeft: true };
  const { at } = plan(hand, {
    factor,
    origin: [180, 190],
    habit,
    write: (mm) => ({ text: unicodeHalf(mm) }),
    wide: [300, 3625, 115, 2260, 115, 4010, 300],
    high: [300, 4385, 115, 3260, 300],
    openings: [
      { at: 890, width: 2010, height: 1510 },
      { at: 4510, width: 885, height: 2110 },
      { at: 7490, width: 1260, height: 1510 },
    ],
    rowGap: 20,
  });
  hand.text('Klubraum', at(2200, 3200), 7);
  hand.text('15,90', at(2200, 2850), 5);
  hand.text('Küche', at(5200, 6500), 7);
  hand.text('Maße in cm', [560, 90], 6, 'start');
  levelMark(hand, at(5100, 1500), '+2,70');
  table(hand, [560, 470], [50, 60, 60], 12, 5.5, [
    ['Raum', 'Fläche', 'Umfang'],
    ['1', '15,90', '16,02'],
    ['2', '9,91', '13,29'],
    ['3', '17,58', '16,79'],
  ]);
  hand.view(factor, 'cm');
  return [hand];
}

/** A crowded joiner's plan: small stretches, figures moved out, leaders, slanting chains, arrows from outside. */
export function oarRack(): Hand[] {
  const hand = new Hand(1191, 842),
    factor = 20;
  const habit: Habit = { mark: 'arrow', figure: 'above', size: 6, beyond: 2, markSize: 0.8 };
  const at = hand.place([150, 180], factor);
  hand.pen = 0.8;
  hand.box(at(0, 0), at(5640, 2200));
  hand.pen = 0.35;
  const stops = [0, 18, 480, 498, 516, 1180, 1198, 1900, 1918, 1936, 2980, 2998, 4300, 4318, 5622, 5640];
  for (const x of stops) {
    hand.pen = 0.6;
    hand.line(at(x, 0), at(x, 2200));
  }
  hand.pen = 0.35;
  const row = -34,
    places = stops.map((x) => at(x, 0));
  hand.line(
    along(places[0], places[15], -30, row),
    along(places[0], places[15], (5640 * 72) / 25.4 / factor + 30, row),
  );
  stops.slice(1).forEach((x, i) => {
    const mm = x - stops[i],
      small = mm < 60;
    // Small ones lean on what is free: beside the row's end, a step up, or out with a leader.
    const shift: [number, number] | undefined = !small
      ? undefined
      : i === 0
        ? [-12, 0]
        : i === 14
          ? [12, 0]
          : [-14, 14][i % 2] < 0
            ? [-14, 10]
            : [14, 12];
    dimension(hand, habit, places[i], places[i + 1], row, String(mm), {
      value: mm,
      noLine: true,
      outside: small,
      shift,
      leader: small && i !== 0 && i !== 14,
    });
  });
  dimension(hand, habit, at(0, 0), at(5640, 0), -70, '5640', { value: 5640 });
  dimension(hand, habit, at(0, 2200), at(0, 0), -30, '2200', { value: 2200 });
  // The same thing from the side, with slanting rungs and thin boards.
  const side = hand.place([840, 570], factor, 27 * DEGREE);
  hand.pen = 0.7;
  hand.box([0, 0], [0, 0]);
  hand.loop(side(0, 0), side(1900, 0), side(1900, 640), side(0, 640));
  hand.pen = 0.35;
  for (const y of [12, 200, 212, 428, 640]) hand.line(side(0, y), side(1900, y));
  chain(
    hand,
    { ...habit, mark: 'ring', markSize: 0.7 },
    [0, 420, 900, 940, 1900].map((x) => side(x, 0)),
    -26,
    [420, 480, 40, 960].map((mm) => ({
      text: String(mm),
      extra: { value: mm, ...(mm === 40 && { shift: [0, 7] as const }) },
    })),
  );
  chain(
    hand,
    { ...habit, mark: 'ring', markSize: 0.7 },
    [640, 428, 212, 200, 12, 0].map((y) => side(0, y)),
    -26,
    [212, 216, 12, 188, 12].map((mm, i) => ({
      text: String(mm),
      extra: { value: mm, ...(mm === 12 && { shift: [i === 2 ? 0 : 14, i === 2 ? 8 : 0] as const }) },
    })),
  );
  dimension(hand, habit, side(0, 640), side(1900, 640), 22, '1900', { value: 1900 });
  frame(hand, ['Oar rack', 'Plan and side', 'Scale 1:20']);
  hand.view(factor, 'mm');
  return [hand];
}

/** A plan in millimetres with details at other scales, one with few dimensions, figures not to scale, a schedule. */
export function boathousePlan(): Hand[] {
  const hand = new Hand(1684, 1191),
    factor = 50;
  const habit: Habit = { mark: 'tick', figure: 'above', size: 7, beyond: 3, over: 3 };
  const { at } = plan(hand, {
    factor,
    origin: [200, 420],
    habit,
    write: (mm) => ({ text: millimetres(mm) }),
    wide: [215, 5300, 100, 3450, 100, 6120, 215],
    high: [215, 4180, 100, 3905, 215],
    openings: [
      { at: 1200, width: 2400 },
      { at: 6400, width: 910 },
      { at: 10450, width: 3000 },
    ],
  });
  dimension(hand, { ...habit, apart: 99 }, at(9400, 2600), at(14300, 2600), 0.001, '4000', {
    value: 4000,
    free: true,
  });
  dimension(hand, { ...habit, apart: 99 }, at(800, 5600), at(4300, 5600), 0.001, '3000', {
    value: 3000,
    free: true,
  });
  dimension(hand, { ...habit, apart: 99 }, at(500, 7300), at(3200, 7300), 0.001, '2900', {
    value: 2900,
    slip: true,
  });
  hand.text('Boat bay', at(2600, 6400), 11);
  hand.text('Workshop', at(7300, 1500), 11);
  hand.text('12', at(7300, 1100), 7);
  hand.view(factor, 'mm', [20, 300, 1180, 1171]);
  const detail = hand.place([1290, 820], 5),
    tick: Habit = { ...habit, size: 6.5 };
  hand.pen = 0.8;
  hand.loop(detail(0, 0), detail(215, 0), detail(215, 500), detail(0, 500));
  hand.line(detail(102.5, 0), detail(102.5, 500));
  hand.line(detail(112.5, 0), detail(112.5, 500));
  hand.pen = 0.35;
  chain(hand, tick, [detail(0, 0), detail(102.5, 0), detail(112.5, 0), detail(215, 0)], -24, [
    { text: '102.5', extra: { value: 102.5 } },
    { text: '10', extra: { value: 10 } },
    { text: '102.5', extra: { value: 102.5 } },
  ]);
  dimension(hand, tick, detail(0, 0), detail(215, 0), -46, '215', { value: 215 });
  dimension(hand, tick, detail(0, 500), detail(0, 0), -24, '500', { value: 500 });
  hand.text('Detail A   1:5', detail(100, -260), 9);
  hand.view(5, 'mm', [1190, 660, 1664, 1171]);
  // A detail without a word about its scale, two dimensions.
  const small = hand.place([1300, 470], 10);
  hand.pen = 0.8;
  hand.box(small(0, 0), small(620, 300));
  hand.pen = 0.35;
  dimension(hand, tick, small(0, 0), small(620, 0), -24, '620', { value: 620 });
  dimension(hand, tick, small(0, 300), small(0, 0), -24, '300', { value: 300 });
  hand.text('Detail B', small(300, -330), 9);
  hand.view(10, 'mm', [1190, 330, 1664, 655], true);
  table(hand, [1210, 150], [60, 70, 70, 70, 60], 15, 7, [
    ['Door', 'Width', 'Height', 'Frame', 'No'],
    ['D1', '2400', '2400', '115', '1'],
    ['D2', '910', '2110', '100', '2'],
    ['D3', '3000', '2700', '215', '1'],
    ['D4', '910', '2110', '100', '4'],
  ]);
  hand.text('Scale 1:50', at(7000, -3300), 9);
  frame(hand, ['Boathouse', 'Ground floor plan', 'Drawing 104']);
  return [hand];
}

/** Feet and inches of a duct plan: sizes, flows and levels are no dimensions; rings and dots. */
export function ductPlan(): Hand[] {
  const hand = new Hand(1224, 792),
    factor = 48,
    inch = 25.4,
    foot = 304.8;
  const habit: Habit = { mark: 'ring', figure: 'gap', size: 6.5, beyond: 3 };
  const feet = (inches: number) => {
    const whole = Math.floor(inches),
      f = inches - whole;
    return `${Math.floor(whole / 12)}'-${whole % 12}${f === 0.5 ? ' 1/2' : f === 0.25 ? ' 1/4' : f === 0.75 ? ' 3/4' : ''}"`;
  };
  const at = hand.place([160, 170], factor);
  hand.pen = 0.9;
  hand.box(at(0, 0), at(48 * foot, 30 * foot));
  hand.pen = 0.35;
  const xs = [0, 94.5, 246, 249.5, 402.25, 576],
    ys = [0, 118, 121.5, 240.75, 360];
  for (const x of xs) hand.line(at(x * inch, 0), at(x * inch, 30 * foot));
  for (const y of ys) hand.line(at(0, y * inch), at(48 * foot, y * inch));
  const c = (list: number[], place: (v: number) => Point, off: number) =>
    chain(
      hand,
      { ...habit, figure: 'above' },
      list.map(place),
      off,
      list.slice(1).map((v, i) => {
        const inches = Math.abs(v - list[i]);
        return {
          text: feet(inches),
          extra: { value: inches * inch, ...(inches < 6 && { shift: [0, 8] as const }) },
        };
      }),
    );
  c(xs, (v) => at(v * inch, 0), -36);
  c([...ys].reverse(), (v) => at(0, v * inch), -36);
  dimension(hand, habit, at(0, 0), at(48 * foot, 0), -64, `48'-0"`, { value: 48 * foot });
  dimension(hand, habit, at(0, 30 * foot), at(0, 0), -64, `30'-0"`, { value: 30 * foot });
  const random = chance(5);
  for (let i = 0; i < 9; i++) {
    const x = 400 + random() * 12000,
      y = 600 + random() * 7500,
      w = 300 + 1500 * random();
    hand.pen = 0.6;
    hand.box(at(x, y), at(x + w, y + 400));
    hand.pen = 0.35;
    hand.text(
      ['24x12', '18x10', '30x14', '12x12', `BOD 9'-4"`, '450 CFM', '1200', '10"Ø', '225'][i],
      at(x + w / 2, y + 100),
      6,
    );
  }
  for (const [x, y] of [
    [3000, 4000],
    [7000, 7000],
    [10500, 2500],
  ] as const) {
    dimension(
      hand,
      { ...habit, mark: 'dot', apart: 99 },
      at(x, y),
      at(x + 31.5 * inch, y),
      0.001,
      feet(31.5),
      { value: 31.5 * inch },
    );
    dimension(
      hand,
      { ...habit, mark: 'dot', apart: 99 },
      at(x - 500, y),
      at(x - 500, y - 52.25 * inch),
      0.001,
      feet(52.25),
      { value: 52.25 * inch },
    );
  }
  hand.text(`1/4" = 1'-0"`, [900, 60], 8, 'start');
  frame(hand, ['Rowing club', 'Mechanical plan', 'M-101']);
  hand.view(factor, 'ft');
  return [hand];
}

/** A cover and a page of schedules: nothing to find. */
export function coverAndSchedule(): Hand[] {
  const cover = new Hand(1191, 842),
    list = new Hand(1191, 842),
    random = chance(9);
  frame(cover, ['Riverside rowing club', 'Drawing list', 'Sheet 0']);
  cover.text('BOATHOUSE', [595, 600], 48);
  cover.text('Construction drawings', [595, 540], 20);
  table(
    cover,
    [300, 200],
    [80, 360, 80, 80],
    18,
    9,
    Array.from({ length: 12 }, (_, i) => [
      String(100 + i),
      ['Plan', 'Section', 'Elevation'][i % 3],
      `1:${[50, 100, 20][i % 3]}`,
      String(1 + (i % 4)),
    ]),
  );
  frame(list, ['Riverside rowing club', 'Door and window schedule', 'Sheet 9']);
  table(
    list,
    [60, 120],
    [60, 90, 90, 90, 90, 90, 120, 120, 120],
    16,
    7,
    Array.from({ length: 38 }, (_, i) => [
      `D${i + 1}`,
      String(610 + 10 * Math.floor(60 * random())),
      String(1900 + 5 * Math.floor(100 * random())),
      String(44 + Math.floor(20 * random())),
      `${Math.floor(10 * random())}'-${Math.floor(12 * random())}"`,
      (3 * random()).toFixed(2),
      'Oak',
      'Lever',
      String(Math.floor(9 * random())),
    ]),
  );
  return [cover, list];
}
