export { layOut, PaperError, writePdf, type PdfOptions } from './write-pdf.ts';
