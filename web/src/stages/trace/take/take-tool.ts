import { bandOf, plainBody } from '@calque/core/building';
import { facePairs, outlineAround, type FacePair } from '@calque/core/conversion';
import { flattenPiece, meanScale, pathOfPieces, segmentPiece, type Piece, type Point } from '@calque/core/geometry';
import { get, ofType, plainestFor, USUAL_STOREY_HEIGHT, type Traced, type Underlay, type Wall } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { REACH_PIXELS } from '@/table/hit';
import { elementPath, ringPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Brush, Pick, Tool } from '@/table/tool';
import { elementOf, sourceOf, type Shape } from '../draw/drawn';
import { useTraceState } from '../state';
import { linesOf, type FoundLines } from './plan-lines';

const SNAPPED = [{ snapped: true, typed: false, ink: false }];
/** Lines of a sheet that miss by no more than this meet, sheet points. */
const TOUCH = 0.05;
/** Bends of an outline that an area cannot hold become chords that stray by no more than this, sheet points. */
const CHORDS = 0.005;

const WAYS = [
  { id: 'wall', words: 'a wall by both faces', point: 'point at one face' },
  { id: 'face', words: 'a wall along a line', point: 'point at a line, on the wall\u2019s side' },
  { id: 'line', words: 'a line', point: 'point at a line, an arc or a curve' },
  { id: 'run', words: 'a run of lines', point: 'point at one of its lines' },
  { id: 'outline', words: 'the outline around a point', point: 'click within it' },
] as const;

type Taken = { shape: Shape; label: string; says: string } | { why: string };

/** Takes what the plan itself draws: walls, lines, runs and outlines, shown before they are taken. */
class TakeTool implements Tool {
  readonly id = 'take';
  readonly snaps = false;
  readonly cursor = 'crosshair';
  private hover: Pick | null = null;
  /** Which of the walls that a face may belong to: kept while the same face is pointed at, so that what is shown is what the click makes. */
  private turn = 0;
  private offered: { face: Piece; left: boolean; pairs: FacePair[] } | null = null;

  constructor(private readonly table: Table, private way = 0) {}

  private get underlay(): Underlay | null { return get(this.table.session.state.model, 'underlay', this.table.state.getState().underlayId); }

