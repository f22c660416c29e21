import { chain, dimension, mark, table, type Habit } from './dimension.ts';
import { along, DEGREE, Hand, PAPER, type Point } from './hand.ts';

const INCH = 25.4;

/** A round thing with its figure on a leader that points at its edge. */
function leaderTo(
  hand: Hand,
  habit: Habit,
  centre: Point,
  r: number,
  degreesOut: number,
  text: string,
  kind: 'diameter' | 'radius',
  value: number,
  through = false,
): void {
  const c = Math.cos(degreesOut * DEGREE),
    s = Math.sin(degreesOut * DEGREE),
    at = (t: number): Point => [centre[0] + t * c, centre[1] + t * s];
  const edge = at(r),
    knee = at(r + 18),
    side = c >= 0 ? 1 : -1,
    end: Point = [knee[0] + side * 8, knee[1]];
  hand.line(through ? at(kind === 'radius' ? 0 : -r) : edge, knee, end);
  mark(hand, { ...habit, mark: 'arrow' }, edge, knee, 0, 1);
  hand.text(text, [end[0] + side * 2, end[1] - 0.35 * habit.size], habit.size, side > 0 ? 'start' : 'end');
  hand.dim({ text, kind, value, from: kind === 'radius' ? centre : at(-r), to: edge });
}
function angleOf(
  hand: Hand,
  habit: Habit,
  centre: Point,
  r: number,
  start: number,
  end: number,
  text: string,
): void {
  hand.arc(centre, r, start * DEGREE, end * DEGREE);
  const p = (a: number, k = r): Point => [
    centre[0] + k * Math.cos(a * DEGREE),
    centre[1] + k * Math.sin(a * DEGREE),
  ];
  for (const [a, way] of [
    [start, 1],
    [end, -1],
  ] as const)
    mark(
      hand,
      { ...habit, mark: 'arrow' },
      p(a),
      [p(a)[0] - way * Math.sin(a * DEGREE), p(a)[1] + way * Math.cos(a * DEGREE)],
      0,
      1,
    );
  hand.text(text, p((start + end) / 2, r + 10), habit.size);
  hand.dim({ text, kind: 'angle', value: end - start, from: p(start), to: p(end) });
}

/** A rigging bracket in decimal inches without leading zeros, a note, a hole table, tolerances. */
export function bracketInches(): Hand[] {
  const hand = new Hand(792, 612),
    factor = 2;
  const habit: Habit = { mark: 'arrow', figure: 'gap', size: 8, beyond: 4 };
  const at = hand.place([130, 250], factor),
    mm = (v: number) => v * INCH;
  const p = (x: number, y: number) => at(mm(x), mm(y));
  hand.pen = 1;
  hand.loop(p(0, 0), p(9.5, 0), p(9.5, 2.25), p(7.25, 4.5), p(0, 4.5));
  hand.pen = 0.35;
  const holes: [number, number, number][] = [
    [1, 1, 0.25],
    [1, 3.5, 0.25],
    [4.5, 2.25, 1.125],
    [8.5, 1, 0.1875],
  ];
  for (const [x, y, r] of holes) {
    hand.pen = 0.8;
    hand.circle(p(x, y), (mm(r) * PAPER) / factor);
    hand.pen = 0.3;
    hand.dashed([8, 2, 2, 2], p(x - r - 0.3, y), p(x + r + 0.3, y));
    hand.dashed([8, 2, 2, 2], p(x, y - r - 0.3), p(x, y + r + 0.3));
  }
  hand.pen = 0.35;
  const d = (a: Point, b: Point, off: number, text: string, inches: number, more = {}) =>
    dimension(hand, habit, a, b, off, text, { value: mm(inches), ...more });
  d(p(0, 0), p(9.5, 0), -70, '9.500', 9.5);
  d(p(0, 0), p(1, 0), -28, '1.000', 1);
  d(p(1, 0), p(4.5, 0), -28, '3.500', 3.5);
  d(p(4.5, 0), p(8.5, 0), -28, '4.000±.005', 4);
  d(p(0, 4.5), p(0, 0), -60, '4.500', 4.5);
  d(p(0, 1), p(0, 0), -28, '1.000', 1);
  d(p(0, 3.5), p(0, 1), -28, '2.500', 2.5);
  d(p(9.5, 0), p(9.5, 2.25), -30, '2.250', 2.25);
  d(p(7.25, 4.5), p(9.5, 4.5), 26, '2.250', 2.25);
  d(p(0, 4.5), p(7.25, 4.5), 26, '7.250', 7.25);
  leaderTo(hand, habit, p(4.5, 2.25), (mm(1.125) * PAPER) / factor, 55, 'Ø2.250', 'diameter', mm(2.25));
  leaderTo(hand, habit, p(1, 3.5), (mm(0.25) * PAPER) / factor, 40, '2X Ø.500', 'diameter', mm(0.5));
  angleOf(hand, habit, p(9.5, 2.25), 60, 90, 135, '45°');
  const side = hand.place([620, 250], factor),
    q = (x: number, y: number) => side(mm(x), mm(y));
  hand.pen = 1;
  hand.loop(q(0, 0), q(0.375, 0), q(0.375, 4.5), q(0, 4.5));
  hand.pen = 0.35;
  dimension(hand, habit, q(0, 0), q(0.375, 0), -28, '.375', {
    value: mm(0.375),
    outside: true,
    shift: [26, -3.8],
  });
  table(hand, [440, 500], [50, 60, 60, 60], 14, 7.5, [
    ['HOLE', 'X', 'Y', 'SIZE'],
    ['A1', '1.000', '1.000', '.500'],
    ['A2', '1.000', '3.500', '.500'],
    ['B1', '4.500', '2.250', '2.250'],
    ['C1', '8.500', '1.000', '.375'],
  ]);
  hand.text('ALL DIMENSIONS ARE IN INCHES', [40, 60], 8, 'start');
  hand.text('TOLERANCE .XXX ±.005', [40, 48], 8, 'start');
  hand.text('SCALE 1:2', [600, 48], 8, 'start');
  hand.view(factor, 'in');
  return [hand];
}

