import type { Ring } from '@calque/core/geometry';
import { chain, type Habit } from '../hands/draw/dimension.ts';
import { chance, Hand, PAPER, type Point } from '../hands/draw/hand.ts';
import { strangeOpening, strangeThings, strangeWalls, type Strange } from './strange.ts';
import {
  lengthOf,
  stretch,
  wayOf,
  type House,
  type HouseOpening,
  type HouseWall,
  type Place,
} from './house.ts';

/** How an office draws its plans. */
export interface Office {
  /** Denominator of its scale, and how the plan is turned on the sheet, radians. */
  factor: number;
  turned?: number;
  walls:
    | 'lines'
    | 'poche'
    | 'grey'
    | 'quads'
    | 'hatch'
    | 'studs'
    | 'layers'
    | 'thick'
    | 'doubled'
    | 'exploded'
    | 'single';
  /** Pens of walls, of the rest, sheet points. */
  bold?: number;
  fine?: number;
  /** So many lines in windows; do faces run through them? */
  panes?: number;
  facesThrough?: boolean;
  board?: boolean;
  leaf?: 'line' | 'box' | 'half' | 'none';
  /** How the swing is drawn. */
  swing?: 'arc' | 'chords' | 'dashed' | 'none';
  threshold?: boolean;
  furniture?: boolean;
  tiles?: boolean;
  stair?: boolean;
  names?: 'plain' | 'capitals' | 'none';
  numbers?: boolean;
  areas?: 'm2' | 'sf' | null;
  dims?: Habit | null;
  columnFill?: 'solid' | 'crossed' | 'plain';
  north?: boolean;
}

const DIMS: Habit = { mark: 'tick', figure: 'above', size: 7, beyond: 3 };

/** A house as an office draws it; `at` gives the sheet's points of its places. */
export function drawn(
  house: House,
  office: Office,
  strange: Strange = {},
): { hand: Hand; at: (x: number, y: number) => Point } {
  const { factor, turned = 0, bold = 0.9, fine = 0.3 } = office,
    k = PAPER / factor,
    margin = 130,
    [c, s] = [Math.cos(turned), Math.sin(turned)],
    corners: Point[] = [
      [0, 0],
      [house.width, 0],
      [house.width, house.height],
      [0, house.height],
    ].map(([x, y]) => [k * (x * c - y * s), k * (x * s + y * c)]),
    low = [Math.min(...corners.map((p) => p[0])), Math.min(...corners.map((p) => p[1]))],
    high = [Math.max(...corners.map((p) => p[0])), Math.max(...corners.map((p) => p[1]))],
    hand = new Hand(Math.round(high[0] - low[0] + 2 * margin), Math.round(high[1] - low[1] + 2 * margin)),
    at = hand.place([margin - low[0], margin - low[1]], factor, turned),
    ring = (r: Ring): Point[] => r.map(([x, y]) => at(x, y));
  if (office.tiles) tiles(hand, house, at, fine * 0.6);
  if (house.grid.length > 0) gridLines(hand, house, at, fine);
  if (strange.walls) strangeWalls(hand, house, strange.walls, at, bold, fine);
  else wallsOf(hand, house, office, ring, bold, fine, k);
  for (const o of house.openings) {
    tagOf(hand, house.walls[o.wall], o, at, fine);
    if (!strangeOpening(hand, house.walls[o.wall], o, strange, at, fine, k))
      openingOf(hand, house.walls[o.wall], o, office, at, bold, fine, k);
  }
  strangeThings(hand, house, strange, at, bold, fine);
  for (const column of house.columns) {
    const {
      at: [x, y],
      width: w,
      depth: d,
      round,
    } = column;
    hand.pen = 0.6;
    if (round) hand.circle(at(x, y), (k * w) / 2, office.columnFill === 'solid');
    else {
      const box: Ring = [
        [x - w / 2, y - d / 2],
        [x + w / 2, y - d / 2],
        [x + w / 2, y + d / 2],
        [x - w / 2, y + d / 2],
      ];
      if (office.columnFill === 'solid') hand.fill(...ring(box));
      else hand.loop(...ring(box));
      if (office.columnFill === 'crossed') {
        hand.line(at(...(box[0] as [number, number])), at(...(box[2] as [number, number])));
        hand.line(at(...(box[1] as [number, number])), at(...(box[3] as [number, number])));
      }
    }
  }
  hand.pen = fine;
  if (office.furniture) furniture(hand, house, at, k, Object.keys(strange).length > 0);
  if (office.stair) stair(hand, house, at);
  words(hand, house, office, at, turned);
  if (office.dims !== null) dims(hand, house, office.dims ?? DIMS, at);
  if (office.north) {
    const p: Point = [60, hand.height - 60];
    hand.circle(p, 18);
    hand.line([60, hand.height - 84], [60, hand.height - 36], [54, hand.height - 50]);
    hand.text('N', [60, hand.height - 32], 9);
  }
  hand.text(`Scale 1:${factor}`, [40, 30], 8, 'start');
  hand.view(factor, 'mm');
  return { hand, at };
}

