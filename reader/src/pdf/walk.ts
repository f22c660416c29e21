import { compose, IDENTITY, meanScale, type Region, type Transform } from '@calque/core/geometry';
import { Verb, CLOSE, type Colour, type PageSink, type PathObject } from '@calque/core/linework';
import type { Engine, PdfiumExports } from './engine.ts';
import { ClipReader } from './clips.ts';
import type { LayerTable } from './layer-table.ts';
import { readLetters, textRuns, type Letter } from './letters.ts';

/** Object types of the page-object interface. */
const TYPE = { text: 1, path: 2, image: 3, shading: 4, form: 5 } as const;
/** PDFium's records of a path: f32 x, f32 y, u8 type (0 line, 1 Bézier, 2 move), u8 close; 12 bytes. */
const RECORD_BYTES = 12;
const VERB_OF_TYPE = [Verb.line, Verb.curve, Verb.move] as const;
/** Text render modes that paint nothing: 3 neither fill nor stroke, 7 clip alone. */
const INVISIBLE_MODES = new Set([3, 7]);
/** Forms within forms beyond this depth are a file made to break readers. */
const DEEPEST_FORM = 100;

interface Enclosing {
  /** space of the objects -> sheet */
  matrix: Transform;
  clips: readonly Region[];
  layer: number;
  hidden: boolean;
  /** Product of the groups' alphas, 0 to 1. */
  alpha: number;
  /** A group that is blended: nothing inside hides what is below. */
  blended: boolean;
}

/** Walks a page's objects in paint order and hands them to the sink. */
export class PageWalker {
  private readonly pdfium: PdfiumExports;
  private readonly at: number;
  private u8: Uint8Array;
  private f32: Float32Array;
  private i32: Int32Array;
  private letters: Map<number, Letter[]> | null = null;
  private sheetFromPage: Transform = IDENTITY;
  private readonly clipReader: ClipReader;
  private coords = new Float32Array(4096);
  private verbs = new Uint8Array(2048);
  /** Counts every object in paint order, forms and what is skipped included: the page's picture counts the same way. */
  private ordinal = 0;
  private dashKey: readonly number[] = [];
  private readonly record: { -readonly [K in keyof PathObject]: PathObject[K] };
  private readonly layerKeys: { layer: number; off: number };

  constructor(
    engine: Engine,
    private readonly page: number,
    private readonly layers: LayerTable,
    private readonly sink: PageSink,
    keys: { layer: number; off: number },
  ) {
    this.pdfium = engine.pdfium;
    this.at = engine.scratch;
    this.u8 = new Uint8Array(0);
    this.f32 = new Float32Array(0);
    this.i32 = new Int32Array(0);
    this.refresh();
    this.layerKeys = keys;
    this.clipReader = new ClipReader(this.pdfium);
    this.record = {
      coords: this.coords,
      verbs: this.verbs,
      count: 0,
      matrix: [1, 0, 0, 1, 0, 0],
      clips: [],
      layer: -1,
      hidden: false,
      fill: 'none',
      fillColour: null,
      opaque: false,
      stroke: null,
      strokeWidth: 0,
      dash: [],
    };
  }

  walk(sheetFromPage: Transform): void {
    this.sheetFromPage = sheetFromPage;
    const root: Enclosing = {
      matrix: sheetFromPage,
      clips: [],
      layer: -1,
      hidden: false,
      alpha: 1,
      blended: false,
    };
    const n = this.pdfium.FPDFPage_CountObjects(this.page);
    for (let i = 0; i < n; i++) this.visit(this.pdfium.FPDFPage_GetObject(this.page, i), root, 0);
  }

  private refresh(): void {
    const { buffer } = this.pdfium.memory;
    if (this.u8.buffer === buffer) return;
    this.u8 = new Uint8Array(buffer);
    this.f32 = new Float32Array(buffer);
    this.i32 = new Int32Array(buffer);
  }

