import type { Transform } from '@calque/core/geometry';
import { greyFromRgba, type Raster } from '@calque/core/ink';
import { PageInterpreter, recogniseKinds, type Linework } from '@calque/core/linework';
import { ReadFailure } from '../failure.ts';
import { cString, openDocument, startEngine, type Engine, type OpenDocument } from './engine.ts';
import { LAYER_KEY, OFF_KEY, type LayerTable } from './layer-table.ts';
import { mayHavePages } from '../sound-page.ts';
import { readMarkups } from './markups.ts';
import { readLayers } from './structure.ts';
import { PageWalker } from './walk.ts';

export interface PdfOptions {
  password?: string;
  allLayers?: boolean;
  keepHidden?: boolean;
  maxMegabytes: number;
}

export interface PdfPage {
  page: number;
  linework: Linework;
  milliseconds: number;
}

/** An opened PDF whose pages are read one at a time. */
export interface PdfReader {
  pages: number;
  encrypted: boolean;
  repaired: boolean;
  /** The file with all its layers on; null where it has none. */
  drawing: Uint8Array | null;
  /** Its hatches and dimensions are not told apart yet: `tellKinds` does. */
  readPage(page: number): PdfPage;
  /** Writes the kinds of its items into a page, in place. */
  tellKinds(linework: Linework): void;
  /** RGBA picture of the page, its longer side at most `pixels`. */
  picture(page: number, pixels: number): { width: number; height: number; data: Uint8Array };
  /** Grey picture of the page, `scale` pixels to the sheet point. */
  raster(page: number, scale: number): Raster;
  close(): void;
}

export async function openPdf(bytes: Uint8Array, options: PdfOptions): Promise<PdfReader> {
  const [engine, table] = await Promise.all([
    startEngine(options.maxMegabytes),
    readLayers(bytes, options.password),
  ]);
  const { pdfium } = engine;
  const document = openDocument(engine, table.bytes ?? bytes, table.bytes ? undefined : options.password);
  const pages = mayHavePages(pdfium.FPDF_GetPageCount(document.doc));
  if (pages === 0)
    throw new ReadFailure(
      'damaged',
      'This PDF holds no pages. It is probably cut short: ask for the file again.',
    );
  const keys = { layer: cString(pdfium, LAYER_KEY), off: cString(pdfium, OFF_KEY) };
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  // Pictures show the file as it came: in the copy that is read, all layers are on.
  let original: OpenDocument | null = null;
  return {
    pages,
    encrypted: text.includes('/Encrypt', 0, 'latin1'),
    repaired: isRepaired(text),
    readPage: (page) => guarded(() => readPage(engine, document.doc, page, table, keys, options)),
    tellKinds: (linework) => guarded(() => recogniseKinds(linework)),
    drawing: table.bytes,
    picture: (page, pixels) =>
      guarded(() =>
        drawPage(
          engine,
          (original ??= table.bytes ? openDocument(engine, bytes, options.password) : document).doc,
          page,
          () => pixels,
        ),
      ),
    raster: (page, scale) =>
      guarded(() => rasterOf(engine, document.doc, page, scale, table.userUnits[page - 1] ?? 1)),
    close: () => {
      if (original !== document) original?.close();
      document.close();
    },
  };
}

/** Does the cross-reference stand where the file says? If not, the engine found the objects by scanning. */
function isRepaired(text: Buffer): boolean {
  const tail = text.subarray(Math.max(0, text.length - 2048)).toString('latin1');
  const found = /startxref\s+(\d+)\s+%%EOF/.exec(tail);
  if (!found) return true;
  const header = Math.max(0, text.indexOf('%PDF-'));
  const place = text.subarray(Number(found[1]) + header, Number(found[1]) + header + 24).toString('latin1');
  return !/^\s*(xref|\d+\s+\d+\s+obj)/.test(place);
}

/** An abort inside the engine becomes a failure with words; the instance must not be used again. */
function guarded<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof ReadFailure) throw error;
    const text = String(error);
    if (
      /abort|memory|out of bounds|unreachable|Array buffer allocation|Invalid typed array length/i.test(text)
    ) {
      throw new ReadFailure(
        'too-large',
        'This page unpacks to more than reading may use. Export the sheet again with fewer objects, or split it.',
      );
    }
    throw new ReadFailure('engine', `The page could not be read (${text.slice(0, 200)}).`);
  }
}

