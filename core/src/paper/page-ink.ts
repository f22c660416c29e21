import { PDFDocument, PDFName, PDFStream, type PDFDict, type PDFPage, type PDFRef } from '@cantoo/pdf-lib';
import { compose, type Point, type Transform } from '../geometry/index.ts';
import { ringPath, type To } from './pdf-path.ts';
import { putContent, type Pen } from './pen.ts';

/** A file that cannot be put on a page: protected, damaged, without that page. */
export class InkError extends Error {
  override readonly name = 'InkError';
}

/** Puts pages of files on a page of ours; each is embedded once. Throws InkError with why it cannot be. */
export class InkPot {
  private readonly opened = new Map<string, Promise<PDFDocument>>();
  private readonly forms = new Map<string, Promise<{ ref: PDFRef; displayed: Transform }>>();

  constructor(
    private readonly pen: Pen,
    private readonly bytesOf: (fileId: string) => Uint8Array | null,
  ) {}

  /** Draws a page through `paper`, which takes its sheet points to points of our page, within a ring there; `shown` 1 as it is printed. */
  async draw(
    page: PDFPage,
    from: { fileId: string; page: number },
    paper: Transform,
    ring: readonly Point[],
    shown: number,
  ): Promise<void> {
    const key = `${from.fileId}/${from.page}`,
      known = this.forms.get(key) ?? this.embed(from.fileId, from.page);
    this.forms.set(key, known);
    const { ref, displayed } = await known,
      name = page.node.newXObject('Sheet', ref);
    this.put(page, name, compose(paper, displayed), ring, shown);
  }

  /** Draws a picture over a box of our page, points; it holds its own fade. */
  async drawPicture(page: PDFPage, png: Uint8Array, [x0, y0, x1, y1]: readonly number[]): Promise<void> {
    const image = await this.pen.document.embedPng(png),
      name = page.node.newXObject('Picture', image.ref);
    this.put(page, name, [x1 - x0, 0, 0, y1 - y0, x0, y0], null, 1);
  }

  private put(
    page: PDFPage,
    name: PDFName,
    at: Transform,
    ring: readonly Point[] | null,
    shown: number,
  ): void {
    const state =
      shown < 1
        ? `${page.node.newExtGState('Fade', this.pen.document.context.obj({ Type: 'ExtGState', ca: shown, CA: shown })).toString()} gs\n`
        : '';
    const clip = ring ? `${ringPath(ring, same, true)}\nW n\n` : '';
    putContent(
      this.pen.document,
      page,
      `q\n${clip}${state}${at.map(figure).join(' ')} cm\n${name.toString()} Do\nQ`,
    );
  }

  private async embed(fileId: string, number: number): Promise<{ ref: PDFRef; displayed: Transform }> {
    const source = await this.open(fileId),
      count = source.getPageCount();
    if (number > count)
      throw new InkError(`it has ${count} ${count === 1 ? 'page' : 'pages'}, not ${number}`);
    try {
      return await this.embedded(source.getPage(number - 1));
    } catch {
      throw new InkError('its page is not built as one of a PDF should be');
    }
  }

  private async embedded(from: PDFPage): Promise<{ ref: PDFRef; displayed: Transform }> {
    const box = shownBox(from),
      form = await this.pen.document.embedPage(
        from,
        { left: box[0], bottom: box[1], right: box[2], top: box[3] },
        [1, 0, 0, 1, 0, 0],
      );
    await form.embed();
    // It fades as one picture, not stroke by stroke.
    const { context } = this.pen.document;
    context
      .lookup(form.ref, PDFStream)
      .dict.set(PDFName.of('Group'), context.obj({ S: 'Transparency', I: true, K: false }));
    return { ref: form.ref, displayed: displayedPage(box, from.getRotation().angle, userUnit(from)) };
  }

  private open(fileId: string): Promise<PDFDocument> {
    const known = this.opened.get(fileId) ?? this.read(fileId);
    this.opened.set(fileId, known);
    return known;
  }

  private async read(fileId: string): Promise<PDFDocument> {
    const bytes = this.bytesOf(fileId);
    if (!bytes) throw new InkError('its file is not here');
    try {
      const document = await PDFDocument.load(bytes, { updateMetadata: false, password: '' });
      document.getPageCount();
      return document;
    } catch (error) {
      throw new InkError(
        /encrypt|password/i.test(String(error))
          ? 'its file is protected'
          : 'its file is not built as a PDF should be',
      );
    }
  }
}

const same: To = (p) => p;
/** Enough places for a map from a large sheet: 0.0001 points at 10,000. */
const figure = (v: number) => v.toFixed(9).replace(/\.?0+$/, '');

/** What of a page is seen: its crop box within its media box, in its own space. */
function shownBox(page: PDFPage): [number, number, number, number] {
  const media = page.getMediaBox(),
    crop = page.getCropBox(),
    box: [number, number, number, number] = [
      Math.max(media.x, crop.x),
      Math.max(media.y, crop.y),
      Math.min(media.x + media.width, crop.x + crop.width),
      Math.min(media.y + media.height, crop.y + crop.height),
    ];
  return box[2] > box[0] && box[3] > box[1]
    ? box
    : [media.x, media.y, media.x + media.width, media.y + media.height];
}

function userUnit(page: PDFPage): number {
  const value = (page.node as PDFDict).lookup(PDFName.of('UserUnit')) as { asNumber?(): number } | undefined,
    unit = value?.asNumber?.() ?? 1;
  return unit > 0 ? unit : 1;
}

/** From a page's own space to sheet points: as displayed, origin lower left; quarter turns are clockwise (ISO 32000-1, 7.7.3.3). */
export function displayedPage(
  [left, bottom, right, top]: readonly [number, number, number, number],
  degrees: number,
  u: number,
): Transform {
  switch ((((Math.round(degrees / 90) % 4) + 4) % 4) as 0 | 1 | 2 | 3) {
    case 1:
      return [0, -u, u, 0, -bottom * u, right * u];
    case 2:
      return [-u, 0, 0, -u, right * u, top * u];
    case 3:
      return [0, u, -u, 0, top * u, -left * u];
    case 0:
      return [u, 0, 0, u, -left * u, -bottom * u];
  }
}