  private visit(object: number, within: Enclosing, depth: number): void {
    const type = this.pdfium.FPDFPageObj_GetType(object);
    const own = this.ownState(object, within);
    const ordinal = this.ordinal++;
    if (type === TYPE.path) this.path(object, own, ordinal);
    else if (type === TYPE.text) this.text(object, own, ordinal);
    else if (type === TYPE.image) this.image(object, own, ordinal);
    else if (type === TYPE.form && depth < DEEPEST_FORM) this.form(object, own, depth);
  }

  /** What holds for the object itself: clips of its own added, layer marks read. */
  private ownState(object: number, within: Enclosing): Enclosing {
    const clips = this.clipReader.clipsOf(object, within.clips, within.matrix);
    this.refresh();
    if (this.layers.layers.length === 0) return clips === within.clips ? within : { ...within, clips };
    let { layer, hidden } = within;
    const marks = this.pdfium.FPDFPageObj_CountMarks(object);
    for (let i = 0; i < marks; i++) {
      const mark = this.pdfium.FPDFPageObj_GetMark(object, i);
      if (!this.pdfium.FPDFPageObjMark_GetParamIntValue(mark, this.layerKeys.layer, this.at)) continue;
      layer = this.i32[this.at >> 2];
      const off =
        this.pdfium.FPDFPageObjMark_GetParamIntValue(mark, this.layerKeys.off, this.at) &&
        this.i32[this.at >> 2] === 1;
      if (off) hidden = true;
    }
    return { ...within, clips, layer, hidden };
  }

  private matrixOf(object: number): Transform {
    this.pdfium.FPDFPageObj_GetMatrix(object, this.at);
    const k = this.at >> 2,
      f = this.f32;
    return [f[k], f[k + 1], f[k + 2], f[k + 3], f[k + 4], f[k + 5]];
  }

  private colour(
    object: number,
    get: 'FPDFPageObj_GetFillColor' | 'FPDFPageObj_GetStrokeColor',
    alpha: number,
  ): Colour | null {
    const p = this.at;
    if (!this.pdfium[get](object, p, p + 4, p + 8, p + 12)) return null;
    const k = p >> 2;
    return { r: this.i32[k], g: this.i32[k + 1], b: this.i32[k + 2], a: this.i32[k + 3] * alpha };
  }

  private path(object: number, own: Enclosing, ordinal: number): void {
    const { pdfium, record } = this;
    const n = pdfium.FPDFPath_CountSegments(object);
    if (n <= 0) return;
    pdfium.FPDFPath_GetDrawMode(object, this.at, this.at + 4);
    const fillMode = this.i32[this.at >> 2],
      strokes = this.i32[(this.at >> 2) + 1] !== 0;
    const local = this.matrixOf(object);
    this.copyPoints(pdfium.FPDFPath_GetPathSegment(object, 0), n);
    record.ordinal = ordinal;
    record.matrix = compose(own.matrix, local);
    record.clips = own.clips;
    record.layer = own.layer;
    record.hidden = own.hidden;
    record.fill = fillMode === 0 ? 'none' : fillMode === 1 ? 'evenodd' : 'nonzero';
    record.fillColour = fillMode === 0 ? null : this.colour(object, 'FPDFPageObj_GetFillColor', own.alpha);
    record.pattern = fillMode !== 0 && record.fillColour === null ? this.layers.patterns : undefined;
    record.opaque =
      fillMode !== 0 &&
      record.fillColour !== null &&
      record.fillColour.a >= 254.5 &&
      !own.blended &&
      !pdfium.FPDFPageObj_HasTransparency(object);
    record.stroke = strokes
      ? (this.colour(object, 'FPDFPageObj_GetStrokeColor', own.alpha) ?? { r: 0, g: 0, b: 0, a: 255 })
      : null;
    if (strokes) {
      const scale = meanScale(record.matrix);
      pdfium.FPDFPageObj_GetStrokeWidth(object, this.at);
      record.strokeWidth = this.f32[this.at >> 2] * scale;
      record.dash = this.dashOf(object, scale);
    }
    this.sink.path(record);
  }

