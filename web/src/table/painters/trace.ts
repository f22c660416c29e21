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
  // All edges first, then the inside is wiped clean: what stays is the outline of all walls together,
  // without the cost of uniting them at every stroke. The layer holds nothing else yet.
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
  context.globalAlpha = lookThrough ? THROUGH : 1;
  context.fillStyle = ink.wallFill;
  context.fill();
  context.lineWidth = OUTLINE;
  context.beginPath();
  for (const line of trace.lines) if (!selection.has(line.id)) segmentPath(brush, line.from, line.to);
  context.stroke();
  paintSelection(brush, trace, selection);
  context.restore();
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
