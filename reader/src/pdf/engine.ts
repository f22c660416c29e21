import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { init, type PdfiumModule } from '@embedpdf/pdfium';
import { ReadFailure } from '../failure.ts';

/** The functions of PDFium that reading uses, called straight on the module: 10 ns a call instead of 120. */
export interface PdfiumExports {
  memory: WebAssembly.Memory;
  malloc(bytes: number): number;
  free(pointer: number): void;
  PDFiumExt_Init(): void;
  FPDF_LoadMemDocument64(data: number, size: number, password: number): number;
  FPDF_CloseDocument(doc: number): void;
  FPDF_GetLastError(): number;
  FPDF_GetPageCount(doc: number): number;
  FPDF_LoadPage(doc: number, index: number): number;
  FPDF_ClosePage(page: number): void;
  FPDF_GetPageBoundingBox(page: number, rect: number): number;
  FPDFPage_GetRotation(page: number): number;
  FPDFPage_CountObjects(page: number): number;
  FPDFPage_GetObject(page: number, index: number): number;
  FPDFPageObj_GetType(object: number): number;
  FPDFPageObj_GetMatrix(object: number, matrix: number): number;
  FPDFPageObj_GetClipPath(object: number): number;
  FPDFPageObj_GetBounds(object: number, l: number, b: number, r: number, t: number): number;
  FPDFPageObj_GetRotatedBounds(object: number, quad: number): number;
  FPDFPageObj_HasTransparency(object: number): number;
  FPDFPageObj_GetFillColor(object: number, r: number, g: number, b: number, a: number): number;
  FPDFPageObj_GetStrokeColor(object: number, r: number, g: number, b: number, a: number): number;
  FPDFPageObj_GetStrokeWidth(object: number, width: number): number;
  FPDFPageObj_GetDashCount(object: number): number;
  FPDFPageObj_GetDashArray(object: number, array: number, count: number): number;
  FPDFPageObj_CountMarks(object: number): number;
  FPDFPageObj_GetMark(object: number, index: number): number;
  FPDFPageObjMark_GetName(mark: number, buffer: number, size: number, out: number): number;
  FPDFPageObjMark_GetParamIntValue(mark: number, key: number, out: number): number;
  FPDFClipPath_CountPaths(clip: number): number;
  FPDFClipPath_CountPathSegments(clip: number, path: number): number;
  FPDFClipPath_GetPathSegment(clip: number, path: number, index: number): number;
  FPDFPath_CountSegments(path: number): number;
  FPDFPath_GetPathSegment(path: number, index: number): number;
  FPDFPath_GetDrawMode(path: number, fill: number, stroke: number): number;
  FPDFPathSegment_GetPoint(segment: number, x: number, y: number): number;
  FPDFPathSegment_GetType(segment: number): number;
  FPDFPathSegment_GetClose(segment: number): number;
  FPDFPage_GetAnnotCount(page: number): number;
  FPDFPage_GetAnnot(page: number, index: number): number;
  FPDFPage_CloseAnnot(annotation: number): void;
  FPDFAnnot_GetSubtype(annotation: number): number;
  FPDFAnnot_GetFlags(annotation: number): number;
  FPDFAnnot_GetRect(annotation: number, rect: number): number;
  FPDFAnnot_GetLine(annotation: number, from: number, to: number): number;
  FPDFAnnot_GetVertices(annotation: number, buffer: number, count: number): number;
  FPDFAnnot_GetInkListCount(annotation: number): number;
  FPDFAnnot_GetInkListPath(annotation: number, index: number, buffer: number, count: number): number;
  FPDFAnnot_GetStringValue(annotation: number, key: number, buffer: number, bytes: number): number;
  EPDFAnnot_GetColor(annotation: number, type: number, r: number, g: number, b: number): number;
  FPDFImageObj_GetImagePixelSize(image: number, width: number, height: number): number;
  FPDFFormObj_CountObjects(form: number): number;
  FPDFFormObj_GetObject(form: number, index: number): number;
  FPDFText_LoadPage(page: number): number;
  FPDFText_ClosePage(page: number): void;
  FPDFText_CountChars(page: number): number;
  FPDFText_GetTextObject(page: number, index: number): number;
  FPDFText_GetUnicode(page: number, index: number): number;
  FPDFText_IsGenerated(page: number, index: number): number;
  FPDFText_GetCharOrigin(page: number, index: number, x: number, y: number): number;
  FPDFText_GetLooseCharBox(page: number, index: number, rect: number): number;
  FPDFTextObj_GetFontSize(text: number, size: number): number;
  FPDFTextObj_GetTextRenderMode(text: number): number;
  FPDFBitmap_CreateEx(width: number, height: number, format: number, first: number, stride: number): number;
  FPDFBitmap_FillRect(bitmap: number, x: number, y: number, w: number, h: number, colour: number): number;
  FPDFBitmap_GetBuffer(bitmap: number): number;
  FPDFBitmap_Destroy(bitmap: number): void;
  FPDF_RenderPageBitmap(
    bitmap: number,
    page: number,
    x: number,
    y: number,
    w: number,
    h: number,
    rotate: number,
    flags: number,
  ): void;
}

