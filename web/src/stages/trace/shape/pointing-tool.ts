import { pointAt, straightParts } from '@calque/core/building';
import { segmentPiece, type Box, type Piece } from '@calque/core/geometry';
import { group, isRun, looseOf, piecesOf, type Change, type Runs } from '@calque/core/model';
import { tracedAt, tracedHere, tracedIn } from '@/table/hit';
import { piecePath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Brush } from '@/table/brush';
import type { Pick, Tool } from '@/table/tool';

/** Tools that change the shape of single elements by pointing at them. Each stays in hand until Esc. */
export abstract class PointingTool implements Tool {
  abstract readonly id: string;
  readonly snaps: boolean = false;
  readonly cursor = 'crosshair';
  protected hover: Pick | null = null;

  constructor(protected readonly table: Table) {}

  abstract words(): string;
  abstract press(pick: Pick): void;

  move(pick: Pick): void {
    this.hover = pick;
  }

  cancel(): boolean {
    return false;
  }

  /** The line, arc, path or curve at a pick. */
  protected at(pick: Pick): Runs | null {
    const e = tracedAt(this.table, pick.bare);
    return e && isRun(e) ? e : null;
  }

  protected do(changes: readonly (Change | null)[], label: string): boolean {
    return this.table.session.do(group(changes), label);
  }

  protected refuse(words: string): void {
    this.table.session.tell(words, true);
  }

  protected stroke(
    brush: Brush,
    pieces: readonly Piece[],
    colour: string,
    width: number,
    dashed = false,
  ): void {
    const { context } = brush;
    context.save();
    context.strokeStyle = colour;
    context.lineWidth = width;
    if (dashed) context.setLineDash([5, 4]);
    context.beginPath();
    for (const piece of pieces) piecePath(brush, piece);
    context.stroke();
    context.restore();
  }
}

/** What may cut an element or stop it: all that is drawn, of walls their drawn lines for walls and their faces for all else; with a box, only what has something in it. */
export function boundaries(table: Table, element: Runs, within?: Box): Piece[] {
  return (within ? tracedIn(table, within) : tracedHere(table))
    .filter((e) => e.id !== element.id)
    .flatMap(looseOf)
    .filter((e) => e.type !== 'dimension')
    .flatMap((e): Piece[] => {
      if (e.type !== 'wall' || element.type === 'wall') return piecesOf(e);
      return straightParts(e).flatMap(({ band }) =>
        [band.left, -band.right].map((v) => segmentPiece(pointAt(band, 0, v), pointAt(band, band.length, v))),
      );
    });
}

/** A further element like another. */
export const addedLike = (e: Runs): Change => ({ type: 'add', entity: { ...e, id: crypto.randomUUID() } });