function wallsOf(
  hand: Hand,
  house: House,
  { walls: style }: Office,
  ring: (r: Ring) => Point[],
  bold: number,
  fine: number,
  k: number,
): void {
  const pieces = () =>
    house.walls.flatMap((w, i) => {
      const holes = house.openings
          .filter((o) => o.wall === i)
          .sort((a, b) => a.at - b.at)
          .map((o) => [o.at - o.width / 2, o.at + o.width / 2]),
        ends = [
          w.outer ? -w.thickness / 2 : 0,
          ...holes.flat(),
          lengthOf(w) + (w.outer ? w.thickness / 2 : 0),
        ];
      return ends.flatMap((a, n) =>
        n % 2 === 0 && ends[n + 1] > a ? [{ w, from: a, to: ends[n + 1] }] : [],
      );
    });
  hand.pen = bold;
  if (style === 'quads' || ((style === 'poche' || style === 'grey') && house.cut.some((p) => p.length > 1))) {
    for (const { w, from, to } of pieces()) hand.fill(...ring(stretch(w, from, to)));
    return;
  }
  if (style === 'poche') return house.cut.forEach((p) => hand.fill(...ring(p[0])));
  if (style === 'grey') {
    hand.ink = '#b0b0b0';
    for (const p of house.cut) hand.fill(...ring(p[0]));
    hand.ink = '#000000';
    for (const p of house.cut) for (const r of p) hand.loop(...ring(r));
    return;
  }
  if (style === 'thick' || style === 'single') {
    for (const { w, from, to } of pieces()) {
      const [ux, uy] = wayOf(w),
        p = (t: number): Ring[number] => [w.from[0] + t * ux, w.from[1] + t * uy];
      hand.pen = style === 'single' ? bold : w.thickness * k;
      const [a, b] = ring([p(from), p(to)]);
      // Round ends reach half the pen beyond: they are drawn so much shorter, but not to nothing.
      const inset = style === 'single' ? 0 : Math.min(hand.pen / 2, 0.4 * (to - from) * k),
        n = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (n > 2 * inset)
        hand.line(
          [a[0] + ((b[0] - a[0]) * inset) / n, a[1] + ((b[1] - a[1]) * inset) / n],
          [b[0] - ((b[0] - a[0]) * inset) / n, b[1] - ((b[1] - a[1]) * inset) / n],
        );
    }
    return;
  }
  for (const polygon of house.cut)
    for (const r of polygon) {
      const points = ring(r);
      if (style === 'exploded') exploded(hand, points);
      else hand.loop(...points);
      if (style === 'doubled') hand.loop(...points.map(([x, y]): Point => [x + 0.12, y + 0.1]));
    }
  hand.pen = fine;
  if (style === 'hatch') for (const p of house.cut) hatch(hand, p.map(ring), 4);
  if (style === 'studs' || style === 'layers')
    for (const { w, from, to } of pieces()) {
      if (style === 'layers' && !w.outer) continue;
      const [ux, uy] = wayOf(w),
        p = (t: number, v: number): Ring[number] => [
          w.from[0] + t * ux - v * uy,
          w.from[1] + t * uy + v * ux,
        ],
        at = (t: number, v: number) => ring([p(t, v)])[0];
      const layers = style === 'layers' ? [-0.15, 0.1] : [-0.36, 0.36];
      for (const v of layers) hand.line(at(from, v * w.thickness), at(to, v * w.thickness));
      if (style === 'studs')
        for (let t = from + 60; t < to - 60; t += 600) {
          const v = 0.36 * w.thickness;
          hand.loop(at(t, -v), at(t + 45, -v), at(t + 45, v), at(t, v));
        }
    }
}

