import { table } from './dimension.ts';
import { along, chance, DEGREE, distance, Hand, PAPER, type Point } from './hand.ts';

/** A graphic scale: a line with ticks or alternating boxes, figures above its places. */
export function bar(
  hand: Hand,
  [x, y]: Point,
  factor: number,
  values: readonly number[],
  mmPerUnit: number,
  look: 'ticks' | 'boxes' | 'halves',
  words: { each?: string; last?: string; title?: string; size?: number },
): void {
  const k = (mmPerUnit * PAPER) / factor,
    at = (v: number) => x + (v - values[0]) * k,
    size = words.size ?? 7;
  hand.pen = 0.5;
  if (look === 'ticks') {
    hand.line([at(values[0]), y], [at(values[values.length - 1]), y]);
    for (const v of values) hand.line([at(v), y], [at(v), y + 5]);
  } else
    values.slice(1).forEach((v, i) => {
      if (look === 'halves') {
        hand.box([at(values[i]), y], [at(v), y + 6]);
        hand.fill(
          [at(values[i]), y + (i % 2 ? 3 : 0)],
          [at(v), y + (i % 2 ? 3 : 0)],
          [at(v), y + (i % 2 ? 6 : 3)],
          [at(values[i]), y + (i % 2 ? 6 : 3)],
        );
      } else if (i % 2) hand.box([at(values[i]), y], [at(v), y + 4]);
      else hand.fill([at(values[i]), y], [at(v), y], [at(v), y + 4], [at(values[i]), y + 4]);
    });
  values.forEach((v, i) =>
    hand.text(
      `${v}${words.each ?? ''}${i === values.length - 1 && words.last ? words.last : ''}`,
      [at(v), y + 9],
      size,
      i === values.length - 1 && words.last ? 'middle' : 'middle',
    ),
  );
  if (words.title) hand.text(words.title, [at(values[0]), y - 10], size, 'start');
}

function contours(hand: Hand, seed: number, count: number): void {
  const random = chance(seed);
  hand.ink = '#8a6a3a';
  hand.pen = 0.3;
  for (let i = 0; i < count; i++) {
    const y = 120 + (i * (hand.height - 260)) / count,
      points: Point[] = [];
    for (let x = 60; x <= hand.width - 60; x += 18)
      points.push([x, y + 30 * Math.sin(x / 130 + i * 0.4) + 6 * random()]);
    hand.line(...points);
    const p = points[8 + 3 * (i % 5)];
    hand.text((101 + i * 0.5).toFixed(i % 2 ? 1 : 2), [p[0], p[1] + 1.5], 5.5, 'middle', 0.1);
  }
  hand.ink = '#000000';
}

/** A site plan without one dimension: contours, spot heights, a tree list; the bar says metres, the note another scale. */
export function riverside(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 500 / 0.81;
  contours(hand, 3, 16);
  const at = hand.place([120, 160], factor);
  hand.pen = 0.9;
  hand.loop(at(0, 0), at(84000, 6000), at(90000, 62000), at(12000, 66000));
  hand.box(at(30000, 20000), at(52000, 38000));
  hand.pen = 0.4;
  hand.text('Boathouse', at(41000, 29000), 8);
  const random = chance(8);
  for (let i = 0; i < 14; i++) {
    const p = at(4000 + 80000 * random(), 5000 + 56000 * random());
    hand.circle(p, 4 + 4 * random());
    hand.text((100 + 9 * random()).toFixed(2), [p[0] + 8, p[1]], 5.5, 'start');
    hand.line([p[0] - 2, p[1]], [p[0] + 2, p[1]]);
  }
  bar(hand, [560, 60], factor, [0, 10, 20, 30, 40], 1000, 'boxes', { last: ' metres' });
  hand.text('Scale 1:500 @ A3', [560, 35], 8, 'start');
  table(hand, [620, 470], [40, 60, 60], 13, 6.5, [
    ['Tree', 'Height', 'Girth'],
    ['1', '12.5', '1.20'],
    ['2', '9.0', '0.85'],
    ['3', '14.0', '1.60'],
    ['4', '8.5', '0.70'],
  ]);
  hand.view(factor, 'm');
  return [hand];
}

