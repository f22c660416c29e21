import { fitInkAt, rasterScale, type InkFit } from '@calque/core/ink';
import {
  applyTransform,
  arcPiece,
  invertTransform,
  meanScale,
  pieceAt,
  segmentPiece,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import { LiveItems, lineSnapper, Snapper, type SnapCandidate, type SnapLimits } from '@calque/core/snapping';
import { greyOf } from '@/workers/grey-of';
import type { FileInfo, SheetInfo } from '@/project/wire';
import { runTask, Stopped } from '@/workers/task';
import type { FromInk, ToInk } from '@/workers/ink-protocol';
import type { LineworkCache } from './linework-cache';
import type { SheetTiles } from './tile-cache';

export type InkState =
  | { state: 'reading'; share: number; stop(): void }
  | { state: 'failed'; why: string }
  | { state: 'read'; lines: Float64Array; strays: Float64Array; snapper: Snapper; shown: boolean };

/** Ends read from ink are less sure than those of a file: of two equally near, the file's is meant. In shares of the snap radius. */
const INK_HANDICAP = 0.2;

/** Lines and arcs that were fitted to the ink at a place, in the order in which they came; sheet points. */
interface Fitted {
  pieces: readonly Piece[];
  strays: readonly number[];
  items: LiveItems;
  snapper: Snapper;
}

/** Ink so far around the cursor is looked at, and so near to it a stroke is meant; pixels of the scan. */
const AROUND_PIXELS = 110,
  REACH_PIXELS = 14;

const pieceOf = (fit: InkFit): Piece =>
  fit.kind === 'line' ? segmentPiece(fit.from, fit.to) : arcPiece(fit);

/** Fits of one stroke differ by less than this, sheet points. */
const ONE_STROKE = 0.6;
const sameStroke = (a: Piece, b: Piece): boolean =>
  a.kind === b.kind &&
  [0, 0.5, 1].every((t) => {
    const p = pieceAt(a, t);
    return (
      Math.min(...[t, 1 - t].map((u) => Math.hypot(p[0] - pieceAt(b, u)[0], p[1] - pieceAt(b, u)[1]))) <
      ONE_STROKE
    );
  });

/** Lines that were read from the ink of scans: suggestions, snapped to where they are shown. */
export class InkCache {
  private readonly inks = new Map<string, InkState>();
  private readonly fits = new Map<string, Fitted>();

  constructor(
    private readonly tiles: SheetTiles,
    private readonly sheets: LineworkCache,
    private readonly onChange: () => void,
  ) {}

  of(u: Pick<Underlay, 'fileId' | 'page'>): InkState | null {
    return this.inks.get(`${u.fileId}:${u.page}`) ?? null;
  }

  /** Reads the lines of a scan in a worker; resolves when they are read, could not be, or it was stopped. */
  async read(file: FileInfo, sheet: SheetInfo): Promise<void> {
    const key = `${file.id}:${sheet.page}`;
    const set = (state: InkState | null) => {
      if (state) this.inks.set(key, state);
      else this.inks.delete(key);
      this.onChange();
    };
    let task: { stop(): void } | null = null,
      stopped = false;
    const stop = () => {
      stopped = true;
      task?.stop();
      set(null);
    };
    set({ state: 'reading', share: 0, stop });
    const scale = this.scaleOf(file, sheet);
    const bitmap = await this.tiles.pictureOf(file, sheet, [0, 0, sheet.width, sheet.height], scale);
    if (stopped) return;
    if (!bitmap) {
      set({ state: 'failed', why: 'The sheet cannot be drawn. Try it again.' });
      return;
    }
    const worker = new Worker(new URL('../workers/ink.worker.ts', import.meta.url), { type: 'module' });
    const reading = runTask<ToInk, FromInk>(
      worker,
      { bitmap, scale },
      {
        onProgress: (share) => set({ state: 'reading', share, stop }),
        transfer: [bitmap],
        broken: 'Reading the lines failed. Try it again with a smaller scan.',
      },
    );
    task = reading;
    await reading.done.then(
      ({ lines, strays }) =>
        set({ state: 'read', lines, strays, snapper: lineSnapper(rowsOf(lines)), shown: true }),
      (error: Error) => {
        if (!(error instanceof Stopped)) set({ state: 'failed', why: error.message });
      },
    );
  }

  private scaleOf(file: FileInfo, sheet: SheetInfo): number {
    const linework = this.sheets.get(file.id, sheet.page)?.linework;
    return linework ? rasterScale(linework) : Math.min(3, 6000 / Math.max(sheet.width, sheet.height));
  }

  /** What has been fitted to the ink of a sheet; null for nothing. */
  fitted(u: Pick<Underlay, 'fileId' | 'page'>): Fitted | null {
    return this.fits.get(`${u.fileId}:${u.page}`) ?? null;
  }

  /** Fits a line, a corner or an arc to the ink around a place of a sheet (points); how many strokes that gave. Rejects where the sheet cannot be drawn. */
  async fit(file: FileInfo, sheet: SheetInfo, [x, y]: Point): Promise<number> {
    const scale = this.scaleOf(file, sheet),
      around = AROUND_PIXELS / scale;
    const x0 = Math.max(0, x - around),
      x1 = Math.min(sheet.width, x + around),
      y0 = Math.max(0, y - around),
      y1 = Math.min(sheet.height, y + around);
    if (x1 <= x0 || y1 <= y0) return 0;
    const bitmap = await this.tiles.pictureOf(file, sheet, [x0, y0, x1, y1], scale);
    if (!bitmap) throw new Error('The sheet cannot be drawn. Try it again.');
    const raster = greyOf(bitmap, scale),
      left = Math.round(x0 * scale),
      top = Math.round((sheet.height - y1) * scale);
    const dx = left / scale,
      dy = sheet.height - (top + raster.height) / scale;
    const found = fitInkAt(raster, x * scale - left, (sheet.height - y) * scale - top, REACH_PIXELS).map(
      (f): InkFit =>
        f.kind === 'line'
          ? { ...f, from: [f.from[0] + dx, f.from[1] + dy], to: [f.to[0] + dx, f.to[1] + dy] }
          : { ...f, cx: f.cx + dx, cy: f.cy + dy },
    );
    if (found.length > 0) this.addFits(`${file.id}:${sheet.page}`, found);
    return found.length;
  }

  private addFits(key: string, found: readonly InkFit[]): void {
    const now = found.map(pieceOf),
      before = this.fits.get(key);
    // A stroke that is fitted again takes the place of what it was.
    const kept = (before?.pieces ?? [])
      .map((_, i) => i)
      .filter((i) => !now.some((p) => sameStroke(p, before!.pieces[i])));
    const pieces = [...kept.map((i) => before!.pieces[i]), ...now],
      strays = [...kept.map((i) => before!.strays[i]), ...found.map((f) => f.stray)];
    const items = new LiveItems();
    items.fill(pieces.map((p, i) => [String(i), { pieces: [p] }] as const));
    this.fits.set(key, { pieces, strays, items, snapper: new Snapper(items) });
    this.onChange();
  }

  /** Forgets what was fitted to a sheet. */
  clearFits(u: Pick<Underlay, 'fileId' | 'page'>): void {
    this.fits.delete(`${u.fileId}:${u.page}`);
    this.onChange();
  }

  show(u: Pick<Underlay, 'fileId' | 'page'>, shown: boolean): void {
    const ink = this.of(u);
    if (ink?.state !== 'read') return;
    this.inks.set(`${u.fileId}:${u.page}`, { ...ink, shown });
    this.onChange();
  }

  /** What of an underlay's ink lies near a plane point, with how far it strays (millimetres on the plane) and its line or arc on the sheet. */
  near(
    u: Underlay,
    at: Point,
    radius: number,
    limits: SnapLimits,
  ): (SnapCandidate & { stray: number; piece: Piece | null })[] {
    const ink = this.of(u),
      fitted = this.fitted(u),
      unit = meanScale(u.placement);
    const [x, y] = applyTransform(invertTransform(u.placement), at);
    const ask = (snapper: Snapper, strayOf: (c: SnapCandidate) => number) =>
      snapper.query(x, y, radius / unit, { ...limits, crop: u.crop }).map((c) => ({
        ...c,
        score: c.score + INK_HANDICAP,
        stray: strayOf(c) * unit,
        piece: snapper.piece(c.item),
      }));
    const read = ink?.state === 'read' && ink.shown ? ask(ink.snapper, (c) => ink.strays[c.item]) : [];
    // An arc is two items, itself and its centre: its stray is told by whose item it is.
    return fitted
      ? [...read, ...ask(fitted.snapper, (c) => fitted.strays[Number(fitted.items.ownerOf(c.item))])]
      : read;
  }
}

/** Lines kept as numbers in a row, one by one. */
export const rowsOf = (lines: Float64Array): [number, number, number, number][] =>
  Array.from({ length: lines.length / 4 }, (_, i) => [
    lines[4 * i],
    lines[4 * i + 1],
    lines[4 * i + 2],
    lines[4 * i + 3],
  ]);
