import { asPrinted, bandOf, openingSeen, openingsOf, plainBody, pointAt } from '@calque/core/building';
import { facePairs, outlineAround, wallsAcross, type FacePair } from '@calque/core/conversion';
import {
  flattenPiece,
  meanScale,
  pathOfPieces,
  segmentPiece,
  type Box,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import {
  fieldsOfType,
  get,
  group,
  ofType,
  plainestFor,
  USUAL_STOREY_HEIGHT,
  type Traced,
  type Underlay,
  type Wall,
} from '@calque/core/model';
import { formatLength, formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { REACH_PIXELS } from '@/table/hit';
import { elementPath, ringPath, segmentPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Brush } from '@/table/brush';
import type { Pick } from '@/table/tool';
import type { NamedWays, Ways } from '@/drawing/next-way';
import { elementOf, sourceOf, type Shape } from '@/drawing/drawn';
import { printedBeside } from '@/kinds/wall/printed-beside';
import { nextThicknessFrom, nextWall, nextWallType } from '@/kinds/wall/next-wall';
import { linesOf, piecesNear, type FoundLines } from '@/drawing/plan-lines';

const SNAPPED = [{ snapped: true, typed: false, ink: false }];
/** Lines of a sheet that miss by no more than this meet, sheet points. */
const TOUCH = 0.05;
/** Bends of an outline that an area cannot hold become chords that stray by no more than this, sheet points. */
const CHORDS = 0.005;

const WAYS = [
  { id: 'wall', words: 'a wall by both faces', point: 'point at one face, or drag a stroke across several' },
  { id: 'face', words: 'a wall along a line', point: 'point at a line, on the wall\u2019s side' },
  { id: 'line', words: 'a line', point: 'point at a line, an arc or a curve' },
  { id: 'run', words: 'a run of lines', point: 'point at one of its lines' },
  { id: 'outline', words: 'the outline around a point', point: 'click within it' },
] as const;
/** Walls stand on floors: on an upright plane there are none to take. */
const waysOn = (table: Table): readonly (typeof WAYS)[number][] =>
  get(table.session.state.model, 'plane', table.state.getState().planeId)
    ? WAYS.filter((w) => w.id !== 'wall' && w.id !== 'face')
    : WAYS;

type Taken = { shape: Shape; label: string; says: string } | { why: string };
type WallShape = Shape & { type: 'wall' };

/** Takes what the plan itself draws: walls, lines, runs and outlines, shown before they are taken. */
class TakeTool implements NamedWays {
  readonly id = 'take';
  readonly snaps = false;
  readonly cursor = 'crosshair';
  private hover: Pick | null = null;
  /** Which of the walls that a face may belong to: kept while the same face is pointed at, so that what is shown is what the click makes. */
  private turn = 0;
  private offered: { face: Piece; left: boolean; pairs: FacePair[] } | null = null;
  /** Where the button went down, and the walls that the stroke from there goes across. */
  private began: Pick | null = null;
  private stroke: readonly WallShape[] | null = null;
  private readAgain = 0;
  private soon: ReturnType<typeof setTimeout> | null = null;

  private readonly kinds: ReturnType<typeof waysOn>;

  constructor(
    private readonly table: Table,
    private way = 0,
  ) {
    this.kinds = waysOn(table);
  }

  private get underlay(): Underlay | null {
    return get(this.table.session.state.model, 'underlay', this.table.state.getState().underlayId);
  }

  words(): string {
    const { words, point, id } = this.kinds[this.way];
    if (this.stroke) return this.strokeWords(this.stroke);
    const taken = this.hover && id !== 'outline' ? this.taken(this.hover) : null;
    const isThere = taken && 'shape' in taken && this.there(taken.shape) ? ' · is there already' : '';
    const now = taken && 'says' in taken && taken.says ? ` · ${taken.says}${isThere}` : isThere;
    return `Take ${words}: ${point}${now}${id === 'wall' ? ' · Tab: another' : ''} · F: other things · Esc ends`;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  private lines(): { lines: FoundLines; unit: number } | string {
    const u = this.underlay;
    if (!u) return 'Choose a sheet in the stack first.';
    const kept = linesOf(
      this.table.session.projectId,
      u,
      () => this.table.showTool(),
      this.table.sheets.runsHere?.(u),
    );
    if (kept.lines) return { lines: kept.lines, unit: meanScale(u.placement) };
    return kept.why ?? 'The lines of the sheet are being made ready: a moment.';
  }

  private taken(pick: Pick): Taken {
    const found = this.lines();
    if (typeof found === 'string') return { why: found };
    const { lines, unit } = found,
      way = this.kinds[this.way].id,
      reach = REACH_PIXELS / this.table.view.scale;
    if (way === 'outline') return this.outline(lines, unit, pick.bare);
    // For both faces the pointer may stand in the middle of the wall.
    const near = lines.nearest(
      pick.bare,
      way === 'wall' ? Math.max(reach, MOST_HALF_WALL) : reach,
      way === 'wall',
    );
    if (!near) return { why: 'No line of the sheet lies here: point at one.' };
    if (way === 'run') {
      const shape = this.plain(near.run.pieces, near.run.closed);
      return shape
        ? { shape, label: 'Take a run of lines', says: `${near.run.pieces.length} stretches` }
        : { why: 'This run has free curves among its lines: take them one by one.' };
    }
    if (way === 'line') {
      const shape = this.plain([near.piece], false);
      return shape ? { shape, label: 'Take a line', says: '' } : { why: 'This cannot be taken.' };
    }
    if (near.piece.kind !== 'segment') return { why: 'A wall needs a straight line: point at one.' };
    return way === 'wall' ? this.both(lines, near.piece, pick.bare) : this.along(near.piece, pick.bare);
  }

  private plain(pieces: readonly Piece[], closed: boolean): Shape | null {
    const e = plainestFor(pieces, { id: '', planeId: '', source: sourceOf(this.table, SNAPPED) }, closed);
    if (!e) return null;
    const { id: _, planeId: __, source: ___, ...shape } = e;
    return shape as Shape;
  }

  private wall(
    from: [number, number],
    to: [number, number],
    thickness: number,
    alignment: Wall['alignment'],
  ): WallShape {
    const storey = get(this.table.session.state.model, 'storey', this.table.state.getState().planeId);
    return {
      type: 'wall',
      from,
      to,
      thickness,
      alignment,
      height: storey?.height ?? USUAL_STOREY_HEIGHT,
      heightAssumed: storey?.heightAssumed ?? true,
    };
  }

  /** A wall by both its faces, with the doors and windows that the plan shows in it. */
  private pairWall(lines: FoundLines, { from, to, thickness, openings }: FacePair): WallShape {
    const wall = this.wall(from, to, thickness, 'centre'),
      band = bandOf({ id: '', from, to, thickness, alignment: 'centre' }),
      along = ([x, y]: Point) => (x - from[0]) * band.ux + (y - from[1]) * band.uy;
    const seen = openings.map((o, i) => {
      const [a, b] = [along(o.from), along(o.to)].sort((p, q) => p - q),
        opening = openingSeen(`o${i + 1}`, band, a, b, piecesNear(lines, band, a, b));
      return asPrinted(opening, printedBeside(this.table, opening.kind, band, a, b), wall.height);
    });
    return seen.length > 0 ? { ...wall, openings: seen } : wall;
  }

  private both(lines: FoundLines, face: Extract<Piece, { kind: 'segment' }>, at: Point): Taken {
    const pairs = this.pairsOf(lines, face, at);
    if (pairs.length === 0)
      return { why: 'No second face runs beside this line: take it as a wall along a line (F).' };
    const pair = pairs[this.turn % pairs.length],
      { thickness, openings } = pair;
    const words = formatLengthWithUnit(thickness, lengthStyle(this.table.session.state.model));
    return {
      shape: this.pairWall(lines, pair),
      label: 'Take a wall by both faces',
      says: `${words} thick${openings.length > 0 ? `, ${openings.length} ${openings.length === 1 ? 'opening' : 'openings'}` : ''}${pairs.length > 1 ? `, ${(this.turn % pairs.length) + 1} of ${pairs.length}` : ''}`,
    };
  }

  /** The walls that a face may belong to, in one order as long as it is pointed at from one side, or another was asked for. */
  private pairsOf(
    lines: FoundLines,
    face: Extract<Piece, { kind: 'segment' }>,
    at: Point,
  ): readonly FacePair[] {
    const left = isLeft(face, at),
      known = this.offered;
    if (known?.face === face && (known.left === left || this.turn > 0)) return known.pairs;
    this.turn = 0;
    this.offered = { face, left, pairs: facePairs(face, solidOf(lines), at) };
    return this.offered.pairs;
  }

  private along(face: Extract<Piece, { kind: 'segment' }>, at: Point): Taken {
    const { model } = this.table.session.state,
      type = nextWallType(model),
      { thickness } = nextWall(model),
      { from, to } = face;
    const left = isLeft(face, at);
    // The line is the face away from the pointer: the wall lies on the pointer's side.
    const wall = this.wall([from[0], from[1]], [to[0], to[1]], thickness, left ? 'right' : 'left');
    return {
      // Its line is the face itself, whichever face the next wall would be drawn by.
      shape: type ? { ...wall, ...fieldsOfType(type, { alignment: wall.alignment, core: false }) } : wall,
      label: 'Take a wall along a line',
      says: `${formatLengthWithUnit(thickness, lengthStyle(this.table.session.state.model))} thick`,
    };
  }

  private outline(lines: FoundLines, unit: number, at: Point): Taken {
    const found = outlineAround(lines.pieces, lines.findSolid, at, TOUCH * unit);
    if (!found.ok)
      return {
        why: found.gap
          ? 'The lines around this point do not close: there is a gap, such as a door. Draw a line over it on the sheet\u2019s place, or outline the area by hand.'
          : 'Nothing is closed around this point.',
      };
    const pieces = found.pieces.flatMap((p) => (p.kind === 'cubic' ? chordsOf(p, CHORDS * unit) : [p])),
      { points, bulges } = pathOfPieces(pieces, true),
      { model } = this.table.session.state;
    // What bounds a part is drawn, and no room.
    if (get(model, 'plane', this.table.state.getState().planeId)?.partId)
      return { shape: { type: 'path', points, bulges, closed: true }, label: 'Take an outline', says: '' };
    return {
      shape: { type: 'area', rings: [{ points, bulges }], fill: { kind: 'none' }, name: '', figure: true },
      label: 'Take an outline',
      says: '',
    };
  }

  press(pick: Pick): void {
    this.hover = this.began = pick;
    this.stroke = null;
  }

  drag(pick: Pick): void {
    if (!this.began || this.kinds[this.way].id !== 'wall') return;
    this.hover = pick;
    // On a dense sheet a stroke is read when the pointer rests, not at each of its movements.
    const wait = this.readAgain - performance.now();
    if (wait <= 0) this.read(pick);
    else
      this.soon ??= setTimeout(() => {
        this.soon = null;
        if (this.began && this.hover) {
          this.read(this.hover);
          this.table.showTool();
        }
      }, wait);
  }

  private read(pick: Pick): void {
    const found = this.lines(),
      began = performance.now();
    if (!this.began) return;
    this.stroke =
      typeof found === 'string'
        ? []
        : wallsAcross(this.began.bare, pick.bare, solidOf(found.lines)).map((w) =>
            this.pairWall(found.lines, w),
          );
    const took = performance.now() - began;
    this.readAgain = took > QUICK ? performance.now() + PATIENCE * took : 0;
  }

  release(pick: Pick): void {
    if (this.stroke) this.read(pick);
    const { began, stroke } = this;
    this.began = this.stroke = null;
    if (stroke) this.takeStroke(stroke);
    else if (began) this.click(pick);
  }

  private click(pick: Pick): void {
    this.hover = pick;
    const taken = this.taken(pick);
    if ('why' in taken) {
      this.table.session.tell(taken.why, true);
      return;
    }
    const there = this.there(taken.shape);
    if (there) {
      this.table.setSelection([there.id]);
      this.table.session.tell('This wall is there already: it is selected.', true);
      return;
    }
    const measured =
      this.kinds[this.way].id === 'wall' ? 'measured' : nextThicknessFrom(this.table.session.state.model);
    this.table.session.do(
      {
        type: 'add',
        entity: elementOf(
          this.table,
          taken.shape,
          sourceOf(this.table, SNAPPED, taken.shape.type === 'wall' ? measured : 'typed'),
        ),
      },
      taken.label,
    );
  }

  private takeStroke(walls: readonly WallShape[]): void {
    const fresh = walls.filter((w) => !this.there(w));
    if (fresh.length === 0) {
      const found = this.lines();
      this.table.session.tell(
        typeof found === 'string'
          ? found
          : walls.length > 0
            ? 'These walls are there already.'
            : 'This stroke goes across no wall: begin and end it outside of both faces, or point at one face.',
        true,
      );
      return;
    }
    const entities = fresh.map((w) => elementOf(this.table, w, sourceOf(this.table, SNAPPED, 'measured')));
    this.table.session.do(
      group(entities.map((entity) => ({ type: 'add' as const, entity }))),
      entities.length === 1 ? 'Take a wall by both faces' : `Take ${entities.length} walls by both faces`,
    );
  }

  private strokeWords(walls: readonly WallShape[]): string {
    if (walls.length === 0) return 'Take walls: drag right across them \u00b7 Esc ends';
    const fresh = walls.filter((w) => !this.there(w)),
      style = lengthStyle(this.table.session.state.model),
      old = walls.length - fresh.length;
    const thick = fresh.map((w) => formatLength(w.thickness, style)).join(', ');
    return `Take ${fresh.length} ${fresh.length === 1 ? 'wall' : 'walls'}${thick && `: ${thick} thick`}${old > 0 ? ` \u00b7 ${old} there already` : ''} \u00b7 let go to take`;
  }

  private there(shape: Shape): Wall | null {
    return shape.type === 'wall' ? this.sameWall(shape) : null;
  }

  /** A wall that is traced already where another would be: the same body, whichever way it was drawn. */
  private sameWall(shape: Shape & { type: 'wall' }): Wall | null {
    const body = (w: Omit<Wall, 'id' | 'planeId' | 'source'>) => plainBody(bandOf({ ...w, id: '' })),
      wanted = body(shape),
      { planeId } = this.table.state.getState();
    const near = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_CORNER;
    return (
      ofType(this.table.session.state.model, 'wall').find(
        (w) => w.planeId === planeId && body(w).every((p) => wanted.some((q) => near(p, q))),
      ) ?? null
    );
  }

  key(event: KeyboardEvent): boolean {
    if (event.key !== 'Tab' || this.kinds[this.way].id !== 'wall') return false;
    this.turn++;
    return true;
  }

  ways(): Ways {
    return {
      words: this.kinds.map((k) => k.words),
      at: this.way,
      choose: (at) => {
        this.way = at;
      },
    };
  }

  /** Takes the next kind of thing. */
  nextVariant(): boolean {
    this.way = (this.way + 1) % this.kinds.length;
    return true;
  }

  paint(brush: Brush): void {
    if (this.stroke) {
      const { context, palette } = brush;
      for (const w of this.stroke) this.paintShape(brush, w);
      context.save();
      context.strokeStyle = palette.soft;
      context.setLineDash([5, 4]);
      context.beginPath();
      if (this.began) segmentPath(brush, this.began.bare, this.hover?.bare ?? this.began.bare);
      context.stroke();
      context.restore();
      return;
    }
    // An outline is looked for when it is asked for: that takes longer than a movement of the pointer.
    if (!this.hover || this.kinds[this.way].id === 'outline') return;
    const taken = this.taken(this.hover);
    if (!('why' in taken)) this.paintShape(brush, taken.shape);
  }

  /** What would be taken, in the colour of tracing; what is there already, in that of what is found. */
  private paintShape(brush: Brush, shape: Shape): void {
    const { context, palette } = brush,
      e = { ...shape, id: '', planeId: '', source: sourceOf(this.table, SNAPPED) } as Traced,
      isThere = this.there(shape) !== null;
    context.save();
    context.strokeStyle = isThere ? palette.found : palette.now;
    context.fillStyle = isThere ? 'rgba(11,143,156,0.22)' : 'rgba(212,69,31,0.22)';
    context.lineWidth = 2.5;
    context.beginPath();
    if (e.type === 'wall') {
      ringPath(brush, plainBody(bandOf(e)));
      context.fill();
      for (const o of openingsOf(e)) {
        segmentPath(brush, ...acrossAt(e, o.from));
        segmentPath(brush, ...acrossAt(e, o.to));
      }
    } else elementPath(brush, e);
    context.stroke();
    context.restore();
  }

  cancel(): boolean {
    const had = this.stroke !== null;
    this.began = this.stroke = null;
    return had;
  }
}

/** The line across a wall at a distance from its first end. */
function acrossAt(wall: Wall, along: number): [Point, Point] {
  const band = bandOf(wall);
  return [pointAt(band, along, -band.right), pointAt(band, along, band.left)];
}
const solidOf = (lines: FoundLines) => (box: Box) => lines.findSolid(box).map((i) => lines.pieces[i]);

/** Half of the thickest wall that may be pointed at in its middle, millimetres. */
const MOST_HALF_WALL = 300;
/** A stroke that takes longer than this to read, milliseconds, is read again only after so many times as long. */
const QUICK = 15,
  PATIENCE = 2;
/** Walls whose corners lie within this are one, millimetres. */
const SAME_CORNER = 5;
const isLeft = ({ from, to }: Extract<Piece, { kind: 'segment' }>, at: Point): boolean =>
  (to[0] - from[0]) * (at[1] - from[1]) - (to[1] - from[1]) * (at[0] - from[0]) >= 0;

function chordsOf(piece: Piece, tolerance: number): Piece[] {
  const points = flattenPiece(piece, tolerance);
  return points.slice(1).map((q, i) => segmentPiece(points[i], q));
}

export const takeTakeTool = (table: Table): void => table.hold(new TakeTool(table));
