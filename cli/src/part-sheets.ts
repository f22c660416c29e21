import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readPrinted } from '@calque/core/calibration';
import { ofType, type Model, type Part, type Underlay } from '@calque/core/model';
import { featuresOf, type LaidSheet } from '@calque/core/part';
import { DEFAULT_MEMORY_MB } from '@calque/reader';
import { readPackagedFiles } from '@calque/store/package';
import { readLimited } from './read-limited.ts';

const SECONDS = 60;

/** What is printed on the sheets that are laid on a part's planes, and the names of those that could not be read. */
export async function partSheets(
  file: string,
  model: Model,
  part: Part,
): Promise<{ sheets: LaidSheet[]; unread: string[] }> {
  const planes = new Set(
      ofType(model, 'plane')
        .filter((p) => p.partId === part.id)
        .map((p) => p.id),
    ),
    laid = ofType(model, 'underlay').filter((u) => planes.has(u.planeId)),
    files = await readPackagedFiles(file, new Set(laid.map((u) => u.fileId)));
  const sheets: LaidSheet[] = [],
    unread: string[] = [];
  for (const [fileId, page] of pagesOf(laid)) {
    const on = laid.filter((u) => u.fileId === fileId && u.page === page),
      bytes = files.get(fileId),
      linework = bytes ? await lineworkOf(bytes, page) : null;
    if (!linework) {
      unread.push(on[0].name);
      continue;
    }
    const reading = readPrinted(linework);
    sheets.push(...on.map((underlay) => ({ underlay, texts: linework.texts, reading })));
  }
  return { sheets, unread };
}

const pagesOf = (laid: readonly Underlay[]): [string, number][] => [
  ...new Map(
    laid.map((u): [string, [string, number]] => [`${u.fileId} ${u.page}`, [u.fileId, u.page]]),
  ).values(),
];

/** The linework of a page, read in a process with limits; null where it cannot be read. */
async function lineworkOf(bytes: Uint8Array, page: number) {
  const folder = mkdtempSync(join(tmpdir(), 'calque-part-'));
  try {
    const path = join(folder, 'sheet');
    writeFileSync(path, bytes);
    const { pages } = await readLimited(path, { page, maxMegabytes: DEFAULT_MEMORY_MB }, SECONDS);
    return pages[0]?.linework ?? null;
  } catch {
    return null;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The bytes of the attached files whose solids features of a part take. */
export async function givenFiles(
  file: string,
  model: Model,
  part: Part,
): Promise<(id: string) => Uint8Array | null> {
  const wanted = featuresOf(model, part.id).flatMap((f) => (f.fileId ? [f.fileId] : [])),
    files = await readPackagedFiles(file, new Set(wanted));
  return (id) => files.get(id) ?? null;
}
