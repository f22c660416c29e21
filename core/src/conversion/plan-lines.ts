import { movedPiece, type Piece, type Region, type Transform } from '../geometry/index.ts';
import type { Linework, Switches } from '../linework/index.ts';
import { asPieces, gather } from './gather.ts';
import { joinInLine, TOUCH } from './in-line.ts';
import { chainRuns, type Run } from './runs.ts';

/** A run of a sheet's lines; what is drawn with dashes (axes, hidden edges) bounds nothing. */
export interface PlanRun extends Run {
  dashed: boolean;
}

/** Kinds that are written about the drawing and bound nothing. */
const ABOUT = ['text', 'dimension', 'hatch', 'markup'] as const;

/** A sheet's lines as one points at them, on the plane: in line joined, doubles gone, in the runs in which they hang together. */
export function planLines(
  l: Linework,
  region: Region,
  switches: Switches,
  planeFromSheet: Transform,
): PlanRun[] {
  const { strokes } = gather(l, region, { ...switches, kinds: [...new Set([...switches.kinds, ...ABOUT])] });
  const on = (p: Piece) => movedPiece(p, planeFromSheet);
  const isDashed = (pen: number) => pen >= 0 && l.pens[pen].dash.length > 0;
  return [false, true].flatMap((dashed) => {
    const own = strokes.filter((s) => isDashed(s.pen) === dashed);
    const pieces = [
      ...asPieces(joinInLine(Float64Array.from(own.flatMap((s) => s.lines)))),
      ...own.flatMap((s) => s.pieces),
    ];
    return chainRuns(pieces, TOUCH).map((r): PlanRun => ({
      pieces: r.pieces.map(on),
      closed: r.closed,
      dashed,
    }));
  });
}
