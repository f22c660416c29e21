import { rasterScale } from '@calque/core/ink';
import { applyTransform, invertTransform, meanScale, type Point } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import { lineSnapper, type SnapCandidate, type SnapLimits, type Snapper } from '@calque/core/snapping';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { FromInk, ToInk } from '@/workers/ink-protocol';
import type { LineworkCache } from './linework-cache';
import type { TileCache } from './tile-cache';

export type InkState = { state: 'reading'; share: number; stop(): void } | { state: 'failed'; why: string } | { state: 'read'; lines: Float64Array; strays: Float64Array; snapper: Snapper; shown: boolean };

/** Ends read from ink are less sure than those of a file: of two equally near, the file's is meant. In shares of the snap radius. */
const INK_HANDICAP = 0.2;

/** Lines that were read from the ink of scans: suggestions, snapped to where they are shown. */
export class InkCache {
  private readonly inks = new Map<string, InkState>();

  constructor(private readonly tiles: TileCache, private readonly sheets: LineworkCache, private readonly onChange: () => void) {}

  of(u: Pick<Underlay, 'fileId' | 'page'>): InkState | null {
    return this.inks.get(`${u.fileId}:${u.page}`) ?? null;
  }

  /** Reads the lines of a scan in a worker. */
  async read(file: FileInfo, sheet: SheetInfo): Promise<void> {
    const key = `${file.id}:${sheet.page}`;
    const set = (state: InkState | null) => {
      if (state) this.inks.set(key, state);
      else this.inks.delete(key);
      this.onChange();
    };
    let worker: Worker | null = null, stopped = false;
    const stop = () => {
      stopped = true;
      worker?.terminate();
      set(null);
    };
    set({ state: 'reading', share: 0, stop });
    const linework = this.sheets.get(file.id, sheet.page)?.linework;
    const scale = linework ? rasterScale(linework) : Math.min(3, 6000 / Math.max(sheet.width, sheet.height));
    const bitmap = await this.tiles.pictureOf(file, sheet, [0, 0, sheet.width, sheet.height], scale);
    if (stopped) return;
    if (!bitmap) {
      set({ state: 'failed', why: 'The sheet cannot be drawn. Try it again.' });
      return;
    }
    worker = new Worker(new URL('../workers/ink.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromInk>) => {
      if (data.type === 'progress') {
        set({ state: 'reading', share: data.share, stop });
        return;
      }
      worker!.terminate();
      if (data.type === 'failed') set({ state: 'failed', why: data.why });
      else set({ state: 'read', lines: data.lines, strays: data.strays, snapper: lineSnapper(rowsOf(data.lines)), shown: true });
    };
    worker.onerror = () => {
      worker!.terminate();
      set({ state: 'failed', why: 'Reading the lines failed. Try it again with a smaller scan.' });
    };
    worker.postMessage({ bitmap, scale } satisfies ToInk, [bitmap]);
  }

  show(u: Pick<Underlay, 'fileId' | 'page'>, shown: boolean): void {
    const ink = this.of(u);
    if (ink?.state !== 'read') return;
    this.inks.set(`${u.fileId}:${u.page}`, { ...ink, shown });
    this.onChange();
  }

  /** What of an underlay's ink lies near a plane point, with how far it strays, millimetres on the plane. */
  near(u: Underlay, at: Point, radius: number, limits: SnapLimits): (SnapCandidate & { stray: number })[] {
    const ink = this.of(u);
    if (ink?.state !== 'read' || !ink.shown) return [];
    const unit = meanScale(u.placement);
    const [x, y] = applyTransform(invertTransform(u.placement), at);
    return ink.snapper.query(x, y, radius / unit, { ...limits, crop: u.crop }).map((c) => ({ ...c, score: c.score + INK_HANDICAP, stray: ink.strays[c.item] * unit }));
  }
}

/** Lines kept as numbers in a row, one by one. */
export const rowsOf = (lines: Float64Array): [number, number, number, number][] => Array.from({ length: lines.length / 4 }, (_, i) => [lines[4 * i], lines[4 * i + 1], lines[4 * i + 2], lines[4 * i + 3]]);
