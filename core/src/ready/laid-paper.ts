import {
  drawingBox,
  drawingOfModel,
  withoutWallLines,
  type Drawing,
  type DrawingLayer,
  type Shape,
} from '../exchange/index.ts';
import {
  applyTransform,
  boxOfPoints,
  MM_PER_POINT,
  unionBox,
  type Box,
  type Point,
} from '../geometry/index.ts';
import {
  cropRingOf,
  get,
  lookOf,
  ofType,
  settingsOf,
  type FilePage,
  type Model,
  type PaperDrawing,
  type PaperView,
  type Underlay,
  type WorkPlane,
} from '../model/index.ts';
import { PAPERS } from '../papers/index.ts';
import { seenFrom, type SeenLine } from '../solids/index.ts';
import { describeScale } from '../units/index.ts';

/** A sheet beneath a view, and the ring of its plane, millimetres, beyond which nothing of it shows. */
export interface SheetBeneath {
  underlay: Underlay;
  ring: readonly Point[];
}

/** A view where it lies on its paper. */
export interface LaidView {
  view: PaperView;
  /** What stands below it, and at which scale. */
  caption: string;
  scaleText: string;
  /** What is shown: plane millimetres, or sheet points of a page. */
  window: Box;
  /** Where that lies, millimetres of paper from its lower left corner, and how long a unit of the window is there. */
  box: Box;
  unit: number;
  /** What has been traced; null for a page. */
  drawing: Drawing | null;
  page: FilePage | null;
  /** The upright plane from which the building is drawn as it is seen; see shownOf. */
  seenFrom: WorkPlane | null;
  /** Sheets below the trace and above it, the lowest first. */
  beneath: readonly SheetBeneath[];
  above: readonly SheetBeneath[];
}

/** A paper as it will be printed. */
export interface LaidPaper {
  width: number;
  height: number;
  views: LaidView[];
  /** Views that cannot be drawn, and why, in words. */
  missing: { view: PaperView; why: string }[];
}

/** Width and height of a paper as it lies, millimetres. */
export function sizeOfPaper({ paper, standing }: Pick<PaperDrawing, 'paper' | 'standing'>): [number, number] {
  const [long, short] = PAPERS[paper];
  return standing ? [short, long] : [long, short];
}

/** Lays out the views of a ready drawing. */
export function layPaper(model: Model, drawing: PaperDrawing): LaidPaper {
  const [width, height] = sizeOfPaper(drawing),
    laid: LaidPaper = { width, height, views: [], missing: [] };
  for (const view of drawing.views) {
    const one = layView(model, view);
    if (typeof one === 'string') laid.missing.push({ view, why: one });
    else laid.views.push(one);
  }
  return laid;
}

/** What is traced, as a person wants it on paper. */
const drawingOf = (model: Model, planeId: string): Drawing =>
  withoutWallLines(drawingOfModel(model, planeId));

function layView(model: Model, view: PaperView): LaidView | string {
  const { sheet, planeId, scale } = view,
    imperial = ['ft', 'ft-in', 'in'].includes(settingsOf(model).units);
  if (sheet) {
    if (!view.window) return 'It says no part of its page.';
    return placed(view, view.window, MM_PER_POINT / scale, {
      caption: view.caption,
      scaleText: scale === 1 ? '' : describeScale(scale, imperial).text,
      drawing: null,
      page: sheet,
      seenFrom: null,
      beneath: [],
      above: [],
    });
  }
  const plane = get(model, 'storey', planeId ?? '') ?? get(model, 'plane', planeId ?? '');
  if (!plane) return 'Its storey or plane has been removed.';
  const drawing = drawingOf(model, plane.id),
    sheets = view.beneath ? sheetsOf(model, plane.id) : [],
    seen = view.building && plane.type === 'plane' ? plane : null,
    window = view.window ?? windowOf(drawing, sheets, seen);
  if (!window) return `There is nothing to draw of ${plane.name} yet.`;
  return placed(view, window, 1 / scale, {
    caption: view.caption || plane.name,
    scaleText: describeScale(scale, imperial).text,
    drawing,
    page: null,
    seenFrom: seen,
    beneath: sheets.filter((s) => !lookOf(s.underlay).inFront),
    above: sheets.filter((s) => lookOf(s.underlay).inFront),
  });
}

const placed = (
  view: PaperView,
  window: Box,
  unit: number,
  rest: Pick<LaidView, 'caption' | 'scaleText' | 'drawing' | 'page' | 'seenFrom' | 'beneath' | 'above'>,
): LaidView => ({
  ...rest,
  view,
  window,
  unit,
  box: [
    view.at[0],
    view.at[1],
    view.at[0] + (window[2] - window[0]) * unit,
    view.at[1] + (window[3] - window[1]) * unit,
  ],
});

/** The sheets that are seen on a plane, the lowest first. */
const sheetsOf = (model: Model, planeId: string): SheetBeneath[] =>
  ofType(model, 'underlay')
    .filter((u) => u.planeId === planeId && u.visible && u.fade < 1)
    .sort((a, b) => a.order - b.order)
    .map((underlay) => ({
      underlay,
      ring: cropRingOf(underlay).map((p) => applyTransform(underlay.placement, p)),
    }));

/** All that has been traced, and what is shown of a plane from which the building is seen; where there is neither, the sheets. */
function windowOf(drawing: Drawing, sheets: readonly SheetBeneath[], seen: WorkPlane | null): Box | null {
  const traced = drawingBox(drawing),
    own: Box | null = seen && [0, 0, seen.width, seen.height],
    both = traced && own ? unionBox(traced, own) : (traced ?? own),
    box = both ?? boxOfSheets(sheets);
  return box && box[2] > box[0] && box[3] > box[1] ? box : null;
}

const boxOfSheets = (sheets: readonly SheetBeneath[]): Box | null =>
  sheets.length === 0 ? null : sheets.map((s) => boxOfPoints(s.ring)).reduce(unionBox);

/** What a view of a plane can show: all that has been traced, or the sheets with it; plane millimetres, null where there is nothing. */
export function windowsOf(model: Model, planeId: string): { traced: Box | null; sheets: Box | null } {
  const traced = drawingBox(drawingOf(model, planeId)),
    around = boxOfSheets(sheetsOf(model, planeId));
  return { traced, sheets: around && traced ? unionBox(around, traced) : around };
}

const SEEN: DrawingLayer = { name: 'Building', colour: 0x17273a, index: 7, weight: 0.25 },
  CUT: DrawingLayer = { name: 'Building, cut', colour: 0x17273a, index: 7, weight: 0.5 };

/** What a view draws: its trace, and the building as it is seen from its plane below that. Takes a while for a large one. */
export function shownOf(model: Model, { drawing, seenFrom: plane }: LaidView): Drawing | null {
  if (!plane) return drawing;
  const { lines, cuts } = seenFrom(model, plane),
    shapes = (list: readonly SeenLine[], layer: string) =>
      list.map(({ from, to }): Shape => ({ kind: 'line', layer, from, to }));
  return {
    layers: [SEEN, CUT, ...(drawing?.layers ?? [])],
    shapes: [...shapes(lines, SEEN.name), ...shapes(cuts, CUT.name), ...(drawing?.shapes ?? [])],
  };
}
