import {
  compose,
  IDENTITY,
  applyTransform,
  determinant,
  meanScale,
  normalAngle,
  turnOf,
  TAU,
  type Point,
  type Transform,
} from '../../geometry/index.ts';
import { Verb, CLOSE } from '../../linework/page-objects.ts';
import type { Look, Scene, SceneItem } from '../scene/scene.ts';
import { dxfColour } from './colours.ts';
import { dxfRecords, number, numbers, text, type DxfRecord } from './records.ts';
import { readUnderlays } from './read-underlays.ts';
import { splinePath } from './spline.ts';

/** Millimetres per unit by $INSUNITS (DXF reference, header variables); units that are no lengths of a building are left out. */
const UNITS: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  3: 1609344,
  4: 1,
  5: 10,
  6: 1000,
  7: 1e6,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  13: 1e-3,
  14: 100,
  15: 1e4,
  16: 1e5,
};

/** Blocks within blocks beyond this depth are a file made to break readers. */
const DEEPEST = 24;
/** Rows and columns of one block reference, together. */
const MOST_COPIES = 20000;
/** Entities that are drawn, those in blocks as often as their block is: a small file of blocks within blocks may ask for billions. */
const MOST_DRAWN = 2e6,
  MOST_POINTS = 2e7;
/** Longest text that is read for its formatting. */
const LONGEST_WORDS = 5000;
/** Pieces per quarter of an ellipse. */
const ELLIPSE_PIECES = 4;
/** Entities that draw nothing on a plan. */
const SILENT = new Set([
  'PDFUNDERLAY',
  'VIEWPORT',
  'ATTDEF',
  'POINT',
  'SEQEND',
  'VERTEX',
  'ENDBLK',
  'BLOCK',
  'ENDSEC',
  'EOF',
]);

interface Layer {
  on: boolean;
  colour: number;
  width: number;
}
interface Block {
  base: Point;
  entities: DxfRecord[];
}

export class DxfError extends Error {
  constructor(
    message: string,
    readonly tooLarge = false,
  ) {
    super(message);
  }
}

/** Reads the plan of an ASCII DXF: what lies in model space, seen from above. Never runs or fetches anything. */
export function readDxf(source: string): Scene {
  const records = dxfRecords(source);
  if (!records.some((r) => r.type === 'SECTION')) throw new DxfError('no sections');
  const reader = new DxfReader(records);
  const scene = reader.scene(),
    sheets = readUnderlays(records, scene.millimetresPerUnit);
  return sheets.length > 0 ? { ...scene, sheets } : scene;
}

class DxfReader {
  private readonly layers: string[] = [];
  private readonly layerIndex = new Map<string, number>();
  /** Blocks that are being drawn: one that is inserted in itself has no end. */
  private readonly open = new Set<Block>();
  private drawn = 0;
  private points = 0;
  private readonly layerFacts = new Map<string, Layer>();
  private readonly blocks = new Map<string, Block>();
  private readonly entities: DxfRecord[] = [];
  private readonly items: SceneItem[] = [];
  private readonly unknown: Record<string, number> = {};
  private units: number | null = null;
  private hatches = 0;

  constructor(records: readonly DxfRecord[]) {
    let section = '';
    let block: Block | null = null;
    for (const r of records) {
      if (r.type === 'SECTION') section = text(r, 2);
      else if (section === 'TABLES' && r.type === 'LAYER') this.readLayer(r);
      else if (section === 'BLOCKS' && r.type === 'BLOCK') {
        block = { base: [number(r, 10), number(r, 20)], entities: [] };
        this.blocks.set(text(r, 2).toUpperCase(), block);
      } else if (section === 'BLOCKS' && r.type === 'ENDBLK') block = null;
      else if (section === 'BLOCKS') block?.entities.push(r);
      else if (section === 'ENTITIES' && r.type !== 'ENDSEC') this.entities.push(r);
      if (section === 'HEADER') this.readHeader(r);
    }
  }

  private readHeader(r: DxfRecord): void {
    for (let i = 0; i < r.pairs.length; i++) {
      const [code, value] = r.pairs[i];
      if (code === 9 && value === '$INSUNITS') this.units = UNITS[Number(r.pairs[i + 1]?.[1])] ?? null;
    }
  }

  private readLayer(r: DxfRecord): void {
    const colour = number(r, 62, 7);
    const frozen = (number(r, 70) & 1) !== 0;
    this.layerFacts.set(text(r, 2), {
      on: colour >= 0 && !frozen,
      colour: dxfColour(Math.abs(colour), numbers(r, 420)[0]),
      width: number(r, 370, -3),
    });
    this.layerOf(text(r, 2));
  }

