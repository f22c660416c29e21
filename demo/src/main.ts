import { randomUUID } from 'node:crypto';
import {
  attachFile,
  createProject,
  databaseUrl,
  destroyProject,
  getMeta,
  oneChunk,
  openDatabase,
  setBinned,
  setMeta,
  storeBlob,
  submitSteps,
} from '@calque/store';
import { demoSteps } from './project.ts';
import { scanOf } from './scan.ts';
import { drawBracketSheet, drawOldPlan, drawSet } from './sheets.ts';

/** Loads the demo once per installation; a demo that was deleted does not come back. */
const LOADED = 'demo-loaded',
  LOADING = 'demo-loading';
const database = openDatabase(databaseUrl(), { connections: 2 });
if (!(await getMeta(database, LOADED))) {
  // One that was stopped half-way is begun anew.
  const half = await getMeta<string>(database, LOADING);
  if (half && (await setBinned(database, half, true))) await destroyProject(database, half);
  const projectId = randomUUID();
  await setMeta(database, LOADING, projectId);
  await createProject(database, { name: 'Riverside boathouse', units: 'mm', precision: 0 }, projectId);
  const attach = async (name: string, bytes: Uint8Array) =>
    attachFile(database, projectId, (await storeBlob(database, oneChunk(bytes))).id, name);
  const set = await attach('Boathouse drawings.pdf', await drawSet());
  const bracket = await attach('Rigging bracket.pdf', await drawBracketSheet());
  const scan = await attach('Old ground floor scan.jpg', await scanOf(await drawOldPlan()));
  const steps = demoSteps({ set, bracket, scan }).map(({ label, change }) => ({
    id: randomUUID(),
    label,
    kind: 'do' as const,
    of: null,
    change,
  }));
  const result = await submitSteps(database, projectId, 'demo', steps);
  if (!result.ok) throw new Error(`The demo was refused: ${JSON.stringify(result)}`);
  await setMeta(database, LOADED, projectId);
}
await database.$client.end();