/** Lines as they are when they were taken apart: in pieces, with small gaps between. */
function exploded(hand: Hand, points: readonly Point[]): void {
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length],
      n = Math.hypot(q[0] - p[0], q[1] - p[1]),
      count = Math.max(1, Math.round(n / 40)),
      at = (t: number): Point => [p[0] + ((q[0] - p[0]) * t) / n, p[1] + ((q[1] - p[1]) * t) / n];
    for (let j = 0; j < count; j++) {
      const [a, b] = [(n * j) / count + 0.15, (n * (j + 1)) / count - 0.15];
      if (b > a) hand.line(at(a), at(b));
    }
  });
}

function hatch(hand: Hand, rings: readonly (readonly Point[])[], step: number): void {
  const all = rings.flat(),
    u = (p: Point) => (p[0] + p[1]) / Math.SQRT2,
    v = (p: Point) => (p[1] - p[0]) / Math.SQRT2,
    low = Math.min(...all.map(v)),
    high = Math.max(...all.map(v));
  for (let off = low + step / 2; off < high; off += step) {
    const hits = rings
      .flatMap((r) =>
        r.flatMap((p, i) => {
          const q = r[(i + 1) % r.length],
            [a, b] = [v(p) - off, v(q) - off];
          return a > 0 === b > 0 ? [] : [u(p) + ((u(q) - u(p)) * a) / (a - b)];
        }),
      )
      .sort((a, b) => a - b);
    const back = (t: number): Point => [(t - off) / Math.SQRT2, (t + off) / Math.SQRT2];
    for (let i = 0; i + 1 < hits.length; i += 2)
      if (hits[i + 1] - hits[i] > 0.2) hand.line(back(hits[i]), back(hits[i + 1]));
  }
}

function tagOf(
  hand: Hand,
  w: HouseWall,
  o: HouseOpening,
  at: (x: number, y: number) => Point,
  fine: number,
): void {
  if (!o.tag) return;
  const [ux, uy] = wayOf(w),
    off = w.thickness / 2 + 650,
    [x, y] = at(w.from[0] + o.at * ux - off * uy, w.from[1] + o.at * uy + off * ux);
  hand.pen = fine;
  hand.circle([x, y], 9);
  hand.text(o.tag, [x, y - 2.2], 6);
}

function openingOf(
  hand: Hand,
  w: HouseWall,
  o: HouseOpening,
  office: Office,
  at: (x: number, y: number) => Point,
  bold: number,
  fine: number,
  k: number,
): void {
  const {
      panes = 2,
      facesThrough = true,
      leaf = 'line',
      swing = 'arc',
      threshold = false,
      board = false,
    } = office,
    [ux, uy] = wayOf(w),
    p = (t: number, v: number): Point => at(w.from[0] + t * ux - v * uy, w.from[1] + t * uy + v * ux),
    h = w.thickness / 2,
    [a, b] = [o.at - o.width / 2, o.at + o.width / 2];
  hand.pen = fine;
  if (o.kind === 'gap') return;
  if (o.kind === 'window') {
    const inner = Array.from({ length: panes }, (_, i) =>
      panes === 1 ? 0 : -0.25 + (0.5 * i) / (panes - 1),
    );
    for (const v of inner) hand.line(p(a, v * h), p(b, v * h));
    if (facesThrough) for (const v of [-h, h]) hand.line(p(a, v), p(b, v));
    // Where walls are drawn without jambs the frame has its own.
    for (const t of [a, b]) hand.line(p(t, -h), p(t, h));
    if (board) hand.loop(p(a - 60, h), p(b + 60, h), p(b + 60, h + 70), p(a - 60, h + 70));
    return;
  }
  if (threshold) for (const v of [-h, h]) hand.line(p(a, v), p(b, v));
  const side = o.opens === 'left' ? 1 : -1,
    hinges: [number, number, number][] =
      o.leaves === 2
        ? [
            [a, 1, o.width / 2],
            [b, -1, o.width / 2],
          ]
        : [o.hung === 'from' ? [a, 1, o.width] : [b, -1, o.width]];
  for (const [t, way, r] of hinges) {
    const hinge = p(t, side * h),
      closed = p(t + way * r, side * h),
      open = p(t, side * (h + r)),
      half = p(t + way * r * Math.SQRT1_2, side * (h + r * Math.SQRT1_2));
    hand.pen = 0.5 * (bold + fine);
    if (leaf === 'line') hand.line(hinge, open);
    if (leaf === 'half') hand.line(hinge, half);
    if (leaf === 'box') hand.loop(hinge, open, p(t + way * 40, side * (h + r)), p(t + way * 40, side * h));
    hand.pen = fine;
    const [f, e] = [closed, open].map((q) => Math.atan2(q[1] - hinge[1], q[0] - hinge[0]));
    const turn = ((e - f + 3 * Math.PI) % (2 * Math.PI)) - Math.PI,
      end = leaf === 'half' ? f + turn / 2 : e,
      [lo, hi] = turn > 0 ? [f, end] : [end, f],
      from = lo,
      to = hi < lo ? hi + 2 * Math.PI : hi;
    if (swing === 'arc') hand.arc(hinge, k * r, from, to);
    if (swing === 'chords' || swing === 'dashed') {
      const points = Array.from({ length: 9 }, (_, i): Point => {
        const angle = from + ((to - from) * i) / 8;
        return [hinge[0] + k * r * Math.cos(angle), hinge[1] + k * r * Math.sin(angle)];
      });
      if (swing === 'dashed') hand.dashed([3, 2], ...points);
      else hand.line(...points);
    }
  }
}

