import { isTraced, type Entity, type Model, type PaperDrawing } from '@calque/core/model';
import { layPaper } from '@calque/core/ready';
import { bytesUrl } from '@/project/addresses';
import type { ProjectSession } from '@/project/session';
import type { Table } from '@/table/table';
import type { FromReady, ToReady } from '@/workers/ready-protocol';
import { runTask, type Task } from '@/workers/task';
import { needsPicture, pdfPictures, svgPictures, WRITTEN_FINENESS } from './pictures';

type Done = Extract<FromReady, { type: 'done' }>;

/** What of a project a paper is drawn from: all but what is traced on other planes, unless the building is seen from one. */
export function entitiesFor(model: Model, drawing: PaperDrawing): Entity[] {
  const planes = new Set(drawing.views.map((v) => v.planeId)),
    isWhole = drawing.views.some((v) => v.building);
  return [...model.values()].filter(
    (e) =>
      e.type !== 'check' && e.type !== 'calibration' && (!isTraced(e) || isWhole || planes.has(e.planeId)),
  );
}

function run(request: ToReady): Task<Done> {
  const worker = new Worker(new URL('../../../workers/ready.worker.ts', import.meta.url), { type: 'module' });
  return runTask<ToReady, FromReady>(worker, request, {
    broken: 'The drawing could not be written: its sheets may be too large. Leave one out and try again.',
  });
}

/** As it is printed beside the drawing's name. */
export const today = (): string =>
  new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** A ready drawing as SVG with its sheets as pictures. */
export async function readySvg(
  table: Table,
  model: Model,
  drawing: PaperDrawing,
  fineness: number,
  isWanted?: () => boolean,
): Promise<{ svg: string; whole: boolean }> {
  const { pictures, whole } = await svgPictures(table, layPaper(model, drawing), fineness, isWanted),
    done = await run({
      make: 'svg',
      drawingId: drawing.id,
      date: today(),
      pictures,
      entities: entitiesFor(model, drawing),
    }).done;
  return { svg: 'svg' in done ? done.svg : '', whole };
}

export const readySvgForWriting = (table: Table, model: Model, drawing: PaperDrawing) =>
  readySvg(table, model, drawing, WRITTEN_FINENESS);

/** A ready drawing as PDF: sheets that are PDFs are taken over with their lines, others are pictures. */
export async function readyPdf(
  table: Table,
  session: ProjectSession,
  drawing: PaperDrawing,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; told: string[] }> {
  const { model, files } = session.state,
    laid = layPaper(model, drawing),
    { pictures, whole } = await pdfPictures(table, laid, files),
    told = whole ? [] : ['A sheet was not drawn to the end in time: look at it closely.'];
  const wanted = new Set(
      laid.views.flatMap((v) =>
        (v.page ? [{ fileId: v.page.fileId }] : [...v.beneath, ...v.above].map((s) => s.underlay))
          .filter((u) => !needsPicture(u, files))
          .map((u) => u.fileId),
      ),
    ),
    bytes = new Map<string, Uint8Array>();
  for (const id of wanted) {
    const answer = await fetch(bytesUrl(session.projectId, id));
    if (answer.ok) bytes.set(id, new Uint8Array(await answer.arrayBuffer()));
  }
  const done = await run({
    make: 'pdf',
    drawingId: drawing.id,
    date: today(),
    files: bytes,
    pictures,
    entities: entitiesFor(model, drawing),
  }).done;
  if (!('bytes' in done)) throw new Error('The drawing was not written.');
  if (done.changedLetters > 0)
    told.push(`${done.changedLetters} letters that its font has not are written as their nearest.`);
  return { bytes: done.bytes, told: [...done.leftOut, ...told] };
}
