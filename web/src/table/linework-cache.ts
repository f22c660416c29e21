import { decodeLinework, type Linework } from '@calque/core/linework';
import { indexFromBytes, sheetSnapper, type Snapper } from '@calque/core/snapping';
import { lineworkUrl } from '@/project/addresses';

export interface LoadedSheet {
  linework: Linework;
  snapper: Snapper;
}

/** The stored linework of sheets with their index, fetched once each. */
export class LineworkCache {
  private readonly sheets = new Map<string, LoadedSheet | 'loading' | 'failed'>();

  constructor(private readonly projectId: string) {}

  /** Has a page been read? Of one that has not there is nothing to fetch yet. */
  isRead: (fileId: string, page: number) => boolean = () => true;

  /** Called after each sheet that has come. */
  onLoaded: () => void = () => {};

  /** Starts fetching what will be needed, before anything asks for it. */
  prefetch(sheets: readonly { fileId: string; page: number }[]): void {
    for (const { fileId, page } of sheets) this.get(fileId, page);
  }

  /** The sheet when it is there; starts fetching when it is not. */
  get(fileId: string, page: number): LoadedSheet | null {
    const key = `${fileId}:${page}`;
    const known = this.sheets.get(key);
    if (known === undefined && this.isRead(fileId, page)) void this.load(key, fileId, page);
    return typeof known === 'object' ? known : null;
  }

  /** Lets a failed one be tried again (its file has been read meanwhile). */
  retryFailed(): void {
    for (const [key, state] of this.sheets) if (state === 'failed') this.sheets.delete(key);
  }

  private async load(key: string, fileId: string, page: number): Promise<void> {
    this.sheets.set(key, 'loading');
    try {
      const response = await fetch(lineworkUrl(this.projectId, fileId, page));
      if (!response.ok) throw new Error(String(response.status));
      const { linework, index } = decodeLinework(await response.arrayBuffer());
      this.sheets.set(key, { linework, snapper: sheetSnapper(linework, indexFromBytes(index)) });
      this.onLoaded();
    } catch {
      this.sheets.set(key, 'failed');
    }
  }
}