/** A trestle in inches with fractions alone, gaps in the lines, a cutting list with the same figures, printed at 96 %. */
export function trestleFractions(): Hand[] {
  const hand = new Hand(612, 792),
    factor = 8 / 0.96;
  const habit: Habit = { mark: 'open', figure: 'gap', size: 7, beyond: 3 };
  const words = (v: number) => {
    const whole = Math.floor(v),
      f = v - whole;
    const part =
      f === 0
        ? ''
        : [
            [1, 8],
            [1, 4],
            [3, 8],
            [1, 2],
            [5, 8],
            [3, 4],
            [7, 8],
          ][Math.round(f * 8) - 1].join('/');
    return whole === 0 ? part : part ? `${whole} ${part}` : String(whole);
  };
  const at = hand.place([150, 330], factor),
    p = (x: number, y: number) => at(x * INCH, y * INCH);
  hand.pen = 0.9;
  hand.box(p(0, 0), p(36, 30));
  for (const x of [3.5, 32.5]) hand.line(p(x, 0), p(x, 26.5));
  for (const y of [8.25, 11.75, 26.5]) hand.line(p(0, y), p(36, y));
  hand.pen = 0.35;
  const d = (a: Point, b: Point, off: number, v: number, more = {}) =>
    dimension(hand, habit, a, b, off, words(v), { value: v * INCH, ...more });
  chain(
    hand,
    { ...habit, figure: 'above' },
    [0, 3.5, 32.5, 36].map((x) => p(x, 0)),
    -26,
    [3.5, 29, 3.5].map((v) => ({ text: words(v), extra: { value: v * INCH } })),
  );
  d(p(0, 0), p(36, 0), -50, 36);
  d(p(0, 8.25), p(0, 0), -26, 8.25);
  d(p(0, 11.75), p(0, 8.25), -26, 3.5);
  d(p(0, 26.5), p(0, 11.75), -26, 14.75);
  d(p(0, 30), p(0, 26.5), -26, 3.5);
  d(p(0, 30), p(0, 0), -52, 30);
  const side = hand.place([500, 330], factor),
    q = (x: number, y: number) => side(x * INCH, y * INCH);
  hand.pen = 0.9;
  hand.box(q(0, 0), q(0.75, 30));
  hand.box(q(0.75, 26.5), q(8.375, 30));
  hand.pen = 0.35;
  dimension(hand, habit, q(0, 0), q(0.75, 0), -26, '3/4', {
    value: 0.75 * INCH,
    outside: true,
    shift: [24, -3],
  });
  d(q(0, 30), q(8.375, 30), 30, 8.375);
  d(q(0.75, 30), q(8.375, 30), 14, 7.625);
  dimension(hand, habit, q(8.375, 26.5), q(8.375, 30), -20, '3 1/2', { value: 3.5 * INCH });
  table(
    hand,
    [80, 80],
    [60, 90, 80, 80, 60],
    16,
    7.5,
    [
      ['Part', 'Name', 'Width', 'Length', 'No'],
      ['A', 'Leg', '3 1/2', '26 1/2', '4'],
      ['B', 'Rail', '3 1/2', '29', '2'],
      ['C', 'Top', '8 3/8', '36', '1'],
      ['D', 'Cleat', '3/4', '7 5/8', '4'],
      ['E', 'Brace', '3/4', '14 3/4', '2'],
    ],
    'rows',
  );
  hand.view(factor, 'in');
  return [hand];
}

