import type { Point, Transform } from '@calque/core/geometry';
import type { PictureReading } from '@calque/core/ink';
import type { Switches } from '@calque/core/linework';
import type { Proposals, Told } from '@calque/core/proposals';

/** Which page is looked at, as it is laid, and what a person has told of it. */
export interface ToPropose {
  url: string;
  /** Within this ring of sheet points. */
  ring: readonly Point[];
  switches: Switches;
  placement: Transform;
  told: Told;
  /** What the ink of a scan tells, where that has been read. */
  ink: PictureReading | null;
  /** Of a scan that has not its picture, `scale` pixels to the sheet point; `isPicture`: its size in points says nothing of paper. */
  picture: { bitmap: ImageBitmap; scale: number; isPicture: boolean } | null;
}
export type FromPropose =
  | { type: 'progress'; share: number }
  | { type: 'failed'; why: string }
  | {
      type: 'done';
      proposals: Proposals;
      /** What was read from the ink of a scan. */ ink: PictureReading | null;
    };
