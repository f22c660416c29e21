import { along, distance, widthOf, type Hand, type Kind, type Point } from './hand.ts';

/** How an office draws its dimensions. */
export interface Habit {
  mark: 'tick' | 'thick' | 'arrow' | 'open' | 'dot' | 'ring' | 'bare';
  figure: 'above' | 'gap' | 'level' | 'below';
  /** Em height of figures, sheet points. */
  size: number;
  /** Length of marks in figures' heights. */
  markSize?: number;
  /** How far witness lines go beyond the line; and how far from the thing they begin. */
  beyond?: number;
  apart?: number;
  /** Upright figures are read from the left, not from the right. */
  fromLeft?: boolean;
  /** The dimension line goes on beyond its ends. */
  over?: number;
}
export interface Extra {
  kind?: Kind;
  value: number;
  height?: number;
  below?: string;
  belowRaised?: string;
  free?: boolean;
  slip?: boolean;
  /** Moves the figure along and off the line. */
  shift?: readonly [number, number];
  leader?: boolean;
  /** A raised small figure behind the figure. */
  raised?: string;
  /** Arrows from outside. */
  outside?: boolean;
  noLine?: boolean;
}

/** A dimension of the thing's points a and b, its line `off` points to their left. */
export function dimension(
  hand: Hand,
  habit: Habit,
  a: Point,
  b: Point,
  off: number,
  text: string,
  extra: Extra,
): void {
  const from = along(a, b, 0, off),
    to = along(a, b, distance(a, b), off),
    length = distance(from, to);
  const side = Math.sign(off) || 1,
    beyond = habit.beyond ?? 0.4 * habit.size,
    apart = habit.apart ?? 2;
  if (Math.abs(off) > apart)
    for (const t of [0, length]) hand.line(along(a, b, t, side * apart), along(a, b, t, off + side * beyond));
  lineOf(hand, habit, from, to, text, extra);
  hand.dim({
    text: text + (extra.raised ?? ''),
    kind: extra.kind ?? 'linear',
    value: extra.value,
    from,
    to,
    ...(extra.height !== undefined && { height: extra.height }),
    ...(extra.free && { free: true }),
    ...(extra.slip && { slip: true }),
  });
}

function lineOf(hand: Hand, habit: Habit, from: Point, to: Point, text: string, extra: Extra): void {
  const h = habit.size,
    length = distance(from, to),
    at = (t: number, v = 0) => along(from, to, t, v);
  const full = widthOf(text, h) + (extra.raised ? 0.4 * h : 0),
    over = habit.over ?? 0;
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const limit = habit.fromLeft ? -Math.PI / 2 + 1e-6 : Math.PI / 2 + 1e-6;
  let read = angle;
  if (habit.fromLeft)
    while (read >= Math.PI / 2 - 1e-6 || read < limit - 2e-6)
      read += read >= Math.PI / 2 - 1e-6 ? -Math.PI : Math.PI;
  else while (read > limit || read <= -Math.PI / 2 + 1e-6) read += read > limit ? -Math.PI : Math.PI;
  const up = Math.cos(read - angle) > 0 ? 1 : -1;
  const [sx, sy] = extra.shift ?? [0, 0];
  const level = habit.figure === 'level' && Math.abs(Math.sin(angle)) > 0.5;
  const gapped = (habit.figure === 'gap' || level) && !extra.shift;
  const gap = level ? 0.85 * h : full / 2 + 0.35 * h;
  if (extra.noLine) {
    /* The row's own line runs through. */
  } else if (gapped) {
    hand.line(at(-over), at(length / 2 - gap));
    hand.line(at(length / 2 + gap), at(length + over));
  } else if (extra.outside) {
    hand.line(at(-2.2 * h), at(0));
    hand.line(at(length), at(length + 2.2 * h));
    hand.line(at(0), at(length));
  } else hand.line(at(-over), at(length + over));
  for (const t of [0, length]) mark(hand, habit, from, to, t, (t === 0 ? 1 : -1) * (extra.outside ? -1 : 1));
  const lift = gapped ? -0.35 * h : habit.figure === 'below' ? -1.0 * h : 0.3 * h;
  const middle = at(length / 2 + sx, up * (lift + sy)),
    turn = level ? 0 : read;
  const base: Point = level ? [at(length / 2)[0], at(length / 2)[1] - 0.35 * h] : middle;
  figureOf(hand, text, extra.raised, base, h, turn);
  if (extra.below) figureOf(hand, extra.below, extra.belowRaised, at(length / 2, up * -1.0 * h), h, turn);
  if (extra.free) {
    const c = Math.cos(turn),
      s = Math.sin(turn),
      under = (t: number): Point => [base[0] + c * t + s * 0.14 * h, base[1] + s * t - c * 0.14 * h];
    hand.line(under(-full / 2), under(full / 2));
  }
  if (extra.leader)
    hand.line(
      at(length / 2),
      at(length / 2 + sx - Math.sign(sx) * (full / 2 + 1), up * (lift + sy) + 0.1 * h),
      at(length / 2 + sx + Math.sign(sx) * (full / 2), up * (lift + sy) - 0.15 * h),
    );
}

