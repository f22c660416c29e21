import { create } from 'zustand';
import type { PrintedReading } from '@calque/core/calibration';
import { makeRegion, regionContains, type Point } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import type { BareUnit } from '@calque/core/units';
import { lineworkUrl } from '@/project/addresses';
import { cropRing } from '@/table/look-cache';
import type { FromPrinted, ToPrinted } from '@/workers/printed-protocol';

export type PrintedState = { state: 'reading'; share: number } | { state: 'failed'; why: string } | { state: 'read'; reading: PrintedReading };

interface PrintedStore {
  /** By sheet and by the unit that was chosen. */
  sheets: Record<string, PrintedState>;
  /** What a person said bare figures are in, by sheet. */
  units: Record<string, BareUnit | null>;
}

export const usePrinted = create<PrintedStore>(() => ({ sheets: {}, units: {} }));

export const sheetKey = (u: Pick<Underlay, 'fileId' | 'page'>) => `${u.fileId}:${u.page}`;
const keyOf = (u: Pick<Underlay, 'fileId' | 'page'>, units: BareUnit | null) => `${sheetKey(u)}:${units ?? ''}`;

export function printedOf(store: PrintedStore, u: Pick<Underlay, 'fileId' | 'page'>): PrintedState | null {
  return store.sheets[keyOf(u, store.units[sheetKey(u)] ?? null)] ?? null;
}

/** Starts reading a sheet's printed dimensions in a worker, unless it is read or being read. */
export function startReading(u: Pick<Underlay, 'fileId' | 'page'>): void {
  const units = usePrinted.getState().units[sheetKey(u)] ?? null;
  const key = keyOf(u, units);
  const known = usePrinted.getState().sheets[key];
  if (known && known.state !== 'failed') return;
  const set = (state: PrintedState) => usePrinted.setState((s) => ({ sheets: { ...s.sheets, [key]: state } }));
  set({ state: 'reading', share: 0 });
  const worker = new Worker(new URL('../../workers/printed.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<FromPrinted>) => {
    if (data.type === 'progress') {
      set({ state: 'reading', share: data.share });
      return;
    }
    worker.terminate();
    set(data.type === 'done' ? { state: 'read', reading: data.reading } : { state: 'failed', why: data.why });
  };
  worker.onerror = () => {
    worker.terminate();
    set({ state: 'failed', why: 'Reading the printed dimensions failed. Try it again.' });
  };
  worker.postMessage({ url: new URL(lineworkUrl(u.fileId, u.page), window.location.href).href, units } satisfies ToPrinted);
}

/** Reads the sheet again with figures that say no unit taken in this one; null finds it out. */
export function chooseUnits(u: Pick<Underlay, 'fileId' | 'page'>, units: BareUnit | null): void {
  usePrinted.setState((s) => ({ units: { ...s.units, [sheetKey(u)]: units } }));
  startReading(u);
}

export interface FoundOnUnderlay { reading: PrintedReading; /** The view that the crop shows, by its number. */ view: number; /** Dimensions of that view within the crop, by their numbers. */ within: number[] }

/** What of a reading concerns an underlay: the view that most of its dimensions within the crop belong to. */
export function onUnderlay(reading: PrintedReading, u: Underlay): FoundOnUnderlay | null {
  const region = makeRegion([cropRing(u)], 'nonzero');
  const inside = ([x, y]: Point) => regionContains(region, x, y);
  const within = reading.dimensions.flatMap((d, i) => (inside(d.from) && inside(d.to) ? [i] : []));
  const counts = reading.views.map((_, v) => within.filter((i) => reading.dimensions[i].view === v && reading.dimensions[i].agrees).length);
  const view = counts.indexOf(Math.max(...counts));
  if (view < 0 || counts[view] === 0) return null;
  return { reading, view, within: within.filter((i) => reading.dimensions[i].view === view) };
}