/** A plate by ordinates from a datum in both directions, with a hole table; true size printed at 97 %. */
export function platesOrdinates(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 1 / 0.97,
    habit: Habit = { mark: 'bare', figure: 'above', size: 7 };
  const at = hand.place([150, 160], factor),
    k = PAPER / factor;
  hand.pen = 0.9;
  hand.box(at(0, 0), at(148, 92));
  hand.pen = 0.35;
  const holes: [number, number, number][] = [
    [12.5, 14, 4.5],
    [12.5, 78, 4.5],
    [74, 46, 16],
    [119.5, 14, 3.3],
    [119.5, 78, 3.3],
    [136, 46, 4.5],
  ];
  for (const [x, y, r] of holes) {
    hand.circle(at(x, y), r * k);
    hand.dashed([6, 2, 1, 2], at(x - r - 2, y), at(x + r + 2, y));
    hand.dashed([6, 2, 1, 2], at(x, y - r - 2), at(x, y + r + 2));
  }
  const xs = [0, 12.5, 74, 119.5, 136, 148],
    ys = [0, 14, 46, 78, 92],
    text = (v: number) => (Number.isInteger(v) ? String(v) : v.toFixed(1));
  for (const x of xs) {
    const [px, py] = at(x, 0);
    hand.line([px, py - 3], [px, py - 30]);
    hand.text(text(x), [px + 2.4, py - 33], habit.size, 'end', 90 * DEGREE);
    if (x > 0)
      hand.dim({ text: text(x), kind: 'ordinate', value: x, from: [at(0, 0)[0], py - 3], to: [px, py - 3] });
  }
  for (const y of ys) {
    const [px, py] = at(0, y);
    hand.line([px - 3, py], [px - 30, py]);
    hand.text(text(y), [px - 33, py - 2.4], habit.size, 'end');
    if (y > 0)
      hand.dim({ text: text(y), kind: 'ordinate', value: y, from: [px - 3, at(0, 0)[1]], to: [px - 3, py] });
  }
  leaderTo(hand, habit, at(74, 46), 16 * k, 50, 'Ø32 H7', 'diameter', 32);
  leaderTo(hand, habit, at(12.5, 78), 4.5 * k, 120, '3x Ø9', 'diameter', 9);
  table(hand, [600, 440], [40, 50, 50, 50], 14, 7, [
    ['No', 'X', 'Y', 'Ø'],
    ['1', '12.5', '14', '9'],
    ['2', '12.5', '78', '9'],
    ['3', '74', '46', '32'],
    ['4', '119.5', '14', '6.6'],
    ['5', '119.5', '78', '6.6'],
    ['6', '136', '46', '9'],
  ]);
  const side = hand.place([620, 160], factor);
  hand.pen = 0.9;
  hand.box(side(0, 0), side(8, 92));
  hand.pen = 0.35;
  dimension(hand, { ...habit, mark: 'arrow' }, side(0, 0), side(8, 0), -20, '8', { value: 8 });
  hand.text('Dimensions in mm', [40, 40], 7, 'start');
  hand.view(factor, 'mm');
  return [hand];
}

