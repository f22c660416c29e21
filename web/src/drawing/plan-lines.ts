import Flatbush from 'flatbush';
import type { PlanRun } from '@calque/core/conversion';
import { pointAt, type WallBand } from '@calque/core/building';
import {
  boxOfPoints,
  distanceToPiece,
  grownBox,
  pieceBox,
  type Box,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import { lookOf, type Underlay } from '@calque/core/model';
import { lineworkUrl } from '@/project/addresses';
import { cropRing } from '@/table/look-cache';
import { runTask } from '@/workers/task';
import type { FromPlanLines, ToPlanLines } from '@/workers/plan-lines-protocol';

/** A sheet's lines on the plane, found by place. */
export class FoundLines {
  readonly pieces: readonly Piece[];
  private readonly index: Flatbush | null;
  private readonly runOf: readonly PlanRun[];

  constructor(runs: readonly PlanRun[]) {
    this.pieces = runs.flatMap((r) => r.pieces);
    this.runOf = runs.flatMap((r) => r.pieces.map(() => r));
    this.index = this.pieces.length > 0 ? new Flatbush(this.pieces.length) : null;
    for (const p of this.pieces) this.index!.add(...(pieceBox(p) as [number, number, number, number]));
    this.index?.finish();
  }

  /** Numbers of the pieces that may touch a box. */
  readonly find = (box: Box): number[] =>
    this.index?.search(...(box as [number, number, number, number])) ?? [];

  /** As `find`, without what is drawn with dashes. */
  readonly findSolid = (box: Box): number[] => this.find(box).filter((i) => !this.runOf[i].dashed);

  /** The piece that is nearest to a point within a reach, with the run that it hangs in. */
  nearest([x, y]: Point, reach: number, solid = false): { piece: Piece; run: PlanRun } | null {
    let best: { piece: Piece; run: PlanRun } | null = null,
      least = reach;
    for (const i of (solid ? this.findSolid : this.find)([x - reach, y - reach, x + reach, y + reach])) {
      const d = distanceToPiece(this.pieces[i], [x, y]);
      if (d < least) [best, least] = [{ piece: this.pieces[i], run: this.runOf[i] }, d];
    }
    return best;
  }
}

type Kept = { key: string; lines: FoundLines | null; why: string | null };
/** The lines of the sheet that was pointed at last: another look, crop or placement makes them anew. */
let kept: Kept | null = null;

/** A sheet's lines; null while a worker makes them ready, or where it could not (`why` says so). `here`: those that need no worker. */
export function linesOf(
  projectId: string,
  u: Underlay,
  onReady: () => void,
  here: readonly PlanRun[] | null = null,
): Kept {
  const ring = cropRing(u),
    { switches } = lookOf(u);
  const key = JSON.stringify([u.fileId, u.page, ring, switches, u.placement]);
  if (kept?.key === key) return kept;
  const mine: Kept = (kept = { key, lines: here && new FoundLines(here), why: null });
  if (here) return mine;
  const worker = new Worker(new URL('../workers/plan-lines.worker.ts', import.meta.url), {
    type: 'module',
  });
  const request: ToPlanLines = {
    url: new URL(lineworkUrl(projectId, u.fileId, u.page), location.href).href,
    ring,
    switches,
    placement: u.placement,
  };
  runTask<ToPlanLines, FromPlanLines>(worker, request, {
    broken: 'The lines could not be made ready. Reload the page.',
    onEnd: (end) => {
      Object.assign(
        mine,
        'done' in end ? { lines: new FoundLines(end.done.runs) } : { why: end.error.message },
      );
      onReady();
    },
  });
  return mine;
}

/** Leaves hang, and swings begin, this near to their wall, millimetres. */
const BESIDE_WALL = 200;

/** What is drawn in and beside a stretch of a wall, without what is dashed: leaves and swings reach into it from wherever they end. */
export function piecesNear(lines: FoundLines, band: WallBand, from: number, to: number): Piece[] {
  const reach = BESIDE_WALL + band.left + band.right,
    [a, b] = [pointAt(band, from, 0), pointAt(band, to, 0)];
  return lines.findSolid(grownBox(boxOfPoints([a, b]), reach)).map((i) => lines.pieces[i]);
}
