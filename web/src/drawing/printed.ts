import { create } from 'zustand';
import { isStraight, type PrintedReading } from '@calque/core/calibration';
import { makeRegion, regionContains, type Point } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import type { BareUnit } from '@calque/core/units';
import type { PictureReading } from '@calque/core/ink';
import { lineworkUrl } from '@/project/addresses';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';
import { runTask, Stopped } from '@/workers/task';
import type { FromPrinted, ToPrinted } from '@/workers/printed-protocol';

export type PrintedState =
  | { state: 'reading'; share: number }
  | { state: 'recognising'; share: number; stop(): void }
  | { state: 'failed'; why: string }
  /** `offer`: figures might be recognised on the picture. */
  | {
      state: 'read';
      reading: PrintedReading;
      offer: boolean;
      /** Read by itself before anybody asked. */ ahead?: boolean;
    };

interface PrintedStore {
  /** By sheet and by the unit that was chosen. */
  sheets: Record<string, PrintedState>;
  /** What a person said bare figures are in, by sheet. */
  units: Record<string, BareUnit | null>;
  /** What was recognised on the picture of a sheet. */
  pictures: Record<string, PictureReading>;
}

export const usePrinted = create<PrintedStore>(() => ({ sheets: {}, units: {}, pictures: {} }));

export const sheetKey = (u: Pick<Underlay, 'fileId' | 'page'>) => `${u.fileId}:${u.page}`;
const keyOf = (u: Pick<Underlay, 'fileId' | 'page'>, units: BareUnit | null) =>
  `${sheetKey(u)}:${units ?? ''}`;

export function printedOf(store: PrintedStore, u: Pick<Underlay, 'fileId' | 'page'>): PrintedState | null {
  return store.sheets[keyOf(u, store.units[sheetKey(u)] ?? null)] ?? null;
}

/**
 * Starts reading a sheet's printed dimensions in a worker, unless it is read or being read. Where its texts tell no
 * scale, figures are recognised on its picture; `again` does that after it was stopped, `ahead` leaves it until somebody asks.
 */
export function startReading(
  table: Table,
  u: Pick<Underlay, 'fileId' | 'page'>,
  { again = false, ahead = false }: { again?: boolean; ahead?: boolean } = {},
): void {
  const { units: chosen, sheets, pictures } = usePrinted.getState();
  const units = chosen[sheetKey(u)] ?? null;
  const key = keyOf(u, units);
  const known = sheets[key];
  // What was read ahead without its picture is looked at once somebody asks.
  const unasked = known?.state === 'read' && known.ahead === true && known.offer && !ahead;
  if (known && known.state !== 'failed' && !again && !unasked) return;
  const set = (state: PrintedState) =>
    usePrinted.setState((s) => ({ sheets: { ...s.sheets, [key]: state } }));
  set({ state: 'reading', share: 0 });
  const worker = new Worker(new URL('../workers/printed.worker.ts', import.meta.url), { type: 'module' });
  // What the texts told, while its picture is being asked.
  let before: PrintedState | null = null,
    offered = false;
  const request: ToPrinted = {
    type: 'read',
    url: new URL(lineworkUrl(table.session.projectId, u.fileId, u.page), window.location.href).href,
    units,
    picture: pictures[sheetKey(u)] ?? null,
  };
  const { done, stop } = runTask<ToPrinted, FromPrinted>(worker, request, {
    onProgress: (share) => set(before ? { state: 'recognising', share, stop } : { state: 'reading', share }),
    broken: 'Reading the printed dimensions failed. Try it again.',
    goesOn({ reading, offer }, ask) {
      offered = offer !== null && offer !== undefined;
      if (!offer || ahead) return false;
      before = { state: 'read', reading, offer: true };
      set({ state: 'recognising', share: 0, stop });
      void pictureOf(table, u, offer.scale).then((picture) => {
        if (!picture) stop();
        else ask({ type: 'recognise', ...picture, scale: offer.scale, lines: offer.lines }, [picture.bitmap]);
      });
      return true;
    },
  });
  void done.then(
    ({ reading, picture }) => {
      keepPicture(u, picture);
      set({ state: 'read', reading, offer: ahead && offered, ...(ahead && { ahead }) });
    },
    (error: Error) =>
      set(error instanceof Stopped && before ? before : { state: 'failed', why: error.message }),
  );
}

