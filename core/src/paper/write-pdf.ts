import type { PDFDocument, PDFPage } from '@cantoo/pdf-lib';
import { drawingBox, type View } from '../exchange/index.ts';
import type { Point } from '../geometry/index.ts';
import { formatNumber } from '../units/index.ts';
import { MARGIN, paperFor, roomOn, TITLE_STRIP, type Laid, type PaperName } from '../papers/index.ts';
import { ringPath, type To } from './pdf-path.ts';
import { drawingContent, INK, newPen, PT, putContent, rgb, write, writeTexts, type Pen } from './pen.ts';

export interface PdfOptions {
  /** 100 for 1:100. */
  scale: number;
  /** Null takes the smallest metric paper on which it fits. */
  paper: PaperName | null;
  /** What stands in the strip below each view beside its name. */
  title: { project: string; date: string };
}

/** It does not fit, or there is nothing to draw: in words, with what to do. */
export class PaperError extends Error {
  override readonly name = 'PaperError';
}

/** What a view takes on paper, and the paper that it lies on; throws where it fits on none. */
export function layOut({ drawing, name }: View, { scale, paper }: Pick<PdfOptions, 'scale' | 'paper'>) {
  const box = drawingBox(drawing);
  if (!box) throw new PaperError(`There is nothing to draw of ${name} yet.`);
  const size: [number, number] = [(box[2] - box[0]) / scale, (box[3] - box[1]) / scale],
    laid = paperFor(size, paper);
  const words = (mm: number) => formatNumber(mm, 0);
  if (!laid)
    throw new PaperError(
      `At this scale ${name} takes ${words(size[0])} x ${words(size[1])} mm and does not fit ${paper ?? 'the largest paper, A0'}: take a smaller scale${paper ? ', or larger paper' : ''}.`,
    );
  return { box, laid, size };
}

/**
 * Views as pages of PDF at a scale, each on its own paper: true when they are printed at 100 %. Below each the project, what is drawn,
 * the scale, the date, and a length to be measured by. They cannot carry: letters that no standard font has (they are written as their
 * nearest, and counted), sheets beneath the drawing, layers to be switched. Throws PaperError with what to do where one does not fit.
 */
export async function writePdf(
  views: readonly View[],
  options: PdfOptions,
): Promise<{ bytes: Uint8Array; papers: Laid[]; changedLetters: number }> {
  if (views.length === 0) throw new PaperError('There is nothing to draw yet.');
  const pen = await newPen(
    views.length === 1 ? `${options.title.project}: ${views[0].name}` : options.title.project,
  );
  const papers = views.map((view) => addView(pen, view, { ...options, scale: view.scale ?? options.scale }));
  return { bytes: await pen.document.save(), papers, changedLetters: pen.changedLetters };
}

/** A view on a page of its own; the paper that it lies on. */
function addView(pen: Pen, view: View, options: PdfOptions): Laid {
  const { drawing, name } = view,
    { box, laid, size } = layOut(view, options),
    { scale } = options,
    [freeWide, freeHigh] = roomOn(laid),
    page = pen.document.addPage([laid.width * PT, laid.height * PT]),
    k = PT / scale,
    left = (MARGIN + (freeWide - size[0]) / 2) * PT,
    foot = (MARGIN + TITLE_STRIP + (freeHigh - size[1]) / 2) * PT;
  const to: To = ([x, y]) => [left + (x - box[0]) * k, foot + (y - box[1]) * k];
  putContent(pen.document, page, drawingContent(drawing, to, k));
  writeTexts(pen, page, drawing, to, k);
  strip(pen.document, page, laid, name, options, (text, at, mm) =>
    write(pen, page, { text, at, height: mm * PT, radians: 0, colour: INK }),
  );
  return laid;
}

/** The strip below the drawing: what it is, and a length that says whether it was printed true. */
function strip(
  document: PDFDocument,
  page: PDFPage,
  { width, name: paper }: Laid,
  name: string,
  { scale, title }: PdfOptions,
  write: (text: string, at: Point, mm: number) => void,
): void {
  const to: To = ([x, y]) => [x * PT, y * PT],
    top = MARGIN + TITLE_STRIP - 3,
    right = width - MARGIN;
  const lines = [
    ringPath(
      [
        [MARGIN, top],
        [right, top],
      ],
      to,
      false,
    ),
    // Fifty millimetres, with an end at each ten.
    ringPath(
      [
        [right - GAUGE, MARGIN + 2],
        [right, MARGIN + 2],
      ],
      to,
      false,
    ),
    ...[0, 10, 20, 30, 40, 50].map((d) =>
      ringPath(
        [
          [right - GAUGE + d, MARGIN + 2],
          [right - GAUGE + d, MARGIN + (d % 50 === 0 ? 4.5 : 3.5)],
        ],
        to,
        false,
      ),
    ),
  ];
  putContent(document, page, `q ${rgb(INK).join(' ')} RG ${0.25 * PT} w\n${lines.join('\nS\n')}\nS\nQ`);
  write(cut(title.project, 60), to([MARGIN, MARGIN + 6]), 3);
  write(
    cut(`${name}   1:${Math.round(scale * 100) / 100} on ${paper}   ${title.date}`, 110),
    to([MARGIN, MARGIN + 1.5]),
    2,
  );
  write('50 mm', to([right - GAUGE, MARGIN + 6]), 2);
}
const GAUGE = 50;

const cut = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
