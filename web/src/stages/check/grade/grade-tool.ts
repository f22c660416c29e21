import { distanceToSegment, type Point } from '@calque/core/geometry';
import { parts, pointAlong, STRAYS, type GradedLine, type TraceGrade } from '@calque/core/grade';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Brush } from '@/table/brush';
import { REACH_PIXELS } from '@/table/hit';
import { segmentPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';
import { doesGradeHold, gradeSheet, stopGrading, useGrade } from './grade';
import { fineStyle, listsOf } from './lists';

/** Shows along every traced edge how far it lies from the sheet's ink. */
class GradeTool implements Tool {
  readonly id = 'grade';
  readonly snaps = false;
  readonly cursor = 'crosshair';
  private hover: { element: string; off: number | null } | null = null;

  constructor(private readonly table: Table) {}

  words(): string {
    const { state, why, tolerance } = useGrade.getState();
    if (state === 'grading') return 'The trace is held against the sheet … · Esc stops';
    if (state === 'failed') return why;
    const style = fineStyle(lengthStyle(this.table.session.state.model));
    if (this.hover) {
      const { off } = this.hover;
      return off === null
        ? 'Nothing of the sheet lies beside this edge · Click selects it'
        : `${formatLengthWithUnit(off, style)} from the sheet's ink${off > tolerance ? ', more than the tolerance' : ''} · Click selects it`;
    }
    return 'Point at an edge to read how far it lies from the ink · Click selects it to be mended · Esc ends';
  }

  instead = () => '';

  private get grade(): TraceGrade | null {
    const now = useGrade.getState();
    return now.state === 'graded' && doesGradeHold(this.table, now) ? now.grade : null;
  }

  move(pick: Pick): void {
    const reach = REACH_PIXELS / this.table.view.scale;
    let best: (GradedLine & { element: string }) | null = null,
      least = reach;
    for (const t of this.grade?.traced ?? []) {
      const d = distanceToSegment(...pick.bare, ...t.line);
      if (d < least) [best, least] = [t, d];
    }
    this.hover = best && { element: best.element, off: offAt(best, pick.bare) };
  }

  press(): void {
    if (!this.hover || !this.table.session.state.model.has(this.hover.element)) return;
    const { element } = this.hover;
    this.table.layDown();
    this.table.setSelection([element]);
  }

  paint(brush: Brush): void {
    const { grade } = this;
    if (!grade) return;
    const { tolerance, walked } = useGrade.getState(),
      { context, palette } = brush,
      colours = [palette.known, palette.assumed, palette.differs];
    context.save();
    context.lineCap = 'butt';
    // Walls of the sheet that nobody traced, beneath.
    context.strokeStyle = palette.now;
    context.globalAlpha = 0.28;
    for (const w of grade.untraced) {
      context.lineWidth = Math.max(4, w.thickness * brush.view.scale);
      context.beginPath();
      segmentPath(brush, w.from, w.to);
      context.stroke();
    }
    context.globalAlpha = 1;
    const paths = new Map<number, Path2D>();
    const { width, height } = context.canvas;
    for (const { line, stretches } of grade.traced) {
      const [px, py] = brush.at([line[0], line[1]]),
        [qx, qy] = brush.at([line[2], line[3]]);
      // What is out of sight.
      if (Math.max(px, qx) < 0 || Math.min(px, qx) > width) continue;
      if (Math.max(py, qy) < 0 || Math.min(py, qy) > height) continue;
      for (const stretch of stretches)
        for (const { from, to, size } of parts(stretch, [tolerance, STRAYS * tolerance])) {
          const path = paths.get(size) ?? new Path2D();
          paths.set(size, path);
          const [ax, ay] = brush.at(pointAlong(line, from)),
            [bx, by] = brush.at(pointAlong(line, to));
          path.moveTo(ax, ay);
          path.lineTo(bx, by);
        }
    }
    for (const [size, path] of [...paths].sort(([a], [b]) => a - b)) {
      context.strokeStyle = size < 0 ? palette.ghost : colours[size];
      context.lineWidth = size <= 0 ? 2.5 : 4;
      context.setLineDash(size < 0 ? [5, 4] : []);
      context.stroke(path);
    }
    const at = walked && listsOf(grade, tolerance)[walked.list][walked.at];
    if (at) {
      const [ax, ay] = brush.at([at.box[0], at.box[1]]),
        [bx, by] = brush.at([at.box[2], at.box[3]]);
      context.setLineDash([]);
      context.strokeStyle = palette.now;
      context.lineWidth = 2;
      context.strokeRect(
        Math.min(ax, bx) - 14,
        Math.min(ay, by) - 14,
        Math.abs(bx - ax) + 28,
        Math.abs(by - ay) + 28,
      );
    }
    context.restore();
  }

  cancel(): boolean {
    if (useGrade.getState().state !== 'grading') return false;
    stopGrading();
    return true;
  }
}

/** How far a graded line lies off where a point is nearest to it. */
function offAt({ line, stretches }: GradedLine, [x, y]: Point): number | null {
  const n = Math.hypot(line[2] - line[0], line[3] - line[1]),
    t = ((x - line[0]) * (line[2] - line[0]) + (y - line[1]) * (line[3] - line[1])) / n,
    along = Math.max(0, Math.min(n, t)),
    at = stretches.find((s) => along >= s.from && along <= s.to);
  if (!at?.near) return null;
  const share = at.to > at.from ? (along - at.from) / (at.to - at.from) : 0;
  return at.near[0] + share * (at.near[1] - at.near[0]);
}

export function takeGradeTool(table: Table): void {
  table.hold(new GradeTool(table));
  const now = useGrade.getState();
  if (now.state !== 'graded' || !doesGradeHold(table, now)) gradeSheet(table);
}