/** Keeps what was read from the picture of a sheet, so that nobody reads it again. */
export function keepPicture(u: Pick<Underlay, 'fileId' | 'page'>, picture: PictureReading | null): void {
  if (picture) usePrinted.setState((s) => ({ pictures: { ...s.pictures, [sheetKey(u)]: picture } }));
}

/** The whole sheet as one picture; null where it cannot be drawn. */
export async function pictureOf(
  table: Table,
  u: Pick<Underlay, 'fileId' | 'page'>,
  scale: number,
): Promise<{ bitmap: ImageBitmap; isPicture: boolean } | null> {
  const file = table.session.state.files.find((f) => f.id === u.fileId),
    sheet = file?.sheets.find((s) => s.page === u.page);
  const bitmap =
    file && sheet ? await table.tiles.pictureOf(file, sheet, [0, 0, sheet.width, sheet.height], scale) : null;
  return bitmap && { bitmap, isPicture: file!.kind !== 'pdf' };
}

/** Reads the sheet again with figures that say no unit taken in this one; null finds it out. */
export function chooseUnits(
  table: Table,
  u: Pick<Underlay, 'fileId' | 'page'>,
  units: BareUnit | null,
): void {
  usePrinted.setState((s) => ({ units: { ...s.units, [sheetKey(u)]: units } }));
  startReading(table, u);
}

/** The graphic scale that speaks for a page without dimensions: the longest of those whose ends were found. */
export const barOf = ({ notes }: PrintedReading) =>
  notes
    .flatMap((n) => (n.bar && n.span ? [{ ...n.span, text: n.text }] : []))
    .sort((a, b) => b.millimetres - a.millimetres)[0] ?? null;

/** Ends of printed dimensions are as good as the file's own lines; on a scan as good as half a pixel or so. Sheet points. */
const READ_SIGMA = 0.05,
  INK_SIGMA = 0.25;
export const sigmaOfRead = ({ endsFromInk }: PrintedReading): number =>
  endsFromInk ? INK_SIGMA : READ_SIGMA;

export interface FoundOnUnderlay {
  reading: PrintedReading;
  /** The view that the crop shows, by its number. */ view: number;
  /** Dimensions of that view within the crop, by their numbers. */ within: number[];
}

/** What of a reading concerns an underlay: the view that most of its dimensions within the crop belong to. */
export function onUnderlay(
  reading: PrintedReading,
  u: Pick<Underlay, 'crop' | 'outline'>,
): FoundOnUnderlay | null {
  // On a photo at a slant every place has a scale of its own: it is made straight first.
  if (reading.photo) return null;
  const region = makeRegion([cropRing(u)], 'nonzero');
  const inside = ([x, y]: Point) => regionContains(region, x, y);
  // A page without dimensions may have a graphic scale.
  const bar = reading.views.findIndex((v) => v.from === 'bar'),
    span = bar < 0 ? null : barOf(reading);
  if (span && inside(span.from) && inside(span.to)) return { reading, view: bar, within: [] };
  // Angles and lengths of arcs are no lengths between two points, and what is not to scale says nothing of it.
  const within = reading.dimensions.flatMap((d, i) =>
    isStraight(d) && !d.free && inside(d.from) && inside(d.to) ? [i] : [],
  );
  const counts = reading.views.map(
    (_, v) => within.filter((i) => reading.dimensions[i].view === v && reading.dimensions[i].agrees).length,
  );
  const view = counts.indexOf(Math.max(...counts));
  if (view < 0 || counts[view] === 0) return null;
  return { reading, view, within: within.filter((i) => reading.dimensions[i].view === view) };
}
