export { asFailure, ReadFailure, type FailureCode } from './failure.ts';
export { kindOf, type FileKind } from './kinds.ts';
export { readFile, DEFAULT_MEMORY_MB, type FileFacts, type ReadOptions, type ReadPage } from './read-file.ts';
export { readRaster } from './read-raster.ts';
export { openPdf, type PdfReader } from './pdf/read-pdf.ts';