  words(): string {
    const { words, point, id } = WAYS[this.way];
    const taken = this.hover && id !== 'outline' ? this.taken(this.hover) : null;
    const now = taken && 'says' in taken && taken.says ? ` · ${taken.says}` : '';
    return `Take ${words}: ${point}${now}${id === 'wall' ? ' · Tab: another' : ''} · F: other things · Esc ends`;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  private lines(): { lines: FoundLines; unit: number } | string {
    const u = this.underlay;
    if (!u) return 'Choose a sheet in the stack first.';
    const kept = linesOf(this.table.session.projectId, u, () => this.table.showTool());
    if (kept.lines) return { lines: kept.lines, unit: meanScale(u.placement) };
    return kept.why ?? 'The lines of the sheet are being made ready: a moment.';
  }

  private taken(pick: Pick): Taken {
    const found = this.lines();
    if (typeof found === 'string') return { why: found };
    const { lines, unit } = found, way = WAYS[this.way].id, reach = REACH_PIXELS / this.table.view.scale;
    if (way === 'outline') return this.outline(lines, unit, pick.bare);
    // For both faces the pointer may stand in the middle of the wall.
    const near = lines.nearest(pick.bare, way === 'wall' ? Math.max(reach, MOST_HALF_WALL) : reach, way === 'wall');
    if (!near) return { why: 'No line of the sheet lies here: point at one.' };
    if (way === 'run') {
      const shape = this.plain(near.run.pieces, near.run.closed);
      return shape ? { shape, label: 'Take a run of lines', says: `${near.run.pieces.length} stretches` } : { why: 'This run has free curves among its lines: take them one by one.' };
    }
    if (way === 'line') {
      const shape = this.plain([near.piece], false);
      return shape ? { shape, label: 'Take a line', says: '' } : { why: 'This cannot be taken.' };
    }
    if (near.piece.kind !== 'segment') return { why: 'A wall needs a straight line: point at one.' };
    return way === 'wall' ? this.both(lines, near.piece, pick.bare) : this.along(near.piece, pick.bare);
  }

  private plain(pieces: readonly Piece[], closed: boolean): Shape | null {
    const e = plainestFor(pieces, { id: '', storeyId: '', source: sourceOf(this.table, SNAPPED) }, closed);
    if (!e) return null;
    const { id: _, storeyId: __, source: ___, ...shape } = e;
    return shape as Shape;
  }

  private wall(from: [number, number], to: [number, number], thickness: number, alignment: Wall['alignment']): Shape {
    const storey = get(this.table.session.state.model, 'storey', this.table.state.getState().storeyId);
    return { type: 'wall', from, to, thickness, alignment, height: storey?.height ?? USUAL_STOREY_HEIGHT, heightAssumed: storey?.heightAssumed ?? true };
  }

  private both(lines: FoundLines, face: Extract<Piece, { kind: 'segment' }>, at: Point): Taken {
    const pairs = this.pairsOf(lines, face, at);
    if (pairs.length === 0) return { why: 'No second face runs beside this line: take it as a wall along a line (F).' };
    const { from, to, thickness } = pairs[this.turn % pairs.length];
    const words = formatLengthWithUnit(thickness, lengthStyle(this.table.session.state.model));
    return { shape: this.wall(from, to, thickness, 'centre'), label: 'Take a wall by both faces', says: `${words} thick${pairs.length > 1 ? `, ${(this.turn % pairs.length) + 1} of ${pairs.length}` : ''}` };
  }

  /** The walls that a face may belong to, in one order as long as it is pointed at from one side, or another was asked for. */
  private pairsOf(lines: FoundLines, face: Extract<Piece, { kind: 'segment' }>, at: Point): readonly FacePair[] {
    const left = isLeft(face, at), known = this.offered;
    if (known?.face === face && (known.left === left || this.turn > 0)) return known.pairs;
    this.turn = 0;
    this.offered = { face, left, pairs: facePairs(face, (box) => lines.findSolid(box).map((i) => lines.pieces[i]), at) };
    return this.offered.pairs;
  }

  private along(face: Extract<Piece, { kind: 'segment' }>, at: Point): Taken {
    const { thickness } = useTraceState.getState(), { from, to } = face;
    const left = isLeft(face, at);
    // The line is the face away from the pointer: the wall lies on the pointer's side.
    return { shape: this.wall([from[0], from[1]], [to[0], to[1]], thickness, left ? 'right' : 'left'), label: 'Take a wall along a line', says: `${formatLengthWithUnit(thickness, lengthStyle(this.table.session.state.model))} thick` };
  }

  private outline(lines: FoundLines, unit: number, at: Point): Taken {
    const found = outlineAround(lines.pieces, lines.findSolid, at, TOUCH * unit);
    if (!found.ok) return { why: found.gap ? 'The lines around this point do not close: there is a gap, such as a door. Draw a line over it on the sheet\u2019s place, or outline the area by hand.' : 'Nothing is closed around this point.' };
    const pieces = found.pieces.flatMap((p) => (p.kind === 'cubic' ? chordsOf(p, CHORDS * unit) : [p])), { points, bulges } = pathOfPieces(pieces, true);
    return { shape: { type: 'area', rings: [{ points, bulges }], fill: { kind: 'none' }, name: '', figure: true }, label: 'Take an outline', says: '' };
  }

  press(pick: Pick): void {
    this.hover = pick;
    const taken = this.taken(pick);
    if ('why' in taken) {
      this.table.session.tell(taken.why, true);
      return;
    }
    const there = taken.shape.type === 'wall' ? this.sameWall(taken.shape) : null;
    if (there) {
      this.table.setSelection([there.id]);
      this.table.session.tell('This wall is there already: it is selected.', true);
      return;
    }
    const measured = WAYS[this.way].id === 'wall' ? 'measured' : useTraceState.getState().thicknessFrom;
    this.table.session.do({ type: 'add', entity: elementOf(this.table, taken.shape, sourceOf(this.table, SNAPPED, taken.shape.type === 'wall' ? measured : 'typed')) }, taken.label);
  }

  /** A wall that is traced already where another would be: the same body, whichever way it was drawn. */
  private sameWall(shape: Shape & { type: 'wall' }): Wall | null {
    const body = (w: Omit<Wall, 'id' | 'storeyId' | 'source'>) => plainBody(bandOf({ ...w, id: '' })), wanted = body(shape), { storeyId } = this.table.state.getState();
    const near = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_CORNER;
    return ofType(this.table.session.state.model, 'wall').find((w) => w.storeyId === storeyId && body(w).every((p) => wanted.some((q) => near(p, q)))) ?? null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key !== 'Tab' || WAYS[this.way].id !== 'wall') return false;
    this.turn++;
    return true;
  }

  /** Takes the next kind of thing. */
  nextVariant(): boolean {
    this.way = (this.way + 1) % WAYS.length;
    return true;
  }

  paint(brush: Brush): void {
    // An outline is looked for when it is asked for: that takes longer than a movement of the pointer.
    if (!this.hover || WAYS[this.way].id === 'outline') return;
    const taken = this.taken(this.hover);
    if ('why' in taken) return;
    const { context, ink } = brush, e = { ...taken.shape, id: '', storeyId: '', source: sourceOf(this.table, SNAPPED) } as Traced;
    context.save();
    context.strokeStyle = ink.now;
    context.fillStyle = 'rgba(212,69,31,0.22)';
    context.lineWidth = 2.5;
    context.beginPath();
    if (e.type === 'wall') {
      ringPath(brush, plainBody(bandOf(e)));
      context.fill();
    } else elementPath(brush, e);
    context.stroke();
    context.restore();
  }

  cancel(): boolean { return false; }
}

/** Half of the thickest wall that may be pointed at in its middle, millimetres. */
const MOST_HALF_WALL = 300;
/** Walls whose corners lie within this are one, millimetres. */
const SAME_CORNER = 5;
const isLeft = ({ from, to }: Extract<Piece, { kind: 'segment' }>, at: Point): boolean => (to[0] - from[0]) * (at[1] - from[1]) - (to[1] - from[1]) * (at[0] - from[0]) >= 0;

function chordsOf(piece: Piece, tolerance: number): Piece[] {
  const points = flattenPiece(piece, tolerance);
  return points.slice(1).map((q, i) => segmentPiece(points[i], q));
}

export const takeTakeTool = (table: Table): void => table.take(new TakeTool(table));
