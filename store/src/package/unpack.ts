import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import * as yup from 'yup';
import {
  damaged,
  entityWithFileIds,
  PACKAGE_ENTRIES,
  PackageError,
  withFileIds,
  type Manifest,
  type PackagedFile,
} from '@calque/core/exchange';
import {
  apply,
  applyInPlace,
  modelOf,
  parseChange,
  parseEntity,
  repairsOf,
  sameValue,
  SETTINGS_ID,
  settingsOf,
  touchedIds,
  type Change,
  type Entity,
  type LogStep,
  type Model,
} from '@calque/core/model';
import { FORM, upgradeChange, upgradeEntity } from '@calque/core/formats';
import { soundName } from '@calque/core/texts';
import { storeBlob } from '../blobs.ts';
import type { Database, Transaction } from '../database.ts';
import { LONGEST_LABEL } from '../changes-request.ts';
import { attach } from '../files.ts';
import { changes, projects } from '../schema.ts';
import { addEntities } from '../steps.ts';
import { readManifest, valuesOf } from './read-entities.ts';
import { openZip, type ZipEntries } from './zip-entries.ts';

/** Steps are written so many at a time, or so many characters of them. */
const STEPS_AT_ONCE = 500,
  CHARACTERS_AT_ONCE = 16e6;

/**
 * Opens a package as a new project, in one transaction: of one that is refused nothing is left. All of it is checked: what it says of
 * itself, every entity, that the log leads from nothing to the very entities, that every file is the one that its checksum names. Ids of
 * files and steps are given anew, so that it can be opened twice.
 */
export async function unpackProject(database: Database, path: string): Promise<string> {
  const zip = await openZip(path);
  try {
    const manifest = await readManifest(zip);
    return await database.transaction((tx) => unpackInto(tx, zip, manifest));
  } finally {
    zip.close();
  }
}

async function unpackInto(tx: Transaction, zip: ZipEntries, manifest: Manifest): Promise<string> {
  const id = randomUUID();
  const fileIds = new Map(manifest.files.map((f) => [f.id, randomUUID()]));
  await tx.insert(projects).values({ id, name: '', form: FORM });
  const entry = PACKAGE_ENTRIES.log[manifest.version];
  let replayed: Replayed;
  try {
    replayed = await replay(tx, id, valuesOf(zip, entry, manifest), manifest.form, fileIds);
  } catch (error) {
    throw asDamage(entry, error);
  }
  const checked = modelOf(await checkedEntities(zip, manifest, replayed.model, fileIds));
  const model = await putInOrder(tx, id, replayed, checked, new Set(fileIds.values()));
  await addEntities(tx, id, [...model.values()]);
  for (const file of manifest.files) await takeFile(tx, zip, id, file, fileIds.get(file.id)!);
  const { name } = settingsOf(model);
  await tx.update(projects).set({ seq: replayed.seq, name }).where(eq(projects.id, id));
  return id;
}

/** A fault of the package as such; one of the database stays what it is. */
const asDamage = (entry: string, error: unknown): unknown =>
  error instanceof Error && !(error instanceof PackageError) && (error as { cause?: unknown }).cause
    ? error
    : damaged(entry, error);

const head = yup.object({
  id: yup.string().strict().required().max(64),
  label: yup.string().strict().required().max(1000),
  kind: yup
    .string()
    .oneOf(['do', 'undo', 'redo'] as const)
    .required(),
  of: yup.string().strict().max(64).nullable().optional(),
  change: yup.mixed().required(),
});

interface Replayed {
  model: Map<string, Entity>;
  seq: number;
}

