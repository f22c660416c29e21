import type { PageSummary } from '@calque/core/linework';
import type { FailureCode } from '../failure.ts';
import type { FileKind } from '../kinds.ts';

/** Said to the child when the file to read is whole; by its own channel, for arguments are seen by every user of the machine. */
export interface Begin {
  task: ChildTask;
}

export interface ChildTask {
  /** File to read. */
  source: string;
  /** Folder for the results: linework with index (`lineworkFile`) and N.png (picture) per page. */
  results: string;
  password: string | null;
  maxMegabytes: number;
  picturePixels: number;
  millimetresPerUnit: number | null;
}

/** What is kept of a page beside its linework and picture. */
export interface PageFacts extends PageSummary {
  milliseconds: number;
  /** Its texts, for finding it. */ words: string;
}

/** A page's linework; what came first may still be taken while the whole of it is written. */
export const lineworkFile = (page: number, whole: boolean): string => `${page}${whole ? '' : '.first'}.cqlw`;

/** What the child answers. */
export type ChildMessage =
  | {
      type: 'facts';
      pages: number;
      kind: FileKind;
      encrypted: boolean;
      repaired: boolean;
      /** There is a copy for drawing, drawing.pdf. */ drawing: boolean;
    }
  /** Its tiles, where it has some, lie in N.tiles. One that is not whole comes again. */
  | ({ type: 'page' } & PageFacts)
  | { type: 'done' }
  | { type: 'failure'; code: FailureCode; message: string };
