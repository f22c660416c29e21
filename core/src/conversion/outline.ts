import {
  areaOfPieces,
  crossPieces,
  flattenPiece,
  makeRegion,
  normalAngle,
  pieceAt,
  pieceBox,
  pieceEnd,
  pieceLength,
  piecePart,
  pieceStart,
  placeOnPiece,
  regionContains,
  reversedPiece,
  segmentPiece,
  type Box,
  type Piece,
  type Point,
} from '../geometry/index.ts';

/** Finds pieces by place: numbers of those that may touch a box. */
export type PieceFinder = (box: Box) => number[];

export type Outline =
  | { ok: true; pieces: Piece[] }
  | {
      ok: false;
      /** Where the way round came to an end; null where there is nothing around. */ gap:
        [number, number] | null;
    };

/** Ways longer than this many steps go round no room. */
const MOST_STEPS = 4000;
/** What leads back within this angle (radians) leads straight back: it is the last that is taken. */
const BACK = 1e-6;
/** How much the ray leans that looks for them. */
const LEAN = 0.01371;
/** So many lines to the right of the point are tried as part of its outline. */
const MOST_TRIED = 60;

interface Junction {
  t: number;
  others: { piece: number; t: number }[];
}
interface Place {
  piece: number;
  t: number;
  forward: boolean;
}

/**
 * The outline around a point: from the first line to its right on along the lines, keeping the point's side to the left and
 * turning left as far as it goes wherever others meet or cross, until the way closes. `touch`: what misses by no more than this meets.
 */
export function outlineAround(
  pieces: readonly Piece[],
  find: PieceFinder,
  at: Point,
  touch: number,
): Outline {
  const right =
    pieces.length === 0 ? at[0] : pieces.reduce((most, p) => Math.max(most, pieceBox(p)[2]), at[0]) + 1;
  // Corners often stand level with one another: a ray that is not quite level passes between them.
  const high = at[1] + (right - at[0]) * LEAN,
    ray = segmentPiece(at, [right, high]);
  const hits = find([at[0], at[1], right, high])
    .flatMap((i) => crossPieces(ray, pieces[i]).map((p) => ({ i, p })))
    .filter((h) => h.p[0] > at[0])
    .sort((a, b) => a.p[0] - b.p[0])
    .slice(0, MOST_TRIED);
  const walker = new Walker(pieces, find, touch);
  let gap: [number, number] | null = null;
  for (const { i, p } of hits) {
    const t = placeOnPiece(pieces[i], p),
      ahead = pieceAt(pieces[i], Math.min(1, t + 1e-4)),
      behind = pieceAt(pieces[i], Math.max(0, t - 1e-4));
    // The point lies to the left of an upward way.
    const upward = ahead[1] - behind[1] > LEAN * (ahead[0] - behind[0]),
      walked = walker.walk({ piece: i, t, forward: upward });
    if (!walked.closed) {
      gap ??= walked.end;
      continue;
    }
    // A way that runs clockwise, or does not hold the point, goes round something that stands within: what is beyond it is meant.
    if (areaOfPieces(walked.pieces) > 0 && holds(walked.pieces, at, touch))
      return { ok: true, pieces: walked.pieces };
  }
  return { ok: false, gap };
}

function holds(pieces: readonly Piece[], at: Point, touch: number): boolean {
  return regionContains(
    makeRegion([pieces.flatMap((p) => flattenPiece(p, touch).slice(0, -1))], 'nonzero'),
    at[0],
    at[1],
  );
}

class Walker {
  private readonly known = new Map<number, Junction[]>();

  constructor(
    private readonly pieces: readonly Piece[],
    private readonly find: PieceFinder,
    private readonly touch: number,
  ) {}

  walk(start: Place): { closed: boolean; pieces: Piece[]; end: [number, number] } {
    const steps: { piece: number; from: number; to: number; forward: boolean }[] = [];
    let at = start,
      turnedBack = false,
      end = pieceAt(this.pieces[start.piece], start.t);
    for (let n = 0; n < MOST_STEPS; n++) {
      const junction = this.next(at);
      const stop = junction?.t ?? (at.forward ? 1 : 0);
      const passesStart =
        n > 0 &&
        at.piece === start.piece &&
        at.forward === start.forward &&
        (at.forward ? at.t <= start.t && stop >= start.t : at.t >= start.t && stop <= start.t);
      if (passesStart) {
        this.step(steps, { piece: at.piece, from: at.t, to: start.t, forward: at.forward });
        return { closed: true, pieces: this.joined(steps), end };
      }
      this.step(steps, { piece: at.piece, from: at.t, to: stop, forward: at.forward });
      const onward: Place | null = junction ? this.leftmost(at, junction) : null;
      if (onward) at = onward;
      else {
        // A loose end: the way leads back along its other side.
        if (!turnedBack) end = pieceAt(this.pieces[at.piece], stop);
        turnedBack = true;
        at = { piece: at.piece, t: stop, forward: !at.forward };
      }
    }
    return { closed: false, pieces: [], end };
  }

