import { linesOfLayers, linesOfOpenings, shownParts, wedgesOf, type CutWalls } from '@calque/core/building';
import {
  flattenPiece,
  ringArea,
  segmentPiece,
  type Piece,
  type Point,
  type Polygon,
} from '@calque/core/geometry';
import {
  edgesOf,
  gripsOf,
  kindOf,
  looseOf,
  ofType,
  ownerId,
  piecesOf,
  settingsOf,
  type Model,
  type Traced,
  type Wall,
  type WallType,
} from '@calque/core/model';
import type { LengthStyle } from '@calque/core/units';
import type { TraceOfPlane } from '../trace-cache';
import type { Brush } from '../brush';
import type { StrokeLook } from '../strokes';
import { cssColour } from '../palette';
import { kept } from './kept';
import { PlanePath } from './plane-path';
import { paintAbove, paintBelow } from './words';

/** How much of the trace shows while looking through it. */
export const THROUGH = 0.1;
/** Line of the trace, CSS pixels. */
const OUTLINE = 1.4;

export function paintTrace(
  brush: Brush,
  model: Model,
  trace: TraceOfPlane,
  selection: ReadonlySet<string>,
  lookThrough: boolean,
): void {
  const { context } = brush,
    style: LengthStyle = settingsOf(model);
  context.save();
  context.globalAlpha = lookThrough ? THROUGH : 1;
  if (trace.outlines) paintOutlines(brush, outlinesPath(trace.outlines));
  else paintBodies(brush, trace, context.globalAlpha);
  paintLayeredWalls(brush, trace);
  paintWallLayers(brush, trace, model);
  paintOpenings(brush, trace);
  const alpha = context.globalAlpha;
  paintBelow(brush, trace, style, alpha);
  for (const { look, path } of trace.strokes.paths()) paintStrokes(brush, look, path, alpha);
  context.globalAlpha = alpha;
  paintAbove(brush, trace, style, alpha);
  context.globalAlpha = alpha;
  paintSelection(brush, trace, selection);
  context.restore();
}

/** How strongly another storey shows through. */
const GHOST_ALPHA = 0.55;

/** The trace of another storey, by its lines alone and in one tint. */
export function paintGhost(brush: Brush, trace: TraceOfPlane, lookThrough: boolean): void {
  const { context, palette } = brush;
  context.save();
  context.globalAlpha = lookThrough ? THROUGH : GHOST_ALPHA;
  context.strokeStyle = palette.ghost;
  (trace.outlines ? outlinesPath(trace.outlines) : bodyPaths(trace.cut).edges).stroke(brush, 1);
  for (const { path } of trace.strokes.paths()) path.stroke(brush, 1);
  context.restore();
}

/** A dash of a layer's line type, CSS pixels. */
const TYPE_DASH = 11;
/** Dashes shorter than this on the screen run together, CSS pixels. */
const LEAST_DASH = 1.5;
/** Width on the screen of a weight on paper: told apart, but never so wide that thin things close up. */
const pixelsOf = (weight: number) => Math.min(2.4, OUTLINE + 2 * (weight - 0.25));

function paintStrokes(brush: Brush, look: StrokeLook, path: PlanePath, alpha: number): void {
  const { context, view } = brush;
  context.strokeStyle = cssColour(look.colour);
  context.globalAlpha = alpha * (1 - look.fade);
  const own = Math.max(...look.dash) * view.scale >= LEAST_DASH ? look.dash : [];
  const dash = look.dash.length > 0 ? own : look.typeDash.map((share) => (share * TYPE_DASH) / view.scale);
  path.stroke(brush, Math.max(1, pixelsOf(look.weight)), dash);
}

