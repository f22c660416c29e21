import { readPrinted, type PrintedReading } from '@calque/core/calibration';
import { DEFAULT_MEMORY_MB, type ReadPage } from '@calque/reader';
import { describeScale, type BareUnit } from '@calque/core/units';
import { readLimited } from './read-limited.ts';

export interface ScaleFlags { page?: number; units: BareUnit | 'auto'; json?: boolean; password?: string; seconds: number }

/** Reads the printed dimensions of a page, or of every page, and tells the scales that they agree on. */
export async function scaleCommand(file: string, flags: ScaleFlags): Promise<string> {
  const { pages } = await readLimited(file, { page: flags.page, password: flags.password, maxMegabytes: DEFAULT_MEMORY_MB }, flags.seconds);
  const units = flags.units === 'auto' ? null : flags.units;
  const read = pages.map(({ page, linework }: ReadPage) => ({ page, reading: readPrinted(linework, { units }) }));
  if (!flags.json) return read.map(({ page, reading }) => words(page, reading)).join('\n');
  const all = read.map(({ page, reading }) => json(page, reading));
  return JSON.stringify(flags.page === undefined ? { pages: all } : all[0]);
}

function json(page: number, { views, dimensions, notes, chains, why }: PrintedReading) {
  return {
    page,
    views: views.map(({ region, factor, x, y, stretched, uncertainty, agreeing, outliers, confidence }) => ({ region, factor, x, y, stretched, uncertainty, agreeing, outliers, confidence })),
    dimensions: dimensions.map(({ text, millimetres, from, to, points, factor, view, agrees, measured }) => ({ text, millimetres, from, to, points, factor, view, agrees, measured })),
    notes: notes.map(({ text, factor, view }) => ({ text, factor, view })),
    chains,
    ...(why !== null && { why }),
  };
}

function words(page: number, { views, dimensions, notes, chains, why }: PrintedReading): string {
  const lines = [`Page ${page}: ${why ?? (views.length === 1 ? 'one scale' : `${views.length} views at scales of their own`)}`];
  views.forEach((v, i) => {
    lines.push(`  view ${i + 1}: ${describeScale(v.factor, false).text} (${v.factor.toFixed(4)}, within ${(v.uncertainty * 100).toPrecision(2)} %), ${v.agreeing} of ${v.agreeing + v.outliers} dimensions agree`);
    if (v.stretched) lines.push(`    stretched: ${v.x.toFixed(4)} along the width, ${v.y.toFixed(4)} along the height`);
    for (const d of dimensions) if (d.view === i && !d.agrees) lines.push(`    prints ${d.text}, measures ${d.measured.toFixed(0)} mm at that scale`);
  });
  for (const n of notes) {
    const view = n.view === null ? null : views[n.view];
    lines.push(`  states ${n.text}${view && Math.abs(n.factor / view.factor - 1) > 0.01 && !n.bar ? `: not what its dimensions say` : ''}`);
  }
  for (const c of chains) if (!c.agrees) lines.push(`  ${c.parts.map((k) => dimensions[k].text).join(' + ')} make ${c.sum.toFixed(0)}, but ${dimensions[c.total].text} is printed`);
  return lines.join('\n');
}