/** Elevations with levels and a bar whose title says what it is in. */
export function elevations(): Hand[] {
  const hand = new Hand(1191, 842),
    factor = 100 / 0.87,
    at = hand.place([150, 330], factor);
  hand.pen = 0.8;
  hand.loop(at(0, 0), at(18000, 0), at(18000, 5200), at(9000, 8400), at(0, 5200));
  hand.pen = 0.4;
  for (let i = 0; i < 5; i++) hand.box(at(1200 + i * 3300, 900), at(3400 + i * 3300, 3300));
  for (const [y, text] of [
    [0, '+0.00'],
    [2700, '+2.70'],
    [5200, '+5.20'],
    [8400, '+8.40'],
  ] as const) {
    const p = at(18800, y);
    hand.line(at(18200, y), [p[0] + 40, p[1]]);
    hand.loop(p, [p[0] - 4, p[1] + 6], [p[0] + 4, p[1] + 6]);
    hand.text(text, [p[0] + 24, p[1] + 2], 7);
  }
  hand.text('South elevation', at(9000, -1500), 11);
  hand.line(at(-1400, 0), at(19800, 0));
  for (const [x, label] of [
    [0, '1'],
    [6000, '2'],
    [12000, '3'],
    [18000, '4'],
  ] as const) {
    hand.dashed([10, 3, 2, 3], at(x, -600), at(x, 9300));
    const p = at(x, 9300);
    hand.circle([p[0], p[1] + 9], 9);
    hand.text(label, [p[0], p[1] + 6], 8);
  }
  bar(hand, [120, 120], factor, [0, 1, 2, 3, 4, 5, 10], 1000, 'halves', { title: 'Scale in metres' });
  table(hand, [760, 100], [100, 70, 70], 15, 7.5, [
    ['Finish', 'Area m²', 'No'],
    ['Cladding', '94.20', '1'],
    ['Doors', '18.40', '5'],
    ['Glass', '26.40', '5'],
  ]);
  hand.view(factor, 'm');
  return [hand];
}

/** A parcel with lengths written along its boundaries, bearings, an arc with its radius and length, in metres 1:250. */
export function parcel(): Hand[] {
  const hand = new Hand(842, 595),
    factor = 250,
    at = hand.place([140, 130], factor);
  const corners: [number, number][] = [
    [0, 0],
    [46200, -3100],
    [52800, 18400],
    [49950, 31070],
    [21300, 37900],
    [-4200, 29500],
  ];
  hand.pen = 0.9;
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length],
      p = at(...a),
      q = at(...b),
      mm = Math.hypot(b[0] - a[0], b[1] - a[1]),
      length = distance(p, q);
    hand.line(p, q);
    hand.circle(p, 2);
    const angle = Math.atan2(q[1] - p[1], q[0] - p[0]),
      turn = angle > Math.PI / 2 + 1e-6 || angle <= -Math.PI / 2 ? angle + Math.PI : angle,
      up = Math.cos(turn - angle) > 0 ? 1 : -1;
    hand.text((mm / 1000).toFixed(2), along(p, q, length / 2, 3 * up), 7, 'middle', turn);
    hand.text(
      ["N 86°10'E", "N 17°04'E", "N 12°41'W", "N 76°36'W", "S 71°46'W", "S 8°06'E"][i],
      along(p, q, length / 2, -9 * up),
      6,
      'middle',
      turn,
    );
    hand.dim({
      text: (mm / 1000).toFixed(2),
      kind: 'boundary',
      value: Math.round(mm / 10) * 10,
      from: p,
      to: q,
    });
  });
  hand.pen = 0.6;
  hand.box(at(12000, 8000), at(31500, 21000));
  hand.text('Boathouse', at(21700, 14500), 8);
  hand.pen = 0.35;
  const random = chance(4);
  for (let i = 0; i < 12; i++) {
    const p = at(46000 * random(), 2000 + 26000 * random());
    hand.line([p[0] - 2, p[1]], [p[0] + 2, p[1]]);
    hand.line([p[0], p[1] - 2], [p[0], p[1] + 2]);
    hand.text((48 + 4 * random()).toFixed(2), [p[0] + 4, p[1] + 2], 5.5, 'start');
  }
  bar(hand, [560, 60], factor, [0, 5, 10, 20], 1000, 'ticks', { each: ' m' });
  hand.text('Area 1 704 m²', at(21700, 24500), 7);
  hand.view(factor, 'm');
  return [hand];
}

/** Slipway by its bar alone: a unit at one end, figures below zero at its left, no note. */
export function slipway(): Hand[] {
  const hand = new Hand(595, 842),
    factor = 200 / 0.73,
    at = hand.place([110, 200], factor);
  contours(hand, 11, 10);
  hand.pen = 0.9;
  hand.box(at(2000, 4000), at(32000, 12500));
  for (let i = 0; i < 9; i++) hand.line(at(2000 + 3400 * i, 4000), at(2000 + 3400 * i, 12500));
  hand.pen = 0.4;
  hand.text('Slipway', at(17000, 8000), 9);
  bar(hand, [120, 90], factor, [0, 2, 4, 6, 8, 10], 1000, 'boxes', {});
  hand.text('m', [120 + (11 * 1000 * PAPER) / factor, 99], 7);
  for (const [x, y, t] of [
    [5000, 20000, '12'],
    [9000, 30000, '7'],
    [22000, 26000, '103.4'],
  ] as const) {
    const p = at(x, y);
    hand.circle(p, 7);
    hand.text(t, [p[0], p[1] - 2.5], 6.5);
  }
  hand.arc(at(17000, 32000), 60, 0, 120 * DEGREE);
  hand.view(factor, 'm');
  return [hand];
}
