import {
  angleAt,
  areaOfPieces,
  betweenParallels,
  circleThrough,
  crossesItself,
  lengthOfPieces,
  pathPieces,
  type Point,
} from '@calque/core/geometry';
import { formatArea, formatLengthWithUnit, formatNumber, type LengthStyle } from '@calque/core/units';
import type { MeasuredFigure } from '@/project/last-measured';
import { label, paintStretch } from '@/table/painters/overlay';
import { piecePath, ringPath, segmentPath } from '@/table/painters/trace';
import type { Brush } from '@/table/brush';
import type { Pick, Tool } from '@/table/tool';

/** What was measured, for the card and for typing it again. Lengths in millimetres, angles in radians, areas in square millimetres. */
export type Measured =
  | { kind: 'distance'; from: Point; to: Point }
  | { kind: 'angle'; corner: Point; legs: [Point, Point]; angle: number }
  | { kind: 'radius'; centre: Point; radius: number }
  | { kind: 'area'; ring: Point[]; area: number; perimeter: number }
  | { kind: 'thickness'; from: Point; to: Point; thickness: number };

/** The length or the angle that it comes down to, to be offered where one is typed. */
export function figureOf(m: Measured): MeasuredFigure {
  switch (m.kind) {
    case 'distance':
      return { length: distance(m.from, m.to) };
    case 'angle':
      return { angle: m.angle };
    case 'radius':
      return { length: m.radius };
    case 'area':
      return { length: m.perimeter };
    case 'thickness':
      return { length: m.thickness };
  }
}

export const WAYS = [
  {
    kind: 'distance',
    name: 'Distance',
    steps: ['pick the first point', 'pick the second point · Shift holds the axis'],
  },
  {
    kind: 'angle',
    name: 'Angle',
    steps: ['pick the corner', 'pick a point on one leg', 'pick a point on the other leg'],
  },
  {
    kind: 'radius',
    name: 'Radius',
    steps: [
      'click an arc or a circle, or pick a first point of one',
      'pick a second point of it',
      'pick a third point of it',
    ],
  },
  {
    kind: 'area',
    name: 'Area',
    steps: [
      'pick the first corner',
      'pick the next corner',
      'pick the next corner · Enter, or a click on the first, closes it',
    ],
  },
  { kind: 'thickness', name: 'Thickness', steps: ['click one of two parallel lines', 'click the other'] },
] as const satisfies readonly { kind: Measured['kind']; name: string; steps: readonly string[] }[];

export interface MeasureHost {
  style(): LengthStyle;
  tell(words: string): void;
  measured(result: Measured): void;
}

/** A click as near as this to the first corner closes an area, CSS pixels. */
const CLOSE_PIXELS = 9;
const distance = (p: Point, q: Point) => Math.hypot(q[0] - p[0], q[1] - p[1]);
const degrees = (radians: number) => `${formatNumber((radians * 180) / Math.PI, 2)}°`;

/** Measures distances, angles, radii, areas and thicknesses, one after another; F takes the next of these. */
export class MeasureTool implements Tool {
  readonly id = 'measure';
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private picks: Pick[] = [];
  private hover: Pick | null = null;
  private shown: Measured | null = null;
  private scale = 1;

  constructor(
    private readonly host: MeasureHost,
    private way = 0,
  ) {}

  get kind(): Measured['kind'] {
    return WAYS[this.way].kind;
  }
  private get points(): Point[] {
    return this.picks.map((p) => p.plane);
  }

  words(): string {
    const { name, steps } = WAYS[this.way],
      n = this.picks.length;
    return `${name}: ${steps[Math.min(n, steps.length - 1)]}${n === 0 ? ` · F: ${WAYS[(this.way + 1) % WAYS.length].name.toLowerCase()} · Esc ends` : ' · Backspace: one back'}`;
  }

  anchor(): [number, number] | null {
    const last = this.picks.at(-1);
    return last && this.kind !== 'thickness' ? [...last.plane] : null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    this.shown = null;
    if (
      this.kind === 'area' &&
      this.picks.length >= 3 &&
      distance(pick.plane, this.picks[0].plane) * this.scale < CLOSE_PIXELS
    ) {
      this.close();
      return;
    }
    const round = this.kind === 'radius' && this.picks.length === 0 ? pick.found?.piece?.() : null;
    if (round?.kind === 'arc') {
      this.finish({ kind: 'radius', centre: [round.arc.cx, round.arc.cy], radius: round.arc.r });
      return;
    }
    if (this.kind === 'thickness' && lineAt(pick) === null) {
      this.host.tell('Click on a straight line of the plan, or of what was traced.');
      return;
    }
    const last = this.picks.at(-1);
    if (last && distance(last.plane, pick.plane) < 1e-9) return;
    this.picks = [...this.picks, pick];
    if (this.kind === 'area' || this.picks.length < WAYS[this.way].steps.length) return;
    const result = this.resultOf(this.picks);
    if (typeof result === 'string') {
      this.host.tell(result);
      this.picks = this.picks.slice(0, -1);
    } else this.finish(result);
  }

  private finish(result: Measured): void {
    this.picks = [];
    this.shown = result;
    this.host.measured(result);
  }

  private close(): void {
    const result = areaWithin(this.points);
    if (typeof result === 'string') this.host.tell(result);
    else this.finish(result);
  }

