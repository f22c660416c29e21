import Flatbush from 'flatbush';
import { greyAt, type Raster } from '../raster.ts';
import type { Refined } from './refine.ts';

/**
 * Marks that end a dimension are so short that thinning bends most of them away where they cross two lines.
 * Here the picture is asked: wherever a line that may be a dimension line meets another, is there ink as a tick,
 * an arrow or a dot would lay it, and paper where it would not?
 */

/** One stroke in pixels: of an arrow there are two, from its tip. */
export interface InkMark {
  from: readonly [number, number];
  to: readonly [number, number];
}
/** A round dot in pixels. */
export interface InkDot {
  x: number;
  y: number;
  r: number;
}
export interface InkMarks {
  marks: InkMark[];
  dots: InkDot[];
}

/** Sizes in millimetres of paper: how far a tick is followed, the shortest and longest arrow, the largest dot. */
const TICK_REACH = 0.7,
  SHORTEST_ARROW = 0.9,
  LONGEST_ARROW = 4.5,
  OPEN_REACH = 1.5,
  SMALLEST_DOT = 0.6,
  LARGEST_DOT = 1.4;
/** Ink is darker than this share of the way from the line's own ink to white: strokes thinner than a pixel are grey. */
const INK_SHARE = 0.62,
  LIGHTEST_INK = 200;
const STEP = 0.5,
  WIGGLE = 0.6;
/** Paper is looked for so far beside a tick, pixels, or millimetres of paper where that is more. */
const TICK_BESIDE = 2.2,
  TICK_BESIDE_MM = 0.3;
/** Share of places that must be ink, and of those beside that must be paper. */
const ENOUGH_INK = 0.85,
  ENOUGH_PAPER = 0.75;
/** Lines that meet the dimension line within this beyond either end count, pixels; places nearer to one another are one. */
const MEETS = 3,
  SAME_PLACE = 1.5;
const CROSSING_SINE = 0.3;

const RADIANS = Math.PI / 180;
const TICK_ANGLES = [30, 37.5, 45, 52.5, 60, 120, 127.5, 135, 142.5, 150].map((d) => d * RADIANS);
const BARB_ANGLES = Array.from({ length: 19 }, (_, k) => (9 + 2 * k) * RADIANS);
/** A dot's rim is looked for neither along the line nor along a witness square to it. */
const RIM_ANGLES = [25, 40, 55, 70, 110, 125, 140, 155].flatMap((d) => [d, d + 180]).map((d) => d * RADIANS);

/** Finds lines by place. */
export class Crossings {
  private readonly tree: Flatbush | null;
  constructor(private readonly lines: readonly Refined[]) {
    this.tree = lines.length === 0 ? null : new Flatbush(lines.length, 16, Float32Array);
    for (const l of lines) {
      const [x0, y0, x1, y1] = [
        l.x + l.from * l.ux,
        l.y + l.from * l.uy,
        l.x + l.to * l.ux,
        l.y + l.to * l.uy,
      ];
      this.tree!.add(
        Math.min(x0, x1) - MEETS,
        Math.min(y0, y1) - MEETS,
        Math.max(x0, x1) + MEETS,
        Math.max(y0, y1) + MEETS,
      );
    }
    this.tree?.finish();
  }

  /** Places along the line where another meets it, and its own ends, in order. */
  on(line: Refined): number[] {
    const [x0, y0, x1, y1] = [
      line.x + line.from * line.ux,
      line.y + line.from * line.uy,
      line.x + line.to * line.ux,
      line.y + line.to * line.uy,
    ];
    const found = [line.from, line.to];
    for (const i of this.tree?.search(
      Math.min(x0, x1),
      Math.min(y0, y1),
      Math.max(x0, x1),
      Math.max(y0, y1),
    ) ?? []) {
      const o = this.lines[i];
      const sine = line.ux * o.uy - line.uy * o.ux;
      if (Math.abs(sine) < CROSSING_SINE) continue;
      const dx = o.x - line.x,
        dy = o.y - line.y;
      const t = (dx * o.uy - dy * o.ux) / sine,
        s = (dx * line.uy - dy * line.ux) / sine;
      if (s < o.from - MEETS || s > o.to + MEETS || t < line.from - MEETS || t > line.to + MEETS) continue;
      found.push(t);
    }
    // A crossing says where better than the end of the ink.
    const crossings = found.slice(2);
    return [
      ...crossings,
      ...found.slice(0, 2).filter((t) => !crossings.some((c) => Math.abs(c - t) <= MEETS)),
    ]
      .sort((a, b) => a - b)
      .filter((t, i, all) => i === 0 || t - all[i - 1] > SAME_PLACE);
  }
}

