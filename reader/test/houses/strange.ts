import type { Ring } from '@calque/core/geometry';
import type { Hand, Point } from '../hands/draw/hand.ts';
import { lengthOf, stretch, wayOf, type House, type HouseOpening, type HouseWall } from './house.ts';

/** Habits that the offices of `office.ts` have not: of walls, of what stands in them, and of what lies around a house and is none. */
export interface Strange {
  /**
   * `boxes`: each wall is a rectangle of its own, through its neighbours; `rooms`: every room's outline and the house's, openings painted over in white;
   * `wave`: a wave of insulation between two leaves; `cross`: hatched both ways; `bricks`: a dense hatch as bold as the faces; `bare`: two faces without ends;
   * `filled faces`: a grey fill under lines.
   */
  walls?: 'boxes' | 'rooms' | 'wave' | 'cross' | 'bricks' | 'bare' | 'filled faces';
  doors?: 'framed' | 'folding' | 'sliding' | 'pocket' | 'third' | 'black leaf' | 'two lines';
  windows?: 'frames' | 'casement' | 'reveal' | 'one line' | 'middle box';
  around?: readonly (
    | 'overhang'
    | 'border'
    | 'kerb'
    | 'paving'
    | 'middle lines'
    | 'wardrobes'
    | 'beams'
    | 'footings'
    | 'railing'
    | 'legend'
    | 'chains within'
  )[];
}

type At = (x: number, y: number) => Point;
type Along = (t: number, v: number) => Point;
const alongOf =
  (w: HouseWall, at: At): Along =>
  (t, v) => {
    const [ux, uy] = wayOf(w);
    return at(w.from[0] + t * ux - v * uy, w.from[1] + t * uy + v * ux);
  };

export function strangeWalls(
  hand: Hand,
  house: House,
  style: NonNullable<Strange['walls']>,
  at: At,
  bold: number,
  fine: number,
): void {
  const ring = (r: Ring): Point[] => r.map(([x, y]) => at(x, y)),
    pieces = house.walls.flatMap((w, i) => {
      const cuts = house.openings
          .filter((o) => o.wall === i)
          .sort((a, b) => a.at - b.at)
          .flatMap((o) => [o.at - o.width / 2, o.at + o.width / 2]),
        half = w.outer ? w.thickness / 2 : 0,
        ends = [-half, ...cuts, lengthOf(w) + half];
      return ends.flatMap((a, n) =>
        n % 2 === 0 && ends[n + 1] > a ? [{ w, from: a, to: ends[n + 1] }] : [],
      );
    });
  hand.pen = bold;
  if (style === 'boxes') {
    for (const { w, from, to } of pieces) hand.loop(...ring(stretch(w, from, to)));
    return;
  }
  if (style === 'rooms') {
    for (const polygon of house.solid) for (const r of polygon) hand.loop(...ring(r));
    hand.ink = '#ffffff';
    for (const o of house.openings)
      hand.fill(...ring(stretch(house.walls[o.wall], o.at - o.width / 2, o.at + o.width / 2, 30)));
    hand.ink = '#000000';
    for (const o of house.openings) {
      const w = house.walls[o.wall],
        p = alongOf(w, at);
      for (const t of [o.at - o.width / 2, o.at + o.width / 2])
        hand.line(p(t, -w.thickness / 2), p(t, w.thickness / 2));
    }
    return;
  }
  if (style === 'bare') {
    // Faces alone, no line closes them at an opening.
    for (const polygon of house.solid)
      for (const r of polygon)
        r.forEach((a, i) => {
          const b = r[(i + 1) % r.length],
            n = Math.hypot(b[0] - a[0], b[1] - a[1]),
            [ux, uy] = [(b[0] - a[0]) / n, (b[1] - a[1]) / n];
          const gaps = house.openings
            .flatMap((o) => {
              const w = house.walls[o.wall],
                [wx, wy] = wayOf(w);
              if (Math.abs(wx * uy - wy * ux) > 1e-6) return [];
              const off = Math.abs(-(a[0] - w.from[0]) * wy + (a[1] - w.from[1]) * wx);
              if (Math.abs(off - w.thickness / 2) > 1) return [];
              const place = (t: number) =>
                  (w.from[0] + t * wx - a[0]) * ux + (w.from[1] + t * wy - a[1]) * uy,
                [s, e] = [place(o.at - o.width / 2), place(o.at + o.width / 2)];
              return [[Math.max(0, Math.min(s, e)), Math.min(n, Math.max(s, e))]];
            })
            .filter(([s, e]) => e > s)
            .sort((p, q) => p[0] - q[0]);
          const ends = [0, ...gaps.flat(), n];
          for (let k = 0; k + 1 < ends.length; k += 2)
            if (ends[k + 1] > ends[k])
              hand.line(
                at(a[0] + ends[k] * ux, a[1] + ends[k] * uy),
                at(a[0] + ends[k + 1] * ux, a[1] + ends[k + 1] * uy),
              );
        });
    return;
  }
  if (style === 'filled faces') {
    hand.ink = '#dddddd';
    for (const { w, from, to } of pieces) hand.fill(...ring(stretch(w, from, to)));
    hand.ink = '#000000';
  }
  for (const polygon of house.cut) for (const r of polygon) hand.loop(...ring(r));
  hand.pen = style === 'bricks' ? bold : fine;
  if (style === 'cross') for (const way of [1, -1]) dense(hand, house, at, 160, way);
  if (style === 'bricks') dense(hand, house, at, 70, 1);
  if (style === 'wave')
    for (const { w, from, to } of pieces) {
      if (!w.outer) continue;
      const p = alongOf(w, at),
        h = w.thickness / 2,
        [low, high] = [-0.35 * h, 0.45 * h];
      for (const v of [low, high]) hand.line(p(from, v), p(to, v));
      const step = (high - low) / 1.5,
        points: Point[] = [];
      for (let t = from, i = 0; t <= to; t += step / 4, i++)
        points.push(p(t, (low + high) / 2 + ((high - low) / 2.2) * Math.sin((i * Math.PI) / 2)));
      if (points.length > 1) hand.line(...points);
    }
}

