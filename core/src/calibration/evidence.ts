import { MM_PER_POINT, type Transform } from '../geometry/index.ts';
import type { PrintedReading } from './printed/index.ts';

/** What a sheet says of its own scale, beside what a person picks: dimensions that agree, a graphic scale, a stated one. */
export type WitnessKind = 'dimensions' | 'bar' | 'note';
export interface Witness {
  kind: WitnessKind;
  /** True millimetres per millimetre of paper, across and up. */
  x: number;
  y: number;
  /** How far off that may be, a share, 95 %. */
  uncertainty: number;
  /** So many dimensions agree on it; 1 for a bar or a note. */
  count: number;
  text: string;
}

/** A graphic scale is as good as the places of its figures; a stated scale is true until the sheet is printed smaller. */
const BAR_UNCERTAINTY = 0.01,
  NOTE_UNCERTAINTY = 0.004;
/** So few dimensions prove less than a bar does. */
const ENOUGH = 3;

/** The witnesses of one view of a page, the surest first. Where dimensions agree, they outweigh the rest: a note may be of another print. */
export function witnessesOf(
  { views, notes }: Pick<PrintedReading, 'views' | 'notes'>,
  view: number | null,
): Witness[] {
  const found: Witness[] = [];
  const v = view === null ? undefined : views[view];
  const byBar = v?.from === 'bar';
  if (v && byBar)
    found.push({
      kind: 'bar',
      x: v.x,
      y: v.y,
      uncertainty: v.uncertainty,
      count: 1,
      text: notes.find((n) => n.bar)?.text ?? '',
    });
  else if (v && v.unit !== null)
    found.push({
      kind: 'dimensions',
      x: v.x,
      y: v.y,
      uncertainty: v.uncertainty,
      count: v.agreeing,
      text: '',
    });
  for (const n of notes)
    if (!(n.bar && byBar) && (n.view === null ? views.length < 2 : n.view === view))
      found.push({
        kind: n.bar ? 'bar' : 'note',
        x: n.factor,
        y: n.factor,
        uncertainty: n.bar ? BAR_UNCERTAINTY : NOTE_UNCERTAINTY,
        count: 1,
        text: n.text,
      });
  const rank = (w: Witness) =>
    w.kind === 'dimensions' && w.count >= ENOUGH ? 0 : w.kind === 'bar' ? 1 : w.kind === 'dimensions' ? 2 : 3;
  return found.sort((a, b) => rank(a) - rank(b));
}

export interface Contradiction {
  witness: Witness;
  /** The scale that was held against it, in the direction in which the two differ most. */ factor: number;
  /** And the witness's own there. */ witnessed: number;
  /** factor / witnessed − 1 */ share: number;
}

/** Less is no difference that anybody could see, a share; a larger one is asked about whatever error is stated. */
const ALWAYS_SAME = 0.0005,
  NEVER_SAME = 0.005;

/**
 * The surest witness that says otherwise than a placement; null where the surest one bears it out, or where there is none. `stated`: how far
 * off the placement says that it may be, a share, 95 %. That excuses a small difference, and never a large one: a pick on the wrong mark
 * knows nothing of its own error.
 */
export function contradictionOf(
  planeFromSheet: Transform,
  witnesses: readonly Witness[],
  stated = 0,
): Contradiction | null {
  const [a, b, c, d] = planeFromSheet;
  const across = Math.hypot(a, b) / MM_PER_POINT,
    up = Math.hypot(c, d) / MM_PER_POINT;
  const [first] = witnesses;
  if (!first) return null;
  const apart = ([across, up] as const)
    .map((factor, i) => ({ factor, witnessed: i === 0 ? first.x : first.y }))
    .map((s) => ({ ...s, share: s.factor / s.witnessed - 1 }));
  const worst = Math.abs(apart[0].share) >= Math.abs(apart[1].share) ? apart[0] : apart[1];
  const allowed = Math.min(NEVER_SAME, Math.max(ALWAYS_SAME, Math.hypot(first.uncertainty, stated) * 1.5));
  return Math.abs(worst.share) <= allowed ? null : { witness: first, ...worst };
}
