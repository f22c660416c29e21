import type { LengthStyle } from '@calque/core/units';
import type { Brush } from '../brush';
import type { FieldRequest, Pick, Tool } from '../tool';
import { distance, pointFields, typedPoint } from './geometry';

/** One link of a chain as it is drawn: where it runs and how its ends were found. */
export interface Link {
  from: [number, number];
  to: [number, number];
  snappedFrom: boolean;
  snappedTo: boolean;
  typed: boolean;
  /** An end was found on ink. */ ink: boolean;
}

export interface ChainHost {
  style(): LengthStyle;
  /** Puts one link; false when that was refused. */
  put(link: Link): boolean;
  /** Takes back the link put last. */
  takeBack(): void;
  /** Extra words, such as alignment and thickness. */
  detail(): string;
  key?(event: KeyboardEvent): boolean;
  paintLink(brush: Brush, from: [number, number], to: [number, number]): void;
}

interface Corner {
  plane: [number, number];
  snapped: boolean;
  ink: boolean;
}

/** A click this near (CSS pixels) to the first point closes the chain. */
const CLOSE_PIXELS = 9;

/** Draws a chain of links by clicks, with typed length and angle, one link saved at a time. */
export class ChainTool implements Tool {
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private corners: Corner[] = [];
  private hover: Pick | null = null;

  constructor(
    readonly id: string,
    private readonly noun: string,
    private readonly host: ChainHost,
  ) {}

  words(): string {
    const detail = this.host.detail();
    const what = detail ? `${this.noun}, ${detail}` : this.noun;
    if (this.corners.length === 0) return `${what}: click where it starts`;
    const closing = this.corners.length > 2 ? ', or the first to close' : '';
    return `${what}: click the next point${closing}, or type a length · Backspace: one back · Esc ends`;
  }

  anchor(): [number, number] | null {
    return this.corners.at(-1)?.plane ?? null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    this.hover = pick;
    this.addCorner(
      this.closes(pick)
        ? this.corners[0]
        : { plane: pick.plane, snapped: pick.found !== null, ink: pick.found?.stray !== undefined },
      false,
    );
  }

  private closes(pick: Pick): boolean {
    if (this.corners.length < 3 || !this.hoverScale) return false;
    return distance(pick.plane, this.corners[0].plane) * this.hoverScale < CLOSE_PIXELS;
  }

  private hoverScale = 0;

  private addCorner(corner: Corner, typed: boolean): void {
    const last = this.corners.at(-1);
    if (!last) {
      this.corners.push(corner);
      return;
    }
    // A double click is not a wall of no length.
    if (distance(last.plane, corner.plane) < 1e-6) return;
    if (
      !this.host.put({
        from: last.plane,
        to: corner.plane,
        snappedFrom: last.snapped,
        snappedTo: corner.snapped,
        typed,
        ink: last.ink || corner.ink,
      })
    )
      return;
    const closed = this.corners.length > 2 && distance(corner.plane, this.corners[0].plane) < 1e-6;
    this.corners = closed ? [] : [...this.corners, corner];
  }

  field(): FieldRequest | null {
    const last = this.corners.at(-1);
    if (!this.hover) return null;
    const [fields, ...others] = pointFields(
      last?.plane ?? null,
      this.hover.plane,
      this.host.style(),
      this.hover.touched,
    );
    return { required: false, at: this.hover.plane, fields, others, onTab: !last };
  }

  submit(values: Record<string, string>): string | null {
    if (!this.hover) return null;
    const typed = Object.values(values).some((v) => v.trim() !== '');
    const point = typedPoint(
      values,
      this.corners.at(-1)?.plane ?? this.hover.touched ?? null,
      this.hover.plane,
      this.host.style(),
    );
    if (typeof point === 'string') return point;
    this.addCorner(
      {
        plane: point,
        snapped: !typed && this.hover.found !== null,
        ink: !typed && this.hover.found?.stray !== undefined,
      },
      typed,
    );
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace') {
      if (this.corners.length > 1) this.host.takeBack();
      this.corners = this.corners.slice(0, -1);
      return true;
    }
    if (event.key === 'Enter') {
      this.corners = [];
      return true;
    }
    return this.host.key?.(event) ?? false;
  }

  paint(brush: Brush): void {
    this.hoverScale = brush.view.scale;
    const last = this.corners.at(-1);
    if (!last || !this.hover) return;
    this.host.paintLink(brush, last.plane, this.hover.plane);
    const [x, y] = brush.at(this.corners[0].plane);
    if (this.corners.length > 2) {
      brush.context.save();
      brush.context.strokeStyle = brush.palette.now;
      brush.context.lineWidth = 1.5;
      brush.context.beginPath();
      brush.context.arc(x, y, CLOSE_PIXELS - 2, 0, 2 * Math.PI);
      brush.context.stroke();
      brush.context.restore();
    }
  }

  cancel(): boolean {
    const drawing = this.corners.length > 0;
    this.corners = [];
    return drawing;
  }
}
