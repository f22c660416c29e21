import { TAU } from '../geometry/index.ts';
import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { classOf, type Limits, type ThicknessClass } from './bands.ts';
import type { SeenWall } from './seen-walls.ts';
import { common, joined, total, type Span } from './spans.ts';
import { penName } from './strokes.ts';

const NOT: ReadonlySet<string> = new Set(['hatch', 'text', 'dimension', 'picture', 'markup']);
/** A bent wall is bent no tighter than this at its inside, and its faces run side by side at least so far, millimetres. */
const TIGHTEST = 600,
  SHORTEST = 500;
/** It runs on across an opening no wider, millimetres. */
const WIDEST_OPENING = 2800;
/** Of two that share a face the surer holds; both of its faces are drawn as far as this share of what either is. */
const LEAST_BOTH = 0.5;

interface Round {
  x: number;
  y: number;
  r: number;
  pen: string;
  /** Angles, each beginning in the first turn. */
  spans: Span[];
}

/** Bent walls: arcs about one centre, as far apart as walls of the sheet are thick. */
export function curvedWalls(
  l: Linework,
  mm: number,
  { near, thinnest, thickest }: Limits,
  classes: readonly ThicknessClass[],
  pens: ReadonlyMap<string, number>,
): SeenWall[] {
  const rounds = roundsOf(l, near);
  const found: { a: Round; b: Round; walls: SeenWall[]; score: number }[] = [];
  rounds.forEach((a, i) => {
    for (const b of rounds.slice(i + 1)) {
      const [inner, outer] = a.r < b.r ? [a, b] : [b, a],
        thickness = outer.r - inner.r;
      if (thickness < thinnest || thickness > thickest || inner.r * mm < TIGHTEST) continue;
      if (Math.hypot(a.x - b.x, a.y - b.y) > 2 * near) continue;
      const middle = (inner.r + outer.r) / 2,
        both = common(joined(inner.spans), joined(outer.spans)),
        drawn = total(both);
      if (drawn * middle * mm < SHORTEST) continue;
      if (drawn < LEAST_BOTH * Math.max(total(joined(inner.spans)), total(joined(outer.spans)))) continue;
      const pen = Math.min(pens.get(a.pen) ?? 0, pens.get(b.pen) ?? 0),
        sure = (0.35 + 0.65 * classOf(classes, thickness, near)) * (0.35 + 0.65 * pen),
        gap = WIDEST_OPENING / mm / middle;
      for (const [from, to] of around(joined(both, gap), gap))
        found.push({
          a,
          b,
          score: sure * (to - from) * middle,
          walls: halves(from, to).map(([s, t]) =>
            bent([(a.x + b.x) / 2, (a.y + b.y) / 2], middle, s, t, thickness * mm, sure),
          ),
        });
    }
  });
  const taken = new Set<Round>();
  return found
    .sort((p, q) => q.score - p.score)
    .flatMap(({ a, b, walls }) => {
      if (taken.has(a) !== taken.has(b)) return [];
      taken.add(a).add(b);
      return walls;
    });
}

/** Stretches of a turn of which the last goes on into the first. */
function around(spans: readonly [number, number][], gap: number): [number, number][] {
  const first = spans[0],
    last = spans.at(-1);
  if (!first || !last || first === last || first[0] + TAU - last[1] > gap) return [...spans];
  return [[last[0] - TAU, first[1]], ...spans.slice(1, -1)];
}

/** A wall turns by half a round at most: a whole one is two. */
function halves(from: number, to: number): Span[] {
  const count = Math.max(1, Math.ceil((to - from) / Math.PI - 1e-9)),
    step = (to - from) / count;
  return Array.from({ length: count }, (_, i): Span => [from + i * step, from + (i + 1) * step]);
}

function bent(
  centre: [number, number],
  radius: number,
  from: number,
  to: number,
  thickness: number,
  confidence: number,
): SeenWall {
  const at = (angle: number): [number, number] => [
    centre[0] + radius * Math.cos(angle),
    centre[1] + radius * Math.sin(angle),
  ];
  return {
    from: at(from),
    to: at(to),
    thickness,
    confidence,
    doubts: confidence < 0.4 ? ['no other wall is as thick'] : [],
    solid: null,
    arc: { centre, radius, sweep: to - from },
  };
}

/** Centres in one cell of so many points may be one; more rounds than the second are not looked at. */
const CELL = 4,
  MOST_ROUNDS = 4000;

/** The rounds of a sheet: arcs about one centre with one radius, by one pen, as one. */
function roundsOf(l: Linework, near: number): Round[] {
  const out: Round[] = [],
    // By cells of their centres: a sheet may have thousands of trees.
    cells = new Map<string, Round[]>(),
    cellOf = (x: number, y: number) => [Math.round(x / CELL), Math.round(y / CELL)];
  for (let i = 0; i < l.arcKind.length; i++) {
    const layer = l.arcStyle[2 * i],
      pen = l.arcStyle[2 * i + 1];
    if (NOT.has(ITEM_KINDS_OF_SHEET[l.arcKind[i]]) || (layer >= 0 && l.layers[layer]?.on === false)) continue;
    if ((l.pens[pen]?.dash.length ?? 0) > 0) continue;
    const [x, y, r, start, end] = l.arcs.subarray(5 * i, 5 * i + 5),
      name = penName(l, layer, pen),
      from = ((start % TAU) + TAU) % TAU,
      to = from + (end - start),
      // What goes on beyond a full turn begins again at nothing.
      spans: Span[] =
        to > TAU
          ? [
              [from, TAU],
              [0, to - TAU],
            ]
          : [[from, to]];
    const [i0, j0] = cellOf(x, y),
      beside = [-1, 0, 1].flatMap((i) => [-1, 0, 1].flatMap((j) => cells.get(`${i0 + i} ${j0 + j}`) ?? [])),
      known = beside.find(
        (o) => o.pen === name && Math.abs(o.r - r) <= near && Math.hypot(o.x - x, o.y - y) <= near,
      );
    if (known) known.spans.push(...spans);
    else if (out.length < MOST_ROUNDS) {
      const round = { x, y, r, pen: name, spans },
        key = `${i0} ${j0}`;
      out.push(round);
      cells.set(key, [...(cells.get(key) ?? []), round]);
    }
  }
  return out;
}
