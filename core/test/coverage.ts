import Flatbush from 'flatbush';
import {
  distanceToPiece,
  invertTransform,
  movedPiece,
  pieceAt,
  pieceBox,
  pieceLength,
  segmentPiece,
  type Piece,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { piecesOf, type Traced } from '@calque/core/model';

/** The farthest that any point of some pieces lies from the nearest of others: both ends and places about a point apart are asked. */
export function farthest(of: readonly Piece[], from: readonly Piece[]): number {
  if (of.length === 0) return 0;
  if (from.length === 0) return Infinity;
  const index = new Flatbush(from.length);
  for (const p of from) index.add(...(pieceBox(p) as [number, number, number, number]));
  index.finish();
  let worst = 0;
  for (const piece of of) {
    const n = Math.max(2, Math.min(400, Math.ceil(pieceLength(piece))));
    for (let i = 0; i <= n; i++) {
      const p = pieceAt(piece, i / n);
      const near = index.search(p[0] - 0.1, p[1] - 0.1, p[0] + 0.1, p[1] + 0.1);
      worst = Math.max(
        worst,
        near.reduce((best, k) => Math.min(best, distanceToPiece(from[k], p)), 0.1),
      );
    }
  }
  return worst;
}

/** What elements draw, back in sheet points, dashes as single strokes, but for those that the sheet's own pens dash (`pens`, plane millimetres). */
export function strokesOf(
  elements: readonly Traced[],
  planeFromSheet: Transform,
  pens: readonly (readonly number[])[] = [],
): Piece[] {
  const byPen = new Set(pens.map((dash) => dash.map((d) => d.toFixed(6)).join()));
  const back = invertTransform(planeFromSheet);
  return elements.flatMap((e) => {
    const pieces = piecesOf(e);
    const drawn =
      'dash' in e && e.dash && e.type === 'line' && !byPen.has(e.dash.map((d) => d.toFixed(6)).join())
        ? dashesOf(e.from, e.to, e.dash)
        : pieces;
    return drawn.map((p) => movedPiece(p, back));
  });
}

function dashesOf(from: Point, to: Point, dash: readonly number[]): Piece[] {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    at = (d: number): Point => [
      from[0] + (d / length) * (to[0] - from[0]),
      from[1] + (d / length) * (to[1] - from[1]),
    ];
  const out: Piece[] = [];
  for (let d = 0, i = 0; d < length - 1e-9; d += dash[i % dash.length], i++)
    if (i % 2 === 0) out.push(segmentPiece(at(d), at(Math.min(length, d + dash[i % dash.length]))));
  return out;
}
