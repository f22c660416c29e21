import { boxRing, boxOfPoints, type Point } from '@calque/core/geometry';
import { ringPath } from '../painters/trace';
import type { Brush } from '../brush';
import type { Pick, Tool } from '../tool';

export interface RingPlan {
  id: string;
  /** What is being outlined, as it begins a sentence: "Region". */
  noun: string;
  snaps: boolean;
  onlyUnderlay?: string;
  /** Any number of corners, or a rectangle by two. */
  polygon: boolean;
  /** What more could be done while it is in hand, in words; null for nothing. */
  more?(): string | null;
  done(ring: readonly Point[]): void;
  refused(words: string): void;
  /** Another way of it, by F. */
  other?(): void;
}

/** Outlines a region of the drawing: a rectangle by two corners, or a polygon. */
export class RingTool implements Tool {
  readonly id: string;
  readonly snaps: boolean;
  readonly onlyUnderlay?: string;
  readonly cursor = 'crosshair';
  private corners: Point[] = [];
  private hover: Pick | null = null;
  private scale = 1;

  constructor(private readonly plan: RingPlan) {
    this.id = plan.id;
    this.snaps = plan.snaps;
    this.onlyUnderlay = plan.onlyUnderlay;
  }

  words(): string {
    const { noun, polygon } = this.plan,
      n = this.corners.length,
      more = this.plan.more?.();
    if (n === 0)
      return `${noun}: click ${polygon ? 'its first corner' : 'one corner'}${more ? ` · ${more}` : ''} · Esc ends`;
    return polygon
      ? `${noun}: click the next corner${n > 2 ? ' · Enter, or a click on the first, closes it' : ''} · Backspace: one back`
      : `${noun}: click the opposite corner`;
  }

  anchor(): [number, number] | null {
    const last = this.corners.at(-1);
    return last ? [last[0], last[1]] : null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    this.hover = pick;
    const [first] = this.corners;
    if (
      this.plan.polygon &&
      this.corners.length > 2 &&
      Math.hypot(pick.plane[0] - first[0], pick.plane[1] - first[1]) * this.scale < CLOSE_PIXELS
    ) {
      this.finish(this.corners);
      return;
    }
    this.corners.push(pick.plane);
    if (!this.plan.polygon && this.corners.length === 2) this.finish(this.ring(this.corners));
  }

  /** The corners so far as a ring; of a rectangle all four. */
  private ring(corners: readonly Point[]): readonly Point[] {
    return this.plan.polygon || corners.length < 2 ? corners : boxRing(boxOfPoints(corners));
  }

  private finish(ring: readonly Point[]): void {
    const [a, b] = this.corners;
    if (ring.length < 3 || (!this.plan.polygon && (a[0] === b[0] || a[1] === b[1]))) {
      this.plan.refused(`The ${this.plan.noun.toLowerCase()} has no area: pick corners that lie apart.`);
      // Of a polygon all corners stay, for more to come.
      if (!this.plan.polygon) this.corners = this.corners.slice(0, -1);
      return;
    }
    this.corners = [];
    this.plan.done(ring);
  }

  nextVariant(): boolean {
    this.plan.other?.();
    return this.plan.other !== undefined;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace' && this.corners.length > 0) this.corners = this.corners.slice(0, -1);
    else if (event.key === 'Enter' && this.plan.polygon && this.corners.length > 0) this.finish(this.corners);
    else return false;
    return true;
  }

  paint(brush: Brush): void {
    this.scale = brush.view.scale;
    if (!this.hover || this.corners.length === 0) return;
    const { context, palette } = brush;
    context.save();
    context.strokeStyle = palette.now;
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

/** A click as near as this to the first corner closes the outline, CSS pixels. */
const CLOSE_PIXELS = 9;
