import type { Content, Counts, LeftOut, ScaleNote } from '@calque/core/linework';
import type { FailureCode } from '../failure.ts';
import type { FileKind } from '../kinds.ts';

/** What the service tells its child, as the one argument. */
export interface ChildTask {
  /** File to read. */
  source: string;
  /** Folder for the results: N.cqlw (linework with index) and N.png (picture) per page. */
  results: string;
  password: string | null;
  maxMegabytes: number;
  picturePixels: number;
}

/** What the child answers. */
export type ChildMessage =
  | { type: 'facts'; pages: number; kind: FileKind; encrypted: boolean; repaired: boolean }
  | { type: 'page'; page: number; width: number; height: number; content: Content; counts: Counts; leftOut: LeftOut; layers: { name: string; on: boolean; segments: number }[]; scaleNotes: ScaleNote[]; milliseconds: number }
  | { type: 'done' }
  | { type: 'failure'; code: FailureCode; message: string };