/** A gate of round forms: radii with their centres, arcs' lengths, angles, diameters across and on leaders, millimetres 1:10. */
export function gateRounds(): Hand[] {
  const hand = new Hand(842, 842),
    factor = 10,
    habit: Habit = { mark: 'arrow', figure: 'above', size: 6.5, beyond: 2.5 };
  const at = hand.place([150, 150], factor),
    k = PAPER / factor;
  hand.pen = 0.9;
  hand.line(at(0, 900), at(0, 0), at(1600, 0), at(1600, 900));
  hand.arc(at(800, 900), 800 * k, 0, Math.PI);
  hand.circle(at(800, 900), 350 * k);
  hand.circle(at(300, 300), 120 * k);
  hand.circle(at(1300, 300), 120 * k);
  hand.pen = 0.35;
  dimension(hand, habit, at(0, 0), at(1600, 0), -40, '1600', { value: 1600 });
  dimension(hand, habit, at(0, 0), at(300, 0), -20, '300', { value: 300 });
  dimension(hand, habit, at(300, 0), at(1300, 0), -20, '1000', { value: 1000 });
  dimension(hand, habit, at(1300, 0), at(1600, 0), -20, '300', { value: 300 });
  dimension(hand, habit, at(0, 900), at(0, 0), -24, '900', { value: 900 });
  dimension(hand, habit, at(1600, 0), at(1600, 1700), -30, '1700', { value: 1700 });
  dimension(
    hand,
    { ...habit, apart: 99 },
    along(at(800, 900), at(1200, 1100), -350 * k),
    along(at(800, 900), at(1200, 1100), 350 * k),
    0.001,
    'Ø700',
    { value: 700, kind: 'diameter' },
  );
  leaderTo(hand, habit, at(300, 300), 120 * k, 130, 'Ø240', 'diameter', 240);
  leaderTo(hand, habit, at(800, 900), 800 * k, 52, 'R800', 'radius', 800, true);
  angleOf(hand, habit, at(0, 0), 70, 0, 35, '35°');
  hand.line(at(0, 0), along(at(0, 0), at(1000, 700), 84));
  const p = (deg: number, r: number): Point => [
    at(800, 900)[0] + r * k * Math.cos(deg * DEGREE),
    at(800, 900)[1] + r * k * Math.sin(deg * DEGREE),
  ];
  for (const deg of [100, 150]) hand.line(p(deg, 810), p(deg, 900));
  hand.arc(at(800, 900), 880 * k, 100 * DEGREE, 150 * DEGREE);
  for (const [deg, way] of [
    [100, 1],
    [150, -1],
  ] as const)
    mark(
      hand,
      habit,
      p(deg, 880),
      [p(deg, 880)[0] - way * Math.sin(deg * DEGREE), p(deg, 880)[1] + way * Math.cos(deg * DEGREE)],
      0,
      1,
    );
  hand.text('⌒ 698', [p(125, 910)[0], p(125, 910)[1]], habit.size, 'middle', 35 * DEGREE);
  hand.dim({ text: '⌒ 698', kind: 'arc', value: 698, from: p(100, 880), to: p(150, 880) });
  hand.text('1:10', [700, 40], 8, 'start');
  hand.view(factor, 'mm');
  return [hand];
}

/** A cleat whose figures are as well inches at 1:2 as metres at 1:78.74: nothing on it says which. */
export function cleatUnsaid(): Hand[] {
  const hand = new Hand(595, 420),
    factor = 2,
    habit: Habit = { mark: 'tick', figure: 'above', size: 7, beyond: 3 };
  const at = hand.place([120, 130], factor),
    p = (x: number, y: number) => at(x * INCH, y * INCH);
  hand.pen = 0.9;
  hand.box(p(0, 0), p(8.25, 4));
  hand.line(p(1.375, 0), p(1.375, 4));
  hand.line(p(6.5, 0), p(6.5, 4));
  hand.line(p(0, 1.625), p(8.25, 1.625));
  hand.pen = 0.35;
  const texts = (list: number[]) => list.map((v) => ({ text: v.toFixed(3), extra: { value: v * INCH } }));
  chain(
    hand,
    habit,
    [0, 1.375, 6.5, 8.25].map((x) => p(x, 0)),
    -26,
    texts([1.375, 5.125, 1.75]),
  );
  dimension(hand, habit, p(0, 0), p(8.25, 0), -50, '8.250', { value: 8.25 * INCH });
  chain(
    hand,
    habit,
    [4, 1.625, 0].map((y) => p(0, y)),
    -26,
    texts([2.375, 1.625]),
  );
  dimension(hand, habit, p(0, 4), p(0, 0), -50, '4.000', { value: 4 * INCH });
  hand.view(factor, null, undefined, true);
  return [hand];
}