/** Lines at 45 degrees within the walls, so many millimetres apart; `way` 1 rising, -1 falling. */
function dense(hand: Hand, house: House, at: At, step: number, way: number): void {
  const r = Math.SQRT1_2,
    u = ([x, y]: readonly [number, number]) => (x + way * y) * r,
    v = ([x, y]: readonly [number, number]) => (y - way * x) * r,
    back = (t: number, off: number): Point => at((t - way * off) * r, (way * t + off) * r);
  for (const polygon of house.cut) {
    const all = polygon.flat(),
      [low, high] = [Math.min(...all.map(v)), Math.max(...all.map(v))];
    for (let off = low + step / 2; off < high; off += step) {
      const hits = polygon
        .flatMap((ring) =>
          ring.flatMap((p, i) => {
            const q = ring[(i + 1) % ring.length],
              [a, b] = [v(p) - off, v(q) - off];
            return a > 0 === b > 0 ? [] : [u(p) + ((u(q) - u(p)) * a) / (a - b)];
          }),
        )
        .sort((a, b) => a - b);
      for (let i = 0; i + 1 < hits.length; i += 2)
        if (hits[i + 1] - hits[i] > 10) hand.line(back(hits[i], off), back(hits[i + 1], off));
    }
  }
}

/** An opening; false where the office draws it as the others do. */
export function strangeOpening(
  hand: Hand,
  w: HouseWall,
  o: HouseOpening,
  strange: Strange,
  at: At,
  fine: number,
  k: number,
): boolean {
  const p = alongOf(w, at),
    h = w.thickness / 2,
    [a, b] = [o.at - o.width / 2, o.at + o.width / 2],
    box = (t0: number, t1: number, v0: number, v1: number) =>
      hand.loop(p(t0, v0), p(t1, v0), p(t1, v1), p(t0, v1)),
    side = o.opens === 'left' ? 1 : -1;
  hand.pen = fine;
  if (o.kind === 'window' && strange.windows) {
    if (strange.windows === 'frames') {
      for (const [t0, t1] of [
        [a, a + 60],
        [b - 60, b],
      ])
        box(t0, t1, -40, 40);
      for (const v of [-12, 12]) hand.line(p(a + 60, v), p(b - 60, v));
      for (const v of [-h, h]) hand.line(p(a, v), p(b, v));
    }
    if (strange.windows === 'casement') {
      for (const v of [-h, -20, 20, h]) hand.line(p(a, v), p(b, v));
      hand.line(p(a, side * h), p(a + 0.5 * o.width * 0.6, side * (h + 0.4 * o.width)));
      const c = p(a, side * h);
      const [s, e] = [p(b, side * h), p(a + 0.3 * o.width, side * (h + 0.4 * o.width))].map((q) =>
        Math.atan2(q[1] - c[1], q[0] - c[0]),
      );
      const turn = ((e - s + 3 * Math.PI) % (2 * Math.PI)) - Math.PI;
      hand.arc(c, k * o.width * 0.5, turn > 0 ? s : e, turn > 0 ? e : s);
    }
    if (strange.windows === 'reveal') {
      // The inner half of the wall is wider open than the outer.
      box(a - 0, b + 0, side * h, side * 0.3 * h);
      for (const v of [0.3, 0.1]) hand.line(p(a, side * v * h), p(b, side * v * h));
      hand.line(p(a, -side * h), p(b, -side * h));
    }
    if (strange.windows === 'one line') hand.line(p(a, 0), p(b, 0));
    if (strange.windows === 'middle box') {
      box(a, b, -35, 35);
      hand.line(p(a, 0), p(b, 0));
      hand.line(p(a, -h), p(b, -h));
      hand.line(p(a - 40, h + 30), p(b + 40, h + 30));
      hand.line(p(a - 40, h), p(a - 40, h + 30));
      hand.line(p(b + 40, h), p(b + 40, h + 30));
    }
    return true;
  }
  if (o.kind !== 'door' || !strange.doors) return false;
  const leaves: [number, number, number][] =
    o.leaves === 2
      ? [
          [a, 1, o.width / 2],
          [b, -1, o.width / 2],
        ]
      : [o.hung === 'from' ? [a, 1, o.width] : [b, -1, o.width]];
  const arc = (t: number, way: number, r: number, share: number, in_ = 0) => {
    const hinge = p(t, side * (h - in_)),
      angle = (t1: number, v1: number) => {
        const q = p(t1, v1);
        return Math.atan2(q[1] - hinge[1], q[0] - hinge[0]);
      },
      f = angle(t + way * r, side * (h - in_)),
      e = angle(
        t + way * r * Math.cos((share * Math.PI) / 2),
        side * (h - in_ + r * Math.sin((share * Math.PI) / 2)),
      ),
      turn = ((e - f + 3 * Math.PI) % (2 * Math.PI)) - Math.PI,
      [lo, hi] = turn > 0 ? [f, f + turn] : [f + turn, f];
    hand.arc(hinge, k * r, lo, hi);
  };
  if (strange.doors === 'framed') {
    // Frames stand in the opening, leaves between them.
    for (const [t0, t1] of [
      [a, a + 50],
      [b - 50, b],
    ])
      box(t0, t1, -h, h);
    for (const [t, way, r] of leaves) {
      const from = t + way * 50,
        clear = r - (o.leaves === 2 ? 50 : 100);
      box(from, from + way * 40, side * h, side * (h + clear));
      arc(from, way, clear, 1);
    }
  }
  if (strange.doors === 'third')
    for (const [t, way, r] of leaves) {
      hand.line(
        p(t, side * h),
        p(t + way * r * Math.cos(Math.PI / 3), side * (h + r * Math.sin(Math.PI / 3))),
      );
      arc(t, way, r, 2 / 3);
    }
  if (strange.doors === 'black leaf')
    for (const [t, way, r] of leaves) {
      hand.fill(
        p(t, side * h),
        p(t + way * 45, side * h),
        p(t + way * 45, side * (h + r)),
        p(t, side * (h + r)),
      );
      arc(t, way, r, 1);
    }
  if (strange.doors === 'two lines')
    for (const [t, way, r] of leaves) {
      // Hung in the middle of the wall.
      hand.line(p(t, 0), p(t, side * r));
      hand.line(p(t + way * 30, 0), p(t + way * 30, side * r));
      arc(t, way, r, 1, h);
    }
  if (strange.doors === 'folding')
    for (const [t, way, r] of leaves) {
      const n = 4,
        one = r / n;
      const points: Point[] = [];
      for (let i = 0; i <= n; i++)
        points.push(p(t + way * one * 0.5 * i, side * (h + (i % 2 === 1 ? one * 0.85 : 0))));
      hand.line(...points);
    }
  if (strange.doors === 'sliding')
    for (const [t, way, r] of leaves)
      box(t - way * 0.15 * r, t + way * 0.95 * r, side * (h + 20), side * (h + 60));
  if (strange.doors === 'pocket')
    for (const [t, way, r] of leaves) box(t - way * 0.6 * r, t + way * 0.4 * r, -18, 18);
  return true;
}

