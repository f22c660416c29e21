import { MM_PER_POINT, applyTransform, boxRing, invertTransform, type Point } from '@calque/core/geometry';
import { ofType } from '@calque/core/model';
import { sheetUnitOf } from '@calque/core/part';
import { textsWithin, type SheetText } from '@/drawing/sheet-texts';
import type { Brush } from '@/table/brush';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';

/** A text is meant by a pick so near to its middle, millimetres of paper. */
const NEAR_ON_PAPER = 12;
/** A figure fits what is drawn within this share of it. */
const FITS = 0.2;

/** A text of a sheet as it was pointed at. */
export interface PointedText {
  text: string;
  underlayId: string;
  /** Its middle, sheet points. */
  at: [number, number];
}

/** What bare figures of a project's sheets are in. */
export const sheetUnit = (table: Table): 'mm' | 'in' => sheetUnitOf(table.session.state.model);

/** Points at a text of the sheets that lie on the plane, and hands it on; what it is for decides whether it does. */
export class TextTool implements Tool {
  readonly id = 'part-text';
  readonly snaps = false;
  readonly cursor = 'crosshair';
  private hover: SheetText | null = null;

  constructor(
    private readonly table: Table,
    private readonly ask: string,
    /** Why this text does not do, in words; null where it was taken. */
    private readonly take: (text: PointedText) => string | null,
  ) {}

  words = (): string => `${this.ask} · Esc leaves it`;
  instead = (): string => this.hover?.text.trim() ?? '';

  private near([x, y]: Point): SheetText | null {
    const { table } = this,
      { planeId } = table.state.getState(),
      scales = ofType(table.session.state.model, 'underlay')
        .filter((u) => u.planeId === planeId && u.visible)
        .map((u) => Math.hypot(u.placement[0], u.placement[1])),
      reach = (NEAR_ON_PAPER / MM_PER_POINT) * Math.max(0, ...scales);
    let best: SheetText | null = null,
      least = Infinity;
    for (const t of textsWithin(table, planeId, boxRing([x - reach, y - reach, x + reach, y + reach]))) {
      const far = Math.hypot(t.at[0] - x, t.at[1] - y);
      if (far < least) [best, least] = [t, far];
    }
    return best;
  }

  move(pick: Pick): void {
    this.hover = this.near(pick.bare);
  }

  press(pick: Pick): void {
    const found = this.near(pick.bare),
      { session } = this.table;
    if (!found) {
      session.tell(
        'No text of a sheet stands near: click on a printed figure. Scans have none that can be read here.',
        true,
      );
      return;
    }
    const [x, y] = applyTransform(invertTransform(found.underlay.placement), found.at),
      wrong = this.take({ text: found.text.trim().slice(0, 200), underlayId: found.underlay.id, at: [x, y] });
    if (wrong !== null) session.tell(wrong, true);
    else this.table.layDown();
  }

  paint(brush: Brush): void {
    if (!this.hover) return;
    const { context, palette } = brush,
      [x, y] = brush.at(this.hover.at);
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    context.beginPath();
    context.arc(x, y, 14, 0, 2 * Math.PI);
    context.stroke();
    context.restore();
  }

  cancel(): boolean {
    return false;
  }
}

/**
 * A text as it is read in the unit that fits what is drawn: a sheet in millimetres may lie in a project in feet, and the other way round. What fits neither
 * within a fifth is read in the project's own.
 */
export function readByDrawn<T>(
  table: Table,
  drawn: number,
  read: (unit: 'mm' | 'in') => T | null,
  of: (found: T) => number,
): T | null {
  const own = sheetUnit(table),
    fits = (found: T | null) => found !== null && Math.abs(of(found) / Math.abs(drawn) - 1) < FITS,
    [first, second] = [read(own), read(own === 'mm' ? 'in' : 'mm')];
  return !fits(first) && fits(second) ? second : first;
}
