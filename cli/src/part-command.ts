import { partReport, type PartReport } from '@calque/core/forming';
import { ofType, type Model, type Part } from '@calque/core/model';
import { formatNumber } from '@calque/core/units';
import { readPackagedModel } from '@calque/store/package';
import { givenFiles, partSheets } from './part-sheets.ts';
import { loadKernel } from './solid-kernel.ts';
import { UsageError } from './usage-error.ts';

export interface PartFlags {
  part?: string;
  json?: boolean;
}

/** A part of a package by its name, or the only one. */
export function partOf(model: Model, name: string | undefined): Part {
  const parts = ofType(model, 'part'),
    names = parts.map((p) => `"${p.name}"`).join(', ');
  if (parts.length === 0) throw new UsageError('There is no part in this package.');
  if (name === undefined) {
    if (parts.length > 1)
      throw new UsageError(`There are ${parts.length} parts in this package: say which by --part: ${names}.`);
    return parts[0];
  }
  const found = parts.find((p) => p.name === name);
  if (!found) throw new UsageError(`There is no part "${name}" in this package: it has ${names}.`);
  return found;
}

/** A part of a package made from nothing, and all that is known of it; as JSON or in words. */
export async function partCommand(file: string, { part: name, json }: PartFlags): Promise<string> {
  const model = await readPackagedModel(file),
    part = partOf(model, name);
  await loadKernel();
  const { sheets, unread } = await partSheets(file, model, part),
    { report } = partReport(model, part, sheets, await givenFiles(file, model, part));
  return json
    ? JSON.stringify({ units: 'mm', ...report, unread })
    : [inWords(report), ...unread.map(notRead)].join('\n');
}

const notRead = (name: string) =>
  `  the sheet ${name} could not be read: nothing that it prints was held against the solid`;
function heldWords({ agrees, model, words }: PartReport['printed'][number]): string {
  if (agrees) return 'agrees';
  if (words) return words;
  return model === null ? 'not in the solid' : `the solid measures ${mm(model)}`;
}
const mm = (v: number) => formatNumber(v, 3);
const place = (p: readonly number[]) => p.map(mm).join(', ');

function inWords(r: PartReport): string {
  return [
    `${r.name}, ${r.material}: ${formatNumber(r.mass, 4)} kg, ${formatNumber(r.volume / 1000, 3)} cm³, surface ${formatNumber(r.surface / 100, 2)} cm²`,
    `  box ${[0, 1, 2].map((i) => mm(r.box[i + 3] - r.box[i])).join(' x ')} mm, centre ${place(r.centre)}`,
    ...r.features.map(
      (f) =>
        `  ${f.state === 'made' ? '' : f.state === 'off' ? 'left out: ' : 'NOT MADE: '}${f.name}${f.words ? ` (${f.words})` : ''}`,
    ),
    `${r.holes.length} round ${r.holes.length === 1 ? 'hole' : 'holes'}${r.holes.length > 0 ? ':' : ''}`,
    ...r.holes.map(
      (h) =>
        `  ${h.kind} ⌀ ${mm(h.diameter)}${h.thread ? ` ${h.thread}` : ''}, ${h.depth === null ? 'through' : `${mm(h.depth)} deep`}${h.head ? `, head ⌀ ${mm(h.head.diameter)}` : ''}, at ${place(h.at)}`,
    ),
    ...r.printed.map((p) => `  printed ${p.text}: ${heldWords(p)}`),
    r.checks.length === 0
      ? 'Nothing that is checked speaks against making it.'
      : `${r.checks.length} doubts about making it:`,
    ...r.checks.map((c) => `  at ${place(c.at)}: ${c.words}`),
    ...(r.cost
      ? [
          `Estimate: ${formatNumber(r.cost.each, 2)} each, ${formatNumber(r.cost.all, 2)} in all${r.cost.guessed.length > 0 ? ` (${r.cost.guessed.length} rates are first guesses)` : ''}`,
          ...r.cost.lines.map((l) => `  ${l.what}: ${formatNumber(l.amount, 2)} (${l.words})`),
        ]
      : []),
  ].join('\n');
}