function gridLines(hand: Hand, house: House, at: (x: number, y: number) => Point, fine: number): void {
  hand.pen = fine;
  for (const { name, from, to } of house.grid) {
    const [p, q] = [at(...from), at(...to)],
      n = Math.hypot(q[0] - p[0], q[1] - p[1]),
      out: Point = [p[0] - ((q[0] - p[0]) * 10) / n, p[1] - ((q[1] - p[1]) * 10) / n];
    hand.dashed([12, 3, 2, 3], p, q);
    hand.circle(out, 10);
    hand.text(name, [out[0], out[1] - 3.2], 9);
  }
}

function tiles(hand: Hand, house: House, at: (x: number, y: number) => Point, pen: number): void {
  hand.pen = pen;
  for (const room of house.rooms.filter((_, i) => i % 3 === 1)) {
    const xs = room.outline.map((p) => p[0]),
      ys = room.outline.map((p) => p[1]),
      [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    for (let x = x0 + 300; x < x1; x += 300) hand.line(at(x, y0), at(x, y1));
    for (let y = y0 + 300; y < y1; y += 300) hand.line(at(x0, y), at(x1, y));
  }
}

/** Beds, tables, cupboards and counters, some along the walls; `clear`: none before an opening or within a wall. */
function furniture(
  hand: Hand,
  house: House,
  at: (x: number, y: number) => Point,
  k: number,
  clear: boolean,
): void {
  const kept = [
      ...house.openings.map((o) =>
        stretch(house.walls[o.wall], o.at - o.width / 2 - 50, o.at + o.width / 2 + 50, 800),
      ),
      ...house.walls.map((w) => stretch(w, 0, lengthOf(w), -5)),
    ].map(boundsOf),
    isFree = (x: number, y: number, w: number, h: number) =>
      !clear || kept.every((b) => x >= b[2] || x + w <= b[0] || y >= b[3] || y + h <= b[1]);
  const random = chance(house.rooms.length + 11);
  const box = (x: number, y: number, w: number, h: number) => {
    if (isFree(x, y, w, h)) hand.loop(at(x, y), at(x + w, y), at(x + w, y + h), at(x, y + h));
  };
  house.rooms.forEach((room, i) => {
    const xs = room.outline.map((p) => p[0]),
      ys = room.outline.map((p) => p[1]),
      [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)],
      [w, h] = [x1 - x0, y1 - y0];
    const kind = (i + Math.floor(3 * random())) % 5;
    if (kind === 0) {
      box(x0 + 50, y0 + 0.5 * h, Math.min(2000, w - 200), Math.min(1600, 0.45 * h));
      box(x0 + 80, y0 + 0.5 * h + 100, 450, 600);
    } else if (kind === 1) {
      box(x0, y0, w, 600);
      box(x0 + 600, y0 + 80, 500, 440);
      for (const [dx, dy] of [
        [1500, 160],
        [1750, 160],
        [1500, 420],
        [1750, 420],
      ])
        if (dx < w - 200) hand.circle(at(x0 + dx, y0 + dy), 100 * k);
    } else if (kind === 2) {
      const [tw, th] = [Math.min(1800, 0.5 * w), Math.min(900, 0.4 * h)],
        [tx, ty] = [x0 + (w - tw) / 2, y0 + (h - th) / 2];
      box(tx, ty, tw, th);
      for (let n = 0; n < 3; n++) {
        box(tx + 80 + n * (tw / 3), ty - 450, 420, 420);
        box(tx + 80 + n * (tw / 3), ty + th + 30, 420, 420);
      }
    } else if (kind === 3) {
      for (let n = 0; n * 600 + 600 <= h; n++) {
        box(x1 - 600, y0 + 600 * n, 600, 600);
        if (isFree(x1 - 600, y0 + 600 * n, 600, 600))
          hand.line(at(x1 - 600, y0 + 600 * n), at(x1, y0 + 600 * n + 600));
      }
    } else {
      box(x0 + 20, y1 - 420, Math.min(1600, w - 100), 400);
      for (let n = 1; n < 5; n++) hand.line(at(x0 + 20 + n * 300, y1 - 420), at(x0 + 20 + n * 300, y1 - 20));
      hand.circle(at(x0 + 0.6 * w, y0 + 0.4 * h), 0.15 * Math.min(w, h) * k);
    }
  });
}

