import type { PrintedReading } from '@calque/core/calibration';
import type { BareUnit } from '@calque/core/units';

/** Whose printed dimensions are to be read, by the address of its linework. */
export interface ToPrinted { url: string; units: BareUnit | null }
export type FromPrinted = { type: 'progress'; share: number } | { type: 'failed'; why: string } | { type: 'done'; reading: PrintedReading };
