import type { FromWorker, RenderTile, SheetSource, TellLook, ToWorker } from './protocol';

/** The page's side of the tile worker. */
export class TileClient {
  private readonly worker = new Worker(new URL('./tiles.worker.ts', import.meta.url), { type: 'module' });
  private readonly waiting = new Map<number, (bitmap: ImageBitmap | null) => void>();
  private next = 1;

  constructor(private readonly onSheetFailed: (key: string, message: string) => void) {
    this.worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if (data.type === 'sheet-failed') {
        this.onSheetFailed(data.key, data.message);
        return;
      }
      this.waiting.get(data.id)?.(data.type === 'tile' ? data.bitmap : null);
      this.waiting.delete(data.id);
    };
  }

  open(key: string, source: SheetSource): void {
    this.say({ type: 'open', key, source });
  }

  tellLook(look: Omit<TellLook, 'type'>): void {
    this.say({ ...look, type: 'look' });
  }

  render(tile: Omit<RenderTile, 'type' | 'id'>): { bitmap: Promise<ImageBitmap | null>; cancel(): void } {
    const id = this.next++;
    const bitmap = new Promise<ImageBitmap | null>((resolve) => this.waiting.set(id, resolve));
    this.say({ ...tile, type: 'render', id });
    return {
      bitmap,
      cancel: () => {
        this.say({ type: 'cancel', id });
        this.waiting.get(id)?.(null);
        this.waiting.delete(id);
      },
    };
  }

  close(): void {
    this.worker.terminate();
    for (const resolve of this.waiting.values()) resolve(null);
  }

  private say(message: ToWorker): void {
    this.worker.postMessage(message);
  }
}