  private layerOf(name: string): number {
    let at = this.layerIndex.get(name);
    if (at === undefined) {
      at = this.layers.push(name) - 1;
      this.layerIndex.set(name, at);
    }
    return at;
  }

  scene(): Scene {
    const root: Look = { layer: -1, colour: 0, width: 0, dash: [] };
    this.draw(this.entities, IDENTITY, root, 0);
    return {
      items: this.items,
      layers: this.layers.map((name) => ({ name, on: this.layerFacts.get(name)?.on ?? true })),
      millimetresPerUnit: this.units,
      unknown: this.unknown,
      hatches: this.hatches,
    };
  }

  private look(r: DxfRecord, within: Look): Look {
    const name = text(r, 8) || '0';
    // What stands on layer 0 inside a block takes the layer of the reference.
    const layer = name === '0' && within.layer >= 0 ? within.layer : this.layerOf(name);
    const facts = this.layerFacts.get(this.layers[layer]);
    const index = number(r, 62, 256);
    const exact = numbers(r, 420)[0];
    const colour =
      exact !== undefined
        ? exact & 0xffffff
        : index === 256
          ? (facts?.colour ?? 0)
          : index === 0
            ? within.colour
            : dxfColour(Math.abs(index));
    const weight = number(r, 370, -1);
    const hundredths = weight >= 0 ? weight : facts && facts.width >= 0 ? facts.width : 0;
    // Line weights are millimetres on paper, in hundredths; the drawing's own unit is not theirs.
    return {
      layer,
      colour,
      width: within.kind === 'dimension' ? 0 : hundredths / 100 / (this.units ?? 1),
      dash: [],
      kind: within.kind,
    };
  }

  private draw(entities: readonly DxfRecord[], at: Transform, within: Look, depth: number): void {
    for (let i = 0; i < entities.length; i++) {
      const r = entities[i];
      if (++this.drawn > MOST_DRAWN)
        throw new DxfError(
          'more entities than can be drawn, blocks within blocks counted as often as they are used',
          true,
        );
      if (number(r, 67) === 1 || number(r, 60) === 1) continue;
      const look = this.look(r, within);
      // Seen from below (extrusion along -z), x is mirrored (DXF reference, object coordinate system).
      const place: Transform =
        number(r, 230, 1) < 0 && MIRRORED.has(r.type) ? compose(at, [-1, 0, 0, 1, 0, 0]) : at;
      if (r.type === 'POLYLINE') {
        const vertices: DxfRecord[] = [];
        while (entities[i + 1]?.type === 'VERTEX') vertices.push(entities[++i]);
        this.oldPolyline(r, vertices, place, look);
      } else if (r.type === 'INSERT') {
        this.insert(r, place, look, depth);
        while (entities[i + 1]?.type === 'ATTRIB') this.words(entities[++i], at, look);
      } else if (!this.simple(r, place, look, depth) && !SILENT.has(r.type))
        this.unknown[r.type] = (this.unknown[r.type] ?? 0) + 1;
    }
  }

  /** Draws an entity that stands alone; false for one that is not known. */
  private simple(r: DxfRecord, at: Transform, look: Look, depth: number): boolean {
    switch (r.type) {
      case 'LINE':
        this.path(
          look,
          at,
          [
            [number(r, 10), number(r, 20)],
            [number(r, 11), number(r, 21)],
          ],
          false,
        );
        return true;
      case 'LWPOLYLINE':
        this.bulged(look, at, polylineVertices(r), (number(r, 70) & 1) !== 0);
        return true;
      case 'CIRCLE':
        this.round(look, at, [number(r, 10), number(r, 20)], number(r, 40), 0, TAU);
        return true;
      case 'ARC':
        this.round(
          look,
          at,
          [number(r, 10), number(r, 20)],
          number(r, 40),
          radians(number(r, 50)),
          radians(number(r, 51)),
        );
        return true;
      case 'ELLIPSE':
        this.ellipse(r, at, look);
        return true;
      case 'SPLINE': {
        const { verbs, points } = splinePath(r);
        this.add({
          type: 'path',
          look,
          verbs,
          points: points.map((p) => applyTransform(at, p)),
          stroke: true,
          fill: 'none',
          fillColour: 0,
        });
        return true;
      }
      case 'TEXT':
      case 'ATTRIB':
      case 'MTEXT':
        this.words(r, at, look);
        return true;
      case 'SOLID':
      case 'TRACE': {
        const p = [10, 11, 13, 12].map((c): Point => [number(r, c), number(r, c + 10)]);
        this.add({
          type: 'path',
          look,
          verbs: closedVerbs(4),
          points: p.map((q) => applyTransform(at, q)),
          stroke: false,
          fill: 'nonzero',
          fillColour: look.colour,
        });
        return true;
      }
      case '3DFACE':
        this.path(
          look,
          at,
          [10, 11, 12, 13].map((c): Point => [number(r, c), number(r, c + 10)]),
          true,
        );
        return true;
      case 'LEADER': {
        const xs = numbers(r, 10),
          ys = numbers(r, 20);
        this.path(
          { ...look, kind: 'dimension' },
          at,
          xs.map((x, k): Point => [x, ys[k] ?? 0]),
          false,
        );
        return true;
      }
      case 'DIMENSION': {
        const block = this.blocks.get(text(r, 2).toUpperCase());
        if (block && depth < DEEPEST)
          this.draw(block.entities, at, { ...look, kind: 'dimension' }, depth + 1);
        return true;
      }
      case 'HATCH':
        this.hatch(r, at, look);
        return true;
      default:
        return false;
    }
  }

