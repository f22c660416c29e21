import { damaged, PACKAGE_ENTRIES, PackageError, parseManifest, type Manifest } from '@calque/core/exchange';
import { upgradeEntity } from '@calque/core/formats';
import { modelOf, parseEntity, SETTINGS_ID, type Entity, type Model } from '@calque/core/model';
import { soundValue } from '@calque/core/texts';
import { openZip, type ZipEntries } from './zip-entries.ts';

export { PackageError };

/** What a package says of itself, checked; throws PackageError in words. */
export async function readManifest(zip: ZipEntries): Promise<Manifest> {
  return parseManifest(
    await zip.json(PACKAGE_ENTRIES.manifest).catch((error: unknown) => {
      throw damaged(PACKAGE_ENTRIES.manifest, error);
    }),
  );
}

/** The values of an entry, whichever way its version writes them. */
export async function* valuesOf(
  zip: ZipEntries,
  entry: string,
  { version }: Manifest,
): AsyncGenerator<unknown> {
  if (version !== 1) {
    for await (const value of zip.lines(entry)) yield soundValue(value);
    return;
  }
  const whole = await zip.json(entry);
  if (!Array.isArray(whole)) throw new Error('it is no list');
  for (const value of whole) yield soundValue(value as unknown);
}

/** The model of a package as it is now, without its history and files; each entity checked. Throws PackageError in words. */
export async function readPackagedModel(path: string): Promise<Model> {
  const zip = await openZip(path);
  try {
    const manifest = await readManifest(zip),
      entry = PACKAGE_ENTRIES.entities[manifest.version],
      byId = new Map<string, Entity>();
    try {
      for await (const value of valuesOf(zip, entry, manifest)) {
        const entity = parseEntity(upgradeEntity(value, manifest.form));
        if (byId.has(entity.id)) throw new Error('two entities have one id');
        byId.set(entity.id, entity);
      }
      if (byId.get(SETTINGS_ID)?.type !== 'settings' || ![...byId.values()].some((e) => e.type === 'storey'))
        throw new Error('it has no settings or no storey');
    } catch (error) {
      throw damaged(entry, error);
    }
    return modelOf([...byId.values()]);
  } finally {
    zip.close();
  }
}

/** Attached files of a package whose ids are asked for, as they came; those that it does not hold are missing. Throws PackageError in words. */
export async function readPackagedFiles(
  path: string,
  wanted: ReadonlySet<string>,
): Promise<Map<string, Uint8Array>> {
  const zip = await openZip(path),
    files = new Map<string, Uint8Array>();
  try {
    const manifest = await readManifest(zip);
    for (const file of manifest.files)
      if (wanted.has(file.id) && zip.has(file.path)) files.set(file.id, await zip.bytes(file.path));
    return files;
  } finally {
    zip.close();
  }
}
