import type { Linework } from '@calque/core/linework';
import { ReadFailure } from './failure.ts';
import { isBinaryDxf, kindOf, type FileKind } from './kinds.ts';
import { openPdf } from './pdf/read-pdf.ts';
import { lineworkPicture } from './picture/linework-picture.ts';
import { wantsTiles } from './picture/pyramid.ts';
import { mayHavePages, soundPage } from './sound-page.ts';
import { picturePages, readPicture, thumbnail } from './picture/read-picture.ts';

export interface ReadOptions {
  password?: string;
  allLayers?: boolean;
  /** Keep what lies on layers that are off, uncounted, so that it can be switched on. */
  keepHidden?: boolean;
  /** Read this page alone (1-based). */
  page?: number;
  /** Memory that the PDF engine may use. */
  maxMegabytes: number;
  /** Millimetres per unit of a drawing that does not say its units. */
  millimetresPerUnit?: number;
  /** Longer side of the page's picture; none is drawn when absent. */
  picturePixels?: number;
  /** Give a page of many lines at once, and again when its picture is drawn and its hatches and dimensions are told apart. */
  linesFirst?: boolean;
}

export interface FileFacts {
  pages: number;
  kind: FileKind;
  encrypted: boolean;
  repaired: boolean;
  /** A copy with all layers on, from which they can be drawn one by one. */ drawing?: Uint8Array;
}
export interface ReadPage {
  page: number;
  linework: Linework;
  milliseconds: number;
  picture: Buffer | null;
  /** False: its lines came first, and the rest of it follows. */ whole: boolean;
  /** What of a drawing was not understood, by name. */ unknown?: Record<string, number>;
  /** Size of a picture that is to be kept in tiles. */ pixels?: { width: number; height: number };
}

export const DEFAULT_MEMORY_MB = 640;
/** From so many on a page's lines are worth having before the rest of it: fewer take no time that a person notices. */
const MANY_SEGMENTS = 20000;

/** Reads a file page by page: first its facts, then each page as it is done. */
export async function readFile(
  bytes: Uint8Array,
  options: ReadOptions,
  onFacts: (facts: FileFacts) => void,
  onPage: (page: ReadPage) => void | Promise<void>,
): Promise<void> {
  if (bytes.length === 0)
    throw new ReadFailure(
      'empty',
      'This file is empty (0 bytes). The copy or download was probably cut short: fetch it again.',
    );
  const kind = kindOf(bytes);
  if (kind === null)
    throw new ReadFailure(
      'unknown-kind',
      isBinaryDxf(bytes)
        ? 'This is a binary DXF. Save it as ASCII DXF, and attach that.'
        : 'This is none of PDF, PNG, JPEG, TIFF, WebP, DXF, SVG or STEP, whatever its name says.',
    );
  const take = (page: ReadPage) => onPage({ ...page, linework: soundPage(page.linework) });
  if (kind === 'pdf') await readPdfPages(bytes, options, onFacts, take);
  else if (kind === 'step') readSolid(bytes, onFacts);
  else if (kind === 'dxf' || kind === 'svg') await readDrawingPage(bytes, kind, options, onFacts, take);
  else await readPicturePages(bytes, kind, options, onFacts, take);
}

async function readPdfPages(
  bytes: Uint8Array,
  options: ReadOptions,
  onFacts: (facts: FileFacts) => void,
  onPage: (page: ReadPage) => void | Promise<void>,
): Promise<void> {
  const reader = await openPdf(bytes, options);
  const { pages, encrypted, repaired } = reader;
  if (options.page !== undefined && (options.page < 1 || options.page > pages)) {
    throw new ReadFailure(
      'no-such-page',
      `There is no page ${options.page}: the file has ${pages === 1 ? 'one page' : `${pages} pages`}.`,
    );
  }
  onFacts({ pages, kind: 'pdf', encrypted, repaired, ...(reader.drawing && { drawing: reader.drawing }) });
  const wanted = options.page !== undefined ? [options.page] : Array.from({ length: pages }, (_, i) => i + 1);
  for (const page of wanted) {
    const { linework, milliseconds } = reader.readPage(page);
    if (options.linesFirst && linework.segments.length / 4 >= MANY_SEGMENTS)
      await onPage({ page, linework, milliseconds, picture: null, whole: false });
    const began = performance.now();
    reader.tellKinds(linework);
    const inAll = milliseconds + performance.now() - began;
    const picture = options.picturePixels
      ? await thumbnail(reader.picture(page, options.picturePixels), options.picturePixels)
      : null;
    await onPage({ page, linework, milliseconds: inAll, picture, whole: true });
  }
  reader.close();
}

/** How a STEP file ends (ISO 10303-21), and within how many bytes of its end. */
const STEP_END = 'END-ISO-10303-21',
  STEP_END_WITHIN = 400;

/** A solid has no pages: that its file is whole is all that is asked of it here. */
function readSolid(bytes: Uint8Array, onFacts: (facts: FileFacts) => void): void {
  const tail = Buffer.from(bytes.subarray(-STEP_END_WITHIN)).toString('latin1');
  if (!tail.includes(STEP_END))
    throw new ReadFailure(
      'damaged',
      'This STEP file is cut short: it does not end as such files do. Fetch or save it again.',
    );
  onFacts({ pages: 0, kind: 'step', encrypted: false, repaired: false });
}

async function readPicturePages(
  bytes: Uint8Array,
  kind: FileKind,
  options: ReadOptions,
  onFacts: (facts: FileFacts) => void,
  onPage: (page: ReadPage) => void | Promise<void>,
): Promise<void> {
  const pages = mayHavePages(await picturePages(bytes));
  if (options.page !== undefined && (options.page < 1 || options.page > pages))
    throw new ReadFailure(
      'no-such-page',
      `There is no page ${options.page}: ${pages === 1 ? 'a picture has one page' : `the file has ${pages} pages`}.`,
    );
  onFacts({ pages, kind, encrypted: false, repaired: false });
  for (const page of options.page !== undefined
    ? [options.page]
    : Array.from({ length: pages }, (_, i) => i + 1)) {
    const began = performance.now();
    const {
      linework,
      pixels: [width, height],
    } = await readPicture(bytes, page);
    const picture = options.picturePixels ? await thumbnail(bytes, options.picturePixels, page) : null;
    await onPage({
      page,
      linework,
      milliseconds: performance.now() - began,
      picture,
      whole: true,
      ...(wantsTiles(kind, [width, height]) && { pixels: { width, height } }),
    });
  }
}

async function readDrawingPage(
  bytes: Uint8Array,
  kind: 'dxf' | 'svg',
  options: ReadOptions,
  onFacts: (facts: FileFacts) => void,
  onPage: (page: ReadPage) => void | Promise<void>,
): Promise<void> {
  if (options.page !== undefined && options.page !== 1)
    throw new ReadFailure('no-such-page', `There is no page ${options.page}: a drawing has one page.`);
  const began = performance.now();
  const { readDrawing } = await import('./drawing/read-drawing.ts');
  const { linework, unknown } = readDrawing(bytes, kind, options.millimetresPerUnit);
  onFacts({ pages: 1, kind, encrypted: false, repaired: false });
  const picture = options.picturePixels ? await lineworkPicture(linework, options.picturePixels) : null;
  await onPage({ page: 1, linework, milliseconds: performance.now() - began, picture, whole: true, unknown });
}