/** Replays the log from nothing, checking each step as it comes, and writes it. */
async function replay(
  tx: Transaction,
  projectId: string,
  steps: AsyncIterable<unknown>,
  form: number,
  fileIds: ReadonlyMap<string, string>,
): Promise<Replayed> {
  const model = new Map<string, Entity>(),
    stepIds = new Map<string, string>();
  let seq = 0,
    waiting: LogStep[] = [],
    characters = 0;
  const flush = async () => {
    if (waiting.length > 0)
      await tx.insert(changes).values(waiting.map((s) => ({ ...s, projectId, clientId: 'package' })));
    [waiting, characters] = [[], 0];
  };
  for await (const value of steps) {
    const given = head.validateSync(value, { strict: true });
    if (stepIds.has(given.id)) throw new Error(`two steps have the id ${given.id}`);
    const change = withFileIds(parseChange(upgradeChange(given.change, form)), fileIds);
    const refusal = applyInPlace(model, change);
    if (refusal) throw new Error(`step ${seq + 1} does not apply: ${refusal.id} is ${refusal.code}`);
    for (const touched of touchedIds(change)) if (model.has(touched)) parseEntity(model.get(touched));
    const id = randomUUID();
    waiting.push({
      id,
      seq: ++seq,
      label: soundName(given.label, LONGEST_LABEL),
      kind: given.kind,
      of: (given.of && stepIds.get(given.of)) ?? null,
      change,
    });
    stepIds.set(given.id, id);
    characters += touchedIds(change).length * 300;
    if (waiting.length >= STEPS_AT_ONCE || characters > CHARACTERS_AT_ONCE) await flush();
  }
  await flush();
  return { model, seq };
}

/** The entities as the package lists them must be those that the log leads to: otherwise undo would not be true. Their order is the package's. */
async function checkedEntities(
  zip: ZipEntries,
  manifest: Manifest,
  model: ReadonlyMap<string, Entity>,
  fileIds: ReadonlyMap<string, string>,
): Promise<Entity[]> {
  const entry = PACKAGE_ENTRIES.entities[manifest.version];
  try {
    const order: Entity[] = [];
    for await (const value of valuesOf(zip, entry, manifest)) {
      const entity = entityWithFileIds(parseEntity(upgradeEntity(value, manifest.form)), fileIds),
        replayed = model.get(entity.id);
      if (!replayed || !sameValue(withoutNothing(replayed), withoutNothing(entity)))
        throw new Error('the log does not lead to the entities');
      order.push(replayed);
    }
    if (order.length !== model.size || new Set(order).size !== order.length)
      throw new Error('the log does not lead to the entities');
    if (model.get(SETTINGS_ID)?.type !== 'settings' || !order.some((e) => e.type === 'storey'))
      throw new Error('it has no settings or no storey');
    return order;
  } catch (error) {
    throw damaged(entry, error);
  }
}

/** A field that is null is as one that is absent: an undone step leaves null. */
const withoutNothing = (e: Entity): Record<string, unknown> =>
  Object.fromEntries(Object.entries(e).filter(([, v]) => v !== null && v !== undefined));

/** Packages written before references were held may lack what their entities name: a last step puts that in order. */
async function putInOrder(
  tx: Transaction,
  projectId: string,
  replayed: Replayed,
  model: Model,
  files: ReadonlySet<string>,
): Promise<Model> {
  const change: Change | null = repairsOf(model, (id) => files.has(id));
  if (!change) return model;
  const applied = apply(model, change);
  if (!applied.ok)
    throw new PackageError('damaged', 'The package is damaged: its entities name what is missing.');
  await tx.insert(changes).values({
    projectId,
    seq: ++replayed.seq,
    id: randomUUID(),
    clientId: 'package',
    label: 'Put in order while opening',
    kind: 'do',
    of: null,
    change,
  });
  return applied.model;
}

async function takeFile(
  tx: Transaction,
  zip: ZipEntries,
  projectId: string,
  file: PackagedFile,
  id: string,
): Promise<void> {
  if (!zip.has(file.path))
    throw new PackageError('damaged', `The package is damaged: the file ${file.name} is missing.`);
  if (zip.size(file.path) !== file.bytes)
    throw new PackageError(
      'damaged',
      `The package is damaged: the file ${file.name} has ${zip.size(file.path)} bytes when ${file.bytes} were expected.`,
    );
  const source = await zip.stream(file.path);
  // What a broken stream leaves goes with the transaction.
  const blob = await storeBlob(tx, source as AsyncIterable<Uint8Array>, file.bytes).catch(
    (error: unknown) => {
      throw asDamage(file.path, error);
    },
  );
  if (blob.sha256 !== file.sha256)
    throw new PackageError(
      'damaged',
      `The package is damaged: the file ${file.name} is not the one that was packed. Its checksum differs.`,
    );
  await attach(tx, projectId, blob.id, {
    id,
    name: file.name,
    password: file.password ?? null,
    millimetresPerUnit: file.millimetresPerUnit ?? null,
  });
}