/** Walls on a layer of their own show its colour over the common outline. */
function paintLayeredWalls(brush: Brush, trace: TraceOfPlane): void {
  const { context } = brush,
    alpha = context.globalAlpha;
  for (const wall of trace.walls) {
    const layer = wall.layerId ? trace.layers.get(wall.layerId) : undefined,
      body = trace.cut.bodies.get(wall.id);
    if (!layer || !body) continue;
    context.beginPath();
    for (const part of trace.cut.parts.get(wall.id) ?? [body]) ringPath(brush, part);
    context.fillStyle = context.strokeStyle = cssColour(layer.colour);
    context.globalAlpha = 0.3 * alpha * (1 - layer.fade);
    context.fill();
    context.globalAlpha = alpha * (1 - layer.fade);
    context.lineWidth = Math.max(1, pixelsOf(layer.weight));
    context.stroke();
  }
  context.globalAlpha = alpha;
}

/** Lines between the layers of built-up walls, CSS pixels; walls thinner than this on the screen show none. */
const LAYER_LINE = 0.75,
  LEAST_SHOWN = 5;

const layered = new WeakMap<CutWalls, { types: readonly WallType[]; path: PlanePath; thickest: number }>();

/** The layers of the walls that are of a type; kept until a wall or a type changes. */
function paintWallLayers(brush: Brush, { cut, walls }: TraceOfPlane, model: Model): void {
  const types = ofType(model, 'wallType');
  if (types.length === 0) return;
  let known = layered.get(cut);
  if (known?.types.length !== types.length || known.types.some((t, i) => t !== types[i])) {
    const path = new PlanePath();
    for (const [from, to] of linesOfLayers(model, walls, () => cut)) path.piece(segmentPiece(from, to));
    const thickest = walls.reduce((most, w) => (w.wallType ? Math.max(most, w.thickness) : most), 0);
    known = { types, path, thickest };
    layered.set(cut, known);
  }
  if (known.thickest * brush.view.scale < LEAST_SHOWN) return;
  brush.context.strokeStyle = brush.palette.ink;
  known.path.stroke(brush, LAYER_LINE);
}

/** Lines of doors and windows, CSS pixels. */
const OPENING_LINE = 1;

/** Leaves, swings and panes of the openings. */
function paintOpenings(brush: Brush, trace: TraceOfPlane): void {
  if (trace.cut.parts.size === 0) return;
  const { context, palette } = brush;
  context.strokeStyle = palette.ink;
  openingsPath(trace.walls).stroke(brush, OPENING_LINE);
}

const openingsPath = kept((walls: readonly Wall[]) => {
  const path = new PlanePath();
  for (const wall of walls)
    for (const { lines } of linesOfOpenings(wall)) for (const piece of lines) path.piece(piece);
  return path;
});

/** The united outlines, filled and drawn. */
function paintOutlines(brush: Brush, path: PlanePath): void {
  const { context, palette } = brush;
  context.fillStyle = palette.wallFill;
  path.fill(brush, 'evenodd');
  context.strokeStyle = palette.ink;
  path.stroke(brush, OUTLINE);
}

/**
 * Bodies that are not united yet: all edges first, then the inside is wiped clean, so that what stays is
 * the outline of all walls together. The layer holds nothing else yet.
 */
function paintBodies(brush: Brush, trace: TraceOfPlane, alpha: number): void {
  const { context, palette } = brush;
  const { edges, solid } = bodyPaths(trace.cut);
  context.strokeStyle = palette.ink;
  edges.stroke(brush, 2 * OUTLINE);
  context.globalCompositeOperation = 'destination-out';
  context.globalAlpha = 1;
  solid.fill(brush);
  context.globalCompositeOperation = 'source-over';
  context.globalAlpha = alpha;
  context.fillStyle = palette.wallFill;
  solid.fill(brush);
}

const outlinesPath = kept((outlines: Polygon[]) => {
  const path = new PlanePath();
  for (const polygon of outlines) for (const ring of polygon) path.ring(ring);
  return path;
});

const bodyPaths = kept((cut: CutWalls) => {
  const edges = new PlanePath(),
    solid = new PlanePath();
  for (const part of shownParts(cut)) edges.ring(part);
  // Ring by ring in one direction, so that overlaps at tees stay filled.
  for (const body of [...shownParts(cut), ...wedgesOf(cut)])
    solid.ring(ringArea(body) < 0 ? [...body].reverse() : body);
  return { edges, solid };
});

