import { applyTransform, boxOfPoints, meanScale, type Point, type Transform } from '@calque/core/geometry';
import type { MarkupObject } from '@calque/core/linework';
import { cString, type Engine, type PdfiumExports } from './engine.ts';

/** Subtypes by the engine's number (ISO 32000-1, table 169). Links, form fields and pop-up windows are no mark-ups. */
const SUBTYPES: Record<number, string> = {
  1: 'Text',
  3: 'FreeText',
  4: 'Line',
  5: 'Square',
  6: 'Circle',
  7: 'Polygon',
  8: 'PolyLine',
  9: 'Highlight',
  10: 'Underline',
  11: 'Squiggly',
  12: 'StrikeOut',
  13: 'Stamp',
  14: 'Caret',
  15: 'Ink',
  17: 'FileAttachment',
};
const HIDDEN = 2,
  NO_VIEW = 32;
const COLOR = 0;
/** Colour and width where the mark-up states none. */
const USUAL_COLOUR = 0xd02020,
  USUAL_WIDTH = 1;
/** Width and height of a circle's box may differ by this share. */
const ROUND = 0.01;

/** The mark-ups that lie on a page, their geometry in sheet points. */
export function readMarkups(engine: Engine, page: number, sheetFromPage: Transform): MarkupObject[] {
  const { pdfium } = engine;
  const found: MarkupObject[] = [];
  const n = pdfium.FPDFPage_GetAnnotCount(page);
  for (let index = 0; index < n; index++) {
    const annotation = pdfium.FPDFPage_GetAnnot(page, index);
    if (annotation === 0) continue;
    const kind = SUBTYPES[pdfium.FPDFAnnot_GetSubtype(annotation)];
    if (kind && (pdfium.FPDFAnnot_GetFlags(annotation) & (HIDDEN | NO_VIEW)) === 0)
      found.push(readMarkup(engine, annotation, kind, index, sheetFromPage));
    pdfium.FPDFPage_CloseAnnot(annotation);
  }
  return found;
}

function readMarkup(
  engine: Engine,
  annotation: number,
  kind: string,
  index: number,
  sheetFromPage: Transform,
): MarkupObject {
  const { pdfium, scratch } = engine;
  const floats = (count: number) => [...new Float32Array(pdfium.memory.buffer, scratch, count)];
  const at = (x: number, y: number) => applyTransform(sheetFromPage, [x, y]);
  pdfium.FPDFAnnot_GetRect(annotation, scratch);
  const [left, top, right, bottom] = floats(4);
  const corners = [at(left, bottom), at(right, bottom), at(right, top), at(left, top)];
  const chains = chainsOf(pdfium, scratch, annotation, kind).map(({ points, closed }) => ({
    points: points.map(([x, y]) => at(x, y)),
    closed,
  }));
  if (kind === 'Square') chains.push({ points: corners, closed: true });
  const lines = chains.flatMap(({ points, closed }) =>
    (closed ? [...points, points[0]] : points)
      .slice(1)
      .map((p, i): [number, number, number, number] => [points[i][0], points[i][1], p[0], p[1]]),
  );
  const width = Math.abs(right - left),
    height = Math.abs(top - bottom),
    unit = meanScale(sheetFromPage);
  const round = kind === 'Circle' && Math.abs(width - height) <= ROUND * width;
  const [cx, cy] = at((left + right) / 2, (top + bottom) / 2);
  return {
    kind,
    index,
    lines,
    box: boxOfPoints(corners),
    colour: colourOf(pdfium, scratch, annotation),
    width: USUAL_WIDTH * unit,
    author: stringOf(engine, annotation, 'T'),
    comment: stringOf(engine, annotation, 'Contents'),
    date: isoDate(stringOf(engine, annotation, 'M')),
    ...(round && { circle: { cx, cy, r: (width * unit) / 2 } }),
  };
}

interface Chain {
  points: Point[];
  closed: boolean;
}

function chainsOf(pdfium: PdfiumExports, scratch: number, annotation: number, kind: string): Chain[] {
  if (kind === 'Line') {
    if (!pdfium.FPDFAnnot_GetLine(annotation, scratch, scratch + 8)) return [];
    const [x0, y0, x1, y1] = new Float32Array(pdfium.memory.buffer, scratch, 4);
    return [
      {
        points: [
          [x0, y0],
          [x1, y1],
        ],
        closed: false,
      },
    ];
  }
  const points = (count: number, fill: (buffer: number) => void): Point[] => {
    const buffer = pdfium.malloc(8 * count);
    fill(buffer);
    const values = [...new Float32Array(pdfium.memory.buffer, buffer, 2 * count)];
    pdfium.free(buffer);
    return Array.from({ length: count }, (_, i): Point => [values[2 * i], values[2 * i + 1]]);
  };
  if (kind === 'Polygon' || kind === 'PolyLine') {
    const count = pdfium.FPDFAnnot_GetVertices(annotation, 0, 0);
    return count < 2
      ? []
      : [
          {
            points: points(count, (buffer) => pdfium.FPDFAnnot_GetVertices(annotation, buffer, count)),
            closed: kind === 'Polygon',
          },
        ];
  }
  if (kind !== 'Ink') return [];
  return Array.from({ length: pdfium.FPDFAnnot_GetInkListCount(annotation) }, (_, k): Chain => {
    const count = pdfium.FPDFAnnot_GetInkListPath(annotation, k, 0, 0);
    return {
      points:
        count < 2
          ? []
          : points(count, (buffer) => pdfium.FPDFAnnot_GetInkListPath(annotation, k, buffer, count)),
      closed: false,
    };
  }).filter((chain) => chain.points.length > 1);
}

function colourOf(pdfium: PdfiumExports, scratch: number, annotation: number): number {
  if (!pdfium.EPDFAnnot_GetColor(annotation, COLOR, scratch, scratch + 4, scratch + 8)) return USUAL_COLOUR;
  const [r, g, b] = new Uint32Array(pdfium.memory.buffer, scratch, 3);
  return (r << 16) | (g << 8) | b;
}

/** A string of the annotation's dictionary; the engine gives UTF-16, little-endian, with an end mark. */
function stringOf({ pdfium }: Engine, annotation: number, key: string): string {
  const name = cString(pdfium, key);
  const bytes = pdfium.FPDFAnnot_GetStringValue(annotation, name, 0, 0);
  let text = '';
  if (bytes > 2) {
    const buffer = pdfium.malloc(bytes);
    pdfium.FPDFAnnot_GetStringValue(annotation, name, buffer, bytes);
    text = new TextDecoder('utf-16le').decode(new Uint8Array(pdfium.memory.buffer, buffer, bytes - 2));
    pdfium.free(buffer);
  }
  pdfium.free(name);
  return text.trim();
}

/** "D:20261123140500+01'00'" as 2026-11-23T14:05:00+01:00 (ISO 32000-1, 7.9.4). */
export function isoDate(text: string): string {
  const m = /^(?:D:)?(\d{4})(\d\d)?(\d\d)?(\d\d)?(\d\d)?(\d\d)?(?:([+-])(\d\d)'?(\d\d)?|(Z))?/.exec(text);
  if (!m) return '';
  const [
    ,
    year,
    month = '01',
    day = '01',
    hour,
    minute = '00',
    second = '00',
    sign,
    zoneHour,
    zoneMinute = '00',
    utc,
  ] = m;
  if (!hour) return `${year}-${month}-${day}`;
  return `${year}-${month}-${day}T${hour}:${minute}:${second}${sign ? `${sign}${zoneHour}:${zoneMinute}` : utc ? 'Z' : ''}`;
}
