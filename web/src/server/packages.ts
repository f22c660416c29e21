import 'server-only';
import { randomUUID } from 'node:crypto';
import { readPackage, writePackage } from '@calque/core/exchange';
import { SETTINGS_ID, type Change, type Entity, type LogStep } from '@calque/core/model';
import { attachFile, blobBytes, blobFacts, listFiles, loadProject, loadSteps, oneChunk, schema, storeBlob, submitSteps, type Database } from '@calque/store';

/** The project whole: entities, log and the files as they came. */
export async function packProject(database: Database, projectId: string): Promise<{ name: string; bytes: Uint8Array } | null> {
  const project = await loadProject(database, projectId);
  if (!project) return null;
  const log = (await loadSteps(database, projectId, 0)).filter((s) => s.seq <= project.seq).map(({ clientId: _, ...step }) => step);
  const files = await Promise.all((await listFiles(database, projectId)).map(async (f) => ({
    id: f.id, name: f.name, sha256: (await blobFacts(database, f.blobId))?.sha256 ?? '', bytes: await blobBytes(database, f.blobId),
  })));
  const settings = project.entities.find((e) => e.type === 'settings');
  return { name: settings?.name ?? 'project', bytes: writePackage({ entities: project.entities, log, files }, new Date().toISOString()) };
}

/** Opens a package as a new project. Ids of files and steps are given anew, so that it can be opened twice. */
export async function unpackProject(database: Database, bytes: Uint8Array): Promise<string> {
  const pack = readPackage(bytes);
  const fileIds = new Map(pack.files.map((f) => [f.id, randomUUID()]));
  const stepIds = new Map(pack.log.map((s) => [s.id, randomUUID()]));
  const settings = pack.entities.find((e) => e.id === SETTINGS_ID);
  const id = randomUUID();
  await database.insert(schema.projects).values({ id, name: settings?.type === 'settings' ? settings.name : 'Opened project' });
  for (const file of pack.files) {
    const blob = await storeBlob(database, oneChunk(file.bytes));
    await attachFile(database, id, blob.id, file.name, fileIds.get(file.id));
  }
  const steps: LogStep[] = pack.log.map((s) => ({ ...s, id: stepIds.get(s.id)!, of: s.of ? stepIds.get(s.of) ?? null : null, change: withFileIds(s.change, fileIds) }));
  const result = await submitSteps(database, id, 'package', steps);
  if (!result.ok) throw new Error(`A checked package was refused: ${result.code}.`);
  return id;
}

function withFileIds(change: Change, ids: Map<string, string>): Change {
  if (change.type === 'group') return { ...change, changes: change.changes.map((c) => withFileIds(c, ids)) };
  if (change.type === 'set') return { ...change, before: mapped(change.before, ids), after: mapped(change.after, ids) };
  return { ...change, entity: mapped(change.entity as unknown as Record<string, unknown>, ids) as unknown as Entity };
}

function mapped(fields: Record<string, unknown>, ids: Map<string, string>): Record<string, unknown> {
  const named = typeof fields.fileId === 'string' ? { ...fields, fileId: ids.get(fields.fileId) ?? fields.fileId } : fields;
  const former = named.former as { fileId: string; page: number } | null | undefined;
  return former ? { ...named, former: { ...former, fileId: ids.get(former.fileId) ?? former.fileId } } : named;
}
