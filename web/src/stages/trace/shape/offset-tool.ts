import { offsetTrack, placeOnTrack, pointOnTrack, sideOfTrack, type Piece } from '@calque/core/geometry';
import { alongPieces, namedApart, ofType, trackOf, type Runs } from '@calque/core/model';
import { formatLength, parseLength } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import { distance } from '@/table/tools/geometry';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick } from '@/table/tool';
import { addedLike, PointingTool } from './pointing-tool';

/** An element beside another: each stretch of it at the same distance, arcs with their centre. */
class OffsetTool extends PointingTool {
  readonly id = 'offset';
  override readonly snaps = true;
  private base: Runs | null = null;
  /** As typed last; null takes the cursor's distance. */
  private typed: number | null = null;

  words(): string {
    if (!this.base) return 'Offset: click the element to run beside';
    return this.typed === null
      ? 'Offset: click where it is to run, or type how far · Esc takes another'
      : 'Offset: click the side on which it is to run · Esc takes another';
  }

  private across(pick: Pick): number {
    const track = trackOf(this.base!),
      [only] = track.pieces;
    // Beside a single line the distance is the one from the line that carries it, also beyond its ends.
    if (track.pieces.length === 1 && only.kind === 'segment') {
      const { from, to } = only;
      return (
        Math.abs(
          (to[0] - from[0]) * (pick.plane[1] - from[1]) - (to[1] - from[1]) * (pick.plane[0] - from[0]),
        ) / distance(from, to)
      );
    }
    return distance(pick.plane, pointOnTrack(track, placeOnTrack(track, pick.plane)));
  }

  private beside(pick: Pick): Piece[] | null {
    if (!this.base) return null;
    const d = this.typed ?? this.across(pick),
      track = trackOf(this.base);
    return d > 1e-6 ? offsetTrack(track, d * sideOfTrack(track, pick.plane)) : null;
  }

  press(pick: Pick): void {
    if (!this.base) {
      const e = this.at(pick);
      if (e?.type === 'spline')
        this.refuse('A free curve has no offset of its kind: offset lines, arcs and paths.');
      else this.base = e;
      return;
    }
    const pieces = this.beside(pick),
      next = pieces && alongPieces(this.base, pieces, trackOf(this.base).closed);
    if (next)
      this.do(
        namedApart(ofType(this.table.session.state.model, 'gridLine'), [next]).map(addedLike),
        'Offset an element',
      );
    else if ((this.typed ?? this.across(pick)) > 1e-6)
      this.refuse('A bend is tighter than this distance: take the other side, or type less.');
  }

  field(): FieldRequest | null {
    if (!this.base || !this.hover) return null;
    return {
      required: false,
      at: this.hover.plane,
      fields: [
        {
          id: 'distance',
          label: 'distance',
          unit: 'length',
          live: formatLength(
            this.typed ?? this.across(this.hover),
            lengthStyle(this.table.session.state.model),
          ),
        },
      ],
      hint: 'Enter, then click the side.',
    };
  }

  submit(values: Record<string, string>): string | null {
    const parsed = parseLength(values.distance ?? '', lengthStyle(this.table.session.state.model).units);
    if (!parsed.ok || parsed.mm <= 0)
      return `"${values.distance}" is no distance. Type a length above 0, such as 240.`;
    this.typed = parsed.mm;
    return null;
  }

  override cancel(): boolean {
    const had = this.base !== null;
    this.base = null;
    this.typed = null;
    return had;
  }

  paint(brush: Brush): void {
    if (!this.base || !this.hover) return;
    this.stroke(brush, trackOf(this.base).pieces, brush.palette.now, 2);
    const pieces = this.beside(this.hover);
    if (pieces) this.stroke(brush, pieces, brush.palette.now, 2, true);
  }
}

export const takeOffsetTool = (table: Table): void => table.hold(new OffsetTool(table));