/** Ticks, arrows and dots where a line meets others. `perMillimetre`: pixels per millimetre of paper. */
export function marksOn(
  line: Refined,
  crossings: Crossings,
  raster: Raster,
  perMillimetre: number,
): InkMarks {
  const look = new Look(line, raster);
  const out: InkMarks = { marks: [], dots: [] };
  for (const at of crossings.on(line)) {
    const r = look.dot(at, SMALLEST_DOT * perMillimetre, LARGEST_DOT * perMillimetre);
    if (r !== null) {
      const [x, y] = look.place(at, 0, 0);
      out.dots.push({ x, y, r });
      continue;
    }
    const angle = look.tick(at, TICK_REACH * perMillimetre, perMillimetre);
    const reach = TICK_REACH * perMillimetre;
    if (angle !== null)
      out.marks.push({
        from: look.place(at, -reach * Math.cos(angle), -reach * Math.sin(angle)),
        to: look.place(at, reach * Math.cos(angle), reach * Math.sin(angle)),
      });
    for (const side of [1, -1] as const) {
      const arrow = look.arrow(at, side, perMillimetre);
      if (arrow)
        for (const v of [1, -1])
          out.marks.push({
            from: look.place(at, 0, 0),
            to: look.place(at, side * arrow.length, v * arrow.half),
          });
    }
  }
  return out;
}

/** Asks for ink around places of one line. */
class Look {
  private readonly limit: number;
  private readonly half: number;

  constructor(
    private readonly line: Refined,
    private readonly raster: Raster,
  ) {
    const along = Array.from({ length: 41 }, (_, k) =>
      greyAt(raster, ...this.place(line.from + (k / 40) * (line.to - line.from), 0, 0)),
    ).sort((a, b) => a - b);
    this.limit = Math.min(LIGHTEST_INK, along[20] + INK_SHARE * (255 - along[20]));
    this.half = line.width / 2;
  }

  /** `along` and `across` from the place `t` of the line, pixels. */
  place(t: number, along: number, across: number): [number, number] {
    const { x, y, ux, uy } = this.line;
    return [x + (t + along) * ux - across * uy, y + (t + along) * uy + across * ux];
  }

  private ink(t: number, along: number, across: number): boolean {
    return greyAt(this.raster, ...this.place(t, along, across)) < this.limit;
  }

  /** Ink there, or half a pixel to either side: lines of a picture lie on whole pixels, their marks between them. */
  private inkNear(t: number, along: number, across: number): boolean {
    return (
      this.ink(t, along, across) || this.ink(t, along, across - WIGGLE) || this.ink(t, along, across + WIGGLE)
    );
  }

  /** The radius of a blot around the place, the same in all directions; null for none. */
  dot(t: number, smallest: number, largest: number): number | null {
    const reaches = RIM_ANGLES.map((angle) => {
      let r = 0;
      while (r <= largest && this.ink(t, r * Math.cos(angle), r * Math.sin(angle))) r += 0.25;
      return r;
    });
    const r = reaches.reduce((a, b) => a + b, 0) / reaches.length;
    return r >= Math.max(2, 2 * this.half, smallest / 2) &&
      r <= largest / 2 &&
      reaches.every((v) => Math.abs(v - r) <= 0.25 * r + 0.75)
      ? r
      : null;
  }

