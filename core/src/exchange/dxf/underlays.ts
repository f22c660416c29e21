import type { Point, Transform } from '../../geometry/index.ts';
import type { PdfUnderlay } from './dxf-drawing.ts';
import { encodeText, H, num, type Handles, type Pair } from './pairs.ts';

/** Name under which what the format itself cannot hold is written beside an underlay: its exact placing. */
export const OWN_DATA = 'CALQUE';
/** A PDF lies in a drawing by inches of its paper: of so many sheet points. */
export const POINTS_PER_INCH = 72;
/** What shows of an underlay (DXF reference, PDFUNDERLAY, group 280): its clip, itself. */
export const CLIPPED = 1,
  SHOWN = 2;
/** Fading goes to this (group 282). */
const MOST_FADE = 80;

const classPairs = (name: string, own: string, entity: 0 | 1): Pair[] => [
  [0, 'CLASS'],
  [1, name],
  [2, own],
  [3, 'ObjectDBX Classes'],
  [90, entity ? 4095 : 1153],
  [91, 0],
  [280, 0],
  [281, entity],
];
export const UNDERLAY_CLASSES: Pair[] = [
  ...classPairs('PDFDEFINITION', 'AcDbPdfDefinition', 0),
  ...classPairs('PDFUNDERLAY', 'AcDbPdfReference', 1),
];

/** Insertion, scales (drawing units to an inch of paper) and turn of a placing; a shear has no place in them. */
export function underlayPlacing([a, b, c, d, e, f]: Transform): {
  at: Point;
  sx: number;
  sy: number;
  radians: number;
} {
  const along = Math.hypot(a, b);
  return {
    at: [e, f],
    sx: along * POINTS_PER_INCH,
    sy: ((a * d - b * c) / along) * POINTS_PER_INCH,
    radians: Math.atan2(b, a),
  };
}

/** The sheets that a drawing refers to: one definition for each page of a file, one placing for each time that it is laid. */
export class UnderlayObjects {
  readonly entities: Pair[] = [];
  readonly inRoot: Pair[] = [];
  readonly objects: Pair[] = [];

  constructor(
    underlays: readonly PdfUnderlay[],
    k: number,
    handles: Handles,
    layerOf: (name: string) => string,
  ) {
    if (underlays.length === 0) return;
    const dictionary = handles.take(),
      definitions = new Map<string, { handle: string; file: string; page: number; placed: string[] }>();
    for (const u of underlays) {
      const key = `${u.file}\n${u.page}`,
        definition = definitions.get(key) ?? {
          handle: handles.take(),
          file: u.file,
          page: u.page,
          placed: [],
        },
        handle = handles.take();
      definitions.set(key, definition);
      definition.placed.push(handle);
      this.entities.push(...placed(u, k, handle, definition.handle, layerOf(u.layer)));
    }
    this.inRoot.push([3, 'ACAD_PDFDEFINITIONS'], [350, dictionary]);
    const all = [...definitions.values()];
    this.objects.push(
      [0, 'DICTIONARY'],
      [5, dictionary],
      [330, H.dictionary],
      [100, 'AcDbDictionary'],
      [281, 1],
      ...all.flatMap((d, i): Pair[] => [
        [3, encodeText(`${d.file.slice(0, 180)} - ${d.page} (${i + 1})`)],
        [350, d.handle],
      ]),
    );
    for (const d of all) {
      this.objects.push(
        [0, 'PDFDEFINITION'],
        [5, d.handle],
        [102, '{ACAD_REACTORS'],
        [330, dictionary],
        ...d.placed.map((h): Pair => [330, h]),
        [102, '}'],
        [330, dictionary],
        [100, 'AcDbUnderlayDefinition'],
        [1, encodeText(d.file)],
        [2, String(d.page)],
      );
    }
  }
}

function placed(u: PdfUnderlay, k: number, handle: string, definition: string, layer: string): Pair[] {
  const { at, sx, sy, radians } = underlayPlacing(u.planeFromSheet);
  return [
    [0, 'PDFUNDERLAY'],
    [5, handle],
    [330, H.modelRecord],
    [100, 'AcDbEntity'],
    [8, layer],
    [100, 'AcDbUnderlayReference'],
    [340, definition],
    [10, num(at[0] * k)],
    [20, num(at[1] * k)],
    [30, '0.0'],
    [41, num(sx * k)],
    [42, num(sy * k)],
    [43, num(Math.abs(sx) * k)],
    [50, num((radians * 180) / Math.PI)],
    [280, CLIPPED + (u.on ? SHOWN : 0)],
    [281, 100],
    [282, Math.round(MOST_FADE * u.fade)],
    ...u.ring.flatMap(([x, y]): Pair[] => [
      [11, num(x / POINTS_PER_INCH)],
      [21, num(y / POINTS_PER_INCH)],
    ]),
    // The placing in millimetres to the last bit, a shear as well.
    [1001, OWN_DATA],
    [1000, 'placing'],
    ...u.planeFromSheet.map((v): Pair => [1040, exact(v)]),
  ];
}

/** A number to its last bit. */
function exact(v: number): string {
  const text = String(v);
  return /[.e]/.test(text) ? text : `${text}.0`;
}
