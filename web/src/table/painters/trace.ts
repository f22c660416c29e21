import type { Point } from '@calque/core/geometry';
import type { TraceOfStorey } from '../trace-cache';
import type { Brush } from '../tool';

/** How much of the trace shows while looking through it. */
const THROUGH = 0.1;

export function paintTrace(brush: Brush, trace: TraceOfStorey, selection: ReadonlySet<string>, lookThrough: boolean): void {
  const { context, ink } = brush;
  context.save();
  context.globalAlpha = lookThrough ? THROUGH : 1;
  context.beginPath();
  for (const polygon of trace.joined.outlines) for (const ring of polygon) ringPath(brush, ring);
  context.fillStyle = ink.wallFill;
  context.fill('evenodd');
  context.strokeStyle = ink.ink;
  context.lineWidth = 1.4;
  context.stroke();
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
    const body = selection.has(wall.id) ? trace.joined.bodies.get(wall.id) : undefined;
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
