import {
  compose,
  IDENTITY,
  applyTransform,
  determinant,
  meanScale,
  turnOf,
  TAU,
  type Point,
  type Transform,
} from '../../geometry/index.ts';
import { Verb, CLOSE } from '../../linework/page-objects.ts';
import type { SceneStyle, Scene, SceneItem } from '../scene/scene.ts';
import { bulgeArc, polylineVertices, radians, sweepOf, type Vertex } from './bulges.ts';
import { dxfColour } from './colours.ts';
import { dxfRecords, number, numbers, text, type DxfRecord } from './records.ts';
import { unitArc } from './ellipse.ts';
import { hatchRings } from './hatch-rings.ts';
import { readUnderlays } from './read-underlays.ts';
import { dxfSections, type DxfBlock, type DxfSections } from './sections.ts';
import { splinePath } from './spline.ts';
import { wordsOf } from './words.ts';

/** Blocks within blocks beyond this depth are a file made to break readers. */
const DEEPEST = 24;
/** Rows and columns of one block reference, together. */
const MOST_COPIES = 20000;
/** Entities that are drawn, those in blocks as often as their block is: a small file of blocks within blocks may ask for billions. */
const MOST_DRAWN = 2e6,
  MOST_POINTS = 2e7;
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
  const reader = new DxfReader(dxfSections(records));
  const scene = reader.scene(),
    sheets = readUnderlays(records, scene.millimetresPerUnit);
  return sheets.length > 0 ? { ...scene, sheets } : scene;
}

class DxfReader {
  private readonly layers: string[] = [];
  private readonly layerIndex = new Map<string, number>();
  /** Blocks that are being drawn: one that is inserted in itself has no end. */
  private readonly open = new Set<DxfBlock>();
  private drawn = 0;
  private points = 0;
  private readonly items: SceneItem[] = [];
  private readonly unknown: Record<string, number> = {};
  private hatches = 0;

  constructor(private readonly file: DxfSections) {
    for (const name of file.layers.keys()) this.layerOf(name);
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
    const root: SceneStyle = { layer: -1, colour: 0, width: 0, dash: [] };
    this.draw(this.file.entities, IDENTITY, root, 0);
    return {
      items: this.items,
      layers: this.layers.map((name) => ({ name, on: this.file.layers.get(name)?.on ?? true })),
      millimetresPerUnit: this.file.millimetresPerUnit,
      unknown: this.unknown,
      hatches: this.hatches,
    };
  }