function paintSelection(brush: Brush, trace: TraceOfPlane, selection: ReadonlySet<string>): void {
  if (selection.size === 0) return;
  const { context, palette } = brush;
  context.strokeStyle = palette.now;
  context.lineWidth = 2;
  context.fillStyle = 'rgba(212,69,31,0.22)';
  context.beginPath();
  for (const wall of trace.walls) {
    const body = selection.has(ownerId(wall.id)) ? trace.cut.bodies.get(wall.id) : undefined;
    if (body) ringPath(brush, body);
  }
  context.fill();
  context.stroke();
  if (selection.size > MOST_WITH_GRIPS) {
    chosenPath(trace, selection).stroke(brush, OUTLINE + 1);
    return;
  }
  const chosen = [...selection].map((id) => trace.elements.get(id)).filter((e) => e !== undefined);
  // A line's own stroke lies beneath: it is covered.
  context.lineWidth = OUTLINE + 1;
  context.beginPath();
  for (const e of chosen) if (e.type !== 'wall') elementPath(brush, e);
  context.stroke();
  context.lineWidth = 1;
  context.beginPath();
  for (const e of chosen) if (e.type === 'wall') elementPath(brush, e);
  context.stroke();
  context.fillStyle = '#fffefa';
  context.lineWidth = 1.5;
  for (const e of chosen) {
    // Middles of stretches, smaller: they move the stretch.
    for (const { middle } of edgesOf(e)) {
      const [x, y] = brush.at(middle);
      context.fillRect(x - 3, y - 3, 6, 6);
      context.strokeRect(x - 3, y - 3, 6, 6);
    }
    for (const grip of gripsOf(e)) {
      const [x, y] = brush.at(grip);
      context.beginPath();
      context.arc(x, y, 4.5, 0, 2 * Math.PI);
      context.fill();
      context.stroke();
    }
  }
}

/** Lines of a selection of thousands (a sheet just converted), made once for as long as both stay. */
function chosenPath(trace: TraceOfPlane, selection: ReadonlySet<string>): PlanePath {
  const known = chosenPaths.get(selection);
  if (known?.trace === trace) return known.path;
  const path = new PlanePath();
  for (const id of selection) {
    const e = trace.elements.get(id);
    if (e) path.element(e);
  }
  chosenPaths.set(selection, { trace, path });
  return path;
}
const chosenPaths = new WeakMap<ReadonlySet<string>, { trace: TraceOfPlane; path: PlanePath }>();

/** Grips of more elements than these would hide the drawing: none show, and none can be taken hold of. */
export const MOST_WITH_GRIPS = 300;

/** The lines of an element, of a text its frame, added to the path being made on the screen. */
export function elementPath(brush: Brush, e: Traced): void {
  for (const one of looseOf(e)) {
    const frame = kindOf(one).frame(one);
    if (frame) ringPath(brush, frame);
    else for (const piece of piecesOf(one)) piecePath(brush, piece);
  }
}

/** Chords stray from what they stand for by at most this, CSS pixels. */
const CHORD_PIXELS = 0.2;

export function piecePath(brush: Brush, piece: Piece): void {
  if (piece.kind === 'segment') return segmentPath(brush, piece.from, piece.to);
  flattenPiece(piece, CHORD_PIXELS / brush.view.scale).forEach((p, i) => {
    const [x, y] = brush.at(p);
    if (i === 0) brush.context.moveTo(x, y);
    else brush.context.lineTo(x, y);
  });
}

export function ringPath(brush: Brush, ring: readonly Point[]): void {
  ring.forEach((p, i) => {
    const [x, y] = brush.at(p);
    if (i === 0) brush.context.moveTo(x, y);
    else brush.context.lineTo(x, y);
  });
  brush.context.closePath();
}

export function segmentPath(brush: Brush, from: Point, to: Point): void {
  const [x0, y0] = brush.at(from),
    [x1, y1] = brush.at(to);
  brush.context.moveTo(x0, y0);
  brush.context.lineTo(x1, y1);
}
