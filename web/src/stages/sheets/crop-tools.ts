import { applyTransform, boxOfPoints, invertTransform, type Point } from '@calque/core/geometry';
import { get, setFields, type Pair, type Underlay } from '@calque/core/model';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';
import type { Brush } from '@/table/brush';
import type { Pick, Tool } from '@/table/tool';
import { RingTool } from '@/table/tools/ring-tool';

/** A press this near (CSS pixels) to an edge or corner takes hold of it. */
const REACH = 9;
/** A crop keeps at least this many sheet points either way. */
const SMALLEST = 1;

type Hold = { kind: 'sides'; x: 0 | 2 | null; y: 1 | 3 | null } | { kind: 'corner'; index: number };

const current = (table: Table, id: string): Underlay | null => get(table.session.state.model, 'underlay', id);
const pageOf = (table: Table, u: Underlay) =>
  table.session.state.files.find((f) => f.id === u.fileId)?.sheets.find((s) => s.page === u.page) ?? null;

/** Drags the edges of a crop, or the corners of its outline, on the drawing. */
export function takeCropTool(table: Table, id: string): void {
  table.hold(new CropTool(table, id));
}

class CropTool implements Tool {
  readonly id = 'crop';
  readonly snaps = true;
  readonly cursor = 'default';
  readonly onlyUnderlay: string;
  private hold: Hold | null = null;
  private draft: CropDraft | null = null;

  constructor(
    private readonly table: Table,
    private readonly underlayId: string,
  ) {
    this.onlyUnderlay = underlayId;
  }

  words(): string {
    return 'Drag an edge or a corner of the crop; what goes outside is kept · Esc ends';
  }

  private shown(): CropDraft | null {
    const u = current(this.table, this.underlayId);
    return this.draft ?? (u && { crop: u.crop, outline: u.outline ?? null, u });
  }

  press(pick: Pick): void {
    const u = current(this.table, this.underlayId);
    this.hold = u ? this.holdAt(u, pick.bare) : null;
  }

  private holdAt(u: Underlay, at: Point): Hold | null {
    const { view } = this.table;
    const near = (p: Point, q: Point) => Math.hypot(q[0] - p[0], q[1] - p[1]) * view.scale <= REACH;
    if (u.outline) {
      const index = u.outline.findIndex((p) => near(applyTransform(u.placement, p), at));
      return index >= 0 ? { kind: 'corner', index } : null;
    }
    const [x, y] = applyTransform(invertTransform(u.placement), at);
    const reach = REACH / view.scale / Math.hypot(u.placement[0], u.placement[1]);
    const [x0, y0, x1, y1] = u.crop;
    const beside = x > x0 - reach && x < x1 + reach && y > y0 - reach && y < y1 + reach;
    const sideX = Math.abs(x - x0) <= reach ? 0 : Math.abs(x - x1) <= reach ? 2 : null,
      sideY = Math.abs(y - y0) <= reach ? 1 : Math.abs(y - y1) <= reach ? 3 : null;
    return beside && (sideX !== null || sideY !== null) ? { kind: 'sides', x: sideX, y: sideY } : null;
  }

  drag(pick: Pick): void {
    const u = current(this.table, this.underlayId);
    const sheet = u && pageOf(this.table, u);
    if (!u || !sheet || !this.hold) return;
    const [px, py] = applyTransform(invertTransform(u.placement), pick.plane);
    const x = Math.max(0, Math.min(sheet.width, px)),
      y = Math.max(0, Math.min(sheet.height, py));
    if (this.hold.kind === 'corner') {
      const { index } = this.hold;
      const outline = u.outline!.map((p, i): Pair => (i === index ? [x, y] : p));
      this.draft = { crop: boxed(outline), outline, u };
    } else {
      const crop: Underlay['crop'] = [...u.crop];
      if (this.hold.x === 0) crop[0] = Math.min(x, crop[2] - SMALLEST);
      if (this.hold.x === 2) crop[2] = Math.max(x, crop[0] + SMALLEST);
      if (this.hold.y === 1) crop[1] = Math.min(y, crop[3] - SMALLEST);
      if (this.hold.y === 3) crop[3] = Math.max(y, crop[1] + SMALLEST);
      this.draft = { crop, outline: null, u };
    }
    this.table.repaint('overlay');
  }

  release(): void {
    const { draft } = this;
    this.hold = null;
    this.draft = null;
    if (draft)
      this.table.session.do(
        setFields(draft.u, { crop: draft.crop, outline: draft.outline }),
        `Crop ${draft.u.name}`,
      );
  }

  paint(brush: Brush): void {
    const shown = this.shown();
    if (!shown) return;
    const ring = cropRing({ ...shown.u, crop: shown.crop, outline: shown.outline }).map((p) =>
      brush.at(applyTransform(shown.u.placement, p)),
    );
    const { context, palette } = brush;
    context.save();
    context.strokeStyle = palette.now;
    context.fillStyle = '#fffefa';
    context.lineWidth = 2;
    context.beginPath();
    ring.forEach(([x, y], i) => (i === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
    context.closePath();
    context.stroke();
    const handles = shown.outline
      ? ring
      : [
          ...ring,
          ...ring.map(([x, y], i): Point => [(x + ring[(i + 1) % 4][0]) / 2, (y + ring[(i + 1) % 4][1]) / 2]),
        ];
    for (const [x, y] of handles) {
      context.beginPath();
      context.arc(x, y, 5, 0, 2 * Math.PI);
      context.fill();
      context.stroke();
    }
    context.restore();
  }

  cancel(): boolean {
    const had = this.draft !== null;
    this.hold = null;
    this.draft = null;
    return had;
  }
}

interface CropDraft {
  crop: Underlay['crop'];
  outline: Pair[] | null;
  u: Underlay;
}

function boxed(ring: readonly Pair[]): Underlay['crop'] {
  const [x0, y0, x1, y1] = boxOfPoints(ring);
  return [x0, y0, Math.max(x1, x0 + SMALLEST), Math.max(y1, y0 + SMALLEST)];
}

/** Draws the outline of what is to show, corner by corner. */
export function takeOutlineTool(table: Table, id: string): void {
  table.hold(
    new RingTool({
      id: 'outline',
      noun: 'Outline',
      snaps: true,
      onlyUnderlay: id,
      polygon: true,
      refused: (words) => table.session.tell(words, true),
      done: (ring) => {
        const u = current(table, id),
          sheet = u && pageOf(table, u);
        if (u && sheet) {
          const inverse = invertTransform(u.placement);
          const outline = ring.map((p): Pair => {
            const [x, y] = applyTransform(inverse, p);
            return [Math.max(0, Math.min(sheet.width, x)), Math.max(0, Math.min(sheet.height, y))];
          });
          table.session.do(setFields(u, { outline, crop: boxed(outline) }), `Crop ${u.name}`);
        }
        table.layDown();
      },
    }),
  );
}
