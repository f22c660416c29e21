import { applyTransform, invertTransform, type Point } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import { ringPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Brush, Pick, Tool } from '@/table/tool';
import { useConvert } from './convert';

/** Picks the region to convert on the drawing: a rectangle by two corners, or a polygon. */
class RegionTool implements Tool {
  readonly id: string;
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private corners: Point[] = [];
  private hover: Pick | null = null;

  constructor(private readonly table: Table, private readonly underlay: Underlay, private readonly polygon: boolean) {
    this.id = polygon ? 'region-polygon' : 'region-rectangle';
  }

  words(): string {
    if (this.corners.length === 0) return `Region: click ${this.polygon ? 'its first corner' : 'one corner'} · Esc ends`;
    return this.polygon ? `Region: click the next corner${this.corners.length > 2 ? ' · Enter closes it' : ''} · Backspace: one back` : 'Region: click the opposite corner';
  }

  anchor(): [number, number] | null {
    const last = this.corners.at(-1);
    return last ? [last[0], last[1]] : null;
  }

  move(pick: Pick): void { this.hover = pick; }

  press(pick: Pick): void {
    this.hover = pick;
    this.corners.push(pick.plane);
    if (!this.polygon && this.corners.length === 2) this.finish(this.ring(this.corners));
  }

  /** The corners so far as a ring; of a rectangle all four. */
  private ring(corners: readonly Point[]): readonly Point[] {
    if (this.polygon || corners.length < 2) return corners;
    const [[x0, y0], [x1, y1]] = corners;
    return [[x0, y0], [x1, y0], [x1, y1], [x0, y1]];
  }

  private finish(ring: readonly Point[]): void {
    const inverse = invertTransform(this.underlay.placement), [a, b] = this.corners;
    if (ring.length < 3 || (!this.polygon && (a[0] === b[0] || a[1] === b[1]))) {
      this.table.session.tell('The region has no area: pick corners that lie apart.', true);
      this.corners = this.corners.slice(0, -1);
      return;
    }
    useConvert.setState({ ring: ring.map((p) => applyTransform(inverse, p)) });
    this.corners = [];
    this.table.layDown();
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace' && this.corners.length > 0) this.corners = this.corners.slice(0, -1);
    else if (event.key === 'Enter' && this.polygon && this.corners.length > 0) this.finish(this.corners);
    else return false;
    return true;
  }

  paint(brush: Brush): void {
    if (!this.hover || this.corners.length === 0) return;
    const { context, ink } = brush;
    context.save();
    context.strokeStyle = ink.now;
    context.fillStyle = 'rgba(212,69,31,0.10)';
    context.lineWidth = 1.5;
    context.beginPath();
    ringPath(brush, this.ring([...this.corners, this.hover.plane]));
    context.fill();
    context.stroke();
    context.restore();
  }

  cancel(): boolean {
    const had = this.corners.length > 0;
    this.corners = [];
    return had;
  }
}

export const takeRegionTool = (table: Table, underlay: Underlay, polygon: boolean): void => table.take(new RegionTool(table, underlay, polygon));
