import {
  PDFDocument,
  radians as turned,
  rgb as penColour,
  StandardFonts,
  type PDFFont,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { drawingBox, type DrawingLayer, type Shape, type View } from '../exchange/index.ts';
import { arcPiece, MM_PER_POINT, pathPieces, type Point } from '../geometry/index.ts';
import { formatNumber } from '../units/index.ts';
import { MARGIN, paperFor, roomOn, TITLE_STRIP, type Laid, type PaperName } from '../papers/index.ts';
import { circlePath, pathOf, ringPath, type To } from './pdf-path.ts';

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

const PT = 1 / MM_PER_POINT;
const LINE_WIDTH = 0.18;
/** How much of its colour a filled region has. */
const TINT = 0.15;

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

/** Letters that the fonts of every reader have: what others are written as, and how many were. */
function writable(known: ReadonlySet<number>, text: string): { text: string; changed: number } {
  let changed = 0,
    out = '';
  for (const letter of text.replace(/[\r\n\t]+/g, ' ')) {
    const shown =
      [letter, OTHERWISE[letter], letter.normalize('NFD')[0]].find(
        (l) => l && known.has(l.codePointAt(0)!),
      ) ?? '?';
    if (shown !== letter) changed++;
    out += shown;
  }
  return { text: out, changed };
}
/** Letters that are no others with an accent, and signs of ours. */
const OTHERWISE: Readonly<Record<string, string>> = {
  ł: 'l',
  Ł: 'L',
  '⌀': 'Ø',
  '−': '-',
  '′': "'",
  '″': '"',
  '\u2009': ' ',
  '\u202f': ' ',
};

const rgb = (colour: number, tint = 1) =>
  [16, 8, 0].map((s) => {
    const v = ((colour >> s) & 255) / 255;
    return Math.round((1 - tint * (1 - v)) * 1000) / 1000;
  });

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
  const document = await PDFDocument.create(),
    font = await document.embedFont(StandardFonts.Helvetica),
    pen: Pen = { document, font, known: new Set(font.getCharacterSet()), changedLetters: 0 };
  document.setTitle(
    views.length === 1 ? `${options.title.project}: ${views[0].name}` : options.title.project,
  );
  document.setProducer('Calque');
  document.setCreator('Calque');
  const papers = views.map((view) => addView(pen, view, options));
  return { bytes: await document.save(), papers, changedLetters: pen.changedLetters };
}

/** What pages are written with. */
interface Pen {
  document: PDFDocument;
  font: PDFFont;
  /** Letters that the font has. */ known: ReadonlySet<number>;
  changedLetters: number;
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
  const layers = new Map(drawing.layers.map((l) => [l.name, l]));
  const content: string[] = ['q 1 j 1 J'];
  for (const shape of drawing.shapes) {
    const layer = layers.get(shape.layer);
    if (!layer || layer.off) continue;
    if (shape.kind !== 'text') content.push(drawn(shape, layer, to, k));
  }
  content.push('Q');
  putContent(pen.document, page, content.join('\n'));
  for (const shape of drawing.shapes)
    if (shape.kind === 'text' && !layers.get(shape.layer)?.off)
      write(pen, page, {
        text: shape.text,
        at: to([shape.x, shape.y]),
        height: shape.height * k,
        radians: shape.radians,
        colour: layers.get(shape.layer)?.colour ?? 0,
      });
  strip(pen.document, page, laid, name, options, (text, at, mm) =>
    write(pen, page, { text, at, height: mm * PT, radians: 0, colour: INK }),
  );
  return laid;
}

/** A text on a page, its height and place in points. */
interface Written {
  text: string;
  at: Point;
  height: number;
  radians: number;
  colour: number;
}

function write(pen: Pen, page: PDFPage, { text, at, height, radians, colour }: Written): void {
  const { text: shown, changed } = writable(pen.known, text),
    [r, g, b] = rgb(colour);
  pen.changedLetters += changed;
  page.drawText(shown, {
    x: at[0],
    y: at[1],
    // Letters are as high as their capitals.
    size: height / CAPITALS,
    font: pen.font,
    rotate: turned(radians),
    color: penColour(r, g, b),
  });
}

/** Height of Helvetica's capitals, in its own size. */
const CAPITALS = 0.718;
const INK = 0x17273a;

function drawn(shape: Exclude<Shape, { kind: 'text' }>, layer: DrawingLayer, to: To, k: number): string {
  const stroke = rgb(layer.colour).join(' '),
    dash = ('dash' in shape && shape.dash ? shape.dash : layer.dash) ?? [],
    pen = `${stroke} RG ${(layer.weight ?? LINE_WIDTH) * PT} w [${dash.map((d) => Math.round(d * k * 1e3) / 1e3).join(' ')}] 0 d`;
  switch (shape.kind) {
    case 'region':
      return `${rgb(layer.colour, TINT).join(' ')} rg\n${shape.rings.map((r) => ringPath(r, to, true)).join('\n')}\nf*`;
    case 'line':
      return `${pen}\n${ringPath([shape.from, shape.to], to, false)}\nS`;
    case 'polyline':
      return `${pen}\n${
        shape.bulges?.some((b) => b !== 0)
          ? pathOf(pathPieces({ ...shape, bulges: shape.bulges }), to, shape.closed)
          : ringPath(shape.points, to, shape.closed)
      }\nS`;
    case 'circle':
      return `${pen}\n${circlePath(shape.cx, shape.cy, shape.r, to)}\nS`;
    case 'arc':
      return `${pen}\n${pathOf([arcPiece(shape)], to)}\nS`;
    case 'cubic': {
      const [p, q, r, s] = shape.points;
      return `${pen}\n${pathOf([{ kind: 'cubic', cubic: [p[0], p[1], q[0], q[1], r[0], r[1], s[0], s[1]] }], to)}\nS`;
    }
  }
}

function putContent(document: PDFDocument, page: PDFPage, content: string): void {
  page.node.addContentStream(document.context.register(document.context.flateStream(content)));
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
