export { layOut, PaperError, writePdf, type PdfOptions } from './write-pdf.ts';
export { writeReadyPdf, type InkSources } from './write-ready.ts';