  /** The angle of a stroke straight through the place with paper on both sides of it. */
  tick(t: number, reach: number, perMillimetre: number): number | null {
    const first = this.half + 1.5,
      beyond = this.half + Math.max(TICK_BESIDE, TICK_BESIDE_MM * perMillimetre);
    let best: number | null = null,
      most = 0;
    for (const angle of TICK_ANGLES) {
      const c = Math.cos(angle),
        s = Math.sin(angle);
      // A tick is drawn thicker than its line: what is paper beside it is told by its own ink.
      const own: number[] = [];
      for (let r = first; r <= reach; r += STEP)
        for (const side of [1, -1])
          own.push(greyAt(this.raster, ...this.place(t, side * r * c, side * r * s)));
      const darkness = own.sort((a, b) => a - b)[own.length >> 1] ?? 255,
        paperFrom = Math.min(this.limit, (darkness + 255) / 2);
      let ink = 0,
        paper = 0,
        places = 0,
        beside = 0;
      for (let r = first; r <= reach; r += STEP) {
        for (const side of [1, -1]) {
          places++;
          if (this.inkNear(t, side * r * c, side * r * s)) ink++;
          for (const off of [beyond, -beyond]) {
            const along = side * r * c - off * s,
              across = side * r * s + off * c;
            // The line itself and a witness square to it are dark, too.
            if (Math.abs(across) < this.half + 1.6 || Math.abs(along) < this.half + 1.6) continue;
            beside++;
            if (greyAt(this.raster, ...this.place(t, along, across)) >= paperFrom) paper++;
          }
        }
      }
      const score = ink / places;
      if (score < ENOUGH_INK || (beside > 0 && paper / beside < ENOUGH_PAPER) || score <= most) continue;
      most = score;
      best = angle;
    }
    return best;
  }

  /** An arrow with its tip at the place that lies on one side of it, filled or open. */
  arrow(t: number, side: 1 | -1, perMillimetre: number): { length: number; half: number } | null {
    return this.filledArrow(t, side, perMillimetre) ?? this.openArrow(t, side, perMillimetre);
  }

  private filledArrow(
    t: number,
    side: 1 | -1,
    perMillimetre: number,
  ): { length: number; half: number } | null {
    const longest = LONGEST_ARROW * perMillimetre,
      widest = 1.3 * perMillimetre;
    /** How far the ink goes beyond the line's own to the side where it goes less far. */
    const excess = (d: number) =>
      Math.min(
        ...[1, -1].map((v) => {
          let w = 0;
          while (w <= widest && this.ink(t, side * d, v * w)) w += 0.25;
          return w;
        }),
      ) - this.half;
    const profile: number[] = [];
    for (let d = 0; d <= longest; d += STEP) profile.push(excess(d));
    // The foot is where it is widest; the witness line at the tip is left out.
    const skip = Math.ceil((this.half + 2) / STEP);
    const most = Math.max(...profile.slice(skip));
    const foot = profile.length - 1 - [...profile].reverse().findIndex((w) => w >= most - 0.3);
    const length = foot * STEP,
      half = profile[foot] + this.half;
    if (
      length < SHORTEST_ARROW * perMillimetre ||
      profile[foot] < 0.9 ||
      half > 0.6 * length ||
      half > widest
    )
      return null;
    const behind = profile[Math.min(profile.length - 1, foot + Math.ceil(2.5 / STEP))],
      middle = profile[Math.round(foot * 0.5)];
    if (
      behind > 0.4 * profile[foot] ||
      middle > 0.8 * profile[foot] + 0.3 ||
      middle < 0.15 * profile[foot] - 0.2
    )
      return null;
    // Wider and wider from the tip to the foot.
    let falls = 0;
    for (let k = skip + 1; k <= foot; k++) if (profile[k] < profile[k - 1] - 0.6) falls++;
    return falls <= 1 ? { length, half } : null;
  }

  private openArrow(t: number, side: 1 | -1, perMillimetre: number): { length: number; half: number } | null {
    const reach = OPEN_REACH * perMillimetre;
    let best: { length: number; half: number } | null = null,
      most = 0;
    for (const angle of BARB_ANGLES) {
      const c = Math.cos(angle),
        s = Math.sin(angle);
      let ink = 0,
        places = 0,
        paper = 0,
        beside = 0;
      for (let r = (this.half + 1.2) / s; r <= reach; r += STEP) {
        places += 2;
        for (const v of [1, -1]) {
          if (this.inkNear(t, side * r * c, v * r * s)) ink++;
          // Between barb and line, and outside the barb.
          for (const k of [0.5, 1.7]) {
            if (r * s * Math.abs(k - 1) < this.half + 1.2 || r * s * k < this.half + 1.2) continue;
            beside++;
            if (!this.ink(t, side * r * c, v * k * r * s)) paper++;
          }
        }
      }
      if (
        places < 6 ||
        ink < ENOUGH_INK * places ||
        beside < 4 ||
        paper < ENOUGH_PAPER * beside ||
        ink / places <= most
      )
        continue;
      most = ink / places;
      best = { length: reach * c, half: reach * s };
    }
    return best;
  }
}