  private dashOf(object: number, scale: number): readonly number[] {
    const n = Math.min(this.pdfium.FPDFPageObj_GetDashCount(object), 32);
    if (n <= 0) return NO_DASH;
    this.pdfium.FPDFPageObj_GetDashArray(object, this.at, n);
    const k = this.at >> 2;
    const dash = Array.from(this.f32.subarray(k, k + n), (d) => d * scale);
    if (dash.every((d) => d === 0)) return NO_DASH;
    if (dash.length !== this.dashKey.length || dash.some((d, i) => d !== this.dashKey[i]))
      this.dashKey = dash;
    return this.dashKey;
  }

  private copyPoints(pointer: number, n: number): void {
    this.refresh();
    if (n > this.verbs.length) {
      this.coords = new Float32Array(4 * n);
      this.verbs = new Uint8Array(2 * n);
      this.record.coords = this.coords;
      this.record.verbs = this.verbs;
    }
    const { coords, verbs, f32, u8 } = this;
    let k = pointer >> 2,
      b = pointer + 8;
    for (let i = 0; i < n; i++, k += 3, b += RECORD_BYTES) {
      coords[2 * i] = f32[k];
      coords[2 * i + 1] = f32[k + 1];
      verbs[i] = VERB_OF_TYPE[u8[b]] | (u8[b + 1] ? CLOSE : 0);
    }
    this.record.count = n;
  }

  private text(object: number, own: Enclosing, ordinal: number): void {
    const { pdfium } = this;
    this.letters ??= readLetters(pdfium, this.page, this.at);
    const letters = this.letters.get(object);
    if (!letters) return;
    pdfium.FPDFTextObj_GetFontSize(object, this.at);
    this.refresh();
    const size = this.f32[this.at >> 2];
    const matrix = compose(own.matrix, this.matrixOf(object));
    const mode = pdfium.FPDFTextObj_GetTextRenderMode(object);
    const strokesOnly = mode === 1 || mode === 5;
    const colour = this.colour(
      object,
      strokesOnly ? 'FPDFPageObj_GetStrokeColor' : 'FPDFPageObj_GetFillColor',
      own.alpha,
    );
    for (const { text, x, y, width } of textRuns(letters, this.sheetFromPage, matrix, size)) {
      this.sink.text({
        ordinal,
        text,
        size,
        width,
        clips: own.clips,
        layer: own.layer,
        hidden: own.hidden,
        colour,
        invisible: INVISIBLE_MODES.has(mode),
        matrix: [matrix[0], matrix[1], matrix[2], matrix[3], x, y],
      });
    }
  }

  private image(object: number, own: Enclosing, ordinal: number): void {
    const matrix = compose(own.matrix, this.matrixOf(object));
    const colour = this.colour(object, 'FPDFPageObj_GetFillColor', own.alpha);
    const pixels = this.pdfium.FPDFImageObj_GetImagePixelSize(object, this.at, this.at + 4)
      ? ([this.i32[this.at >> 2], this.i32[(this.at >> 2) + 1]] as const)
      : undefined;
    this.sink.image({
      ordinal,
      matrix,
      clips: own.clips,
      layer: own.layer,
      hidden: own.hidden,
      transparent: own.alpha === 0 || colour?.a === 0,
      pixels,
    });
  }

  private form(object: number, own: Enclosing, depth: number): void {
    const { pdfium } = this;
    const colour = this.colour(object, 'FPDFPageObj_GetFillColor', 1);
    const alpha = own.alpha * (colour === null ? 1 : colour.a / 255);
    const inside: Enclosing = {
      ...own,
      matrix: compose(own.matrix, this.matrixOf(object)),
      alpha,
      blended: own.blended || alpha < 0.998,
    };
    const n = pdfium.FPDFFormObj_CountObjects(object);
    for (let i = 0; i < n; i++) this.visit(pdfium.FPDFFormObj_GetObject(object, i), inside, depth + 1);
  }
}

const NO_DASH: readonly number[] = [];
