import {
  cornerOfPieces,
  placeOnTrack,
  reversedPiece,
  type Corner,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import { alongPieces, plainestFor, replaced, trackOf, type Change, type Runs } from '@calque/core/model';
import { formatLength, parseLength } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick } from '@/table/tool';
import { addedLike, PointingTool } from './pointing-tool';

interface Picked {
  e: Runs;
  at: Point;
  /** Number of the picked piece in its element. */ piece: number;
}

/** Brings two elements, or two stretches of one path, to a corner: sharp, cut back or rounded. */
class CornerTool extends PointingTool {
  readonly id = 'corner';
  private first: Picked | null = null;
  /** Cut back by this much from the corner, or rounded by this radius, millimetres; at most one of them is above 0. */
  private bevel = 0;
  private radius = 0;

  private length(mm: number): string {
    return formatLength(mm, lengthStyle(this.table.session.state.model));
  }

  private get shape(): string {
    return this.radius > 0
      ? `, rounded by ${this.length(this.radius)}`
      : this.bevel > 0
        ? `, cut back by ${this.length(this.bevel)}`
        : '';
  }

  words(): string {
    return `Corner${this.shape}: ${this.first ? 'click the other line, on the side that stays' : 'click a line on the side that stays'} · type a size to cut the corner back, or a radius · Esc ends`;
  }

  private pick(pick: Pick): Picked | null {
    const e = this.at(pick);
    if (!e) return null;
    const { pieces } = trackOf(e);
    return {
      e,
      at: pick.bare,
      piece: Math.min(pieces.length - 1, Math.floor(placeOnTrack(trackOf(e), pick.bare))),
    };
  }

  press(pick: Pick): void {
    const second = this.pick(pick);
    if (!second) return;
    const { first } = this;
    if (!first || (first.e.id === second.e.id && first.piece === second.piece)) {
      this.first = second;
      return;
    }
    const corner = this.corner(first, second);
    if (!corner) {
      this.refuse(
        first.e.id === second.e.id
          ? 'Two stretches of a path that follow one another have a corner: click the next one.'
          : 'Only single lines and arcs come to a corner, or two stretches of one path: split this one first.',
      );
      return;
    }
    if (!corner.ok) {
      const size = this.shape ? `${this.shape.replace(', ', ' to be ')},` : ',';
      this.refuse(
        corner.reason === 'parallel'
          ? 'These two run the same way: they have no corner.'
          : `One of them is too short${size} or lies wholly on the other side: click the side that stays, or type a smaller size.`,
      );
      return;
    }
    this.first = null;
    const label =
      this.radius > 0
        ? 'Round a corner'
        : this.bevel > 0
          ? 'Cut a corner back'
          : 'Bring two elements to a corner';
    this.do(
      first.e.id === second.e.id ? [withinPath(first, second, corner)] : between(first.e, second.e, corner),
      label,
    );
  }

  private corner(a: Picked, b: Picked): Corner | null {
    const one = trackOf(a.e),
      two = trackOf(b.e),
      n = one.pieces.length;
    if (a.e.id === b.e.id) {
      const [low, high] = [Math.min(a.piece, b.piece), Math.max(a.piece, b.piece)];
      if (high - low !== 1 && !(one.closed && low === 0 && high === n - 1)) return null;
    } else if (n !== 1 || two.pieces.length !== 1) return null;
    return cornerOfPieces(one.pieces[a.piece], a.at, two.pieces[b.piece], b.at, {
      bevel: this.bevel,
      radius: this.radius,
    });
  }

  field(): FieldRequest | null {
    return (
      this.hover && {
        required: false,
        at: this.hover.plane,
        fields: [
          { id: 'size', label: 'cut back', unit: 'length', live: this.length(this.bevel) },
          { id: 'radius', label: 'radius', unit: 'length', live: this.length(this.radius) },
        ],
      }
    );
  }

  submit(values: Record<string, string>): string | null {
    const { units } = lengthStyle(this.table.session.state.model);
    const sizes: { bevel?: number; radius?: number } = {};
    for (const [kind, text] of [
      ['bevel', values.size],
      ['radius', values.radius],
    ] as const) {
      if (!text?.trim()) continue;
      const parsed = parseLength(text, units);
      if (!parsed.ok || parsed.mm < 0)
        return `"${text}" is no ${kind === 'bevel' ? 'size' : 'radius'}. Type a length, such as 150; 0 makes a plain corner.`;
      sizes[kind] = parsed.mm;
    }
    if (sizes.bevel && sizes.radius) return 'Type a size to cut back or a radius, not both.';
    if (sizes.bevel === undefined && sizes.radius === undefined) return null;
    this.bevel = sizes.bevel ?? 0;
    this.radius = sizes.radius ?? 0;
    return null;
  }

  override cancel(): boolean {
    const had = this.first !== null;
    this.first = null;
    return had;
  }

  paint(brush: Brush): void {
    if (this.first)
      this.stroke(brush, [trackOf(this.first.e).pieces[this.first.piece]], brush.palette.now, 3);
    const second = this.hover && this.pick(this.hover);
    if (!second || !this.first || (second.e.id === this.first.e.id && second.piece === this.first.piece))
      return;
    const corner = this.corner(this.first, second);
    if (corner?.ok)
      this.stroke(
        brush,
        [corner.a, corner.b, ...(corner.joint ? [corner.joint] : [])],
        brush.palette.now,
        2,
        true,
      );
  }
}

function between(a: Runs, b: Runs, corner: Extract<Corner, { ok: true }>): (Change | null)[] {
  const one = alongPieces(a, [corner.a]),
    two = alongPieces(b, [corner.b]);
  // A wall has straight corners only: what rounds two walls is a plain arc.
  const joint =
    corner.joint &&
    (a.type === 'wall' && corner.joint.kind === 'segment'
      ? alongPieces(a, [corner.joint])
      : plainestFor([corner.joint], a));
  return [one && replaced(a, one), two && replaced(b, two), joint && addedLike(joint)];
}

/** A path with the corner between two of its stretches made anew. */
function withinPath(
  a: Picked,
  b: Picked,
  { a: pieceA, b: pieceB, joint }: Extract<Corner, { ok: true }>,
): Change | null {
  const { pieces, closed } = trackOf(a.e),
    n = pieces.length;
  const forward = a.piece + 1 === b.piece || (closed && n > 2 && a.piece === n - 1 && b.piece === 0);
  const before = forward ? a.piece : b.piece,
    turned = joint && !forward ? reversedPiece(joint) : joint;
  const out: Piece[] = [];
  pieces.forEach((piece, i) => {
    out.push(i === a.piece ? pieceA : i === b.piece ? pieceB : piece);
    if (i === before && turned) out.push(turned);
  });
  const next = alongPieces(a.e, out, closed);
  return next && replaced(a.e, next);
}

export const takeCornerTool = (table: Table): void => table.hold(new CornerTool(table));
