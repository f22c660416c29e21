import {
  applyTransform,
  cubicPiece,
  isFullTurn,
  mapCubic,
  meanScale,
  MM_PER_POINT,
  movedPiece,
  pieceEnd,
  pieceStart,
  TAU,
  turnOf,
  type Arc,
  type Cubic,
  type Piece,
  type Region,
  type Transform,
} from '../geometry/index.ts';
import { ITEM_KINDS_OF_SHEET, type Linework, type SheetKind, type Switches } from '../linework/index.ts';
import { plainestFor, type Source, type Traced } from '../model/index.ts';
import { findDashes } from './dashes.ts';
import { asPieces, gather, type Strokes } from './gather.ts';
import { joinInLine, TOUCH } from './in-line.ts';
import { cellKey, chainRuns } from './runs.ts';

export interface ConvertAsk {
  /** In sheet points. */
  region: Region;
  /** What is on; what is off is left out. */
  switches: Switches;
  /** planeFromSheet. */
  placement: Transform;
  /** On the file's own layers, where it has some, or on layers by kind. */
  layering: 'file' | 'kind';
  planeId: string;
  source: Source;
}

/** A layer that elements are put on: 0xRRGGBB, weight in millimetres of paper. */
export interface ConvertedLayer {
  name: string;
  colour: number;
  weight: number;
}

/** Elements with the number of their layer in `layers`; their ids are given by whoever takes them. */
export interface Converted {
  layers: ConvertedLayer[];
  elements: Traced[];
  layerOf: number[];
  /** The kind of thing on the sheet that each was made of. */ kindOf: SheetKind[];
  /** How many pieces and texts of the sheet they were made of. */ from: number;
}

/** Layers by kind, for files that have none of their own. */
const KIND_NAMES: Record<SheetKind, string> = {
  line: 'Lines',
  curve: 'Curves',
  hatch: 'Hatches',
  fill: 'Outlines of fills',
  text: 'Texts',
  dimension: 'Dimensions',
  picture: 'Pictures',
  markup: 'Mark-ups',
};
/** Weight of what is drawn without a pen, millimetres. */
const THIN = 0.13;
const THINNEST = 0.05,
  THICKEST = 5;
/** Placements of which the two directions differ by less than this share keep circles. */
const EVEN = 1e-9;

/** A region of a sheet as clean elements: lines in line joined, doubles gone, chains as paths, dashes as one line, circles and arcs as such. */
export function convertRegion(
  l: Linework,
  ask: ConvertAsk,
  progress: (share: number) => void = () => {},
): Converted {
  const { strokes, texts } = gather(l, ask.region, ask.switches, (share) => progress(0.2 * share));
  const layers = new LayerBook(l, ask.layering);
  const elements: Traced[] = [],
    layerOf: number[] = [],
    kindOf: SheetKind[] = [];
  const base = { id: '', planeId: ask.planeId, source: ask.source };
  const put = (e: Traced | null, layer: number, kind: SheetKind) => {
    if (!e) return;
    elements.push(e);
    layerOf.push(layer);
    kindOf.push(kind);
  };
  const scale = meanScale(ask.placement),
    onPlane = planePieces(ask.placement);
  let done = 0;
  const total = strokes.reduce((n, s) => n + s.lines.length / 4 + s.pieces.length, 0) || 1;
  const from = total === 1 && strokes.length === 0 ? texts.length : total + texts.length;
  for (const s of strokes) {
    const layer = layers.of(s.layer, s.kind, s.pen),
      pen = s.pen >= 0 ? l.pens[s.pen] : null;
    const inked =
      pen && pen.dash.length >= 2
        ? { dash: pen.dash.slice(0, 12).map((d) => Math.max(d, 1e-3) * scale) }
        : {};
    const { runs, dashed } = tidy(s);
    for (const { pieces, closed } of runs)
      for (const run of ofOneKind(pieces.flatMap(onPlane), closed))
        put(plainestFor(run.pieces, { ...base, ...inked }, run.closed), layer, s.kind);
    for (const d of dashed)
      put(
        plainestFor(asPieces(d.line).flatMap(onPlane), { ...base, dash: d.dash.map((n) => n * scale) }),
        layer,
        s.kind,
      );
    done += s.lines.length / 4 + s.pieces.length;
    progress(0.2 + (0.8 * done) / total);
  }
  for (const t of texts) {
    const at = applyTransform(ask.placement, [t.x, t.y]);
    put(
      {
        ...base,
        type: 'text',
        at,
        angle: t.radians + turnOf(ask.placement),
        height: t.height * scale,
        text: t.text,
      },
      layers.of(t.layer, ITEM_KINDS_OF_SHEET[t.kind] === 'dimension' ? 'dimension' : 'text', -1),
      'text',
    );
  }
  progress(1);
  return { layers: layers.list, elements, layerOf, kindOf, from };
}

function tidy({ lines, pieces }: Strokes) {
  const joined = joinInLine(Float64Array.from(lines));
  const lone = loneLines(joined, pieces);
  const { dashed, left } = findDashes(joined, lone);
  const kept = left.flatMap((i) => [...joined.subarray(4 * i, 4 * i + 4)]);
  const bends = withoutDoubles(pieces);
  const circles = bends.filter((p) => p.kind === 'arc' && isFullTurn(p.arc)),
    open = bends.filter((p) => !(p.kind === 'arc' && isFullTurn(p.arc)));
  return {
    dashed,
    runs: [
      ...chainRuns([...asPieces(kept), ...open], TOUCH),
      ...circles.map((p) => ({ pieces: [p], closed: true })),
    ],
  };
}

