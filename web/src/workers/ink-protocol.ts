/** A scan's picture whose lines are to be read, `scale` pixels to the sheet point. */
export interface ToInk {
  bitmap: ImageBitmap;
  scale: number;
}
/** Lines as x0, y0, x1, y1, in sheet points, and for each how far its ink strays from it. */
export type FromInk =
  | { type: 'progress'; share: number }
  | { type: 'failed'; why: string }
  | { type: 'done'; lines: Float64Array; strays: Float64Array };
