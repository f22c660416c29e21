import { create } from 'zustand';
import type { BoltPattern } from '@calque/core/model';

/** What the next bolts will be; kept while the page is open. Millimetres. */
export interface NextBolts {
  d: number;
  rows: Extract<BoltPattern, { form: 'rows' }>;
  circle: Extract<BoltPattern, { form: 'circle' }>;
  reversed: boolean;
}

export const useNextBolts = create<NextBolts>(() => ({
  d: 16,
  rows: { form: 'rows', rows: 2, columns: 2, pitch: 70, gauge: 70 },
  circle: { form: 'circle', count: 4, diameter: 120 },
  reversed: false,
}));
