import { MM_PER_POINT } from '@calque/core/geometry';
import {
  ofType,
  setFields,
  type FilePage,
  type Model,
  type PaperDrawing,
  type PaperView,
  type PlaneEntity,
} from '@calque/core/model';
import { freePlace, layPaper, windowsOf } from '@calque/core/ready';
import type { ProjectSession } from '@/project/session';
import { hasSolids } from '@/project/seen';
import { isImperial } from '@/project/views';

const label = (words: string) => words.slice(0, 190);

/** "Drawing 1", "Drawing 2" … */
function freeName(model: Model): string {
  const taken = new Set(ofType(model, 'paperDrawing').map((d) => d.name));
  for (let n = 1; ; n++) if (!taken.has(`Drawing ${n}`)) return `Drawing ${n}`;
}

/** A new paper with a view of the first plane on which something is traced; its id, null where it could not be added. */
export function addDrawing(session: ProjectSession, first: PlaneEntity | null): string | null {
  const { model } = session.state,
    id = crypto.randomUUID(),
    empty: PaperDrawing = {
      type: 'paperDrawing',
      id,
      name: freeName(model),
      number: '',
      revision: '',
      drawnBy: '',
      paper: isImperial(model) ? 'tabloid' : 'A3',
      standing: false,
      views: [],
    },
    view = first && viewOfPlane(model, empty, first);
  const entity = view ? { ...empty, views: [view] } : empty;
  return session.do({ type: 'add', entity }, label(`Begin ${entity.name}`)) ? id : null;
}

export function removeDrawing(session: ProjectSession, drawing: PaperDrawing): void {
  session.do({ type: 'remove', entity: drawing }, label(`Remove ${drawing.name}`));
}

export function changeDrawing(
  session: ProjectSession,
  drawing: PaperDrawing,
  fields: Partial<Omit<PaperDrawing, 'type' | 'id'>>,
  words = `Change ${drawing.name}`,
): boolean {
  return session.do(setFields(drawing, fields), label(words));
}

export const changeView = (
  session: ProjectSession,
  drawing: PaperDrawing,
  id: string,
  fields: Partial<PaperView>,
): boolean =>
  changeDrawing(session, drawing, {
    views: drawing.views.map((v) => (v.id === id ? { ...v, ...fields } : v)),
  });

export const removeView = (session: ProjectSession, drawing: PaperDrawing, id: string): boolean =>
  changeDrawing(session, drawing, { views: drawing.views.filter((v) => v.id !== id) });

export const addView = (session: ProjectSession, drawing: PaperDrawing, view: PaperView): boolean =>
  changeDrawing(session, drawing, { views: [...drawing.views, view] });

/** A view of a plane where the paper has room for it; null where there is nothing to draw of it. */
export function viewOfPlane(model: Model, drawing: PaperDrawing, plane: PlaneEntity): PaperView | null {
  const { traced, sheets } = windowsOf(model, plane.id),
    // An upright plane on which nothing is traced shows the building.
    seen = plane.type === 'plane' && traced === null && hasSolids(model),
    window = seen ? [0, 0, plane.width, plane.height] : (traced ?? sheets);
  if (!window || window[2] <= window[0] || window[3] <= window[1]) return null;
  return {
    id: crypto.randomUUID(),
    planeId: plane.id,
    ...freePlace(
      layPaper(model, drawing),
      [window[2] - window[0], window[3] - window[1]],
      1,
      isImperial(model),
    ),
    beneath: traced === null && !seen,
    ...(seen && { building: true }),
    caption: '',
  };
}

/** A page, or the part of it that is laid, beside the views. */
export const viewOfPage = (
  model: Model,
  drawing: PaperDrawing,
  { fileId, page }: FilePage,
  window: readonly [number, number, number, number],
  caption: string,
): PaperView => ({
  id: crypto.randomUUID(),
  sheet: { fileId, page },
  window: [...window],
  ...freePlace(layPaper(model, drawing), [window[2] - window[0], window[3] - window[1]], MM_PER_POINT, false),
  beneath: false,
  caption,
});

/** The part of a page that lies on a plane; null where none does, or all of it. */
export function laidPart(
  model: Model,
  { fileId, page }: FilePage,
  whole: readonly [number, number],
): [number, number, number, number] | null {
  const laid = ofType(model, 'underlay').find((u) => u.fileId === fileId && u.page === page);
  if (!laid) return null;
  const [x0, y0, x1, y1] = laid.crop;
  return x0 <= 0 && y0 <= 0 && x1 >= whole[0] && y1 >= whole[1] ? null : laid.crop;
}