/** What lies around and within a house and is no wall. */
export function strangeThings(
  hand: Hand,
  house: House,
  { around = [] }: Strange,
  at: At,
  bold: number,
  fine: number,
): void {
  const { width: W, height: H } = house,
    has = (what: NonNullable<Strange['around']>[number]) => around.includes(what),
    rect = (x0: number, y0: number, x1: number, y1: number): Point[] => [
      at(x0, y0),
      at(x1, y0),
      at(x1, y1),
      at(x0, y1),
    ],
    closed = (dash: number[], r: Point[]) => hand.dashed(dash, ...r, r[0]);
  hand.pen = fine;
  if (has('overhang')) closed([5, 3], rect(-700, -700, W + 700, H + 700));
  if (has('footings'))
    for (const w of house.walls.filter((v) => v.outer)) {
      const p = alongOf(w, at);
      for (const v of [-0.5 * w.thickness - 200, 0.5 * w.thickness + 200])
        hand.dashed([3, 2], p(-200, v), p(lengthOf(w) + 200, v));
    }
  if (has('kerb')) {
    for (const y of [-1400, -1250]) hand.line(at(-1500, y), at(W + 1500, y));
    for (const x of [W + 1250, W + 1400]) hand.line(at(x, -1200), at(x, H));
  }
  if (has('paving')) {
    for (let x = 0; x <= 3000; x += 500) hand.line(at(x, H + 300), at(x, H + 1300));
    for (let y = H + 300; y <= H + 1300; y += 500) hand.line(at(0, y), at(3000, y));
  }
  if (has('railing')) {
    hand.loop(...rect(0.5 * W, H + 200, 0.9 * W, H + 1200));
    hand.loop(...rect(0.5 * W + 60, H + 200, 0.9 * W - 60, H + 1140));
  }
  if (has('middle lines'))
    for (const w of house.walls) {
      const p = alongOf(w, at);
      hand.dashed([9, 2, 2, 2], p(0, 0), p(lengthOf(w), 0));
    }
  for (const [i, room] of house.rooms.entries()) {
    const xs = room.outline.map((q) => q[0]),
      ys = room.outline.map((q) => q[1]),
      [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    if (has('wardrobes') && i % 2 === 0 && y1 - y0 > 2500) {
      // Doors that slide before it, and a rail.
      const r = rect(x0, y1 - 620, x0 + 1800, y1);
      hand.line(r[0], r[1], r[2]);
      hand.loop(...rect(x0 + 20, y1 - 620, x0 + 950, y1 - 590));
      hand.loop(...rect(x0 + 850, y1 - 590, x0 + 1780, y1 - 560));
      hand.line(at(x0, y1 - 300), at(x0 + 1800, y1 - 300));
    }
    if (has('beams') && i % 2 === 1)
      for (const x of [0.4, 0.6].map((t) => x0 + t * (x1 - x0)))
        for (const off of [-75, 75]) hand.dashed([4, 2], at(x + off, y0), at(x + off, y1));
    if (has('chains within')) {
      const y = y0 + 0.3 * (y1 - y0);
      hand.line(at(x0, y), at(x1, y));
      for (const x of [x0, x1]) hand.line(at(x - 80, y - 80), at(x + 80, y + 80));
      const [px, py] = at((x0 + x1) / 2, y);
      hand.text(String(Math.round(x1 - x0)), [px, py + 2], 6);
    }
  }
  if (has('border')) {
    const { width: w, height: h } = hand;
    hand.pen = bold;
    hand.box([12, 12], [w - 12, h - 12]);
    hand.pen = fine;
    hand.box([18, 18], [w - 18, h - 18]);
    hand.pen = bold;
    hand.box([w - 110, 18], [w - 18, 90]);
    for (const y of [36, 54, 72]) hand.line([w - 110, y], [w - 18, y]);
    hand.line([w - 64, 18], [w - 64, 54]);
    ['Boathouse', 'Ground floor', 'A-101'].forEach((t, i) =>
      hand.text(t, [w - 107, 78 - 18 * i], 6, 'start'),
    );
  }
  if (has('legend')) {
    // Samples of how things are drawn.
    const [x, y] = [24, hand.height - 24];
    for (let i = 0; i < 3; i++) {
      hand.pen = bold;
      hand.box([x, y - 14 * i - 8], [x + 22, y - 14 * i]);
      hand.text(['masonry', 'stud', 'glass'][i], [x + 27, y - 14 * i - 7], 6, 'start');
    }
  }
}
