import 'server-only';
import { join } from 'node:path';
import { ThreadFailure, workerThread } from '@calque/limits';
import { NoRequest, takeChanges, type Submitted } from '@calque/store';
import { database } from './database';

/** Programs beside this one, bundled by `./calque`. */
export const programPath = (name: string): string =>
  join(/* turbopackIgnore: true */ process.env.CALQUE_ROOT ?? process.cwd(), '.build', `${name}.mjs`);

type Thread = ReturnType<typeof workerThread>;
const holder = globalThis as { calqueSteps?: Thread; calquePictures?: Thread };
const STEPS = { heapMegabytes: 1536, seconds: 120, most: 20 },
  PICTURES = { heapMegabytes: 512, seconds: 15, most: 50 };

/** Requests up to this many bytes are taken by this thread: handing them over would take longer. */
const SHORT = 128 << 10;
/** The largest step: a sheet of a quarter of a million elements. */
export const LARGEST_CHANGES = 192e6;

/** Takes steps, long ones beside this thread. */
export async function takeSteps(projectId: string, body: Uint8Array): Promise<Submitted> {
  if (body.length <= SHORT) return takeChanges(database(), projectId, new TextDecoder().decode(body));
  holder.calqueSteps ??= workerThread(programPath('steps-thread'), STEPS);
  try {
    return await holder.calqueSteps.run<Submitted>({ projectId, body });
  } catch (error) {
    if (error instanceof ThreadFailure && error.code === 'no-request') throw new NoRequest(error.message);
    throw error;
  }
}

/** Draws a project's picture; null where there is no such project. Throws where it takes too long or too much. */
export async function drawPicture(projectId: string): Promise<string | null> {
  holder.calquePictures ??= workerThread(programPath('picture-thread'), PICTURES);
  return holder.calquePictures.run<string | null>({ projectId });
}
