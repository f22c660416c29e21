import type { Homography } from '@calque/core/geometry';

/** A photo and where each pixel of the straightened picture is taken from. */
export interface ToStraighten {
  photo: ImageBitmap;
  photoFromPicture: Homography;
  width: number;
  height: number;
}
export type FromStraighten =
  { type: 'progress'; share: number } | { type: 'failed'; why: string } | { type: 'done'; picture: Blob };