  private add(item: SceneItem): void {
    if (item.type === 'path' && (this.points += item.points.length) > MOST_POINTS)
      throw new DxfError('more points than can be drawn', true);
    this.items.push(item);
  }

  private path(look: Look, at: Transform, points: readonly Point[], closed: boolean): void {
    if (points.length < 2) return;
    const verbs = points.map((_, i) => (i === 0 ? Verb.move : Verb.line) as number);
    if (closed) verbs[verbs.length - 1] |= CLOSE;
    this.add({
      type: 'path',
      look,
      verbs,
      points: points.map((p) => applyTransform(at, p)),
      stroke: true,
      fill: 'none',
      fillColour: 0,
    });
  }

  /** Circle or arc, counter-clockwise in its own plane; an uneven scale makes Béziers of it. */
  private round(look: Look, at: Transform, centre: Point, r: number, start: number, end: number): void {
    if (!(r > 0) || !Number.isFinite(start) || !Number.isFinite(end)) return;
    const sweep = sweepOf(start, end);
    if (!isSimilarity(at)) {
      this.ellipseArc(look, at, centre, [r, 0], 1, start, start + sweep);
      return;
    }
    const [cx, cy] = applyTransform(at, centre);
    const mirrored = determinant(at) < 0,
      turn = turnOf(at);
    const from = mirrored ? turn - start - sweep : turn + start;
    this.add({ type: 'round', look, cx, cy, r: r * meanScale(at), start: from, end: from + sweep });
  }

  private ellipse(r: DxfRecord, at: Transform, look: Look): void {
    const start = number(r, 41, 0),
      end = number(r, 42, TAU);
    const mirrored = number(r, 230, 1) < 0;
    this.ellipseArc(
      look,
      at,
      [number(r, 10), number(r, 20)],
      [number(r, 11), number(r, 21)],
      number(r, 40, 1) * (mirrored ? -1 : 1),
      start,
      start + sweepOf(start, end),
    );
  }

  private ellipseArc(
    look: Look,
    at: Transform,
    centre: Point,
    major: Point,
    ratio: number,
    start: number,
    end: number,
  ): void {
    const space = compose(at, [
      major[0],
      major[1],
      -major[1] * ratio,
      major[0] * ratio,
      centre[0],
      centre[1],
    ]);
    const pieces = Math.max(1, Math.ceil(((end - start) / (Math.PI / 2)) * ELLIPSE_PIECES));
    const step = (end - start) / pieces,
      handle = (4 / 3) * Math.tan(step / 4);
    const points: Point[] = [[Math.cos(start), Math.sin(start)]];
    for (let i = 0; i < pieces; i++) {
      const a = start + i * step,
        b = a + step;
      points.push(
        [Math.cos(a) - handle * Math.sin(a), Math.sin(a) + handle * Math.cos(a)],
        [Math.cos(b) + handle * Math.sin(b), Math.sin(b) - handle * Math.cos(b)],
        [Math.cos(b), Math.sin(b)],
      );
    }
    this.add({
      type: 'path',
      look,
      verbs: [Verb.move, ...Array.from({ length: pieces }, () => Verb.curve)],
      points: points.map((p) => applyTransform(space, p)),
      stroke: true,
      fill: 'none',
      fillColour: 0,
    });
  }

