import { MM_PER_POINT } from '../../geometry/index.ts';
import type { PageText } from '../../linework/index.ts';
import { parseNumber } from '../../units/index.ts';

export interface ScaleBar { text: string; factor: number; at: readonly [number, number] }

const UNIT = /^(.*?)\s*(mm|cm|m|km|ft|feet|'|in)\.?$/i;
const MM: Record<string, number> = { mm: 1, cm: 10, m: 1000, km: 1e6, ft: 304.8, feet: 304.8, "'": 304.8, in: 25.4 };
/** Figures of one bar stand on one line, to this share of their height. */
const SAME_LINE = 0.3;
/** Their places may miss the straight line through them by this share of the bar. */
const STRAIGHT = 0.012;

/** Graphic scales: figures from 0 up in one row, as far apart as their values say. The unit stands with the last or behind it. */
export function scaleBars(texts: readonly PageText[]): ScaleBar[] {
  const bars: ScaleBar[] = [];
  texts.forEach((zero) => {
    if (zero.text.trim() !== '0') return;
    const ux = Math.cos(zero.radians), uy = Math.sin(zero.radians);
    const row = texts.map((t) => ({ t, along: (t.x - zero.x) * ux + (t.y - zero.y) * uy, off: Math.abs(-(t.x - zero.x) * uy + (t.y - zero.y) * ux) }))
      .filter(({ t, along, off }) => off < SAME_LINE * zero.height && along > 0 && Math.abs(t.height - zero.height) < 0.1 * zero.height && Math.cos(t.radians - zero.radians) > 0.999)
      .sort((a, b) => a.along - b.along);
    const values: { value: number; at: number; half: number }[] = [{ value: 0, at: zero.width / 2, half: zero.width }];
    let unit: number | null = null;
    for (const { t, along } of row) {
      const said = UNIT.exec(t.text.trim());
      const number = parseNumber(said ? said[1] || 'x' : t.text.trim());
      if (said) unit = MM[said[2].toLowerCase()];
      if (number !== null) {
        if (number <= values[values.length - 1].value) break;
        // With its unit behind it a figure's middle is not the middle of the text.
        values.push({ value: number, at: along + (said ? (t.width * said[1].length) / t.text.trim().length : t.width) / 2, half: t.width });
      }
      if (said || number === null) break;
    }
    if (unit === null || values.length < 3) return;
    // Least squares of place on value.
    const n = values.length, mv = values.reduce((s, v) => s + v.value, 0) / n, ma = values.reduce((s, v) => s + v.at, 0) / n;
    const slope = values.reduce((s, v) => s + (v.value - mv) * (v.at - ma), 0) / values.reduce((s, v) => s + (v.value - mv) ** 2, 0);
    const length = slope * (values[n - 1].value - values[0].value);
    if (!(slope > 0) || values.some((v) => Math.abs(v.at - ma - slope * (v.value - mv)) > Math.max(STRAIGHT * length, 0.35 * v.half))) return;
    bars.push({ text: `${values.map((v) => v.value).join(' ')} ${Object.keys(MM).find((u) => MM[u] === unit)}`, factor: unit / (slope * MM_PER_POINT), at: [zero.x, zero.y] });
  });
  return bars;
}
