import { ringArea, type Point, type Polygon } from '@calque/core/geometry';
import type { TraceOfStorey } from '../trace-cache';
import type { Brush } from '../tool';
import { PlanePath } from './plane-path';

/** How much of the trace shows while looking through it. */
const THROUGH = 0.1;
/** Line of the trace, CSS pixels. */
const OUTLINE = 1.4;

export function paintTrace(brush: Brush, trace: TraceOfStorey, selection: ReadonlySet<string>, lookThrough: boolean): void {
  const { context, ink } = brush;
  context.save();
  context.globalAlpha = lookThrough ? THROUGH : 1;
  if (trace.outlines) paintOutlines(brush, outlinesPath(trace.outlines));
  else paintBodies(brush, trace, context.globalAlpha);
  context.strokeStyle = ink.ink;
  linesPath(trace).stroke(brush, OUTLINE);
  paintSelection(brush, trace, selection);
  context.restore();
}

/** The united outlines, filled and drawn. */
function paintOutlines(brush: Brush, path: PlanePath): void {
  const { context, ink } = brush;
  context.fillStyle = ink.wallFill;
  path.fill(brush, 'evenodd');
  context.strokeStyle = ink.ink;
  path.stroke(brush, OUTLINE);
}

/**
 * Bodies that are not united yet: all edges first, then the inside is wiped clean, so that what stays is
 * the outline of all walls together. The layer holds nothing else yet.
 */
function paintBodies(brush: Brush, trace: TraceOfStorey, alpha: number): void {
  const { context, ink } = brush;
  const { edges, solid } = bodyPaths(trace);
  context.strokeStyle = ink.ink;
  edges.stroke(brush, 2 * OUTLINE);
  context.globalCompositeOperation = 'destination-out';
  context.globalAlpha = 1;
  solid.fill(brush);
  context.globalCompositeOperation = 'source-over';
  context.globalAlpha = alpha;
  context.fillStyle = ink.wallFill;
  solid.fill(brush);
}

const outlinesPath = kept((outlines: Polygon[]) => {
  const path = new PlanePath();
  for (const polygon of outlines) for (const ring of polygon) path.ring(ring);
  return path;
});

const bodyPaths = kept(({ cut }: TraceOfStorey) => {
  const edges = new PlanePath(), solid = new PlanePath();
  for (const body of cut.bodies.values()) edges.ring(body);
  // Ring by ring in one direction, so that overlaps at tees stay filled.
  for (const body of [...cut.bodies.values(), ...cut.wedges]) solid.ring(ringArea(body) < 0 ? [...body].reverse() : body);
  return { edges, solid };
});

const linesPath = kept(({ lines }: TraceOfStorey) => {
  const path = new PlanePath();
  for (const line of lines) path.segment(line.from, line.to);
  return path;
});

/** Paths belong to what they were made of and go with it. */
function kept<K extends object, V>(make: (of: K) => V): (of: K) => V {
  const known = new WeakMap<K, V>();
  return (of) => {
    let value = known.get(of);
    if (value === undefined) known.set(of, value = make(of));
    return value;
  };
}

function paintSelection(brush: Brush, trace: TraceOfStorey, selection: ReadonlySet<string>): void {
  if (selection.size === 0) return;
  const { context, ink } = brush;
  context.strokeStyle = ink.now;
  context.lineWidth = 2;
  context.fillStyle = 'rgba(212,69,31,0.22)';
  context.beginPath();
  for (const wall of trace.walls) {
    const body = selection.has(wall.id) ? trace.cut.bodies.get(wall.id) : undefined;
    if (body) ringPath(brush, body);
  }
  context.fill();
  context.stroke();
  const chosen = [...trace.walls, ...trace.lines].filter((e) => selection.has(e.id));
  for (const type of ['wall', 'line'] as const) {
    context.beginPath();
    for (const e of chosen) if (e.type === type) segmentPath(brush, e.from, e.to);
    // A line's own stroke lies beneath: it is covered.
    context.lineWidth = type === 'wall' ? 1 : OUTLINE + 1;
    context.stroke();
  }
  context.fillStyle = '#fffefa';
  context.lineWidth = 1.5;
  for (const e of chosen) {
    for (const end of [e.from, e.to]) {
      const [x, y] = brush.at(end);
      context.beginPath();
      context.arc(x, y, 4.5, 0, 2 * Math.PI);
      context.fill();
      context.stroke();
    }
  }
}

export function ringPath(brush: Brush, ring: readonly Point[]): void {
  ring.forEach((p, i) => {
    const [x, y] = brush.at(p);
    if (i === 0) brush.context.moveTo(x, y);
    else brush.context.lineTo(x, y);
  });
  brush.context.closePath();
}

export function segmentPath(brush: Brush, from: Point, to: Point): void {
  const [x0, y0] = brush.at(from), [x1, y1] = brush.at(to);
  brush.context.moveTo(x0, y0);
  brush.context.lineTo(x1, y1);
}
