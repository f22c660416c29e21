import { TAU, type Point } from '../../geometry/index.ts';
import { CLOSE, Verb } from '../../linework/page-objects.ts';

export interface PathParts {
  verbs: number[];
  points: Point[];
}

const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y;
const COUNTS: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 };

/** Reads SVG path data (SVG 1.1, 8.3) into moves, lines and Béziers. What comes after an error is left out, as the standard asks. */
export function parsePathData(d: string): PathParts {
  const verbs: number[] = [],
    points: Point[] = [];
  let at = 0,
    command = '';
  let x = 0,
    y = 0,
    startX = 0,
    startY = 0,
    handleX = 0,
    handleY = 0,
    last = '';
  const skip = () => {
    while (at < d.length && /[\s,]/.test(d[at])) at++;
  };
  const flag = () => {
    skip();
    const c = d[at];
    if (c !== '0' && c !== '1') return null;
    at++;
    return Number(c);
  };
  const value = () => {
    skip();
    NUMBER.lastIndex = at;
    const m = NUMBER.exec(d);
    if (!m) return null;
    at = NUMBER.lastIndex;
    return Number(m[0]);
  };
  const line = (nx: number, ny: number) => {
    verbs.push(Verb.line);
    points.push([nx, ny]);
    x = nx;
    y = ny;
  };
  const curve = (ax: number, ay: number, bx: number, by: number, nx: number, ny: number) => {
    verbs.push(Verb.curve);
    points.push([ax, ay], [bx, by], [nx, ny]);
    x = nx;
    y = ny;
  };
  for (;;) {
    skip();
    if (at >= d.length) break;
    if (/[a-zA-Z]/.test(d[at])) command = d[at++];
    else if (command === '' || /[zZ]/.test(command)) break;
    const upper = command.toUpperCase(),
      relative = command !== upper,
      count = COUNTS[upper];
    if (count === undefined) break;
    const v: number[] = [];
    for (let k = 0; k < count; k++) {
      const next = upper === 'A' && (k === 3 || k === 4) ? flag() : value();
      if (next === null) return { verbs, points };
      v.push(next);
    }
    const ox = relative ? x : 0,
      oy = relative ? y : 0;
    switch (upper) {
      case 'M':
        x = startX = v[0] + ox;
        y = startY = v[1] + oy;
        verbs.push(Verb.move);
        points.push([x, y]);
        // Further pairs are lines.
        command = relative ? 'l' : 'L';
        break;
      case 'L':
        line(v[0] + ox, v[1] + oy);
        break;
      case 'H':
        line(v[0] + ox, y);
        break;
      case 'V':
        line(x, v[0] + oy);
        break;
      case 'C':
        [handleX, handleY] = [v[2] + ox, v[3] + oy];
        curve(v[0] + ox, v[1] + oy, handleX, handleY, v[4] + ox, v[5] + oy);
        break;
      case 'S': {
        const [ax, ay] = /[CS]/.test(last) ? [2 * x - handleX, 2 * y - handleY] : [x, y];
        [handleX, handleY] = [v[0] + ox, v[1] + oy];
        curve(ax, ay, handleX, handleY, v[2] + ox, v[3] + oy);
        break;
      }
      case 'Q':
      case 'T': {
        if (upper === 'Q') [handleX, handleY] = [v[0] + ox, v[1] + oy];
        else [handleX, handleY] = /[QT]/.test(last) ? [2 * x - handleX, 2 * y - handleY] : [x, y];
        const nx = v[upper === 'Q' ? 2 : 0] + ox,
          ny = v[upper === 'Q' ? 3 : 1] + oy;
        curve(
          x + (2 / 3) * (handleX - x),
          y + (2 / 3) * (handleY - y),
          nx + (2 / 3) * (handleX - nx),
          ny + (2 / 3) * (handleY - ny),
          nx,
          ny,
        );
        break;
      }
      case 'A':
        for (const p of arcPieces(x, y, v[0], v[1], v[2], v[3] === 1, v[4] === 1, v[5] + ox, v[6] + oy))
          curve(...p);
        x = v[5] + ox;
        y = v[6] + oy;
        break;
      case 'Z':
        if (verbs.length > 0) verbs[verbs.length - 1] |= CLOSE;
        x = startX;
        y = startY;
        break;
    }
    last = upper;
  }
  return { verbs, points };
}

type Piece = [number, number, number, number, number, number];

/** An elliptical arc by its ends as Béziers (SVG 1.1, F.6: from ends to centre, too small radii grown). */
function arcPieces(
  x0: number,
  y0: number,
  radiusX: number,
  radiusY: number,
  degrees: number,
  large: boolean,
  sweep: boolean,
  x1: number,
  y1: number,
): Piece[] {
  let rx = Math.abs(radiusX),
    ry = Math.abs(radiusY);
  if (x0 === x1 && y0 === y1) return [];
  if (rx === 0 || ry === 0) return [[x0, y0, x1, y1, x1, y1]];
  const phi = (degrees * Math.PI) / 180,
    c = Math.cos(phi),
    s = Math.sin(phi);
  const px = (c * (x0 - x1) + s * (y0 - y1)) / 2,
    py = (-s * (x0 - x1) + c * (y0 - y1)) / 2;
  const grow = (px * px) / (rx * rx) + (py * py) / (ry * ry);
  if (grow > 1) {
    rx *= Math.sqrt(grow);
    ry *= Math.sqrt(grow);
  }
  const top = Math.max(0, rx * rx * ry * ry - rx * rx * py * py - ry * ry * px * px);
  const k = (large === sweep ? -1 : 1) * Math.sqrt(top / (rx * rx * py * py + ry * ry * px * px));
  const qx = (k * rx * py) / ry,
    qy = (-k * ry * px) / rx;
  const cx = c * qx - s * qy + (x0 + x1) / 2,
    cy = s * qx + c * qy + (y0 + y1) / 2;
  const start = Math.atan2((py - qy) / ry, (px - qx) / rx);
  let turn = Math.atan2((-py - qy) / ry, (-px - qx) / rx) - start;
  if (sweep && turn < 0) turn += TAU;
  if (!sweep && turn > 0) turn -= TAU;
  const n = Math.max(1, Math.ceil(Math.abs(turn) / (Math.PI / 4) - 1e-9)),
    step = turn / n,
    handle = (4 / 3) * Math.tan(step / 4);
  const on = (ux: number, uy: number): Point => [
    cx + c * rx * ux - s * ry * uy,
    cy + s * rx * ux + c * ry * uy,
  ];
  return Array.from({ length: n }, (_, i): Piece => {
    const a = start + i * step,
      b = a + step;
    const end = i === n - 1 ? ([x1, y1] as const) : on(Math.cos(b), Math.sin(b));
    return [
      ...on(Math.cos(a) - handle * Math.sin(a), Math.sin(a) + handle * Math.cos(a)),
      ...on(Math.cos(b) + handle * Math.sin(b), Math.sin(b) - handle * Math.cos(b)),
      ...end,
    ] as Piece;
  });
}
