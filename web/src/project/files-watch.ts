import { api } from './api';
import type { FileInfo } from './wire';

const REFRESH_MS = 1000;
/** The first pages of a set are waited for: their pictures are fetched as they come. */
const FIRST_PAGES = 12,
  FIRST_REFRESH_MS = 50;
/** Without an answer the list is asked for again: no other notice need come. */
const AGAIN_MS = 2000;

/** Keeps the list of a project's files: a set being read tells of every page, so the list is fetched at once for the first pages, then once a second. */
export class FilesWatch {
  private refreshing: Promise<void> | null = null;
  private again = false;
  private closed = false;

  constructor(
    private readonly projectId: string,
    private readonly show: (files: FileInfo[]) => void,
  ) {}

  close(): void {
    this.closed = true;
  }

  soon(): void {
    if (this.refreshing) {
      this.again = true;
      return;
    }
    this.refreshing = this.fetched()
      .then((files) => {
        this.again ||= files === null;
        return new Promise((resolve) => setTimeout(resolve, this.pauseAfter(files)));
      })
      .then(() => {
        this.refreshing = null;
        if (!this.again || this.closed) return;
        this.again = false;
        this.soon();
      });
  }

  /** Fetches the list now; empty where there is no answer, and what is shown stays. */
  async refresh(): Promise<readonly FileInfo[]> {
    return (await this.fetched()) ?? [];
  }

  private async fetched(): Promise<readonly FileInfo[] | null> {
    const files = await api.files(this.projectId).catch(() => null);
    if (files && !this.closed) this.show(files);
    return files;
  }

  private pauseAfter(files: readonly FileInfo[] | null): number {
    if (!files) return AGAIN_MS;
    const deepInSet = files.some((f) => f.status === 'reading' && f.pagesRead > FIRST_PAGES);
    return deepInSet ? REFRESH_MS : FIRST_REFRESH_MS;
  }
}