  /** Adds a step; one that leads straight back takes the one before away. */
  private step(
    steps: { piece: number; from: number; to: number; forward: boolean }[],
    step: { piece: number; from: number; to: number; forward: boolean },
  ): void {
    const last = steps.at(-1);
    if (
      last &&
      last.piece === step.piece &&
      last.forward !== step.forward &&
      Math.abs(last.from - step.to) < 1e-9 &&
      Math.abs(last.to - step.from) < 1e-9
    )
      steps.pop();
    else steps.push(step);
  }

  private joined(steps: readonly { piece: number; from: number; to: number; forward: boolean }[]): Piece[] {
    // The first and the last lie on one piece, on either side of where the way began.
    const round = [...steps];
    const first = round[0],
      last = round[round.length - 1];
    if (round.length > 1 && first.piece === last.piece && first.forward === last.forward) {
      round.pop();
      round[0] = { ...first, from: last.from };
    }
    return round
      .map((s) =>
        s.forward
          ? piecePart(this.pieces[s.piece], s.from, s.to)
          : reversedPiece(piecePart(this.pieces[s.piece], s.to, s.from)),
      )
      .filter((p) => pieceLength(p) > this.touch / 10);
  }

  /** Where others meet a piece, in order. */
  private junctions(i: number): Junction[] {
    const cached = this.known.get(i);
    if (cached) return cached;
    const piece = this.pieces[i],
      [x0, y0, x1, y1] = pieceBox(piece),
      length = pieceLength(piece),
      met: { t: number; piece: number; u: number }[] = [];
    for (const j of this.find([x0 - this.touch, y0 - this.touch, x1 + this.touch, y1 + this.touch])) {
      if (j === i) continue;
      const other = this.pieces[j];
      const near = (a: Piece, p: Point) => {
        const t = placeOnPiece(a, p),
          q = pieceAt(a, t);
        return Math.hypot(q[0] - p[0], q[1] - p[1]) <= this.touch ? t : null;
      };
      for (const p of crossPieces(piece, other))
        met.push({ t: placeOnPiece(piece, p), piece: j, u: placeOnPiece(other, p) });
      for (const u of [0, 1]) {
        const t = near(piece, u === 0 ? pieceStart(other) : pieceEnd(other));
        if (t !== null) met.push({ t, piece: j, u });
      }
      for (const t of [0, 1]) {
        const u = near(other, t === 0 ? pieceStart(piece) : pieceEnd(piece));
        if (u !== null) met.push({ t, piece: j, u });
      }
    }
    const out: Junction[] = [];
    for (const m of met.sort((a, b) => a.t - b.t)) {
      const last = out.at(-1);
      if (last && (m.t - last.t) * length <= 2 * this.touch) {
        if (!last.others.some((o) => o.piece === m.piece)) last.others.push({ piece: m.piece, t: m.u });
      } else out.push({ t: m.t, others: [{ piece: m.piece, t: m.u }] });
    }
    this.known.set(i, out);
    return out;
  }

  private next({ piece, t, forward }: Place): Junction | null {
    const slack = (2.5 * this.touch) / pieceLength(this.pieces[piece]),
      all = this.junctions(piece);
    return forward
      ? (all.find((j) => j.t > t + slack) ?? null)
      : ([...all].reverse().find((j) => j.t < t - slack) ?? null);
  }

  /** The way that turns left the most where others meet; null where none leads on. */
  private leftmost(at: Place, { t, others }: Junction): Place | null {
    const back = this.ahead({ piece: at.piece, t, forward: !at.forward });
    let best: Place | null = null,
      most = -Infinity;
    for (const place of [{ piece: at.piece, t }, ...others].flatMap((o): Place[] => [
      { ...o, forward: true },
      { ...o, forward: false },
    ])) {
      if (place.piece === at.piece && place.forward !== at.forward) continue;
      const length = pieceLength(this.pieces[place.piece]),
        room = (place.forward ? 1 - place.t : place.t) * length;
      if (room <= 2 * this.touch) continue;
      const d = this.ahead(place);
      // Seen from the way that came, counter-clockwise: the farthest round lies the most to the left.
      const turn = normalAngle(Math.atan2(d[1], d[0]) - Math.atan2(back[1], back[0]) + BACK) - BACK;
      if (turn > most) [best, most] = [place, turn];
    }
    return best;
  }

  /** From a place a little way on. */
  private ahead({ piece, t, forward }: Place): [number, number] {
    const p = this.pieces[piece],
      step = Math.min(0.2, (20 * this.touch) / pieceLength(p));
    const a = pieceAt(p, t),
      b = pieceAt(p, Math.max(0, Math.min(1, forward ? t + step : t - step)));
    return [b[0] - a[0], b[1] - a[1]];
  }
}