function withPage<T>({ pdfium }: Engine, doc: number, page: number, work: (handle: number) => T): T {
  const handle = pdfium.FPDF_LoadPage(doc, page - 1);
  if (handle === 0) throw new ReadFailure('no-such-page', `Page ${page} cannot be opened.`);
  const result = work(handle);
  pdfium.FPDF_ClosePage(handle);
  return result;
}

function readPage(
  engine: Engine,
  doc: number,
  page: number,
  table: LayerTable,
  keys: { layer: number; off: number },
  options: PdfOptions,
): PdfPage {
  const began = performance.now();
  return withPage(engine, doc, page, (handle) => {
    const { width, height, matrix } = displayedPage(engine, handle, table.userUnits[page - 1] ?? 1);
    const interpreter = new PageInterpreter({
      width,
      height,
      layers: table.layers,
      allLayers: options.allLayers,
      keepHidden: options.keepHidden,
      kindsLater: true,
    });
    new PageWalker(engine, handle, table, interpreter, keys).walk(matrix);
    for (const markup of readMarkups(engine, handle, matrix)) interpreter.markup(markup);
    return { page, linework: interpreter.finish(), milliseconds: performance.now() - began };
  });
}

/** Size of the page as displayed and the map onto it: crop box, quarter turns (clockwise), UserUnit. */
function displayedPage(
  { pdfium, scratch }: Engine,
  handle: number,
  unit: number,
): { width: number; height: number; matrix: Transform } {
  pdfium.FPDF_GetPageBoundingBox(handle, scratch);
  const [left, top, right, bottom] = new Float32Array(pdfium.memory.buffer, scratch, 4);
  const w = (right - left) * unit,
    h = (top - bottom) * unit;
  const u = unit;
  switch (((pdfium.FPDFPage_GetRotation(handle) % 4) + 4) % 4) {
    case 1:
      return { width: h, height: w, matrix: [0, -u, u, 0, -bottom * u, right * u] };
    case 2:
      return { width: w, height: h, matrix: [-u, 0, 0, -u, right * u, top * u] };
    case 3:
      return { width: h, height: w, matrix: [0, u, -u, 0, top * u, -left * u] };
    default:
      return { width: w, height: h, matrix: [u, 0, 0, u, -left * u, -bottom * u] };
  }
}

const BGRA = 4;
const RENDER_ANNOTATIONS = 1;
const RENDER_RGB_ORDER = 0x10;

function rasterOf(engine: Engine, doc: number, page: number, scale: number, unit: number): Raster {
  const { width, height, data } = drawPage(
    engine,
    doc,
    page,
    (size) => scale * unit * Math.max(size.width, size.height),
  );
  return greyFromRgba(data, width, height, scale);
}

/** Draws a page; `pixels`: those of its longer side, from its size in points. */
function drawPage(
  engine: Engine,
  doc: number,
  page: number,
  pixels: (size: { width: number; height: number }) => number,
) {
  const { pdfium } = engine;
  return withPage(engine, doc, page, (handle) => {
    const size = displayedPage(engine, handle, 1);
    const scale = pixels(size) / Math.max(size.width, size.height);
    const width = Math.max(1, Math.round(size.width * scale)),
      height = Math.max(1, Math.round(size.height * scale));
    const bitmap = pdfium.FPDFBitmap_CreateEx(width, height, BGRA, 0, 0);
    if (bitmap === 0)
      throw new ReadFailure('too-large', 'There is not enough memory for a picture of this page.');
    pdfium.FPDFBitmap_FillRect(bitmap, 0, 0, width, height, 0xffffffff | 0);
    pdfium.FPDF_RenderPageBitmap(
      bitmap,
      handle,
      0,
      0,
      width,
      height,
      0,
      RENDER_ANNOTATIONS | RENDER_RGB_ORDER,
    );
    const data = new Uint8Array(
      pdfium.memory.buffer,
      pdfium.FPDFBitmap_GetBuffer(bitmap),
      width * height * 4,
    ).slice();
    pdfium.FPDFBitmap_Destroy(bitmap);
    return { width, height, data };
  });
}
