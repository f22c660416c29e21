import type { PDFPage } from '@cantoo/pdf-lib';
import type { Drawing } from '../exchange/index.ts';
import { applyTransform, compose, type Box, type Point, type Transform } from '../geometry/index.ts';
import { settingsOf, type Model, type PaperDrawing } from '../model/index.ts';
import {
  EDGE,
  fitted,
  layPaper,
  marksOf,
  shownOf,
  type LaidView,
  type SheetBeneath,
} from '../ready/index.ts';
import { InkError, InkPot } from './page-ink.ts';
import { ringPath, type To } from './pdf-path.ts';
import { drawingContent, INK, newPen, PT, putContent, rgb, write, writeTexts, type Pen } from './pen.ts';

/** Where sheets and pages come from: a file's bytes where it is a PDF, else a picture (PNG) that covers the view's window. */
export interface InkSources {
  bytesOf(fileId: string): Uint8Array | null;
  /** `underlayId` null: the page that the view itself shows. */
  pictureOf(view: LaidView, underlayId: string | null): Uint8Array | null;
}

/** A ready drawing as one page of PDF, true when it is printed at 100 %. Sheets that cannot be put beneath it are left out and told of, in words. */
export async function writeReadyPdf(
  model: Model,
  drawing: PaperDrawing,
  date: string,
  sources: InkSources,
): Promise<{ bytes: Uint8Array<ArrayBuffer>; changedLetters: number; leftOut: string[] }> {
  const laid = layPaper(model, drawing),
    pen = await newPen(`${settingsOf(model).name}: ${drawing.name}`),
    page = pen.document.addPage([laid.width * PT, laid.height * PT]),
    ink = new InkPot(pen, sources.bytesOf),
    leftOut: string[] = [];
  for (const view of laid.views) {
    const told = await addView({ pen, page, ink, sources }, view, shownOf(model, view));
    leftOut.push(...told);
  }
  addMarks(pen, page, marksOf(model, drawing, laid, date));
  return {
    bytes: (await pen.document.save()) as Uint8Array<ArrayBuffer>,
    changedLetters: pen.changedLetters,
    leftOut: [...new Set(leftOut)],
  };
}

interface At {
  pen: Pen;
  page: PDFPage;
  ink: InkPot;
  sources: InkSources;
}

async function addView(on: At, view: LaidView, drawing: Drawing | null): Promise<string[]> {
  const { pen, page } = on,
    { box, window, unit } = view,
    k = unit * PT,
    paper: Transform = [k, 0, 0, k, box[0] * PT - window[0] * k, box[1] * PT - window[1] * k],
    to: To = (p) => applyTransform(paper, p),
    leftOut: string[] = [];
  const clip = `q\n${ringPath(cornersOf([box[0] - EDGE, box[1] - EDGE, box[2] + EDGE, box[3] + EDGE]), onPoints, true)}\nW n`;
  putContent(pen.document, page, clip);
  const sheets = async (list: readonly SheetBeneath[]) => {
    for (const sheet of list) {
      const why = await addSheet(on, view, sheet, paper);
      if (why) leftOut.push(why);
    }
  };
  if (view.page) {
    const why = await addPage(on, view, paper);
    if (why) leftOut.push(why);
  } else {
    await sheets(view.beneath);
    if (drawing) {
      putContent(pen.document, page, drawingContent(drawing, to, k));
      writeTexts(pen, page, drawing, to, k);
    }
    await sheets(view.above);
  }
  putContent(pen.document, page, 'Q');
  return leftOut;
}

const cornersOf = ([x0, y0, x1, y1]: Box): Point[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
const onPoints: To = ([x, y]) => [x * PT, y * PT];

/** A sheet where it lies; says in words why it cannot be there. */
async function addSheet(
  { page, ink, sources }: At,
  view: LaidView,
  { underlay, ring }: SheetBeneath,
  paper: Transform,
): Promise<string | null> {
  const shown = 1 - underlay.fade,
    picture = sources.pictureOf(view, underlay.id);
  if (picture) {
    await ink.drawPicture(
      page,
      picture,
      view.box.map((v) => v * PT),
    );
    return null;
  }
  return told(underlay.name, () =>
    ink.draw(
      page,
      underlay,
      compose(paper, underlay.placement),
      ring.map((p) => applyTransform(paper, p)),
      shown,
    ),
  );
}

/** The page that a view shows, by itself. */
async function addPage({ page, ink, sources }: At, view: LaidView, paper: Transform): Promise<string | null> {
  const picture = sources.pictureOf(view, null);
  if (picture) {
    await ink.drawPicture(
      page,
      picture,
      view.box.map((v) => v * PT),
    );
    return null;
  }
  return told(view.caption || `page ${view.page!.page}`, () =>
    ink.draw(page, view.page!, paper, cornersOf(view.box).map(onPoints), 1),
  );
}

async function told(name: string, draw: () => Promise<void>): Promise<string | null> {
  try {
    await draw();
    return null;
  } catch (error) {
    if (error instanceof InkError) return `${name} is left out: ${error.message}.`;
    throw error;
  }
}

function addMarks(pen: Pen, page: PDFPage, { lines, texts }: ReturnType<typeof marksOf>): void {
  putContent(
    pen.document,
    page,
    `q ${rgb(INK).join(' ')} RG ${0.25 * PT} w\n${lines.map((l) => ringPath(l, onPoints, false)).join('\nS\n')}\nS\nQ`,
  );
  for (const t of texts)
    write(pen, page, { text: fitted(t), at: onPoints(t.at), height: t.height * PT, radians: 0, colour: INK });
}
