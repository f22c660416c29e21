import {
  contradictionOf,
  placeAtScale,
  scaleFactorOf,
  scalesOnPhoto,
  witnessesOf,
  type Contradiction,
  type PrintedReading,
} from '@calque/core/calibration';
import {
  applyTransform,
  compose,
  meanScale,
  MM_PER_POINT,
  scalingAbout,
  type Transform,
} from '@calque/core/geometry';
import {
  group,
  setFields,
  storedTransform,
  type Check,
  type ScaleDoubt,
  type Underlay,
} from '@calque/core/model';
import { describeScale, formatNumber } from '@calque/core/units';
import { knownOn } from '@/project/known';
import { doubtWords, isImperial } from '@/project/views';
import type { Table } from '@/table/table';
import { recordOf, refit } from './fit';
import { carriedChanges, middleOf, showPlaced } from './place';
import {
  barOf,
  onUnderlay,
  printedOf,
  sheetKey,
  sigmaOfRead,
  usePrinted,
  type FoundOnUnderlay,
} from '@/drawing/printed';
import { straightenFound } from './straighten-found';

/** A graphic scale is drawn as exactly as the sheet: a ten-thousandth. */
const BAR_SPREAD = 1e-4;

/** What a person said of single dimensions while walking through them, by their numbers. */
export interface Verdicts {
  out: ReadonlySet<number>;
  printed: ReadonlyMap<number, { mm: number; typed: string }>;
}
export const NO_VERDICTS: Verdicts = { out: new Set(), printed: new Map() };

/** Does it take part in the fit? */
export const takesPart = ({ reading }: FoundOnUnderlay, i: number, { out, printed }: Verdicts): boolean =>
  !out.has(i) && (reading.dimensions[i].agrees || printed.has(i));

/** Calibrates from the printed dimensions that were read; what was fitted by hand before stays as a check. */
export function calibrateFromPrinted(
  table: Table,
  u: Underlay,
  found: FoundOnUnderlay,
  verdicts: Verdicts = NO_VERDICTS,
): boolean {
  const kept = knownOn(table.session.state.model, u.id).filter(
    (c) => c.origin !== 'read' && c.origin !== 'recognised',
  );
  const read = found.within.filter((i) => !verdicts.out.has(i)).map((i) => checkOf(found, i, u, verdicts));
  const n = found.within.filter((i) => takesPart(found, i, verdicts)).length;
  return refit(
    table,
    u,
    [...read, ...kept.map((c): Check => (c.use === 'fit' ? { ...c, use: 'check' } : c))],
    `Calibrate ${u.name} from ${n} printed dimensions`,
  );
}

export function checkOf(
  found: FoundOnUnderlay,
  i: number,
  u: Pick<Underlay, 'id'>,
  verdicts: Verdicts,
): Check {
  const d = found.reading.dimensions[i],
    corrected = verdicts.printed.get(i);
  const sigma = sigmaOfRead(found.reading);
  return {
    type: 'check',
    id: crypto.randomUUID(),
    underlayId: u.id,
    from: [d.from[0], d.from[1]],
    to: [d.to[0], d.to[1]],
    printed: corrected?.mm ?? d.millimetres,
    typed: corrected?.typed ?? d.text,
    use: takesPart(found, i, verdicts) ? 'fit' : 'check',
    sigma: [sigma, sigma],
    spread: d.half / Math.sqrt(3),
    origin: d.recognised ? 'recognised' : 'read',
  };
}

/** Calibrates from the graphic scale of a page without dimensions; what was fitted by hand before stays as a check. */
export function calibrateFromBar(table: Table, u: Underlay, { reading }: FoundOnUnderlay): boolean {
  const bar = barOf(reading);
  if (!bar) return false;
  const kept = knownOn(table.session.state.model, u.id).filter(
    (c) => c.origin !== 'read' && c.origin !== 'recognised',
  );
  const known: Check = {
    type: 'check',
    id: crypto.randomUUID(),
    underlayId: u.id,
    from: [bar.from[0], bar.from[1]],
    to: [bar.to[0], bar.to[1]],
    printed: bar.millimetres,
    typed: `graphic scale, ${formatNumber(bar.millimetres / 1000, 3)} m`,
    use: 'fit',
    sigma: [sigmaOfRead(reading), sigmaOfRead(reading)],
    spread: BAR_SPREAD * bar.millimetres,
    origin: 'read',
  };
  return refit(
    table,
    u,
    [known, ...kept.map((c): Check => (c.use === 'fit' ? { ...c, use: 'check' } : c))],
    `Calibrate ${u.name} from its graphic scale`,
  );
}

