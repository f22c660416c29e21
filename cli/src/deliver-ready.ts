import { writeFileSync } from 'node:fs';
import { ofType, type Model, type PaperDrawing } from '@calque/core/model';
import { writeReadyPdf } from '@calque/core/paper';
import { doubtsOf, layPaper, writeReadySvg, type LaidPaper } from '@calque/core/ready';
import { readPackagedFiles } from '@calque/store/package';
import { UsageError } from './usage-error.ts';

/** Writes a ready drawing of a package; says what was written and what is not as one may expect. */
export async function deliverReady(
  file: string,
  model: Model,
  name: string,
  { to, out }: { to: string; out: string },
): Promise<string> {
  const drawing = readyDrawing(model, name),
    laid = layPaper(model, drawing),
    date = new Date().toISOString().slice(0, 10),
    told = doubtsOf(laid);
  if (to === 'svg') {
    writeFileSync(
      out,
      writeReadySvg(model, drawing, date, () => null),
    );
    if (sheetsOf(laid).size > 0)
      told.push('The sheets are left out: pictures of them are made in the application.');
  } else if (to === 'pdf') {
    const files = await readPackagedFiles(file, sheetsOf(laid)),
      { bytes, changedLetters, leftOut } = await writeReadyPdf(model, drawing, date, {
        bytesOf: (id) => files.get(id) ?? null,
        pictureOf: () => null,
      });
    writeFileSync(out, bytes);
    told.push(...leftOut);
    if (changedLetters > 0) told.push(`${changedLetters} letters are written as their nearest.`);
  } else throw new UsageError('A ready drawing is written as PDF or SVG.');
  return [`${to.toUpperCase()} of ${drawing.name}, written to ${out}`, ...told].join('\n');
}

function readyDrawing(model: Model, name: string): PaperDrawing {
  const all = ofType(model, 'paperDrawing'),
    found = all.find((d) => d.name === name) ?? all.find((d) => d.number !== '' && d.number === name);
  if (found) return found;
  throw new UsageError(
    all.length === 0
      ? 'There is no ready drawing in this package.'
      : `There is no ready drawing "${name}" in this package: it has ${all.map((d) => `"${d.name}"`).join(', ')}.`,
  );
}

/** The files that a paper shows pages of. */
const sheetsOf = ({ views }: LaidPaper): Set<string> =>
  new Set(
    views.flatMap((v) => [
      ...(v.page ? [v.page.fileId] : []),
      ...[...v.beneath, ...v.above].map((s) => s.underlay.fileId),
    ]),
  );