/** Which lines meet nothing at either end. */
function loneLines(lines: Float64Array, pieces: readonly Piece[]): Uint8Array {
  const cell = (x: number, y: number) => cellKey(Math.round(x / TOUCH), Math.round(y / TOUCH));
  const met = new Map<number, number>();
  const add = (x: number, y: number) => met.set(cell(x, y), (met.get(cell(x, y)) ?? 0) + 1);
  for (let i = 0; i < lines.length; i += 2) add(lines[i], lines[i + 1]);
  for (const p of pieces) for (const [x, y] of [pieceStart(p), pieceEnd(p)]) add(x, y);
  const free = (x: number, y: number) => met.get(cell(x, y)) === 1;
  return Uint8Array.from({ length: lines.length / 4 }, (_, i) =>
    free(lines[4 * i], lines[4 * i + 1]) && free(lines[4 * i + 2], lines[4 * i + 3]) ? 1 : 0,
  );
}

/** Arcs, circles and curves that are drawn twice come once. */
function withoutDoubles(pieces: readonly Piece[]): Piece[] {
  const seen = new Set<string>();
  return pieces.filter((p) => {
    const numbers =
      p.kind === 'arc'
        ? [
            p.arc.cx,
            p.arc.cy,
            p.arc.r,
            p.arc.r * (isFullTurn(p.arc) ? 0 : p.arc.start),
            p.arc.r * (p.arc.end - p.arc.start),
          ]
        : p.kind === 'cubic'
          ? p.cubic
          : [...p.from, ...p.to];
    const key = `${p.kind} ${numbers.map((v) => Math.round(v / TOUCH)).join()}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** A run in parts that one element can hold: lines and arcs together, curves by themselves. */
function ofOneKind(pieces: readonly Piece[], closed: boolean): { pieces: Piece[]; closed: boolean }[] {
  const curved = (p: Piece) => p.kind === 'cubic';
  if (pieces.every((p) => curved(p) === curved(pieces[0]))) return [{ pieces: [...pieces], closed }];
  const out: { pieces: Piece[]; closed: boolean }[] = [];
  for (const p of pieces) {
    const last = out.at(-1);
    if (last && curved(last.pieces[0]) === curved(p)) last.pieces.push(p);
    else out.push({ pieces: [p], closed: false });
  }
  return out;
}

/** Pieces of the sheet on the plane. Where the sheet is stretched more one way than the other, arcs become curves. */
function planePieces(placement: Transform): (p: Piece) => Piece[] {
  const [a, b, c, d] = placement;
  const even =
    Math.abs(Math.hypot(a, b) / Math.hypot(c, d) - 1) < EVEN &&
    Math.abs(a * c + b * d) < EVEN * (a * a + b * b);
  return (p) =>
    even || p.kind !== 'arc'
      ? [movedPiece(p, placement)]
      : cubicsOf(p.arc, p.clockwise).map((cubic) => cubicPiece(mapCubic(cubic, placement)));
}

/** A Bézier of a twelfth of a turn misses its arc by less than a millionth of the radius. */
const ARC_STEP = TAU / 12;

function cubicsOf(arc: Arc, clockwise: boolean): Cubic[] {
  const n = Math.max(1, Math.ceil((arc.end - arc.start) / ARC_STEP)),
    step = (arc.end - arc.start) / n,
    k = (4 / 3) * Math.tan(step / 4) * arc.r;
  const cubics = Array.from({ length: n }, (_, i): Cubic => {
    const [p, q] = [arc.start + i * step, arc.start + (i + 1) * step];
    const [cp, sp, cq, sq] = [Math.cos(p), Math.sin(p), Math.cos(q), Math.sin(q)];
    const { cx, cy, r } = arc;
    return [
      cx + r * cp,
      cy + r * sp,
      cx + r * cp - k * sp,
      cy + r * sp + k * cp,
      cx + r * cq + k * sq,
      cy + r * sq - k * cq,
      cx + r * cq,
      cy + r * sq,
    ];
  });
  return clockwise
    ? cubics.reverse().map((c): Cubic => [c[6], c[7], c[4], c[5], c[2], c[3], c[0], c[1]])
    : cubics;
}

/** The layers that come about, each with the colour and weight of the pen that it is met with first. */
class LayerBook {
  readonly list: ConvertedLayer[] = [];
  private readonly known = new Map<string, number>();

  constructor(
    private readonly l: Linework,
    private readonly layering: ConvertAsk['layering'],
  ) {}

  of(layer: number, kind: SheetKind, pen: number): number {
    const name =
      this.layering === 'file' && layer >= 0
        ? this.l.layers[layer].name || `Layer ${layer + 1}`
        : KIND_NAMES[kind];
    const found = this.known.get(name);
    if (found !== undefined) return found;
    const drawn = pen >= 0 ? this.l.pens[pen] : null;
    this.known.set(name, this.list.length);
    this.list.push({
      name: name.slice(0, 200),
      colour: drawn && drawn.colour < LIGHT ? drawn.colour : 0x17273a,
      weight: drawn ? Math.min(THICKEST, Math.max(THINNEST, drawn.width * MM_PER_POINT)) : THIN,
    });
    return this.list.length - 1;
  }
}
/** Colours from here on are nearly white: they would not show on paper. */
const LIGHT = 0xf0f0f0;