  /** What the picks say; words where they say nothing. */
  private resultOf(picks: readonly Pick[]): Measured | string {
    const points = picks.map((p) => p.plane),
      [a, b, c] = points;
    switch (this.kind) {
      case 'distance':
        return { kind: 'distance', from: a, to: b };
      case 'angle': {
        const angle = angleAt(a, b, c);
        return angle === null
          ? 'A leg needs a point away from the corner.'
          : { kind: 'angle', corner: a, legs: [b, c], angle };
      }
      case 'radius': {
        const circle = circleThrough(a, b, c);
        return circle
          ? { kind: 'radius', centre: [circle.cx, circle.cy], radius: circle.r }
          : 'These three points lie on one line: no circle goes through them. Pick another.';
      }
      case 'area':
        return areaWithin(points);
      case 'thickness': {
        const between = betweenParallels(lineAt(picks[0])!, lineAt(picks[1])!, a);
        if (!between) return 'These two lines are not parallel: click another.';
        return between.distance < 1e-9
          ? 'This is the same line: click the other one.'
          : { kind: 'thickness', from: between.from, to: between.to, thickness: between.distance };
      }
    }
  }

  /** Takes another way to measure: the next, or a named one. */
  nextVariant(to?: Measured['kind']): boolean {
    this.way = to ? WAYS.findIndex((w) => w.kind === to) : (this.way + 1) % WAYS.length;
    this.picks = [];
    this.shown = null;
    return true;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace' && this.picks.length > 0) this.picks = this.picks.slice(0, -1);
    else if (event.key === 'Enter' && this.kind === 'area' && this.picks.length >= 3) this.close();
    else return false;
    return true;
  }

  cancel(): boolean {
    const had = this.picks.length > 0 || this.shown !== null;
    this.picks = [];
    this.shown = null;
    return had;
  }

  paint(brush: Brush): void {
    this.scale = brush.view.scale;
    if (this.shown) paintMeasured(brush, this.shown, this.host.style(), false);
    if (this.picks.length === 0 || !this.hover) return;
    const { context, palette } = brush,
      points = [...this.points, this.hover.plane];
    const whole = this.kind !== 'area' && points.length === WAYS[this.way].steps.length;
    const live =
      whole && (this.kind !== 'thickness' || lineAt(this.hover))
        ? this.resultOf([...this.picks, this.hover])
        : null;
    if (this.kind === 'area' && points.length >= 3) paintRing(brush, points, true);
    else if (live && typeof live !== 'string') paintMeasured(brush, live, this.host.style(), true);
    else {
      context.save();
      context.strokeStyle = palette.now;
      context.lineWidth = 2;
      context.setLineDash([6, 4]);
      context.beginPath();
      for (let i = 1; i < points.length; i++) segmentPath(brush, points[i - 1], points[i]);
      context.stroke();
      context.restore();
    }
    if (this.kind !== 'area' || points.length < 3) return;
    const area = areaWithin(points);
    if (typeof area !== 'string') areaLabel(brush, area, this.host.style());
  }
}

function areaWithin(ring: readonly Point[]): (Measured & { kind: 'area' }) | string {
  if (ring.length < 3) return 'An area needs three corners.';
  if (crossesItself(ring)) return 'This outline crosses itself: it encloses no one area. Take a corner back.';
  const pieces = pathPieces({ points: ring, bulges: ring.map(() => 0), closed: true });
  return {
    kind: 'area',
    ring: [...ring],
    area: Math.abs(areaOfPieces(pieces)),
    perimeter: lengthOfPieces(pieces),
  };
}

/** The straight line that a pick was made on. */
function lineAt(pick: Pick): [Point, Point] | null {
  const piece = pick.found?.piece?.();
  return piece?.kind === 'segment' ? [piece.from, piece.to] : null;
}

function paintRing(brush: Brush, ring: readonly Point[], dashed: boolean): void {
  const { context, palette } = brush;
  context.save();
  context.fillStyle = 'rgba(212,69,31,0.10)';
  context.strokeStyle = palette.now;
  context.lineWidth = 2;
  if (dashed) context.setLineDash([6, 4]);
  context.beginPath();
  ringPath(brush, ring);
  context.fill();
  context.stroke();
  context.restore();
}

function areaLabel(brush: Brush, m: Measured & { kind: 'area' }, style: LengthStyle): void {
  const [x, y] = brush.at([
    m.ring.reduce((s, p) => s + p[0], 0) / m.ring.length,
    m.ring.reduce((s, p) => s + p[1], 0) / m.ring.length,
  ]);
  label(
    brush,
    `${formatArea(m.area, style.units)} · ${formatLengthWithUnit(m.perimeter, style)} round`,
    x - 50,
    y,
    brush.palette.now,
  );
}

function paintMeasured(brush: Brush, m: Measured, style: LengthStyle, dashed: boolean): void {
  const { context, palette } = brush;
  if (m.kind === 'distance' || m.kind === 'thickness')
    paintStretch(
      brush,
      m.from,
      m.to,
      formatLengthWithUnit(distance(m.from, m.to), style),
      palette.now,
      dashed,
    );
  else if (m.kind === 'angle') {
    for (const leg of m.legs) paintStretch(brush, m.corner, leg, '', palette.now, dashed);
    const [x, y] = brush.at(m.corner);
    label(brush, degrees(m.angle), x + 10, y - 10, palette.now);
  } else if (m.kind === 'radius') {
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    context.beginPath();
    piecePath(brush, {
      kind: 'arc',
      arc: { cx: m.centre[0], cy: m.centre[1], r: m.radius, start: 0, end: 2 * Math.PI },
      clockwise: false,
    });
    context.stroke();
    context.restore();
    paintStretch(
      brush,
      m.centre,
      [m.centre[0] + m.radius, m.centre[1]],
      `R ${formatLengthWithUnit(m.radius, style)}`,
      palette.now,
      dashed,
    );
  } else {
    paintRing(brush, m.ring, dashed);
    areaLabel(brush, m, style);
  }
}