  /** A polyline whose pieces may bulge: the bulge is the tangent of a quarter of the arc's angle. */
  private bulged(look: Look, at: Transform, vertices: readonly Vertex[], closed: boolean): void {
    const n = vertices.length;
    if (vertices.every((v) => v.bulge === 0)) {
      this.path(
        look,
        at,
        vertices.map((v) => v.p),
        closed,
      );
      return;
    }
    for (let i = 0; i < (closed ? n : n - 1); i++) {
      const a = vertices[i].p,
        b = vertices[(i + 1) % n].p,
        { bulge } = vertices[i];
      if (bulge === 0) {
        this.path(look, at, [a, b], false);
        continue;
      }
      const arc = bulgeArc(a, b, bulge);
      if (arc) this.round(look, at, arc.centre, arc.r, arc.start, arc.end);
    }
  }

  private oldPolyline(r: DxfRecord, vertices: readonly DxfRecord[], at: Transform, look: Look): void {
    const flags = number(r, 70);
    if ((flags & (16 | 64)) !== 0) {
      this.unknown['POLYLINE (mesh)'] = (this.unknown['POLYLINE (mesh)'] ?? 0) + 1;
      return;
    }
    // Control points of a fitted spline (16) stand beside the points of the curve that they made.
    const shown = vertices.filter((v) => (number(v, 70) & 16) === 0);
    this.bulged(
      look,
      at,
      shown.map((v) => ({ p: [number(v, 10), number(v, 20)], bulge: number(v, 42) })),
      (flags & 1) !== 0,
    );
  }

  private insert(r: DxfRecord, at: Transform, look: Look, depth: number): void {
    const block = this.blocks.get(text(r, 2).toUpperCase());
    if (!block) return;
    if (depth >= DEEPEST || this.open.has(block)) {
      this.unknown['INSERT (of itself)'] = (this.unknown['INSERT (of itself)'] ?? 0) + 1;
      return;
    }
    this.open.add(block);
    this.copies(r, block, at, look, depth);
    this.open.delete(block);
  }

  private copies(r: DxfRecord, block: Block, at: Transform, look: Look, depth: number): void {
    const sx = number(r, 41, 1),
      sy = number(r, 42, 1),
      turn = radians(number(r, 50));
    const columns = Math.max(1, number(r, 70, 1)),
      rows = Math.max(1, number(r, 71, 1));
    if (columns * rows > MOST_COPIES) {
      this.unknown['INSERT (too many copies)'] = (this.unknown['INSERT (too many copies)'] ?? 0) + 1;
      return;
    }
    const c = Math.cos(turn),
      s = Math.sin(turn);
    for (let row = 0; row < rows; row++) {
      for (let column = 0; column < columns; column++) {
        const dx = column * number(r, 44),
          dy = row * number(r, 45);
        const space: Transform = [
          c * sx,
          s * sx,
          -s * sy,
          c * sy,
          number(r, 10) + c * dx - s * dy,
          number(r, 20) + s * dx + c * dy,
        ];
        this.draw(
          block.entities,
          compose(compose(at, space), [1, 0, 0, 1, -block.base[0], -block.base[1]]),
          look,
          depth + 1,
        );
      }
    }
  }

  private words(r: DxfRecord, at: Transform, look: Look): void {
    const multi = r.type === 'MTEXT';
    const raw = (
      multi
        ? r.pairs
            .filter(([c]) => c === 3 || c === 1)
            .map(([, v]) => v)
            .join('')
        : text(r, 1)
    ).slice(0, LONGEST_WORDS);
    const lines = (
      multi
        ? plainMtext(raw)
        : raw
            .replace(/%%[cC]/g, 'Ø')
            .replace(/%%[dD]/g, '°')
            .replace(/%%[pP]/g, '±')
            .replace(/%%[uUoO]/g, '')
    ).split('\n');
    const height = number(r, 40, 1);
    const turn =
      multi && numbers(r, 11).length > 0 ? Math.atan2(number(r, 21), number(r, 11)) : radians(number(r, 50));
    const justified = !multi && (number(r, 72) !== 0 || number(r, 73) !== 0) && numbers(r, 11).length > 0;
    const anchor: Point =
      justified && number(r, 72) !== 3 && number(r, 72) !== 5
        ? [number(r, 11), number(r, 21)]
        : [number(r, 10), number(r, 20)];
    lines.forEach((line, k) => {
      if (line.trim() === '') return;
      const width = 0.6 * height * line.length * number(r, multi ? 44 : 41, 1);
      const [across, up] = multi
        ? mtextOffset(number(r, 71, 1), k, lines.length, height, width)
        : textOffset(justified ? number(r, 72) : 0, justified ? number(r, 73) : 0, height, width);
      const c = Math.cos(turn),
        s = Math.sin(turn);
      const [x, y] = applyTransform(at, [anchor[0] + c * across - s * up, anchor[1] + s * across + c * up]);
      this.add({
        type: 'text',
        look,
        text: line,
        x,
        y,
        height: height * meanScale(at),
        radians: turn + turnOf(at),
        width: width * meanScale(at),
      });
    });
  }

