import { ringArea, type Point } from '@calque/core/geometry';
import type { TraceOfStorey } from '../trace-cache';
import type { Brush } from '../tool';

/** How much of the trace shows while looking through it. */
const THROUGH = 0.1;
/** Line of the trace, CSS pixels. */
const OUTLINE = 1.4;

export function paintTrace(brush: Brush, trace: TraceOfStorey, selection: ReadonlySet<string>, lookThrough: boolean): void {
  const { context, ink } = brush;
  context.save();
  context.globalAlpha = lookThrough ? THROUGH : 1;
  if (trace.outlines) paintOutlines(brush, trace.outlines);
  else paintBodies(brush, trace, context.globalAlpha);
  context.strokeStyle = ink.ink;
  context.lineWidth = OUTLINE;
  context.beginPath();
  for (const line of trace.lines) if (!selection.has(line.id)) segmentPath(brush, line.from, line.to);
  context.stroke();
  paintSelection(brush, trace, selection);
  context.restore();
}

/** The united outlines, filled and drawn. */
function paintOutlines(brush: Brush, outlines: NonNullable<TraceOfStorey['outlines']>): void {
  const { context, ink } = brush;
  context.beginPath();
  for (const polygon of outlines) for (const ring of polygon) ringPath(brush, ring);
  context.fillStyle = ink.wallFill;
  context.fill('evenodd');
  context.strokeStyle = ink.ink;
  context.lineWidth = OUTLINE;
  context.stroke();
}

/**
 * Bodies that are not united yet: all edges first, then the inside is wiped clean, so that what stays is
 * the outline of all walls together. The layer holds nothing else yet.
 */
function paintBodies(brush: Brush, trace: TraceOfStorey, alpha: number): void {
  const { context, ink } = brush;
  context.beginPath();
  for (const body of trace.cut.bodies.values()) ringPath(brush, body);
  context.strokeStyle = ink.ink;
  context.lineWidth = 2 * OUTLINE;
  context.stroke();
  context.beginPath();
  // Ring by ring in one direction, so that overlaps at tees stay filled.
  for (const body of [...trace.cut.bodies.values(), ...trace.cut.wedges]) ringPath(brush, ringArea(body) < 0 ? [...body].reverse() : body);
  context.globalCompositeOperation = 'destination-out';
  context.globalAlpha = 1;
  context.fill();
  context.globalCompositeOperation = 'source-over';
  context.globalAlpha = alpha;
  context.fillStyle = ink.wallFill;
  context.fill();
  context.lineWidth = OUTLINE;
  context.strokeStyle = ink.ink;
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
  context.beginPath();
  for (const e of chosen) segmentPath(brush, e.from, e.to);
  context.lineWidth = 1;
  context.stroke();
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
