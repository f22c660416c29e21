import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { applyOrThrow, EMPTY_MODEL, parseChange, parseEntity, sameValue, type Entity, type LogStep } from '../../model/index.ts';

/** The `.calque` package: a zip of JSON and the attached files as they came. See docs/format.md. */
export const PACKAGE_FORMAT = 'calque';
export const PACKAGE_VERSION = 1;

export interface PackagedFile { id: string; name: string; sha256: string; bytes: Uint8Array }
export interface ProjectPackage { entities: Entity[]; log: LogStep[]; files: PackagedFile[] }

interface Manifest { format: string; version: number; written: string; files: { id: string; name: string; sha256: string; bytes: number; path: string }[] }

export class PackageError extends Error {
  constructor(readonly code: 'not-a-package' | 'newer-version' | 'damaged', message: string) {
    super(message);
    this.name = 'PackageError';
  }
}

export function writePackage(project: ProjectPackage, written: string): Uint8Array {
  const files = project.files.map((f) => ({ id: f.id, name: f.name, sha256: f.sha256, bytes: f.bytes.length, path: `files/${f.sha256}` }));
  const manifest: Manifest = { format: PACKAGE_FORMAT, version: PACKAGE_VERSION, written, files };
  const json = (value: unknown) => strToU8(JSON.stringify(value, null, 1));
  const entries: Record<string, [Uint8Array, { level: 0 | 6 }]> = {
    'manifest.json': [json(manifest), { level: 6 }],
    'entities.json': [json(project.entities), { level: 6 }],
    'log.json': [json(project.log), { level: 6 }],
  };
  // Attached files are compressed already.
  for (const f of project.files) entries[`files/${f.sha256}`] = [f.bytes, { level: 0 }];
  return zipSync(entries);
}

/** Reads a package and checks all of it, before anything is stored. */
export function readPackage(bytes: Uint8Array): ProjectPackage {
  let zip: Record<string, Uint8Array>;
  try {
    zip = unzipSync(bytes);
  } catch {
    throw new PackageError('not-a-package', 'This is not a .calque package: it cannot be opened as a zip.');
  }
  const part = <T>(name: string): T => {
    if (!zip[name]) throw new PackageError('not-a-package', `This is not a .calque package: it holds no ${name}.`);
    try {
      return JSON.parse(strFromU8(zip[name])) as T;
    } catch {
      throw new PackageError('damaged', `The package is damaged: ${name} cannot be read.`);
    }
  };
  const manifest = part<Manifest>('manifest.json');
  if (manifest.format !== PACKAGE_FORMAT) throw new PackageError('not-a-package', 'This zip is not a .calque package.');
  if (!(manifest.version <= PACKAGE_VERSION)) throw new PackageError('newer-version', `The package was written in version ${manifest.version}; this installation reads up to ${PACKAGE_VERSION}. Update it first.`);
  const entities = checked('entities.json', () => part<unknown[]>('entities.json').map(parseEntity));
  const log = checked('log.json', () => part<LogStep[]>('log.json').map((s) => ({ ...s, change: parseChange(s.change) })));
  checked('log.json', () => replayMatches(entities, log));
  const files = checked('manifest.json', () => manifest.files.map((f) => {
    const data = zip[f.path];
    if (!data) throw new Error(`the file ${f.name} is missing`);
    if (data.length !== f.bytes) throw new Error(`the file ${f.name} has ${data.length} bytes when ${f.bytes} were expected`);
    return { id: f.id, name: f.name, sha256: f.sha256, bytes: data };
  }));
  return { entities, log, files };
}

/** The log, from nothing, must give the very entities: otherwise undo would not be true. */
function replayMatches(entities: readonly Entity[], log: readonly LogStep[]): void {
  let model = EMPTY_MODEL;
  for (const step of log) model = applyOrThrow(model, step.change);
  if (model.size !== entities.length || entities.some((e) => !sameValue(model.get(e.id), e))) throw new Error('the log does not lead to the entities');
}

function checked<T>(name: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof PackageError) throw error;
    throw new PackageError('damaged', `The package is damaged (${name}): ${error instanceof Error ? error.message : String(error)}.`);
  }
}