  /** A hatch by its boundary: filled, of the kind hatch; its edges can be snapped to. */
  private hatch(r: DxfRecord, at: Transform, look: Look): void {
    this.hatches++;
    const rings = hatchRings(r);
    const verbs: number[] = [],
      points: Point[] = [];
    for (const ring of rings) {
      if (ring.length < 3) continue;
      for (const verb of closedVerbs(ring.length)) verbs.push(verb);
      for (const p of ring) points.push(applyTransform(at, p));
    }
    if (points.length > 0)
      this.add({
        type: 'path',
        look: { ...look, kind: 'hatch' },
        verbs,
        points,
        stroke: false,
        fill: 'evenodd',
        fillColour: look.colour,
      });
  }
}

/** Entities whose coordinates are in their own plane rather than the world's. */
const MIRRORED = new Set([
  'LWPOLYLINE',
  'POLYLINE',
  'CIRCLE',
  'ARC',
  'INSERT',
  'TEXT',
  'ATTRIB',
  'SOLID',
  'TRACE',
  'HATCH',
]);

/** From one angle counter-clockwise to another, radians: more than nothing, a full turn at most. */
function sweepOf(start: number, end: number): number {
  const sweep = end - start > 0 && end - start <= TAU ? end - start : normalAngle(end - start);
  return sweep <= 1e-12 ? TAU : sweep;
}

interface Vertex {
  p: Point;
  bulge: number;
}

const radians = (degrees: number) => (degrees * Math.PI) / 180;
const closedVerbs = (n: number) =>
  Array.from({ length: n }, (_, i) => (i === 0 ? Verb.move : Verb.line) | (i === n - 1 ? CLOSE : 0));
const isSimilarity = (t: Transform) =>
  Math.abs(Math.hypot(t[0], t[1]) - Math.hypot(t[2], t[3])) < 1e-9 * Math.hypot(t[0], t[1]) &&
  Math.abs(t[0] * t[2] + t[1] * t[3]) < 1e-9 * Math.abs(determinant(t));

function polylineVertices(r: DxfRecord): Vertex[] {
  const out: Vertex[] = [];
  for (const [code, value] of r.pairs) {
    if (code === 10) out.push({ p: [Number(value), 0], bulge: 0 });
    else if (code === 20 && out.length > 0) out[out.length - 1].p = [out[out.length - 1].p[0], Number(value)];
    else if (code === 42 && out.length > 0) out[out.length - 1].bulge = Number(value);
  }
  return out.filter((v) => v.p.every(Number.isFinite) && Number.isFinite(v.bulge));
}

/** The arc of a bulge, counter-clockwise from start to end; null where its ends are one. */
export function bulgeArc(
  a: Point,
  b: Point,
  bulge: number,
): { centre: Point; r: number; start: number; end: number } | null {
  const dx = b[0] - a[0],
    dy = b[1] - a[1],
    chord = Math.hypot(dx, dy);
  if (chord === 0) return null;
  const angle = 4 * Math.atan(bulge);
  const r = chord / (2 * Math.sin(Math.abs(angle) / 2));
  // From the chord's middle to the centre, to the left of the way for a positive bulge.
  const h = (chord * (1 - bulge * bulge)) / (4 * bulge);
  const centre: Point = [(a[0] + b[0]) / 2 - (dy / chord) * h, (a[1] + b[1]) / 2 + (dx / chord) * h];
  const [first, last] = bulge > 0 ? [a, b] : [b, a];
  const start = Math.atan2(first[1] - centre[1], first[0] - centre[0]);
  let end = Math.atan2(last[1] - centre[1], last[0] - centre[0]);
  if (end <= start) end += TAU;
  return { centre, r, start, end };
}