  private styleOf(r: DxfRecord, within: SceneStyle): SceneStyle {
    const name = text(r, 8) || '0';
    // What stands on layer 0 inside a block takes the layer of the reference.
    const layer = name === '0' && within.layer >= 0 ? within.layer : this.layerOf(name);
    const facts = this.file.layers.get(this.layers[layer]);
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
      width: within.kind === 'dimension' ? 0 : hundredths / 100 / (this.file.millimetresPerUnit ?? 1),
      dash: [],
      kind: within.kind,
    };
  }

  private draw(entities: readonly DxfRecord[], at: Transform, within: SceneStyle, depth: number): void {
    for (let i = 0; i < entities.length; i++) {
      const r = entities[i];
      if (++this.drawn > MOST_DRAWN)
        throw new DxfError(
          'more entities than can be drawn, blocks within blocks counted as often as they are used',
          true,
        );
      if (number(r, 67) === 1 || number(r, 60) === 1) continue;
      const style = this.styleOf(r, within);
      // Seen from below (extrusion along -z), x is mirrored (DXF reference, object coordinate system).
      const place: Transform =
        number(r, 230, 1) < 0 && MIRRORED.has(r.type) ? compose(at, [-1, 0, 0, 1, 0, 0]) : at;
      if (r.type === 'POLYLINE') {
        const vertices: DxfRecord[] = [];
        while (entities[i + 1]?.type === 'VERTEX') vertices.push(entities[++i]);
        this.oldPolyline(r, vertices, place, style);
      } else if (r.type === 'INSERT') {
        this.insert(r, place, style, depth);
        while (entities[i + 1]?.type === 'ATTRIB') this.words(entities[++i], at, style);
      } else if (!this.simple(r, place, style, depth) && !SILENT.has(r.type))
        this.unknown[r.type] = (this.unknown[r.type] ?? 0) + 1;
    }
  }

  /** Draws an entity that stands alone; false for one that is not known. */
  private simple(r: DxfRecord, at: Transform, style: SceneStyle, depth: number): boolean {
    switch (r.type) {
      case 'LINE':
        this.path(
          style,
          at,
          [
            [number(r, 10), number(r, 20)],
            [number(r, 11), number(r, 21)],
          ],
          false,
        );
        return true;
      case 'LWPOLYLINE':
        this.bulged(style, at, polylineVertices(r), (number(r, 70) & 1) !== 0);
        return true;
      case 'CIRCLE':
        this.round(style, at, [number(r, 10), number(r, 20)], number(r, 40), 0, TAU);
        return true;
      case 'ARC':
        this.round(
          style,
          at,
          [number(r, 10), number(r, 20)],
          number(r, 40),
          radians(number(r, 50)),
          radians(number(r, 51)),
        );
        return true;
      case 'ELLIPSE':
        this.ellipse(r, at, style);
        return true;
      case 'SPLINE': {
        const { verbs, points } = splinePath(r);
        this.add({
          type: 'path',
          style,
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
        this.words(r, at, style);
        return true;
      case 'SOLID':
      case 'TRACE': {
        const p = [10, 11, 13, 12].map((c): Point => [number(r, c), number(r, c + 10)]);
        this.add({
          type: 'path',
          style,
          verbs: closedVerbs(4),
          points: p.map((q) => applyTransform(at, q)),
          stroke: false,
          fill: 'nonzero',
          fillColour: style.colour,
        });
        return true;
      }
      case '3DFACE':
        this.path(
          style,
          at,
          [10, 11, 12, 13].map((c): Point => [number(r, c), number(r, c + 10)]),
          true,
        );
        return true;
      case 'LEADER': {
        const xs = numbers(r, 10),
          ys = numbers(r, 20);
        this.path(
          { ...style, kind: 'dimension' },
          at,
          xs.map((x, k): Point => [x, ys[k] ?? 0]),
          false,
        );
        return true;
      }
      case 'DIMENSION': {
        const block = this.file.blocks.get(text(r, 2).toUpperCase());
        if (block && depth < DEEPEST)
          this.draw(block.entities, at, { ...style, kind: 'dimension' }, depth + 1);
        return true;
      }
      case 'HATCH':
        this.hatch(r, at, style);
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

  private path(style: SceneStyle, at: Transform, points: readonly Point[], closed: boolean): void {
    if (points.length < 2) return;
    const verbs = points.map((_, i) => (i === 0 ? Verb.move : Verb.line) as number);
    if (closed) verbs[verbs.length - 1] |= CLOSE;
    this.add({
      type: 'path',
      style,
      verbs,
      points: points.map((p) => applyTransform(at, p)),
      stroke: true,
      fill: 'none',
      fillColour: 0,
    });
  }

  /** Circle or arc, counter-clockwise in its own plane; an uneven scale makes Béziers of it. */
  private round(
    style: SceneStyle,
    at: Transform,
    centre: Point,
    r: number,
    start: number,
    end: number,
  ): void {
    if (!(r > 0) || !Number.isFinite(start) || !Number.isFinite(end)) return;
    const sweep = sweepOf(start, end);
    if (!isSimilarity(at)) {
      this.ellipseArc(style, at, centre, [r, 0], 1, start, start + sweep);
      return;
    }
    const [cx, cy] = applyTransform(at, centre);
    const mirrored = determinant(at) < 0,
      turn = turnOf(at);
    const from = mirrored ? turn - start - sweep : turn + start;
    this.add({ type: 'round', style, cx, cy, r: r * meanScale(at), start: from, end: from + sweep });
  }

  private ellipse(r: DxfRecord, at: Transform, style: SceneStyle): void {
    const start = number(r, 41, 0),
      end = number(r, 42, TAU);
    const mirrored = number(r, 230, 1) < 0;
    this.ellipseArc(
      style,
      at,
      [number(r, 10), number(r, 20)],
      [number(r, 11), number(r, 21)],
      number(r, 40, 1) * (mirrored ? -1 : 1),
      start,
      start + sweepOf(start, end),
    );
  }

  private ellipseArc(
    style: SceneStyle,
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
    const { verbs, points } = unitArc(start, end);
    this.add({
      type: 'path',
      style,
      verbs,
      points: points.map((p) => applyTransform(space, p)),
      stroke: true,
      fill: 'none',
      fillColour: 0,
    });
  }

  /** A polyline whose pieces may bulge: the bulge is the tangent of a quarter of the arc's angle. */
  private bulged(style: SceneStyle, at: Transform, vertices: readonly Vertex[], closed: boolean): void {
    const n = vertices.length;
    if (vertices.every((v) => v.bulge === 0)) {
      this.path(
        style,
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
        this.path(style, at, [a, b], false);
        continue;
      }
      const arc = bulgeArc(a, b, bulge);
      if (arc) this.round(style, at, arc.centre, arc.r, arc.start, arc.end);
    }
  }

  private oldPolyline(r: DxfRecord, vertices: readonly DxfRecord[], at: Transform, style: SceneStyle): void {
    const flags = number(r, 70);
    if ((flags & (16 | 64)) !== 0) {
      this.unknown['POLYLINE (mesh)'] = (this.unknown['POLYLINE (mesh)'] ?? 0) + 1;
      return;
    }
    // Control points of a fitted spline (16) stand beside the points of the curve that they made.
    const shown = vertices.filter((v) => (number(v, 70) & 16) === 0);
    this.bulged(
      style,
      at,
      shown.map((v) => ({ p: [number(v, 10), number(v, 20)], bulge: number(v, 42) })),
      (flags & 1) !== 0,
    );
  }

  private insert(r: DxfRecord, at: Transform, style: SceneStyle, depth: number): void {
    const block = this.file.blocks.get(text(r, 2).toUpperCase());
    if (!block) return;
    if (depth >= DEEPEST || this.open.has(block)) {
      this.unknown['INSERT (of itself)'] = (this.unknown['INSERT (of itself)'] ?? 0) + 1;
      return;
    }
    this.open.add(block);
    this.copies(r, block, at, style, depth);
    this.open.delete(block);
  }

  private copies(r: DxfRecord, block: DxfBlock, at: Transform, style: SceneStyle, depth: number): void {
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
          style,
          depth + 1,
        );
      }
    }
  }

  private words(r: DxfRecord, at: Transform, style: SceneStyle): void {
    for (const line of wordsOf(r, at)) this.add({ type: 'text', style, ...line });
  }

  /** A hatch by its boundary: filled, of the kind hatch; its edges can be snapped to. */
  private hatch(r: DxfRecord, at: Transform, style: SceneStyle): void {
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
        style: { ...style, kind: 'hatch' },
        verbs,
        points,
        stroke: false,
        fill: 'evenodd',
        fillColour: style.colour,
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

const closedVerbs = (n: number) =>
  Array.from({ length: n }, (_, i) => (i === 0 ? Verb.move : Verb.line) | (i === n - 1 ? CLOSE : 0));
const isSimilarity = (t: Transform) =>
  Math.abs(Math.hypot(t[0], t[1]) - Math.hypot(t[2], t[3])) < 1e-9 * Math.hypot(t[0], t[1]) &&
  Math.abs(t[0] * t[2] + t[1] * t[3]) < 1e-9 * Math.abs(determinant(t));
