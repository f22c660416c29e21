import 'server-only';
import { readFile } from 'node:fs/promises';
import type { HealthAnswer } from '@/project/wire';

/** How the parts of the installation are, as the one that supervises them says; nothing where nobody does. */
export async function partStates(): Promise<HealthAnswer['parts']> {
  const file = process.env.CALQUE_PARTS;
  return file
    ? readFile(file, 'utf8').then(
        (text) => JSON.parse(text) as HealthAnswer['parts'],
        () => [],
      )
    : [];
}

/** Why the database does not answer, where that is known. */
export async function databaseTrouble(): Promise<string> {
  const part = (await partStates()).find((p) => p.name === 'database');
  return part?.state === 'failing'
    ? ` It ends as soon as it is started (${part.why ?? 'no reason given'}); it is tried again by itself.`
    : part?.state === 'restarting'
      ? ' It is being started again.'
      : '';
}
