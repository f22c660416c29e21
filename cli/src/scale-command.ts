import { readPrinted, type PrintedReading } from '@calque/core/calibration';
import { DEFAULT_MEMORY_MB } from '@calque/reader';
import { describeScale, type BareUnit } from '@calque/core/units';
import { Pictures } from './pictures.ts';
import { readLimited } from './read-limited.ts';

export interface ScaleFlags {
  page?: number;
  units: BareUnit | 'auto';
  json?: boolean;
  password?: string;
  seconds: number;
  recognise: boolean;
}

/** Reads the printed dimensions of a page, or of every page, and tells the scales that they agree on. */
export async function scaleCommand(file: string, flags: ScaleFlags): Promise<string> {
  const { pages } = await readLimited(
    file,
    { page: flags.page, password: flags.password, maxMegabytes: DEFAULT_MEMORY_MB },
    flags.seconds,
  );
  const units = flags.units === 'auto' ? null : flags.units;
  const pictures = new Pictures(file, flags.password);
  const read: { page: number; reading: PrintedReading }[] = [];
  try {
    for (const { page, linework } of pages) {
      const own = readPrinted(linework, { units });
      // A page whose picture cannot be drawn still tells what its texts tell, and why that is nothing.
      const picture =
        own.views.length === 0 && flags.recognise
          ? await pictures.read(page, linework).catch(() => null)
          : null;
      read.push({ page, reading: picture ? readPrinted(linework, { units, picture }) : own });
    }
  } finally {
    await pictures.close();
  }
  if (!flags.json) return read.map(({ page, reading }) => words(page, reading)).join('\n');
  const all = read.map(({ page, reading }) => json(page, reading));
  return JSON.stringify(flags.page === undefined ? { pages: all } : all[0]);
}

function json(page: number, { views, dimensions, notes, chains, unknown, photo, why }: PrintedReading) {
  return {
    page,
    views: views.map(
      ({
        region,
        factor,
        x,
        y,
        unit,
        rivals,
        from,
        stretched,
        uncertainty,
        agreeing,
        outliers,
        confidence,
      }) => ({
        region,
        factor,
        x,
        y,
        unit,
        ...(rivals.length > 0 && { asked: rivals }),
        from,
        stretched,
        uncertainty,
        agreeing,
        outliers,
        confidence,
      }),
    ),
    dimensions: dimensions.map(
      ({
        text,
        kind,
        millimetres,
        degrees,
        height,
        free,
        from,
        to,
        points,
        factor,
        view,
        agrees,
        measured,
        recognised,
      }) => ({
        text,
        kind,
        ...(degrees === undefined ? { millimetres } : { degrees }),
        ...(height !== undefined && { height }),
        ...(free && { notToScale: true }),
        from,
        to,
        points,
        factor,
        view,
        agrees,
        measured,
        ...(recognised && { recognised }),
      }),
    ),
    notes: notes.map(({ text, factor, view }) => ({ text, factor, view })),
    chains,
    ...(unknown.length > 0 && { unknown }),
    // Row by row: (x, y, 1) of the page to millimetres times the third row's.
    ...(photo?.millimetresFromPage && { photo: { millimetresFromPage: photo.millimetresFromPage } }),
    ...(why !== null && { why }),
  };
}

function words(
  page: number,
  { views, dimensions, notes, chains, unknown, photo, why }: PrintedReading,
): string {
  const lines = [
    `Page ${page}: ${why ?? (views.length === 1 ? 'one scale' : `${views.length} views at scales of their own`)}`,
  ];
  if (photo)
    lines.push(
      '  a photo at a slant: measured as its right angles make it straight; scales are those in its middle',
    );
  views.forEach((v, i) => {
    const scale = `  view ${i + 1}: ${describeScale(v.factor, false).text} (${v.factor.toFixed(4)}, within ${(v.uncertainty * 100).toPrecision(2)} %)`;
    if (v.from === 'bar') lines.push(`${scale}, by its graphic scale alone`);
    else if (v.unit === null)
      lines.push(
        `  view ${i + 1}: ${v.rivals.map((r) => `${describeScale(r.factor, false).text} if its figures are in ${r.unit}`).join(', ')}: say which with --units`,
      );
    else
      lines.push(
        `${scale}, ${v.agreeing} of ${v.agreeing + v.outliers} dimensions agree${dimensions.some((d) => d.view === i && d.recognised) ? ', recognised from its picture' : ''}`,
      );
    if (v.stretched)
      lines.push(`    stretched: ${v.x.toFixed(4)} along the width, ${v.y.toFixed(4)} along the height`);
    for (const d of dimensions)
      if (d.view === i && !d.agrees)
        lines.push(
          d.free
            ? `    ${d.text} is underlined, not to scale: measures ${d.measured.toFixed(0)} mm`
            : `    prints ${d.text}, measures ${d.measured.toFixed(0)} mm at that scale`,
        );
  });
  for (const [i, n] of notes.entries()) {
    if (notes.findIndex((o) => o.text === n.text && o.view === n.view) < i) continue;
    const view = n.view === null ? null : views[n.view];
    lines.push(
      `  states ${n.text}${view && view.unit !== null && Math.abs(n.factor / view.factor - 1) > 0.01 && !n.bar ? `: not what its ${view.from === 'bar' ? 'graphic scale says' : 'dimensions say'}` : ''}`,
    );
  }
  for (const part of unknown)
    lines.push(
      `  ${part.texts.join(', ')} stand apart at a scale that is not known: they are too few, or do not agree`,
    );
  for (const c of chains)
    if (!c.agrees)
      lines.push(
        `  ${c.parts.map((k) => dimensions[k].text).join(' + ')} make ${c.sum.toFixed(0)}, but ${dimensions[c.total].text} is printed`,
      );
  return lines.join('\n');
}
