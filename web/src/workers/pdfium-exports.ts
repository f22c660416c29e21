/** The functions of PDFium that drawing uses. */
export interface Pdfium {
  memory: WebAssembly.Memory;
  malloc(bytes: number): number;
  free(pointer: number): void;
  PDFiumExt_Init(): void;
  FPDF_LoadMemDocument64(data: number, size: number, password: number): number;
  FPDF_LoadPage(doc: number, index: number): number;
  FPDF_ClosePage(page: number): void;
  FPDF_GetPageWidthF(page: number): number;
  FPDF_GetPageHeightF(page: number): number;
  FPDFPage_CountObjects(page: number): number;
  FPDFPage_GetObject(page: number, index: number): number;
  FPDFPageObj_GetType(object: number): number;
  FPDFPageObj_SetIsActive(object: number, active: number): number;
  FPDFFormObj_CountObjects(form: number): number;
  FPDFFormObj_GetObject(form: number, index: number): number;
  FPDFPage_GetAnnotCount(page: number): number;
  FPDFPage_GetAnnot(page: number, index: number): number;
  FPDFPage_CloseAnnot(annotation: number): void;
  FPDFAnnot_GetFlags(annotation: number): number;
  FPDFAnnot_SetFlags(annotation: number, flags: number): number;
  FPDFBitmap_CreateEx(width: number, height: number, format: number, first: number, stride: number): number;
  FPDFBitmap_FillRect(bitmap: number, x: number, y: number, w: number, h: number, colour: number): number;
  FPDFBitmap_GetBuffer(bitmap: number): number;
  FPDFBitmap_Destroy(bitmap: number): void;
  FPDF_RenderPageBitmapWithMatrix(
    bitmap: number,
    page: number,
    matrix: number,
    clip: number,
    flags: number,
  ): void;
}
