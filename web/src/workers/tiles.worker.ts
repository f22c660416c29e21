/// <reference lib="webworker" />
import { init, type PdfiumModule } from '@embedpdf/pdfium';
import type { FromWorker, OpenSheet, RenderTile, ToWorker } from './protocol';

/** Draws tiles of sheets at the resolution asked for: PDF pages by PDFium, pictures from their decoded bitmap. */
declare const self: DedicatedWorkerGlobalScope;

interface Pdfium {
  memory: WebAssembly.Memory;
  malloc(bytes: number): number;
  free(pointer: number): void;
  PDFiumExt_Init(): void;
  FPDF_LoadMemDocument64(data: number, size: number, password: number): number;
  FPDF_LoadPage(doc: number, index: number): number;
  FPDF_ClosePage(page: number): void;
  FPDF_GetPageWidthF(page: number): number;
  FPDF_GetPageHeightF(page: number): number;
  FPDFBitmap_CreateEx(width: number, height: number, format: number, first: number, stride: number): number;
  FPDFBitmap_FillRect(bitmap: number, x: number, y: number, w: number, h: number, colour: number): number;
  FPDFBitmap_GetBuffer(bitmap: number): number;
  FPDFBitmap_Destroy(bitmap: number): void;
  FPDF_RenderPageBitmapWithMatrix(bitmap: number, page: number, matrix: number, clip: number, flags: number): void;
}

type Sheet = { kind: 'pdf'; pdfium: Pdfium; doc: number; pages: Map<number, number> } | { kind: 'picture'; bitmap: ImageBitmap };

const FORMAT_BGRA = 4;
const ANNOTATIONS = 1, RGB_ORDER = 0x10;
/** Loaded pages kept per document; each holds its parsed content. */
const PAGES_KEPT = 6;

const sheets = new Map<string, Promise<Sheet>>();
const waiting: RenderTile[] = [];
let engine: Promise<Pdfium> | null = null;
let busy = false;

const answer = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, transfer);

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if (data.type === 'open') open(data);
  else if (data.type === 'cancel') {
    const at = waiting.findIndex((t) => t.id === data.id);
    if (at >= 0) waiting.splice(at, 1);
  } else {
    waiting.push(data);
    void work();
  }
};

function open({ key, url, kind, password }: OpenSheet): void {
  if (sheets.has(key)) return;
  const sheet = kind === 'pdf' ? openPdf(url, password) : openPicture(url);
  sheets.set(key, sheet);
  sheet.catch((error: unknown) => {
    sheets.delete(key);
    answer({ type: 'sheet-failed', key, message: error instanceof Error ? error.message : String(error) });
  });
}

async function fetchBytes(url: string): Promise<ArrayBuffer> {
  const response = await fetch(url);
  if (!response.ok) throw new Error('The file cannot be fetched from the server.');
  return response.arrayBuffer();
}

function startEngine(): Promise<Pdfium> {
  engine ??= (async () => {
    const wasmBinary = await fetchBytes('/engine/pdfium.wasm');
    const wrapped = await init({ wasmBinary, print: () => {}, printErr: () => {} } as unknown as Partial<PdfiumModule>);
    const pdfium = wrapped.pdfium.wasmExports as unknown as Pdfium;
    pdfium.PDFiumExt_Init();
    return pdfium;
  })();
  return engine;
}

async function openPdf(url: string, password: string | null): Promise<Sheet> {
  const [pdfium, buffer] = await Promise.all([startEngine(), fetchBytes(url)]);
  const data = pdfium.malloc(buffer.byteLength);
  new Uint8Array(pdfium.memory.buffer, data, buffer.byteLength).set(new Uint8Array(buffer));
  const secret = new TextEncoder().encode(`${password ?? ''}\0`);
  const pointer = pdfium.malloc(secret.length);
  new Uint8Array(pdfium.memory.buffer, pointer, secret.length).set(secret);
  const doc = pdfium.FPDF_LoadMemDocument64(data, buffer.byteLength, pointer);
  pdfium.free(pointer);
  if (doc === 0) throw new Error('The file cannot be opened for drawing.');
  return { kind: 'pdf', pdfium, doc, pages: new Map() };
}

