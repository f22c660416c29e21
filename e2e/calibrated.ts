import type { Page } from '@playwright/test';
import { entities } from './bench.ts';

export interface UnderlayEntity {
  id: string;
  placement: number[];
  scaleState: string;
  calibration: {
    fit: { model: string; wanted: string; fitted: number; across: number; tenMetres: number };
  } | null;
}
export interface CheckEntity {
  id: string;
  from: number[];
  to: number[];
  printed: number;
  typed: string;
  use?: string;
  origin?: string;
}

export const checks = (page: Page) => entities<CheckEntity>(page, 'check');
/** Length of a stretch of the sheet as it lies, millimetres. */
export const lies = ([a, b, c, d]: number[], [x0, y0]: number[], [x1, y1]: number[]) =>
  Math.hypot(a * (x1 - x0) + c * (y1 - y0), b * (x1 - x0) + d * (y1 - y0));