/** A figure by its middle, with a small raised one behind it where there is one. */
function figureOf(
  hand: Hand,
  text: string,
  raised: string | undefined,
  base: Point,
  h: number,
  turn: number,
): void {
  if (!raised) {
    hand.text(text, base, h, 'middle', turn);
    return;
  }
  const w = widthOf(text, h),
    c = Math.cos(turn),
    s = Math.sin(turn),
    full = w + 0.4 * h;
  const start: Point = [base[0] - (c * full) / 2, base[1] - (s * full) / 2];
  hand.text(text, start, h, 'start', turn);
  hand.text(
    raised,
    [start[0] + c * (w + 0.04 * h) - s * 0.38 * h, start[1] + s * (w + 0.04 * h) + c * 0.38 * h],
    0.6 * h,
    'start',
    turn,
  );
}

/** A mark at t along the line; `inward`: the way from it into the stretch. */
export function mark(hand: Hand, habit: Habit, from: Point, to: Point, t: number, inward: number): void {
  const h = habit.size * (habit.markSize ?? 1),
    at = (s: number, v = 0) => along(from, to, s, v);
  if (habit.mark === 'tick') hand.line(at(t - 0.3 * h, -0.3 * h), at(t + 0.3 * h, 0.3 * h));
  else if (habit.mark === 'thick')
    hand.fill(
      at(t - 0.36 * h, -0.28 * h),
      at(t - 0.28 * h, -0.36 * h),
      at(t + 0.36 * h, 0.28 * h),
      at(t + 0.28 * h, 0.36 * h),
    );
  else if (habit.mark === 'dot') hand.circle(at(t), 0.17 * h, true);
  else if (habit.mark === 'ring') hand.circle(at(t), 0.2 * h);
  else if (habit.mark === 'arrow')
    hand.fill(at(t), at(t + inward * 0.9 * h, 0.16 * h), at(t + inward * 0.9 * h, -0.16 * h));
  else if (habit.mark === 'open') {
    hand.line(at(t + inward * 0.8 * h, 0.25 * h), at(t));
    hand.line(at(t), at(t + inward * 0.8 * h, -0.25 * h));
  }
}

/** A chain along a line that runs through: the places of the thing, the line `off` to the left, one text a stretch. */
export function chain(
  hand: Hand,
  habit: Habit,
  places: readonly Point[],
  off: number,
  texts: readonly { text: string; extra: Extra }[],
): void {
  const over = habit.over ?? 0,
    first = places[0],
    last = places[places.length - 1];
  hand.line(along(first, last, -over, off), along(first, last, distance(first, last) + over, off));
  texts.forEach(({ text, extra }, i) =>
    dimension(hand, { ...habit, over: 0 }, places[i], places[i + 1], off, text, { ...extra, noLine: true }),
  );
}

/** A ruled table with its figures. */
export function table(
  hand: Hand,
  [x, y]: Point,
  widths: readonly number[],
  row: number,
  size: number,
  cells: readonly (readonly string[])[],
  rules: 'all' | 'rows' | 'none' = 'all',
): void {
  const total = widths.reduce((a, b) => a + b, 0),
    top = y + cells.length * row;
  if (rules !== 'none')
    for (let r = 0; r <= cells.length; r++) hand.line([x, y + r * row], [x + total, y + r * row]);
  if (rules === 'all')
    for (let c = 0, at = x; c <= widths.length; at += widths[c] ?? 0, c++) hand.line([at, y], [at, top]);
  cells.forEach((list, r) => {
    let at = x;
    list.forEach((text, c) => {
      hand.text(text, [at + widths[c] / 2, top - (r + 1) * row + 0.3 * row], size);
      at += widths[c];
    });
  });
}
