import { applyTransform, type Transform } from '@calque/core/geometry';
import type { PdfiumExports } from './engine.ts';

/** One letter: its base point and the box of its advance, both in page space. */
export interface Letter {
  char: string;
  x: number;
  y: number;
  boxWidth: number;
  boxHeight: number;
}

/** All letters of the page by the text object that drew them. */
export function readLetters(pdfium: PdfiumExports, page: number, scratch: number): Map<number, Letter[]> {
  const found = new Map<number, Letter[]>();
  const textPage = pdfium.FPDFText_LoadPage(page);
  if (textPage === 0) return found;
  const n = pdfium.FPDFText_CountChars(textPage);
  for (let i = 0; i < n; i++) {
    if (pdfium.FPDFText_IsGenerated(textPage, i) === 1) continue;
    const code = pdfium.FPDFText_GetUnicode(textPage, i);
    // Control characters stand for glyphs without a meaning; they are no text.
    if (code < 32 || code === 0xfffe || code === 0xffff) continue;
    const object = pdfium.FPDFText_GetTextObject(textPage, i);
    pdfium.FPDFText_GetCharOrigin(textPage, i, scratch, scratch + 8);
    pdfium.FPDFText_GetLooseCharBox(textPage, i, scratch + 16);
    const [x, y] = new Float64Array(pdfium.memory.buffer, scratch, 2);
    const [left, top, right, bottom] = new Float32Array(pdfium.memory.buffer, scratch + 16, 4);
    const letter = {
      char: String.fromCodePoint(code),
      x,
      y,
      boxWidth: right - left,
      boxHeight: top - bottom,
    };
    const letters = found.get(object);
    if (letters) letters.push(letter);
    else found.set(object, [letter]);
  }
  pdfium.FPDFText_ClosePage(textPage);
  return found;
}

export interface TextRun {
  text: string;
  x: number;
  y: number;
  width: number;
}

/** A gap of this many ems inside one object parts two texts (the figures of a scale bar, a table's row). */
const PARTING_GAP = 1;
/** A gap of this many ems where the file has no space character is one all the same. */
const SPACE_GAP = 0.18;
/** Advance taken where a turned letter's box cannot tell it. */
const USUAL_ADVANCE = 0.5;

/** Cuts one object's letters into texts, in sheet space. */
export function textRuns(
  letters: readonly Letter[],
  sheetFromPage: Transform,
  matrix: Transform,
  size: number,
): TextRun[] {
  const scale = Math.hypot(matrix[0], matrix[1]) || 1;
  const ux = matrix[0] / scale,
    uy = matrix[1] / scale;
  const em = size * Math.hypot(matrix[2], matrix[3]) || 1;
  const unit = Math.hypot(sheetFromPage[0], sheetFromPage[1]);
  const runs: TextRun[] = [];
  for (const letter of letters) {
    const [x, y] = applyTransform(sheetFromPage, [letter.x, letter.y]);
    const advance = advanceOf(
      letter,
      unit,
      ux,
      uy,
      em,
      Math.abs(sheetFromPage[0]) < Math.abs(sheetFromPage[1]),
    );
    const run = runs[runs.length - 1];
    const along = run ? (x - run.x) * ux + (y - run.y) * uy : 0;
    const off = run ? Math.abs(-(x - run.x) * uy + (y - run.y) * ux) : 0;
    const gap = run ? (along - run.width) / em : 0;
    if (!run || gap > PARTING_GAP || along < -0.5 * em || off > 0.5 * em) {
      runs.push({ text: letter.char, x, y, width: advance });
      continue;
    }
    if (gap > SPACE_GAP && letter.char !== ' ' && !run.text.endsWith(' ')) run.text += ' ';
    run.text += letter.char;
    run.width = Math.max(run.width, along + advance);
  }
  return runs;
}

/** The advance along the base line from the upright box around a turned letter: w |c| + h |s| is its width, w |s| + h |c| its height. */
function advanceOf(
  letter: Letter,
  unit: number,
  ux: number,
  uy: number,
  em: number,
  quarterTurned: boolean,
): number {
  const w = (quarterTurned ? letter.boxHeight : letter.boxWidth) * unit,
    h = (quarterTurned ? letter.boxWidth : letter.boxHeight) * unit;
  const c = Math.abs(ux),
    s = Math.abs(uy);
  const det = c * c - s * s;
  const advance = Math.abs(det) < 0.2 ? USUAL_ADVANCE * em : (w * c - h * s) / det;
  return advance > 0 && advance < 3 * em ? advance : USUAL_ADVANCE * em;
}
