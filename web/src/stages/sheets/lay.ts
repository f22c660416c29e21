import { placeAtScale, scaleFactorOf } from '@calque/core/calibration';
import { transformBox, unionBox, type Box, type Point } from '@calque/core/geometry';
import {
  ofType,
  PLAIN_LOOK,
  storedTransform,
  type Change,
  type Model,
  type Underlay,
} from '@calque/core/model';
import type { ProjectSession } from '@/project/session';
import type { ScaleOffer } from '@/project/scale-offer';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { Table } from '@/table/table';
import { boxOfUnderlay } from '@/project/views';
import { nameOfSheet } from '@/project/sheet-names';

export type Crop = [number, number, number, number];
export interface Chosen {
  sheet: SheetInfo;
  crop: Crop;
}

/** Space between pages laid side by side, as a share of the one before. */
const GAP = 0.08;

function nameFor(model: Model, file: FileInfo, sheet: SheetInfo, base: string): string {
  const { number, title } = nameOfSheet(model, sheet);
  const named = [number, title].filter(Boolean).join(' ');
  // The pages of a set are known by their titles, a single page by its file.
  return (file.pages > 1 ? named || `${base}, page ${sheet.page}` : base).slice(0, 200);
}

/** Space beside other sheets, as a share of what they take. */
const BESIDE = 0.06;

const onStorey = (model: Model, planeId: string) =>
  ofType(model, 'underlay').filter((u) => u.planeId === planeId && u.visible);

/** To the right of all that lies on a storey, at its lower edge; the origin where nothing does. */
export function besideOthers(model: Model, planeId: string): Point {
  const boxes = onStorey(model, planeId).map(boxOfUnderlay);
  if (boxes.length === 0) return [0, 0];
  const [x0, y0, x1] = boxes.reduce(unionBox);
  return [x1 + BESIDE * (x1 - x0), y0];
}

/** True millimetres per paper millimetre of the uppermost sheet that has a scale; 1 where none has. */
export function scaleBeside(model: Model, planeId: string): number {
  const scaled = onStorey(model, planeId)
    .filter((u) => u.scaleState === 'calibrated' || u.scaleState === 'stated')
    .sort((a, b) => b.order - a.order)[0];
  return scaled ? scaleFactorOf(scaled.placement) : 1;
}

/**
 * Lays pages down from a plane point on, side by side, and shows them; with `at` null beside what lies there. `factor` null: not to scale yet,
 * as large as the scale of the sheets beside makes it, so that it is no speck among them; at paper size where none is to scale. `offer`: the
 * one page comes to scale by what it prints, in the same step.
 */
export function layDown(
  session: ProjectSession,
  table: Table,
  file: FileInfo,
  chosen: readonly Chosen[],
  at: Point | null,
  factor: number | null,
  offer: ScaleOffer | null = null,
): void {
  const { model } = session.state;
  const { planeId } = table.state.getState();
  let order = Math.max(0, ...ofType(model, 'underlay').map((u) => u.order));
  const from = at ?? besideOthers(model, planeId),
    guess = factor ?? scaleBeside(model, planeId);
  let [x] = from;
  let shown: Box | null = null;
  const base = file.name.replace(/\.[A-Za-z0-9]{2,5}$/, '');
  const laid = chosen.map(({ sheet, crop }): Underlay => {
    const own = sheet.reference;
    // A drawing at true size lies where its own coordinates say, unless a place was picked.
    const placement =
      own && (at === null || (at[0] === 0 && at[1] === 0))
        ? placeAtScale(1, [0, 0], own.origin)
        : placeAtScale(own ? 1 : guess, [crop[0], crop[1]], [x, from[1]]);
    const box = transformBox(placement, crop);
    x = box[2] + (box[2] - box[0]) * GAP;
    shown = shown ? unionBox(shown, box) : box;
    return {
      type: 'underlay',
      id: crypto.randomUUID(),
      name: nameFor(model, file, sheet, base),
      fileId: file.id,
      page: sheet.page,
      planeId,
      crop,
      placement: storedTransform(placement),
      scaleState: own ? 'own' : factor === null ? 'paper' : 'stated',
      calibration: null,
      visible: true,
      fade: 0,
      locked: false,
      snap: true,
      order: ++order,
      outline: null,
      former: null,
      look: PLAIN_LOOK,
    };
  });
  const scaled = offer && laid.length === 1 ? offer.laid(laid[0]) : null;
  if (offer && !scaled) {
    session.tell(
      'Its printed dimensions do not lead to one scale. Lay it down, and calibrate it by hand.',
      true,
    );
    return;
  }
  if (scaled) {
    laid[0] = scaled.underlay;
    shown = transformBox(scaled.underlay.placement, scaled.underlay.crop);
  }
  const changes = [...laid.map((entity): Change => ({ type: 'add', entity })), ...(scaled?.more ?? [])];
  const label =
    scaled?.label ?? (laid.length === 1 ? `Lay down ${laid[0].name}` : `Lay down ${laid.length} sheets`);
  if (!session.do(changes.length === 1 ? changes[0] : { type: 'group', changes }, label)) return;
  table.setUnderlay(laid[0].id);
  if (laid.length === 1) table.showUnderlay(laid[0]);
  else if (shown) table.show(shown);
}