/** From the anchor to the base point, by horizontal (72) and vertical (73) justification. */
function textOffset(across: number, up: number, height: number, width: number): Point {
  const x = across === 1 || across === 4 ? -width / 2 : across === 2 ? -width : 0;
  const y = across === 4 || up === 2 ? -height / 2 : up === 3 ? -height : 0;
  return [x, y];
}

const LINE_SPACING = 1.66;

/** From the anchor to the base point of a line, by attachment (1 to 9, from top left to bottom right). */
function mtextOffset(attachment: number, line: number, lines: number, height: number, width: number): Point {
  const column = (attachment - 1) % 3,
    row = Math.floor((attachment - 1) / 3);
  const top =
    row === 0
      ? -height
      : row === 1
        ? ((lines - 1) * LINE_SPACING * height) / 2 - height / 2
        : (lines - 1) * LINE_SPACING * height;
  return [-(column * width) / 2, top - line * LINE_SPACING * height];
}

/** Text of MTEXT without its formatting codes. */
function plainMtext(raw: string): string {
  return raw
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    .replace(/\\S([^;]*?)[\^/#]([^;]*);/g, '$1/$2')
    .replace(/\\[ACcFfHhQTWp][^;]*;/g, '')
    .replace(/\\P/g, '\n')
    .replace(/\\~/g, '\u00a0')
    .replace(/\\[LlOoKkN]/g, '')
    .replace(/%%[cC]/g, 'Ø')
    .replace(/%%[dD]/g, '°')
    .replace(/%%[pP]/g, '±')
    .replace(/(?<!\\)[{}]/g, '')
    .replace(/\\([\\{}])/g, '$1');
}

/** Boundary rings of a hatch, arcs as short chords: a hatch's edge is for the eye. */
function hatchRings(r: DxfRecord): Point[][] {
  const rings: Point[][] = [];
  const pairs = r.pairs;
  let i = pairs.findIndex(([c]) => c === 91);
  if (i < 0) return rings;
  const paths = Number(pairs[i][1]);
  i++;
  const take = (code: number): number => {
    while (i < pairs.length && pairs[i][0] !== code) i++;
    return i < pairs.length ? Number(pairs[i++][1]) : 0;
  };
  for (let k = 0; k < paths && i < pairs.length; k++) {
    const flags = take(92);
    const ring: Point[] = [];
    if ((flags & 2) !== 0) {
      const bulges = take(72) === 1;
      take(73);
      const n = take(93);
      const vertices: Vertex[] = [];
      for (let v = 0; v < n && i < pairs.length; v++) {
        const x = take(10),
          y = take(20);
        vertices.push({ p: [x, y], bulge: bulges && pairs[i]?.[0] === 42 ? take(42) : 0 });
      }
      vertices.forEach((v, m) => {
        ring.push(v.p);
        const arc = v.bulge === 0 ? null : bulgeArc(v.p, vertices[(m + 1) % vertices.length].p, v.bulge);
        if (arc) ring.push(...chords(arc.centre, arc.r, arc.start, arc.end, v.bulge < 0).slice(1, -1));
      });
    } else {
      const n = take(93);
      for (let e = 0; e < n && i < pairs.length; e++) {
        const type = take(72);
        if (type === 1) {
          ring.push([take(10), take(20)]);
          take(11);
          take(21);
        } else if (type === 2) {
          const centre: Point = [take(10), take(20)],
            radius = take(40),
            a = radians(take(50)),
            b = radians(take(51)),
            ccw = take(73) === 1;
          ring.push(...(ccw ? chords(centre, radius, a, b, false) : chords(centre, radius, -b, -a, true)));
        } else if (type === 3) {
          const centre: Point = [take(10), take(20)],
            major: Point = [take(11), take(21)],
            ratio = take(40),
            a = radians(take(50)),
            b = radians(take(51));
          take(73);
          ring.push(
            ...chords([0, 0], 1, a, b, false).map(([x, y]): Point => [
              centre[0] + x * major[0] - y * ratio * major[1],
              centre[1] + x * major[1] + y * ratio * major[0],
            ]),
          );
        } else break;
      }
    }
    rings.push(ring);
  }
  return rings;
}

function chords(centre: Point, r: number, start: number, end: number, backwards: boolean): Point[] {
  const sweep = sweepOf(start, end);
  const n = Math.max(2, Math.ceil(sweep / (Math.PI / 16)));
  const points = Array.from({ length: n + 1 }, (_, i): Point => [
    centre[0] + r * Math.cos(start + (sweep * i) / n),
    centre[1] + r * Math.sin(start + (sweep * i) / n),
  ]);
  return backwards ? points.reverse() : points;
}
