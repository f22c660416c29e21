/// <reference lib="webworker" />
import { init, type PdfiumModule } from '@embedpdf/pdfium';
import type { FromWorker, OpenSheet, RenderTile, SheetSource, TellLook, ToWorker } from './protocol';
import { switchPage, type PageSwitches } from './page-switches';
import type { Pdfium } from './pdfium-exports';
import { fetchBytes, linePicture, pictureFile, picturePyramid, type TilePainter } from './sheet-pictures';

/** Draws tiles of sheets at the resolution asked for: PDF pages by PDFium, others from pictures or linework. */
declare const self: DedicatedWorkerGlobalScope;

interface PdfPage {
  handle: number;
  look: string;
  switches: PageSwitches | null;
}
type Sheet =
  | { kind: 'pdf'; pdfium: Pdfium; doc: number; pages: Map<number, PdfPage> }
  | { kind: 'other'; painter: TilePainter };

const FORMAT_BGRA = 4;
const ANNOTATIONS = 1,
  RGB_ORDER = 0x10;
/** Loaded pages kept per document; each holds its parsed content. */
const PAGES_KEPT = 6;

const sheets = new Map<string, Promise<Sheet>>();
const looks = new Map<string, TellLook>();
const waiting: RenderTile[] = [];
let engine: Promise<Pdfium> | null = null;
let busy = false;

const answer = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, transfer);
const lookKey = (key: string, page: number, look: string) => `${key}:${page}:${look}`;

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if (data.type === 'open') open(data);
  else if (data.type === 'look') looks.set(lookKey(data.key, data.page, data.look), data);
  else if (data.type === 'cancel') {
    const at = waiting.findIndex((t) => t.id === data.id);
    if (at >= 0) waiting.splice(at, 1);
  } else {
    waiting.push(data);
    void work();
  }
};

function open({ key, source }: OpenSheet): void {
  if (sheets.has(key)) return;
  const sheet = openSource(source);
  sheets.set(key, sheet);
  sheet.catch((error: unknown) => {
    sheets.delete(key);
    answer({ type: 'sheet-failed', key, message: error instanceof Error ? error.message : String(error) });
  });
}

async function openSource(source: SheetSource): Promise<Sheet> {
  switch (source.kind) {
    case 'pdf':
      return openPdf(source.url, source.passwordUrl);
    case 'picture':
      return { kind: 'other', painter: await pictureFile(source.url) };
    case 'tiles':
      return { kind: 'other', painter: picturePyramid(source.url, source.width, source.height) };
    case 'lines':
      return { kind: 'other', painter: await linePicture(source.url) };
  }
}

function startEngine(): Promise<Pdfium> {
  engine ??= (async () => {
    const wasmBinary = await fetchBytes('/engine/pdfium.wasm');
    const wrapped = await init({
      wasmBinary,
      print: () => {},
      printErr: () => {},
    } as unknown as Partial<PdfiumModule>);
    const pdfium = wrapped.pdfium.wasmExports as unknown as Pdfium;
    pdfium.PDFiumExt_Init();
    return pdfium;
  })();
  return engine;
}

async function fetchPassword(url: string): Promise<string> {
  const response = await fetch(url);
  if (!response.ok)
    throw new Error('The password of this file is not known any more. Open it with its password again.');
  return ((await response.json()) as { password: string }).password;
}

async function openPdf(url: string, passwordUrl: string | null): Promise<Sheet> {
  const [pdfium, buffer, password] = await Promise.all([
    startEngine(),
    fetchBytes(url),
    passwordUrl === null ? '' : fetchPassword(passwordUrl),
  ]);
  const data = pdfium.malloc(buffer.byteLength);
  new Uint8Array(pdfium.memory.buffer, data, buffer.byteLength).set(new Uint8Array(buffer));
  const secret = new TextEncoder().encode(`${password}\0`);
  const pointer = pdfium.malloc(secret.length);
  new Uint8Array(pdfium.memory.buffer, pointer, secret.length).set(secret);
  const doc = pdfium.FPDF_LoadMemDocument64(data, buffer.byteLength, pointer);
  pdfium.free(pointer);
  if (doc === 0) throw new Error('The file cannot be opened for drawing.');
  return { kind: 'pdf', pdfium, doc, pages: new Map() };
}

