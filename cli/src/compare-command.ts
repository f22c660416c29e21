import { straightLines } from '@calque/core/linework';
import { compareLines, register } from '@calque/core/registration';
import { DEFAULT_MEMORY_MB, ReadFailure } from '@calque/reader';
import { readLimited } from './read-limited.ts';

export interface CompareFlags {
  page: number;
  newPage?: number;
  json: boolean;
  password?: string;
  seconds: number;
}

/** Lays an old page onto a new one by their lines and tells what was added and what is gone, in sheet points of the new page. */
export async function compareCommand(oldFile: string, newFile: string, flags: CompareFlags): Promise<string> {
  const read = async (file: string, page: number) =>
    (
      await readLimited(
        file,
        { page, password: flags.password, maxMegabytes: DEFAULT_MEMORY_MB },
        flags.seconds,
      )
    ).pages[0].linework;
  const [older, newer] = [await read(oldFile, flags.page), await read(newFile, flags.newPage ?? flags.page)];
  const oldLines = straightLines(older),
    newLines = straightLines(newer);
  if (oldLines.length === 0 || newLines.length === 0)
    throw new ReadFailure(
      'nothing-common',
      `The ${oldLines.length === 0 ? 'old' : 'new'} page has no lines to compare: it is ${(oldLines.length === 0 ? older : newer).content === 'scan' ? 'a scan' : 'empty'}.`,
    );
  const fit = register(oldLines, newLines);
  if (!fit)
    throw new ReadFailure(
      'nothing-common',
      'The two pages have too little in common to be laid on one another.',
    );
  const { added, gone } = compareLines(oldLines, newLines, fit.transform);
  if (flags.json) {
    return JSON.stringify({
      transform: fit.transform,
      scale: fit.scale,
      radians: fit.radians,
      residual: fit.residual,
      found: fit.found,
      added: added.length,
      gone: gone.length,
      addedSegments: added,
      goneSegments: gone,
    });
  }
  return [
    `${(fit.found * 100).toFixed(1)} % of the old lines lie on the new page, within ${fit.residual.toFixed(3)} points (root mean square)`,
    `old to new: scale ${fit.scale.toFixed(6)}, turned ${((fit.radians * 180) / Math.PI).toFixed(4)} degrees, shifted ${fit.transform[4].toFixed(3)}, ${fit.transform[5].toFixed(3)} points`,
    `${added.length} lines added, ${gone.length} gone`,
  ].join('\n');
}
