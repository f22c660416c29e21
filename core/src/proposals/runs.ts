import { classOf, HATCHED, type Band, type Limits, type ThicknessClass } from './bands.ts';
import type { Way } from './carriers.ts';
import { covered, joined, total, type Span } from './spans.ts';
import type { Stroke } from './strokes.ts';

/** A run of a band that may be a wall, with what speaks for it. */
export interface Run {
  way: number;
  /** Numbers of its two faces among the carriers of the way; of a thick line the same. */
  low: number;
  high: number;
  /** Across, of both faces. */
  offs: [number, number];
  from: number;
  to: number;
  /** Where both faces are drawn within it. */
  both: [number, number][];
  score: number;
  confidence: number;
  /** Drawn as one thick line. */
  thick: boolean;
  /** No line closes it, at either end. */
  open: boolean;
  doubts: string[];
}

/** A wall runs on across an opening no wider, and across a wall that crosses it, millimetres. */
const WIDEST_OPENING = 5200,
  WIDEST_BARE = 2800,
  WIDEST_CROSSING = 850,
  WIDEST_OF_INK = 1500;
/** So much of a run must be drawn by both faces: less is a row of things. */
const LEAST_DRAWN = 0.12,
  ENOUGH_DRAWN = 0.28;

/** What is known of a band by others. */
interface Judged {
  /** How much its pens draw walls, 0 to 1. */
  pen: number;
  /** Is it a layer of a thicker one? */
  layer: boolean;
  /** Millimetres of what is shown to a sheet point. */
  mm: number;
  limits: Limits;
}

/** The runs of a band: its stretches that one wall joins across what interrupts them. */
export function runsOf(
  band: Band,
  ways: readonly Way[],
  across: CrossLines,
  classes: readonly ThicknessClass[],
  { pen, layer, mm, limits }: Judged,
): Run[] {
  const { near, thickest, penWeight } = limits,
    { carriers } = ways[band.way],
    offs: [number, number] = [carriers[band.low].off, carriers[band.high].off],
    caps = new Caps(across, offs, near, thickest),
    lines = {
      either: joined([...carriers[band.low].drawn, ...carriers[band.high].drawn], near),
      between: joined(band.between),
    };
  const rows: [number, number][][] = [];
  for (const s of band.both) {
    const last = rows.at(-1)?.at(-1);
    if (last && bridges(last[1], s[0], caps, lines, mm, limits)) rows.at(-1)!.push(s);
    else rows.push([s]);
  }
  const inClass = classOf(classes, band.thickness, near);
  return rows.flatMap((both): Run[] => {
    const [from, to] = [both[0][0], both.at(-1)![1]],
      drawn = total(both);
    if (to - from < band.thickness) return [];
    const share = drawn / (to - from);
    if (share < LEAST_DRAWN) return [];
    const ends = both.flat().map((t) => caps.at(t)),
      tight = ends.filter((c) => c === 'tight').length / ends.length,
      loose = ends.filter((c) => c === 'loose').length / ends.length,
      { crowded } = band,
      longest = Math.max(...both.map(([a, b]) => b - a)),
      slender =
        Math.min(1, (to - from) / (2.5 * band.thickness)) *
        (longest < SQUAT * band.thickness ? ROW_OF_SHORT : 1);
    const sure =
      slender *
      usual(band.thickness * mm, inClass) *
      (layer ? 0.4 : 1) *
      HATCHED[band.hatched] *
      Math.min(1, share / ENOUGH_DRAWN) *
      (1 - 0.85 * crowded) *
      (1 - 0.95 * band.again) *
      (0.3 + 0.7 * band.alike) *
      (0.25 + 0.75 * inClass) *
      (1 - penWeight + penWeight * pen) *
      (0.7 + 0.3 * tight) *
      (1 - 0.7 * loose);
    const doubts = [
      ...(inClass < 0.5 ? ['no other wall is as thick'] : []),
      ...(pen < 0.4 ? ['another pen draws the walls'] : []),
      ...(crowded > 0.3 ? ['lines lie between its faces'] : []),
      ...(band.again > 0.3 ? ['it is one of a row'] : []),
      ...(slender < 1 ? ['it is short'] : []),
      ...(layer ? ['it may be a layer of a thicker wall'] : []),
    ];
    return [
      {
        way: band.way,
        low: band.low,
        high: band.high,
        offs,
        from,
        to,
        both,
        score: sure * drawn,
        confidence: sure,
        thick: false,
        open: limits.slack === 0 && caps.at(from) === null && caps.at(to) === null,
        doubts,
      },
    ];
  });
}

/** Where no stretch is longer than this many times its thickness it is rather a row of things: chairs, cupboards. */
const SQUAT = 1.6,
  ROW_OF_SHORT = 0.3;

/** Walls are seldom thicker than the first, and what is as thick as the second is more often a counter or a cupboard, millimetres. */
const OFTEN = 430,
  SELDOM = 560,
  LEAST_USUAL = 0.4;

/** How usual a thickness is, unless most walls of the sheet have it. */
function usual(thickness: number, inClass: number): number {
  if (inClass === 1 || thickness <= OFTEN) return 1;
  return Math.max(LEAST_USUAL, 1 - ((1 - LEAST_USUAL) * (thickness - OFTEN)) / (SELDOM - OFTEN));
}