/** One tile after another; between two of them messages get through, so that what went out of sight is not drawn. */
async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  while (waiting.length > 0) {
    const tile = nextTile();
    try {
      const sheet = await sheets.get(tile.key);
      if (!sheet) throw new Error('not open');
      const look = looks.get(lookKey(tile.key, tile.page, tile.look)) ?? null;
      const bitmap =
        sheet.kind === 'pdf'
          ? await pdfTile(sheet, tile, look)
          : await sheet.painter.tile(tile, look?.items ?? null);
      answer({ type: 'tile', id: tile.id, bitmap }, [bitmap]);
    } catch {
      answer({ type: 'tile-failed', id: tile.id });
    }
    await new Promise((resolve) => setTimeout(resolve, 0));
  }
  busy = false;
}

/** The coarsest first, since it shows the whole; of the others the newest wish, which is what is in sight now. */
function nextTile(): RenderTile {
  let at = waiting.length - 1;
  for (let i = at - 1; i >= 0; i--) if (waiting[i].scale < waiting[at].scale) at = i;
  return waiting.splice(at, 1)[0];
}

function loadedPage(sheet: Extract<Sheet, { kind: 'pdf' }>, page: number): PdfPage {
  const known = sheet.pages.get(page);
  if (known) return known;
  if (sheet.pages.size >= PAGES_KEPT) {
    const [oldest, { handle }] = sheet.pages.entries().next().value!;
    sheet.pdfium.FPDF_ClosePage(handle);
    sheet.pages.delete(oldest);
  }
  const handle = sheet.pdfium.FPDF_LoadPage(sheet.doc, page - 1);
  if (handle === 0) throw new Error('no such page');
  const loaded: PdfPage = { handle, look: '', switches: null };
  sheet.pages.set(page, loaded);
  return loaded;
}

async function pdfTile(
  sheet: Extract<Sheet, { kind: 'pdf' }>,
  tile: RenderTile,
  look: TellLook | null,
): Promise<ImageBitmap> {
  const { pdfium } = sheet;
  const page = loadedPage(sheet, tile.page);
  if (page.look !== tile.look) {
    page.switches = switchPage(pdfium, page.handle, page.switches, look);
    page.look = tile.look;
  }
  const { width, height } = tile;
  const bitmap = pdfium.FPDFBitmap_CreateEx(width, height, FORMAT_BGRA, 0, 0);
  if (bitmap === 0) throw new Error('memory');
  pdfium.FPDFBitmap_FillRect(bitmap, 0, 0, width, height, 0xffffffff | 0);
  // The engine knows no UserUnit: what the sheet is larger by is scaled here.
  const kx = (tile.scale * tile.sheetWidth) / pdfium.FPDF_GetPageWidthF(page.handle),
    ky = (tile.scale * tile.sheetHeight) / pdfium.FPDF_GetPageHeightF(page.handle);
  const scratch = pdfium.malloc(40);
  new Float32Array(pdfium.memory.buffer, scratch, 10).set([
    kx,
    0,
    0,
    ky,
    -tile.x,
    -tile.y,
    0,
    0,
    width,
    height,
  ]);
  pdfium.FPDF_RenderPageBitmapWithMatrix(bitmap, page.handle, scratch, scratch + 24, ANNOTATIONS | RGB_ORDER);
  pdfium.free(scratch);
  const pixels = new Uint8ClampedArray(
    pdfium.memory.buffer,
    pdfium.FPDFBitmap_GetBuffer(bitmap),
    width * height * 4,
  ).slice();
  pdfium.FPDFBitmap_Destroy(bitmap);
  return createImageBitmap(new ImageData(pixels, width, height));
}
