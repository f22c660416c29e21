import { pieceEnd, pieceStart, reversedPiece, type Piece, type Point } from '../geometry/index.ts';

/** One number for a pair of cell numbers; each may reach two million either way. */
export const cellKey = (x: number, y: number): number => x * 4194304 + y;

export interface Run {
  pieces: Piece[];
  closed: boolean;
}

/**
 * Puts pieces together end on end where exactly two of them meet within a tolerance: chains become one run, rings a closed one.
 * Where three or more meet, each run ends. Pieces that may not be joined with others (`alone`) stay by themselves.
 */
export function chainRuns(
  pieces: readonly Piece[],
  touch: number,
  alone: (piece: Piece) => boolean = () => false,
): Run[] {
  const cells = new Map<number, { at: Point; ends: [number, 0 | 1][] }[]>();
  const nodes = pieces.map((): ({ at: Point; ends: [number, 0 | 1][] } | null)[] => [null, null]);
  // Cells much larger than the tolerance: mostly one of them is asked.
  const cell = (v: number) => Math.floor(v / (8 * touch));
  pieces.forEach((piece, i) => {
    for (const end of [0, 1] as const) {
      const at = end === 0 ? pieceStart(piece) : pieceEnd(piece),
        cx = cell(at[0]),
        cy = cell(at[1]);
      let home: { at: Point; ends: [number, 0 | 1][] } | null = null;
      for (let nx = cell(at[0] - touch); nx <= cell(at[0] + touch) && !home; nx++) {
        for (let ny = cell(at[1] - touch); ny <= cell(at[1] + touch) && !home; ny++) {
          for (const node of cells.get(cellKey(nx, ny)) ?? [])
            if (
              Math.abs(node.at[0] - at[0]) <= touch &&
              Math.hypot(node.at[0] - at[0], node.at[1] - at[1]) <= touch
            )
              home = node;
        }
      }
      if (!home) {
        home = { at, ends: [] };
        const list = cells.get(cellKey(cx, cy));
        if (list) list.push(home);
        else cells.set(cellKey(cx, cy), [home]);
      }
      home.ends.push([i, end]);
      nodes[i][end] = home;
    }
  });
  const used = new Uint8Array(pieces.length),
    runs: Run[] = [];
  /** The piece that goes on where one leaves by an end; null where the run ends. */
  const onward = (i: number, end: 0 | 1): [number, 0 | 1] | null => {
    const { ends } = nodes[i][end]!;
    if (ends.length !== 2) return null;
    const other = ends[0][0] === i && ends[0][1] === end ? ends[1] : ends[0];
    return other[0] === i || used[other[0]] || alone(pieces[other[0]]) ? null : other;
  };
  const follow = (first: number, from: 0 | 1): Run => {
    const run: Piece[] = [];
    let at: [number, 0 | 1] | null = [first, from],
      last: [number, 0 | 1] = [first, from];
    while (at) {
      const [i, entry]: [number, 0 | 1] = at;
      used[i] = 1;
      run.push(entry === 0 ? pieces[i] : reversedPiece(pieces[i]));
      last = [i, entry === 0 ? 1 : 0];
      at = alone(pieces[i]) ? null : onward(...last);
    }
    const node = nodes[last[0]][last[1]];
    return {
      pieces: run,
      closed:
        node === nodes[first][from] &&
        node!.ends.length === 2 &&
        (run.length > 1 || pieces[first].kind !== 'segment'),
    };
  };
  // First what has an end, then what is left: rings.
  pieces.forEach((piece, i) => {
    if (used[i]) return;
    const begins = ([0, 1] as const).find((end) => alone(piece) || onward(i, end) === null);
    if (begins !== undefined) runs.push(follow(i, begins));
  });
  pieces.forEach((_, i) => {
    if (!used[i]) runs.push(follow(i, 0));
  });
  return runs;
}
