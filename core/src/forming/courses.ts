import { arcPiece, segmentPiece, type Piece } from '../geometry/index.ts';
import type { SolidView } from '../part/index.ts';

/** What lies so near to the same line, or so near end to end on it, is one; millimetres. */
const SAME = 1e-5;
const TAU = 2 * Math.PI;

/** Where pieces of one line, or of one round, lie along it. */
interface Course {
  /** Sorted, apart from one another. */
  spans: [number, number][];
  piece(from: number, to: number): Piece;
  /** Of a round: how much of its measure is a millimetre. */
  same: number;
}

/**
 * A view without repetitions: what lies on one line or one round is put together to as long pieces as there are, and of hidden ones those stretches are
 * left that no visible one covers.
 */
export function withoutRepetitions({ visible, hidden }: SolidView): SolidView {
  const seen = coursesOf(visible),
    behind = coursesOf(hidden);
  return {
    visible: piecesOf([...seen.values()]),
    hidden: piecesOf([...behind].map(([key, c]) => ({ ...c, spans: without(c, seen.get(key)) }))),
  };
}

const piecesOf = (courses: readonly Course[]): Piece[] =>
  courses.flatMap((c) => c.spans.map(([from, to]) => c.piece(from, to)));

function coursesOf(pieces: readonly Piece[]): Map<string, Course> {
  const out = new Map<string, Course>(),
    put = (key: string, course: Omit<Course, 'spans'>, spans: [number, number][]) => {
      const known = out.get(key);
      if (known) known.spans.push(...spans);
      else out.set(key, { ...course, spans });
    };
  for (const piece of pieces) {
    if (piece.kind === 'arc') {
      const { cx, cy, r } = piece.arc,
        same = SAME / r;
      put(
        `o ${[cx, cy, r].map((v) => Math.round(v / SAME / 10)).join(' ')}`,
        { same, piece: (start, end) => arcPiece({ cx, cy, r, start, end }) },
        spansOfArc(piece.arc.start, piece.arc.end, same),
      );
      continue;
    }
    if (piece.kind !== 'segment') continue;
    let [[x0, y0], [x1, y1]] = [piece.from, piece.to];
    // One way along each line, so that to and fro are one.
    if (x1 < x0 - SAME || (Math.abs(x1 - x0) <= SAME && y1 < y0)) [x0, y0, x1, y1] = [x1, y1, x0, y0];
    const n = Math.hypot(x1 - x0, y1 - y0);
    if (n < SAME) continue;
    const [ux, uy] = [(x1 - x0) / n, (y1 - y0) / n],
      off = y0 * ux - x0 * uy,
      along = x0 * ux + y0 * uy;
    put(
      `s ${Math.round(Math.atan2(uy, ux) * 1e6)} ${Math.round(off / SAME / 10)}`,
      {
        same: SAME,
        piece: (a, b) =>
          segmentPiece([a * ux - off * uy, a * uy + off * ux], [b * ux - off * uy, b * uy + off * ux]),
      },
      [[along, along + n]],
    );
  }
  for (const c of out.values()) c.spans = joined(c.spans, c.same);
  for (const [key, c] of out) if (key.startsWith('o')) c.spans = roundAgain(c.spans, c.same);
  return out;
}

/** An arc by angles from nought to a turn; one that passes over nought in two. */
function spansOfArc(start: number, end: number, same: number): [number, number][] {
  if (end - start >= TAU - same) return [[0, TAU]];
  const from = ((start % TAU) + TAU) % TAU,
    to = from + (end - start);
  return to <= TAU + same
    ? [[from, Math.min(to, TAU)]]
    : [
        [from, TAU],
        [0, to - TAU],
      ];
}

/** What ends where a turn does and what begins there are one again. */
function roundAgain(spans: [number, number][], same: number): [number, number][] {
  const [first] = spans,
    last = spans.at(-1);
  if (spans.length < 2 || !last || first[0] > same || last[1] < TAU - same) return spans;
  return [...spans.slice(1, -1), [last[0], first[1] + TAU]];
}

function joined(spans: readonly [number, number][], same: number): [number, number][] {
  const out: [number, number][] = [];
  for (const [a, b] of [...spans].sort((p, q) => p[0] - q[0])) {
    const last = out.at(-1);
    if (last && a <= last[1] + same) last[1] = Math.max(last[1], b);
    else out.push([a, b]);
  }
  return out;
}

function without({ spans, same }: Course, covered: Course | undefined): [number, number][] {
  if (!covered) return spans;
  // A round may be told a turn further on.
  const over =
    same === SAME
      ? covered.spans
      : covered.spans.flatMap(([a, b]) => [-TAU, 0, TAU].map((t): [number, number] => [a + t, b + t]));
  return over.reduce<[number, number][]>(
    (left, [a, b]) =>
      left.flatMap(([c, d]): [number, number][] =>
        [[c, Math.min(d, a)] as [number, number], [Math.max(c, b), d] as [number, number]].filter(
          ([x, y]) => y - x > same,
        ),
      ),
    [...spans],
  );
}
