import type { PlanRun } from '@calque/core/conversion';
import type { Underlay } from '@calque/core/model';
import { decodeLinework, WHOLE, type Linework } from '@calque/core/linework';
import { indexFromBytes, sheetSnapper, type Snapper } from '@calque/core/snapping';
import { lineworkUrl } from '@/project/addresses';

export interface LoadedSheet {
  linework: Linework;
  snapper: Snapper;
  /** Its lines came first: hatches and dimensions are not told apart yet. */ whole: boolean;
}

/** What could not be fetched is asked for again: soon at first, then less and less often. */
const AGAIN_MS = 500,
  LONGEST_PAUSE_MS = 30000;

class NotThere extends Error {}

/** The stored linework of sheets with their index, fetched once each; once more where the lines came first. */
export class LineworkCache {
  private readonly sheets = new Map<string, LoadedSheet | 'loading' | 'failed'>();
  private readonly renewing = new Set<string>();
  /** How long the next failure of a sheet is waited out, and the waits that are under way. */
  private readonly pauses = new Map<string, number>();
  private readonly waits = new Set<ReturnType<typeof setTimeout>>();

  constructor(private readonly projectId: string) {}

  /** Has a page been read? Of one that has not there is nothing to fetch yet. */
  isRead: (fileId: string, page: number) => boolean = () => true;

  /** Is all of it known, its kinds too? */
  isWhole: (fileId: string, page: number) => boolean = () => true;

  /** A sheet's lines ready to be taken, where no worker is needed for it: what is shown at work has small sheets. */
  runsHere?(u: Underlay): readonly PlanRun[] | null;

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

  /** Its files have been read on meanwhile: what failed is tried again, and what lacked its kinds comes once more. */
  readOn(): void {
    for (const [key, state] of this.sheets) {
      if (state === 'failed') this.sheets.delete(key);
      if (typeof state !== 'object' || state.whole || this.renewing.has(key)) continue;
      const [fileId, page] = key.split(':');
      if (this.isWhole(fileId, Number(page))) void this.renew(key, fileId, Number(page));
    }
  }

  /** What is there stays in use until the whole of it has come. */
  private async renew(key: string, fileId: string, page: number): Promise<void> {
    this.renewing.add(key);
    const sheet = await this.fetched(fileId, page).catch(() => null);
    this.renewing.delete(key);
    if (!sheet) return this.later(key, () => this.readOn());
    this.sheets.set(key, sheet);
    this.pauses.delete(key);
    this.onLoaded();
  }

  close(): void {
    for (const wait of this.waits) clearTimeout(wait);
    this.waits.clear();
  }

  private async load(key: string, fileId: string, page: number): Promise<void> {
    this.sheets.set(key, 'loading');
    try {
      const sheet = await this.fetched(fileId, page);
      this.sheets.set(key, sheet);
      this.pauses.delete(key);
      this.onLoaded();
      // It may have become whole while it was fetched.
      if (!sheet.whole) this.readOn();
    } catch (error) {
      this.sheets.set(key, 'failed');
      // What is not there is asked for again when the files have changed.
      if (!(error instanceof NotThere)) this.later(key, () => this.once(key, fileId, page));
    }
  }

  /** Nothing may come to tell that it would succeed now: the server was away, or what was being sent gave way to the whole of it. */
  private later(key: string, again: () => void): void {
    const pause = this.pauses.get(key) ?? AGAIN_MS;
    this.pauses.set(key, Math.min(2 * pause, LONGEST_PAUSE_MS));
    const wait = setTimeout(() => {
      this.waits.delete(wait);
      again();
    }, pause);
    this.waits.add(wait);
  }

  private once(key: string, fileId: string, page: number): void {
    if (this.sheets.get(key) !== 'failed') return;
    this.sheets.delete(key);
    this.get(fileId, page);
  }

  private async fetched(fileId: string, page: number): Promise<LoadedSheet> {
    const response = await fetch(lineworkUrl(this.projectId, fileId, page));
    if (response.status === 404) throw new NotThere();
    if (!response.ok) throw new Error(String(response.status));
    const whole = (response.headers.get(WHOLE) ?? 'yes') === 'yes';
    const { linework, index } = decodeLinework(await response.arrayBuffer());
    return { linework, snapper: sheetSnapper(linework, indexFromBytes(index)), whole };
  }
}