/** What the sheet itself says against a placement, as far as it has been read. `stated`: a share by which the placement says that it may be off. */
export function speaksAgainst(u: Underlay, placement: Transform, stated = 0): Contradiction | null {
  const printed = printedOf(usePrinted.getState(), u);
  if (printed?.state !== 'read') return null;
  if (printed.reading.photo) return slantAgainst(printed.reading, placement);
  const found = onUnderlay(printed.reading, u);
  return contradictionOf(placement, witnessesOf(printed.reading, found?.view ?? null), stated);
}

/** No one scale holds all over a photo at a slant: held against what its dimensions make of the corner that differs most. */
function slantAgainst({ photo, views }: PrintedReading, placement: Transform): Contradiction | null {
  const view = views[photo?.view ?? -1],
    scales = photo && scalesOnPhoto(photo);
  if (!scales || !view) return null;
  const off = scales
    .map((x) =>
      contradictionOf(placement, [
        {
          kind: 'dimensions',
          x,
          y: x,
          uncertainty: view.uncertainty,
          count: view.agreeing,
          text: AT_A_SLANT,
        },
      ]),
    )
    .filter((c) => c !== null);
  return off.sort((a, b) => Math.abs(b.share) - Math.abs(a.share))[0] ?? null;
}
/** What marks that witness. */
const AT_A_SLANT = 'a photo at a slant';
const isSlant = ({ witness }: Contradiction): boolean => witness.text === AT_A_SLANT;

export const doubtIn = ({ witness, witnessed }: Contradiction): ScaleDoubt => ({
  kind: witness.kind,
  count: witness.count,
  factor: witnessed,
});

/** "These two picks make it 1:99.29. 40 printed dimensions say 1:100." */
export function contradictionWords(table: Table, found: Contradiction, whose: string): string {
  const imperial = isImperial(table.session.state.model);
  if (isSlant(found))
    return `${whose} ${describeScale(found.factor, imperial).text}, but it is a photo at a slant: ${found.witness.count} printed dimensions say ${describeScale(found.witnessed, imperial).text} at its farthest corner, and no one scale holds all over it.`;
  const words = doubtWords(doubtIn(found), imperial);
  return `${whose} ${describeScale(found.factor, imperial).text}. ${words[0].toUpperCase()}${words.slice(1)}.`;
}

/** What one press takes. */
export const takeWords = (table: Table, found: Contradiction): string =>
  isSlant(found)
    ? 'Straighten it and lay it to scale'
    : `Take ${describeScale(found.witnessed, isImperial(table.session.state.model)).text}`;

/** Takes what the sheet says: its dimensions where they agree, else the scale that its bar or its note states. */
export function takeWitness(table: Table, u: Underlay, { witness }: Contradiction): void {
  const printed = printedOf(usePrinted.getState(), u);
  const picture = usePrinted.getState().pictures[sheetKey(u)];
  if (printed?.state === 'read' && printed.reading.photo && picture) {
    void straightenFound(table, u, printed.reading, picture);
    return;
  }
  const found = printed?.state === 'read' ? onUnderlay(printed.reading, u) : null;
  if (witness.kind === 'dimensions' && found) calibrateFromPrinted(table, u, found);
  else if (witness.kind === 'bar' && found && calibrateFromBar(table, u, found)) return;
  else layAtFactor(table, u, witness.x, `Take the scale that ${u.name} states`);
}

/** Lays a sheet at a stated scale, its middle where it lies, turned as it is; known dimensions stay as checks. */
export function layAtFactor(table: Table, u: Underlay, factor: number, label: string): boolean {
  const k = (factor * MM_PER_POINT) / meanScale(u.placement),
    middle = middleOf(u);
  // A stretched one is laid evenly.
  const even = scaleFactorOf(u.placement),
    upright = placeAtScale(even, [0, 0], applyTransform(u.placement, [0, 0]));
  const isEven =
    Math.abs(Math.hypot(u.placement[0], u.placement[1]) / Math.hypot(u.placement[2], u.placement[3]) - 1) <
    1e-9;
  const placement = compose(scalingAbout(k, middle), isEven ? u.placement : upright);
  const { model } = table.session.state;
  const known = knownOn(model, u.id),
    state = { placement: storedTransform(placement), scaleState: 'stated' as const, calibration: null };
  const checks = known.map((c): Check => (c.use === 'check' ? c : { ...c, use: 'check' }));
  const change = group([
    ...known.map((c, i) => (c === checks[i] ? null : setFields(c, { use: 'check' }))),
    setFields(u, state),
    ...carriedChanges(table, u, placement),
    { type: 'add', entity: recordOf(model, u, label, state, checks) },
  ]);
  if (!change || !table.session.do(change, label)) return false;
  showPlaced(table, u.id);
  return true;
}
