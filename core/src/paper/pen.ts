import { PDFDocument, PDFName, StandardFonts, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import { CAPITALS, type Drawing, type DrawingLayer, type Shape } from '../exchange/index.ts';
import { arcPiece, MM_PER_POINT, pathPieces, type Point } from '../geometry/index.ts';
import { circlePath, pathOf, ringPath, type To } from './pdf-path.ts';

/** Points of PDF in a millimetre. */
export const PT = 1 / MM_PER_POINT;
const LINE_WIDTH = 0.18;
/** How much of its colour a filled region has. */
const TINT = 0.15;
/** Of what is written beside the drawing. */
export const INK = 0x17273a;

/** What pages are written with. */
export interface Pen {
  document: PDFDocument;
  font: PDFFont;
  /** Letters that the font has. */ known: ReadonlySet<number>;
  changedLetters: number;
}

/** A new document and what its pages are written with. */
export async function newPen(title: string): Promise<Pen> {
  const document = await PDFDocument.create(),
    font = await document.embedFont(StandardFonts.Helvetica);
  document.setTitle(title);
  document.setProducer('Calque');
  document.setCreator('Calque');
  return { document, font, known: new Set(font.getCharacterSet()), changedLetters: 0 };
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

export const rgb = (colour: number, tint = 1) =>
  [16, 8, 0].map((s) => {
    const v = ((colour >> s) & 255) / 255;
    return Math.round((1 - tint * (1 - v)) * 1000) / 1000;
  });

/** The shapes of a drawing but for its texts, as a page's content; `k`: points in a millimetre of the drawing. */
export function drawingContent(drawing: Drawing, to: To, k: number): string {
  const layers = new Map(drawing.layers.map((l) => [l.name, l])),
    content: string[] = ['q 1 j 1 J'];
  for (const shape of drawing.shapes) {
    const layer = layers.get(shape.layer);
    if (!layer || layer.off) continue;
    if (shape.kind !== 'text') content.push(drawn(shape, layer, to, k));
  }
  content.push('Q');
  return content.join('\n');
}

/** The texts of a drawing. */
export function writeTexts(pen: Pen, page: PDFPage, drawing: Drawing, to: To, k: number): void {
  const layers = new Map(drawing.layers.map((l) => [l.name, l]));
  const texts = drawing.shapes.flatMap((shape) =>
    shape.kind === 'text' && !layers.get(shape.layer)?.off
      ? [
          textContent(pen, page, {
            text: shape.text,
            at: to([shape.x, shape.y]),
            height: shape.height * k,
            radians: shape.radians,
            colour: layers.get(shape.layer)?.colour ?? 0,
          }),
        ]
      : [],
  );
  if (texts.length > 0) putContent(pen.document, page, texts.join('\n'));
}

/** A text on a page, its height and place in points. */
export interface Written {
  text: string;
  at: Point;
  height: number;
  radians: number;
  colour: number;
}

export function write(pen: Pen, page: PDFPage, text: Written): void {
  putContent(pen.document, page, textContent(pen, page, text));
}

function textContent(pen: Pen, page: PDFPage, { text, at, height, radians, colour }: Written): string {
  const { text: shown, changed } = writable(pen.known, text);
  pen.changedLetters += changed;
  page.node.setFontDictionary(FONT, pen.font.ref);
  // Letters are as high as their capitals.
  const size = height / CAPITALS,
    [cos, sin] = [Math.cos(radians), Math.sin(radians)],
    at6 = [cos, sin, -sin, cos, ...at].map((v) => Math.round(v * 1e6) / 1e6);
  return `q ${rgb(colour).join(' ')} rg\nBT ${FONT.toString()} ${Math.round(size * 1e4) / 1e4} Tf ${at6.join(' ')} Tm ${pen.font.encodeText(shown).toString()} Tj ET\nQ`;
}
const FONT = PDFName.of('Text');

function drawn(shape: Exclude<Shape, { kind: 'text' }>, layer: DrawingLayer, to: To, k: number): string {
  const stroke = rgb(layer.colour).join(' '),
    dash = ('dash' in shape && shape.dash ? shape.dash : layer.dash) ?? [],
    pen = `${stroke} RG ${(layer.weight ?? LINE_WIDTH) * PT} w [${dash.map((d) => Math.round(d * k * 1e3) / 1e3).join(' ')}] 0 d`;
  switch (shape.kind) {
    case 'region':
      return `${pen}\n${rgb(layer.colour, TINT).join(' ')} rg\n${shape.rings.map((r) => ringPath(r, to, true)).join('\n')}\nB*`;
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

export function putContent(document: PDFDocument, page: PDFPage, content: string): void {
  page.node.addContentStream(document.context.register(document.context.flateStream(content)));
}