const MOST_BETWEEN = 24;

/** The share of a band with lines between its faces that are neither of windows nor of layers. */
export function crowdOf(
  band: Band,
  { carriers }: Way,
  across: CrossLines,
  { near, thickest }: Limits,
): number {
  if (band.between.length === 0) return 0;
  // So many are no window's and no layer's.
  if (band.between.length > MOST_BETWEEN * (1 + band.both.length)) return 1;
  const caps = new Caps(across, [carriers[band.low].off, carriers[band.high].off], near, thickest),
    crowd = joined(band.between.filter((s) => !isLayer(s, band, caps, near))),
    length = total(band.both);
  return length > 0 ? band.both.reduce((sum, s) => sum + covered(s, crowd), 0) / length : 0;
}

/** Is a line between two faces one of a window or of a layer: from jamb to jamb, or along all of a stretch? */
function isLayer([a, b]: Span, { both, thickness }: Band, caps: Caps, near: number): boolean {
  const stretch = both.find(([c, d]) => a < d && b > c);
  // What lies beside it says nothing of it.
  if (!stretch) return true;
  const slack = thickness + near,
    isClosed = (t: number) => caps.at(t) !== null || caps.framedAt(t),
    [first, last] = [isClosed(a), isClosed(b)];
  return (
    (first && last) ||
    (b - a > 2 * thickness && (first || a <= stretch[0] + slack) && (last || b >= stretch[1] - slack))
  );
}

/** Does a wall run on from one stretch to the next? */
function bridges(
  a: number,
  b: number,
  caps: Caps,
  { either, between }: { either: readonly Span[]; between: readonly Span[] },
  mm: number,
  { thickest, slack }: Limits,
): boolean {
  const gap = (b - a) * mm;
  if (gap <= WIDEST_CROSSING || b - a <= thickest) return true;
  if (gap > WIDEST_OPENING) return false;
  // Jambs are too short to be read from ink.
  if (slack > 0 && gap <= WIDEST_OF_INK) return true;
  const faces = covered([a, b], either) / (b - a),
    closed = [a, b].filter((t) => caps.at(t) !== null).length;
  // One face that runs through, or an opening that is closed at both sides: a wide one has panes, or two walls end there.
  if (faces > 0.98) return true;
  if (closed === 2) return gap <= WIDEST_BARE || covered([a, b], between) > 0.5 * (b - a);
  // Some draw no jambs: a wall that ends is closed, two faces that end side by side without a line are those of an opening.
  return slack === 0 && closed === 0 && gap <= WIDEST_BARE && faces < 0.1;
}

const CAP_SINE = 0.03,
  LEAST_FRAME = 0.15;

/** A line square to a way: where along it, and from where to where across. */
interface CrossLine {
  at: number;
  low: number;
  high: number;
}

/** The lines square to a way, in order along it. */
export class CrossLines {
  private readonly lines: CrossLine[] = [];

  constructor(strokes: readonly Stroke[], angle: number, near: number) {
    const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
    for (const { from, to } of strokes) {
      const s = from[0] * ux + from[1] * uy,
        t = to[0] * ux + to[1] * uy;
      if (Math.abs(s - t) > near) continue;
      const v = -from[0] * uy + from[1] * ux,
        w = -to[0] * uy + to[1] * ux;
      if (Math.abs(s - t) > CAP_SINE * Math.abs(v - w)) continue;
      this.lines.push({ at: (s + t) / 2, low: Math.min(v, w), high: Math.max(v, w) });
    }
    this.lines.sort((a, b) => a.at - b.at);
  }

  /** Those within `near` of a place along. */
  *nearTo(place: number, near: number): Generator<CrossLine> {
    let [low, high] = [0, this.lines.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.lines[middle].at < place - near) low = middle + 1;
      else high = middle;
    }
    for (let i = low; i < this.lines.length && this.lines[i].at <= place + near; i++) yield this.lines[i];
  }
}

/** What closes a band: jambs and ends. */
class Caps {
  constructor(
    private readonly lines: CrossLines,
    private readonly offs: readonly [number, number],
    private readonly near: number,
    private readonly thickest: number,
  ) {}

  /** Does a line cross well within the faces at a place along: the end of a frame where no jamb is drawn? */
  framedAt(place: number): boolean {
    const [v0, v1] = this.offs;
    for (const { low, high } of this.lines.nearTo(place, this.near))
      if (low > v0 + this.near && high < v1 - this.near && high - low > LEAST_FRAME * (v1 - v0)) return true;
    return false;
  }

  /** Is there a line from face to face at a place along, as long as the band is thick (tight), or as a thicker wall would have it (loose)? */
  at(place: number): 'tight' | 'loose' | 'long' | null {
    const [v0, v1] = this.offs,
      slack = this.near + 0.12 * (v1 - v0);
    let found: 'loose' | 'long' | null = null;
    for (const { low, high } of this.lines.nearTo(place, this.near)) {
      if (low > v0 + this.near || high < v1 - this.near) continue;
      if (low >= v0 - slack && high <= v1 + slack) return 'tight';
      if (high - low <= 1.05 * this.thickest) found = 'loose';
      else found ??= 'long';
    }
    return found;
  }
}
