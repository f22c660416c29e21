import { pathPieces, pieceAt, type Point } from '../../geometry/index.ts';
import { drawingBox, plainNumber, type Drawing, type Shape } from '../drawing.ts';

/**
 * Writes SVG 1.1 at a stated scale: one user unit is one millimetre of paper, so that it prints true.
 * Each layer is a group with its name. Cannot carry: units of the model (they are stated in the description).
 */
export interface SvgOptions {
  /** 100 for 1:100. */
  scale: number;
  title: string;
  /** Margin around the drawing, paper millimetres. */
  margin?: number;
}

const LINE_WIDTH = 0.18;
/** Texts are as high as their capitals: what that is of a font's size, as most have it. */
export const CAPITALS = 0.718;

export function writeSvg(drawing: Drawing, { scale, title, margin = 10 }: SvgOptions): string {
  const box = drawingBox(drawing) ?? [0, 0, 0, 0];
  const k = 1 / scale;
  const width = (box[2] - box[0]) * k + 2 * margin,
    height = (box[3] - box[1]) * k + 2 * margin;
  const x = (v: number) => plainNumber((v - box[0]) * k + margin, 4);
  // The one flip: the drawing's y goes up, the paper's down.
  const y = (v: number) => plainNumber((box[3] - v) * k + margin, 4);
  const groups = layersSvg(drawing, x, y, k);
  const [w, h] = [plainNumber(width, 4), plainNumber(height, 4)];
  return (
    `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}">\n` +
    `  <title>${escapeXml(title)}</title>\n  <desc>Scale 1:${plainNumber(scale, 4)}; one user unit is one millimetre of paper.</desc>\n${groups}</svg>\n`
  );
}

/** The layers of a drawing as groups with their names; `x`, `y` put its places on paper, `k` its lengths, `prefix` keeps their ids apart from others of the file. */
export function layersSvg(
  drawing: Drawing,
  x: (v: number) => string,
  y: (v: number) => string,
  k: number,
  prefix = '',
): string {
  return drawing.layers
    .map((layer) => {
      const colour = `#${layer.colour.toString(16).padStart(6, '0')}`;
      const shapes = drawing.shapes
        .filter((s) => s.layer === layer.name)
        .map((s) => shapeSvg(s, x, y, k, colour));
      return shapes.length === 0
        ? ''
        : `  <g id="${escapeXml(prefix + idOf(layer.name))}" data-layer="${escapeXml(layer.name)}" stroke="${colour}" fill="none" stroke-width="${layer.weight ?? LINE_WIDTH}"${dashes(layer.dash, k)}${layer.off ? ' display="none"' : ''}>\n${shapes.map((s) => `    ${s}`).join('\n')}\n  </g>\n`;
    })
    .join('');
}

/** Dashes on paper. */
const dashes = (dash: readonly number[] | undefined, k: number) =>
  dash && dash.length > 0 ? ` stroke-dasharray="${dash.map((d) => plainNumber(d * k, 4)).join(' ')}"` : '';

function shapeSvg(
  s: Shape,
  x: (v: number) => string,
  y: (v: number) => string,
  k: number,
  colour: string,
): string {
  const path = (points: readonly Point[]) =>
    points.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p[0])} ${y(p[1])}`).join('');
  const dash = 'dash' in s ? dashes(s.dash, k) : '';
  const bent = (points: readonly Point[], bulges: readonly number[], closed: boolean) =>
    `M${x(points[0][0])} ${y(points[0][1])}${pathPieces({ points, bulges, closed })
      .map((piece) => {
        const [px, py] = pieceAt(piece, 1);
        if (piece.kind !== 'arc') return `L${x(px)} ${y(py)}`;
        const r = plainNumber(piece.arc.r * k, 4);
        return `A${r} ${r} 0 ${piece.arc.end - piece.arc.start > Math.PI ? 1 : 0} ${piece.clockwise ? 1 : 0} ${x(px)} ${y(py)}`;
      })
      .join('')}${closed ? 'Z' : ''}`;
  switch (s.kind) {
    case 'line':
      return `<path${dash} d="${path([s.from, s.to])}"/>`;
    case 'polyline':
      return `<path${dash} d="${s.bulges?.some((b) => b !== 0) ? bent(s.points, s.bulges, s.closed) : `${path(s.points)}${s.closed ? 'Z' : ''}`}"/>`;
    case 'region':
      return `<path fill="${colour}" fill-opacity="0.15" fill-rule="evenodd" d="${s.rings.map((r) => `${path(r)}Z`).join('')}"/>`;
    case 'circle':
      return `<circle${dash} cx="${x(s.cx)}" cy="${y(s.cy)}" r="${plainNumber(s.r * k, 4)}"/>`;
    case 'arc': {
      const at = (a: number): Point => [s.cx + s.r * Math.cos(a), s.cy + s.r * Math.sin(a)];
      const [p, q] = [at(s.start), at(s.end)];
      const r = plainNumber(s.r * k, 4);
      return `<path${dash} d="M${x(p[0])} ${y(p[1])}A${r} ${r} 0 ${s.end - s.start > Math.PI ? 1 : 0} 0 ${x(q[0])} ${y(q[1])}"/>`;
    }
    case 'cubic': {
      const [a, b, c, d] = s.points;
      return `<path${dash} d="M${x(a[0])} ${y(a[1])}C${x(b[0])} ${y(b[1])} ${x(c[0])} ${y(c[1])} ${x(d[0])} ${y(d[1])}"/>`;
    }
    case 'text': {
      const turn = plainNumber((-s.radians * 180) / Math.PI, 4);
      return `<text transform="translate(${x(s.x)} ${y(s.y)}) rotate(${turn})" font-size="${plainNumber((s.height * k) / CAPITALS, 4)}" font-family="sans-serif" fill="${colour}" stroke="none">${escapeXml(s.text)}</text>`;
    }
  }
}

const idOf = (name: string) => `layer-${name.replace(/[^A-Za-z0-9_-]+/g, '-')}`;

export const escapeXml = (text: string): string =>
  text
    .replace(/[&<>"']/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[c]!)
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '');
