import Flatbush from 'flatbush';
import { arcPiece, pieceBox, segmentPiece, type Box, type Piece } from '../geometry/index.ts';
import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { chordedArcs, type Chord } from './chorded-arcs.ts';
import { mayBeBuilt, penName } from './strokes.ts';

/** What openings are never drawn by. */
const NOT: ReadonlySet<string> = new Set(['hatch', 'text', 'dimension', 'picture', 'markup']);

const SHORTEST_CHORD = 25,
  LONGEST_CHORD = 420,
  LEAST_LEAF = 400,
  MOST_LEAF = 2600;
/** More short lines than this are no doors': they are not looked through. */
const MOST_CHORDS = 60000;

/** A line of the sheet as a piece, in millimetres of what it shows, with its pen (see penName). */
export interface DrawnPiece {
  piece: Piece;
  pen: string;
  dashed: boolean;
}

/** What a sheet draws, by where it lies: millimetres of what it shows. */
export class Nearby {
  private readonly pieces: DrawnPiece[] = [];
  private readonly tree: Flatbush | null;

  /** `mm`: millimetres of what is shown to a sheet point. */
  constructor(l: Linework, mm: number) {
    const isOf = (kind: number, layer: number) =>
      !NOT.has(ITEM_KINDS_OF_SHEET[kind]) && (layer < 0 || l.layers[layer]?.on !== false);
    const names = new Map<string, string>(),
      put = (piece: Piece, layer: number, pen: number) => {
        const key = `${layer} ${pen}`,
          name = names.get(key) ?? penName(l, layer, pen);
        names.set(key, name);
        this.pieces.push({ piece, pen: name, dashed: (l.pens[pen]?.dash.length ?? 0) > 0 });
      };
    const isBuilt = mayBeBuilt(l);
    const lines = (of: Float64Array, style: Int32Array, kinds: Uint8Array) => {
      for (let i = 0; i < kinds.length; i++)
        if (
          of === l.segments
            ? isBuilt(i) && (style[2 * i] < 0 || l.layers[style[2 * i]]?.on !== false)
            : isOf(kinds[i], style[2 * i])
        )
          put(
            segmentPiece([of[4 * i] * mm, of[4 * i + 1] * mm], [of[4 * i + 2] * mm, of[4 * i + 3] * mm]),
            style[2 * i],
            style[2 * i + 1],
          );
    };
    lines(l.segments, l.segmentStyle, l.segmentKind);
    lines(l.fillEdges, l.fillEdgeStyle, l.fillEdgeKind);
    for (let i = 0; i < l.arcKind.length; i++) {
      if (!isOf(l.arcKind[i], l.arcStyle[2 * i])) continue;
      const [cx, cy, r, start, end] = l.arcs.subarray(5 * i, 5 * i + 5);
      put(
        arcPiece({ cx: cx * mm, cy: cy * mm, r: r * mm, start, end }),
        l.arcStyle[2 * i],
        l.arcStyle[2 * i + 1],
      );
    }
    // Leaves swing between these radii; a chord of such an arc is so long, millimetres.
    const chords = this.pieces.flatMap(({ piece }): Chord[] => {
      if (piece.kind !== 'segment') return [];
      const [[x0, y0], [x1, y1]] = [piece.from, piece.to],
        length = Math.hypot(x1 - x0, y1 - y0);
      return length >= SHORTEST_CHORD && length <= LONGEST_CHORD ? [[x0, y0, x1, y1]] : [];
    });
    if (chords.length <= MOST_CHORDS)
      for (const arc of chordedArcs(chords))
        if (arc.r >= LEAST_LEAF && arc.r <= MOST_LEAF)
          this.pieces.push({ piece: arcPiece(arc), pen: '', dashed: false });
    this.tree = this.pieces.length > 0 ? new Flatbush(this.pieces.length) : null;
    for (const { piece } of this.pieces) {
      const [x0, y0, x1, y1] = pieceBox(piece);
      this.tree!.add(x0, y0, x1, y1);
    }
    this.tree?.finish();
  }

  within = ([x0, y0, x1, y1]: Box): DrawnPiece[] =>
    this.tree ? this.tree.search(x0, y0, x1, y1).map((i) => this.pieces[i]) : [];
}
