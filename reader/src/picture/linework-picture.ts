import type { Linework } from '@calque/core/linework';

/** Lines drawn in a page's picture; more could not be told apart. */
const MOST_LINES = 60000;

/** A PNG of linework, its longer side `pixels`: what a drawing without a picture of its own looks like in a list. */
export async function lineworkPicture(l: Linework, pixels: number): Promise<Buffer> {
  const k = pixels / Math.max(l.width, l.height);
  const width = Math.max(1, Math.round(l.width * k)),
    height = Math.max(1, Math.round(l.height * k));
  const on = (style: Int32Array, i: number) => style[2 * i] < 0 || l.layers[style[2 * i]].on;
  const f = (v: number) => (v * k).toFixed(1),
    y = (v: number) => ((l.height - v) * k).toFixed(1);
  const parts: string[] = [];
  const step = Math.max(1, Math.ceil(l.segments.length / 4 / MOST_LINES));
  for (const [lines, style] of [
    [l.segments, l.segmentStyle],
    [l.fillEdges, l.fillEdgeStyle],
  ] as const) {
    for (let i = 0; i < lines.length / 4; i += step)
      if (on(style, i))
        parts.push(
          `M${f(lines[4 * i])} ${y(lines[4 * i + 1])}L${f(lines[4 * i + 2])} ${y(lines[4 * i + 3])}`,
        );
  }
  for (let i = 0; i < l.arcs.length / 5; i++) {
    if (!on(l.arcStyle, i)) continue;
    const [cx, cy, r, start, end] = l.arcs.subarray(5 * i, 5 * i + 5);
    parts.push(
      `M${f(cx + r * Math.cos(start))} ${y(cy + r * Math.sin(start))}A${f(r)} ${f(r)} 0 ${end - start > Math.PI ? 1 : 0} 0 ${f(cx + r * Math.cos(end))} ${y(cy + r * Math.sin(end))}`,
    );
  }
  for (let i = 0; i < l.circles.length / 3; i++) {
    if (!on(l.circleStyle, i)) continue;
    const [cx, cy, r] = l.circles.subarray(3 * i, 3 * i + 3);
    parts.push(
      `M${f(cx - r)} ${y(cy)}a${f(r)} ${f(r)} 0 1 0 ${f(2 * r)} 0a${f(r)} ${f(r)} 0 1 0 ${f(-2 * r)} 0`,
    );
  }
  for (let i = 0; i < l.curves.length / 8; i++) {
    if (!on(l.curveStyle, i)) continue;
    const c = l.curves.subarray(8 * i, 8 * i + 8);
    parts.push(`M${f(c[0])} ${y(c[1])}C${f(c[2])} ${y(c[3])} ${f(c[4])} ${y(c[5])} ${f(c[6])} ${y(c[7])}`);
  }
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="#fff"/><path d="${parts.join('')}" fill="none" stroke="#17273a" stroke-width="0.8"/></svg>`;
  const { default: sharp } = await import('sharp');
  return sharp(Buffer.from(svg), { unlimited: true }).png({ compressionLevel: 8, palette: true }).toBuffer();
}