/** A started PDFium with its scratch memory. Throw it away after an abort. */
export interface Engine {
  pdfium: PdfiumExports;
  scratch: number;
}

const SCRATCH_BYTES = 4096;

/** The engine's code, compiled once in a process; each document has an instance of its own. */
let compiled: Promise<WebAssembly.Module> | null = null;

/**
 * Starts PDFium with its memory held below `maxMegabytes`, so that content which inflates without
 * end is stopped inside the engine and the process lives to say so.
 */
export async function startEngine(maxMegabytes: number): Promise<Engine> {
  compiled ??= WebAssembly.compile(
    readFileSync(createRequire(import.meta.url).resolve('@embedpdf/pdfium/pdfium.wasm')),
  );
  const code = compiled;
  const limit = maxMegabytes * 1024 * 1024;
  const options = {
    print: () => {},
    printErr: () => {},
    instantiateWasm(
      imports: Record<string, Record<string, unknown>>,
      done: (i: WebAssembly.Instance) => void,
    ) {
      const grow = imports.env.emscripten_resize_heap as (bytes: number) => number;
      imports.env.emscripten_resize_heap = (bytes: number) => (bytes >>> 0 > limit ? 0 : grow(bytes));
      void code.then((module) => WebAssembly.instantiate(module, imports as WebAssembly.Imports)).then(done);
      return {};
    },
  };
  const wrapped = await init(options as unknown as Partial<PdfiumModule>);
  const pdfium = wrapped.pdfium.wasmExports as unknown as PdfiumExports;
  pdfium.PDFiumExt_Init();
  return { pdfium, scratch: pdfium.malloc(SCRATCH_BYTES) };
}

const ERROR_PASSWORD = 4;

export interface OpenDocument {
  doc: number;
  close(): void;
}

/** Opens a document from its bytes; refuses with a code that says what is wrong. */
export function openDocument({ pdfium }: Engine, bytes: Uint8Array, password?: string): OpenDocument {
  const data = pdfium.malloc(bytes.length);
  if (data === 0)
    throw new ReadFailure('too-large', 'The file does not fit into the memory that reading may use.');
  new Uint8Array(pdfium.memory.buffer, data, bytes.length).set(bytes);
  const secret = cString(pdfium, password ?? '');
  const doc = pdfium.FPDF_LoadMemDocument64(data, bytes.length, secret);
  pdfium.free(secret);
  if (doc === 0) {
    const error = pdfium.FPDF_GetLastError();
    pdfium.free(data);
    if (error === ERROR_PASSWORD) {
      throw new ReadFailure(
        'password',
        password ? 'The password does not open this file.' : 'This file is protected: it needs a password.',
      );
    }
    throw new ReadFailure(
      'damaged',
      'This PDF is damaged or incomplete and could not be repaired. Ask for the file again, or export it anew.',
    );
  }
  return {
    doc,
    close() {
      pdfium.FPDF_CloseDocument(doc);
      pdfium.free(data);
    },
  };
}

export function cString(pdfium: PdfiumExports, text: string): number {
  const bytes = new TextEncoder().encode(text);
  const pointer = pdfium.malloc(bytes.length + 1);
  const heap = new Uint8Array(pdfium.memory.buffer, pointer, bytes.length + 1);
  heap.set(bytes);
  heap[bytes.length] = 0;
  return pointer;
}
