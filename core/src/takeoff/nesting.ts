/** A bar of stock with the pieces that are cut out of it, the longest first; millimetres. */
export interface Bar {
  stock: number;
  pieces: number[];
  /** What is left at its end. */ rest: number;
}

export interface Nested {
  bars: Bar[];
  /** Pieces that no bar is long enough for. */
  tooLong: number[];
}

/** Sets of no more pieces are searched to the end, or until so many ways were tried. */
const SMALL = 14,
  MOST_TRIED = 200000;
/** Rounding of lengths that fill a bar exactly. */
const EXACT = 1e-6;

/**
 * Lays pieces into bars of stock lengths, each cut taking the width of the saw, so that little is bought: for each stock length by itself and
 * for the shortest that each bar needs, by first fit of the longest first (Johnson 1973); small sets are searched to the end for fewer bars.
 * No piece is lost: those that are longer than all stock are told.
 */
export function nest(pieces: readonly number[], stock: readonly number[], saw: number): Nested {
  const longest = Math.max(...stock),
    tooLong = pieces.filter((l) => l > longest + EXACT),
    fitting = pieces.filter((l) => l <= longest + EXACT).sort((a, b) => b - a);
  const ways = stock.map((length) => ({
    length,
    own: fitting.every((l) => l <= length + EXACT) ? packed(fitting, length, saw) : null,
  }));
  const plans = ways.flatMap(({ own, length }) => (own ? [own.map((bar) => barOf(bar, length, saw))] : []));
  // Bars of the longest, each made as short as what lies in it allows.
  const mixed = packed(fitting, longest, saw).map((bar) => {
    const needs = lengthNeeded(bar, saw),
      shortest = [...stock].sort((a, b) => a - b).find((length) => needs <= length + EXACT) ?? longest;
    return barOf(bar, shortest, saw);
  });
  const bought = (bars: readonly Bar[]) => bars.reduce((sum, b) => sum + b.stock, 0);
  const best = [...plans, mixed].reduce((a, b) => (bought(b) < bought(a) - EXACT ? b : a));
  return { bars: best, tooLong };
}

/** What pieces take of a bar: the last needs no cut behind it where it ends with the bar. */
const lengthNeeded = (bar: readonly number[], saw: number): number =>
  bar.reduce((sum, l) => sum + l, 0) + saw * Math.max(0, bar.length - 1);

const barOf = (pieces: number[], stock: number, saw: number): Bar => ({
  stock,
  pieces,
  rest: Math.max(0, stock - lengthNeeded(pieces, saw)),
});

/** Pieces in bars of one length, each bar's pieces the longest first. */
function packed(sorted: readonly number[], length: number, saw: number): number[][] {
  const first = firstFit(sorted, length, saw);
  return sorted.length <= SMALL ? (fewest(sorted, length, saw, first) ?? first) : first;
}

/** First fit of the longest first. */
export function firstFit(sorted: readonly number[], length: number, saw: number): number[][] {
  const bars: { pieces: number[]; left: number }[] = [];
  for (const piece of sorted) {
    const bar = bars.find((b) => piece + saw <= b.left + EXACT);
    if (bar) {
      bar.pieces.push(piece);
      bar.left -= piece + saw;
    } else bars.push({ pieces: [piece], left: length - piece });
  }
  return bars.map((b) => b.pieces);
}

/** Fewer bars than are known, by trying each piece in each bar that differs; null where there are none, or it takes too long. */
function fewest(
  sorted: readonly number[],
  length: number,
  saw: number,
  known: readonly number[][],
): number[][] | null {
  let best: number[][] | null = null,
    most = known.length,
    tried = 0;
  const rest = sorted.map((_, i) => sorted.slice(i).reduce((sum, l) => sum + l, 0));
  const bars: { pieces: number[]; left: number }[] = [];
  const place = (i: number): void => {
    if (tried++ > MOST_TRIED) return;
    if (i === sorted.length) {
      best = bars.map((b) => [...b.pieces]);
      most = bars.length;
      return;
    }
    const room = bars.reduce((sum, b) => sum + b.left, 0);
    if (bars.length + Math.max(0, Math.ceil((rest[i] - room) / length - EXACT)) >= most) return;
    const seen = new Set<number>();
    for (const bar of bars) {
      if (sorted[i] + saw > bar.left + EXACT || seen.has(bar.left)) continue;
      seen.add(bar.left);
      bar.pieces.push(sorted[i]);
      bar.left -= sorted[i] + saw;
      place(i + 1);
      bar.pieces.pop();
      bar.left += sorted[i] + saw;
    }
    if (bars.length + 1 >= most) return;
    bars.push({ pieces: [sorted[i]], left: length - sorted[i] });
    place(i + 1);
    bars.pop();
  };
  place(0);
  return best;
}
