import { useEffect } from 'react';
import { applyTransform, compose, translation } from '@calque/core/geometry';
import type { Change, Check, Underlay } from '@calque/core/model';
import { storedTransform } from '@calque/core/model';
import { describeScale, formatNumber } from '@calque/core/units';
import { useProject, useSession } from '@/project/context';
import type { OfferState, ScaleOffer } from '@/project/scale-offer';
import type { FileInfo, SheetInfo } from '@/project/wire';
import { isImperial } from '@/project/views';
import { useTable } from '@/table/context';
import { checkOf, NO_VERDICTS, takesPart } from './evidence';
import { placedBy, recordOf } from './fit';
import { onUnderlay, printedOf, startReading, usePrinted, type FoundOnUnderlay } from '@/drawing/printed';
import { viewsWithin } from './part-views';
import { useReadsAhead } from '@/project/reads-ahead';

/** A page is read once it has been looked at for so long: its picture and its list come first. */
const PATIENCE_MS = 400;

/** Reads the printed dimensions of a page that is chosen, by itself, and offers to lay it down to scale by them. */
export function useScaleOffer(file: FileInfo, sheet: SheetInfo, crop: Underlay['crop']): OfferState {
  const table = useTable();
  const session = useSession();
  const ahead = useReadsAhead((s) => s.on);
  const imperial = useProject((s) => isImperial(s.model));
  const page = { fileId: file.id, page: sheet.page };
  const printed = usePrinted((s) => printedOf(s, page));
  // Scans take a while and show what is done on them: they are read when they are brought to scale.
  const may = ahead && file.kind === 'pdf' && sheet.whole && sheet.content === 'vector';
  useEffect(() => {
    if (!may) return;
    const timer = setTimeout(
      () => startReading(table, { fileId: file.id, page: sheet.page }, { ahead: true }),
      PATIENCE_MS,
    );
    return () => clearTimeout(timer);
  }, [may, table, file.id, sheet.page]);
  if (!may) return null;
  if (!printed) return { state: 'reading', share: 0 };
  if (printed.state === 'reading') return printed;
  if (printed.state !== 'read') return { state: 'none' };
  const found = onUnderlay(printed.reading, { crop, outline: null });
  const offer = found && offerOf(found, crop, imperial);
  if (!offer) return { state: 'none' };
  return {
    state: 'found',
    offer: { ...offer, laid: (u) => laidToScale(session.state.model, found, u) },
  };
}

function offerOf(
  found: FoundOnUnderlay,
  crop: Underlay['crop'],
  imperial: boolean,
): Omit<ScaleOffer, 'laid'> | null {
  const { reading, within } = found,
    view = reading.views[found.view];
  // Where the unit must be asked, or one dimension or a bar says it alone, the person looks first.
  if (view.from !== 'dimensions' || view.unit === null) return null;
  const agreeing = within.filter((i) => takesPart(found, i, NO_VERDICTS)).length;
  if (agreeing < 2) return null;
  const scale = describeScale(view.factor, imperial).text,
    share = view.uncertainty < 5e-4 ? '0.05' : formatNumber(view.uncertainty * 100, 2),
    others = viewsWithin({ crop }, reading).length - 1,
    against = reading.notes.find(
      (n) => !n.bar && n.view === found.view && Math.abs(n.factor / view.factor - 1) > 0.005,
    );
  const all =
    agreeing === within.length
      ? `${agreeing} printed dimensions agree`
      : `${agreeing} of ${within.length} printed dimensions agree`;
  return {
    words: `${all} on ${scale}, within ${share} %.`,
    but: [
      view.stretched && 'The paper is stretched: width and height are scaled apart.',
      against && `The note “${against.text}” says otherwise: the dimensions win.`,
      others > 0 &&
        `${others === 1 ? 'One part of it is' : `${others} parts of it are`} at a scale of ${others === 1 ? 'its' : 'their'} own.`,
    ]
      .filter(Boolean)
      .join(' '),
  };
}

/** The sheet laid by its printed dimensions where its lower left corner lay, with them and the record of it. */
function laidToScale(
  model: Parameters<typeof recordOf>[0],
  found: FoundOnUnderlay,
  u: Underlay,
): { underlay: Underlay; more: Change[]; label: string } | null {
  const checks = found.within.map((i): Check => checkOf(found, i, u, NO_VERDICTS));
  const placed = placedBy(u, checks, 'auto');
  if (typeof placed === 'string') return null;
  const [x, y] = applyTransform(u.placement, [u.crop[0], u.crop[1]]),
    [nowX, nowY] = applyTransform(placed.placement, [u.crop[0], u.crop[1]]);
  const state = {
    placement: storedTransform(compose(translation(x - nowX, y - nowY), placed.placement)),
    scaleState: 'calibrated' as const,
    calibration: placed.calibration,
  };
  const n = found.within.filter((i) => takesPart(found, i, NO_VERDICTS)).length,
    label = `Lay ${u.name} down to scale by ${n} printed dimensions`.slice(0, 200);
  const underlay = { ...u, ...state };
  return {
    underlay,
    more: [
      ...checks.map((entity): Change => ({ type: 'add', entity })),
      { type: 'add', entity: recordOf(model, underlay, label, state, checks) },
    ],
    label,
  };
}