async function openPicture(url: string): Promise<Sheet> {
  return { kind: 'picture', bitmap: await createImageBitmap(new Blob([await fetchBytes(url)]), { imageOrientation: 'from-image' }) };
}

/** One tile after another; between two of them messages get through, so that what went out of sight is not drawn. */
async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  while (waiting.length > 0) {
    // The newest wish is what is in sight now.
    const tile = waiting.pop()!;
    try {
      const sheet = await sheets.get(tile.key);
      if (!sheet) throw new Error('not open');
      const bitmap = sheet.kind === 'pdf' ? await pdfTile(sheet, tile) : await pictureTile(sheet, tile);
      answer({ type: 'tile', id: tile.id, bitmap }, [bitmap]);
    } catch {
      answer({ type: 'tile-failed', id: tile.id });
    }
    await new Promise((resolve) => setTimeout(resolve, 0));
  }
  busy = false;
}

function pageHandle(sheet: Extract<Sheet, { kind: 'pdf' }>, page: number): number {
  const known = sheet.pages.get(page);
  if (known) return known;
  if (sheet.pages.size >= PAGES_KEPT) {
    const [oldest, handle] = sheet.pages.entries().next().value!;
    sheet.pdfium.FPDF_ClosePage(handle);
    sheet.pages.delete(oldest);
  }
  const handle = sheet.pdfium.FPDF_LoadPage(sheet.doc, page - 1);
  if (handle === 0) throw new Error('no such page');
  sheet.pages.set(page, handle);
  return handle;
}

async function pdfTile(sheet: Extract<Sheet, { kind: 'pdf' }>, tile: RenderTile): Promise<ImageBitmap> {
  const { pdfium } = sheet;
  const handle = pageHandle(sheet, tile.page);
  const { width, height } = tile;
  const bitmap = pdfium.FPDFBitmap_CreateEx(width, height, FORMAT_BGRA, 0, 0);
  if (bitmap === 0) throw new Error('memory');
  pdfium.FPDFBitmap_FillRect(bitmap, 0, 0, width, height, 0xffffffff | 0);
  // The engine lays the page into a box of whole points, top left at the origin: stretch that to the sheet's true size.
  const kx = (tile.scale * tile.sheetWidth) / Math.trunc(pdfium.FPDF_GetPageWidthF(handle));
  const ky = (tile.scale * tile.sheetHeight) / Math.trunc(pdfium.FPDF_GetPageHeightF(handle));
  const scratch = pdfium.malloc(40);
  new Float32Array(pdfium.memory.buffer, scratch, 10).set([kx, 0, 0, ky, -tile.x, -tile.y, 0, 0, width, height]);
  pdfium.FPDF_RenderPageBitmapWithMatrix(bitmap, handle, scratch, scratch + 24, ANNOTATIONS | RGB_ORDER);
  pdfium.free(scratch);
  const pixels = new Uint8ClampedArray(pdfium.memory.buffer, pdfium.FPDFBitmap_GetBuffer(bitmap), width * height * 4).slice();
  pdfium.FPDFBitmap_Destroy(bitmap);
  return createImageBitmap(new ImageData(pixels, width, height));
}

async function pictureTile({ bitmap }: Extract<Sheet, { kind: 'picture' }>, tile: RenderTile): Promise<ImageBitmap> {
  const canvas = new OffscreenCanvas(tile.width, tile.height);
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, tile.width, tile.height);
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, -tile.x, -tile.y, tile.scale * tile.sheetWidth, tile.scale * tile.sheetHeight);
  return canvas.transferToImageBitmap();
}