/** The least and the greatest x and y of a ring. */
function boundsOf(ring: Ring): [number, number, number, number] {
  const [xs, ys] = [ring.map((p) => p[0]), ring.map((p) => p[1])];
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

/** The flight that an office draws, from the middle of its first riser to that of its last. */
export function stairOf(house: House): { from: Place; to: Place; risers: number } {
  const room = [...house.rooms].sort((a, b) => b.area - a.area)[0],
    [x, y] = [room.at[0] - 1600, room.at[1]];
  return { from: [x, y], to: [x + 12 * 270, y], risers: 13 };
}

function stair(hand: Hand, house: House, at: (x: number, y: number) => Point): void {
  const [x, middle] = stairOf(house).from,
    y = middle - 500;
  for (let i = 0; i <= 12; i++) hand.line(at(x + 270 * i, y), at(x + 270 * i, y + 1000));
  hand.line(at(x, y), at(x + 12 * 270, y));
  hand.line(at(x, y + 1000), at(x + 12 * 270, y + 1000));
  hand.line(at(x + 135, y + 500), at(x + 12 * 270 - 135, y + 500));
}

function words(
  hand: Hand,
  house: House,
  { names = 'plain', numbers = false, areas = null }: Office,
  at: (x: number, y: number) => Point,
  turned: number,
): void {
  if (names === 'none') return;
  for (const room of house.rooms) {
    const [x, y] = at(...room.at),
      lines = [
        names === 'capitals' ? room.name.toUpperCase() : room.name,
        ...(numbers ? [room.number] : []),
        ...(areas === 'm2' ? [`${room.area.toFixed(1)} m²`] : []),
        ...(areas === 'sf' ? [`${Math.round(room.area / 0.09290304)} SF`] : []),
      ];
    lines.forEach((line, i) => {
      const off = 8 - 9 * i;
      hand.text(
        line,
        [x - off * Math.sin(turned), y + off * Math.cos(turned)],
        i === 0 ? 7.5 : 6,
        'middle',
        turned,
      );
    });
  }
}

function dims(hand: Hand, house: House, habit: Habit, at: (x: number, y: number) => Point): void {
  hand.pen = 0.25;
  const stops = (of: readonly number[]) => [...new Set(of.map(Math.round))].sort((a, b) => a - b),
    xs = stops([0, house.width, ...house.walls.filter((w) => w.from[0] === w.to[0]).map((w) => w.from[0])]),
    ys = stops([0, house.height, ...house.walls.filter((w) => w.from[1] === w.to[1]).map((w) => w.from[1])]);
  const items = (of: number[]) =>
    of.slice(1).map((v, i) => ({ text: String(v - of[i]), extra: { value: v - of[i] } }));
  chain(
    hand,
    habit,
    xs.map((x) => at(x, 0)),
    -40,
    items(xs),
  );
  const down = [...ys].reverse();
  chain(
    hand,
    habit,
    down.map((y) => at(0, y)),
    -40,
    items(ys).reverse(),
  );
}
