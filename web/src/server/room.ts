import 'server-only';
import { randomUUID } from 'node:crypto';
import { statfs } from 'node:fs/promises';
import { numberSetting } from '@calque/limits';
import { usedRoom } from '@calque/store';
import type { RoomAnswer } from '@/project/wire';
import { database } from './database';

/** Largest upload, bytes; CALQUE_MAX_UPLOAD_MB sets another. */
export const uploadLimit = (): number => numberSetting('CALQUE_MAX_UPLOAD_MB', 1024) * 1e6;
/** Largest package that is opened: a project has more than one file. */
export const packageLimit = (): number => numberSetting('CALQUE_MAX_PACKAGE_MB', 16384) * 1e6;

/** What a disk keeps free, so that the database can go on. */
const KEPT_FREE = 300e6;
const inWords = (bytes: number): string =>
  bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.ceil(bytes / 1e6)} MB`;

/** Is there room for so many bytes more in a project? Else why not, and what to do. */
export async function roomFor(projectId: string, bytes: number): Promise<RoomAnswer> {
  if (bytes > uploadLimit())
    return {
      ok: false,
      message: `It is larger than the ${inWords(uploadLimit())} that this installation takes. Split it, or save it with smaller pictures.`,
    };
  const used = await usedRoom(database(), projectId);
  return roomIn(used, bytes);
}

/** As roomFor, for what makes a project of its own. */
export async function roomForProject(bytes: number): Promise<RoomAnswer> {
  return roomIn(await usedRoom(database(), randomUUID()), bytes);
}

/** Is there room for a project once more? */
export async function roomToCopy(projectId: string): Promise<RoomAnswer> {
  const { project } = await usedRoom(database(), projectId);
  return roomForProject(project);
}

async function roomIn(used: Awaited<ReturnType<typeof usedRoom>>, bytes: number): Promise<RoomAnswer> {
  const project = numberSetting('CALQUE_PROJECT_MB', 8192) * 1e6;
  if (used.project + bytes > project)
    return {
      ok: false,
      message: `The files of this project have ${inWords(used.project)} of the ${inWords(project)} that a project may have; ${inWords(bytes)} more do not fit. Remove files that are not needed any more.`,
    };
  const installation = numberSetting('CALQUE_TOTAL_MB', 200000) * 1e6;
  if (used.installation + bytes > installation)
    return {
      ok: false,
      message: `This installation holds ${inWords(used.installation)} of the ${inWords(installation)} that it may. Delete projects in the bin for good, or ask whoever runs it for more room.`,
    };
  const free = await freeBytes();
  if (free !== null && free < bytes + KEPT_FREE)
    return {
      ok: false,
      message: `The disk of this installation has ${inWords(Math.max(0, free))} left, which is too little. Make room on it first.`,
    };
  return { ok: true };
}

/** Room on the disk of the data, where that is known and on this machine. */
async function freeBytes(): Promise<number | null> {
  const folder = process.env.CALQUE_DATA_FOLDER;
  return folder
    ? statfs(folder).then(
        (s) => s.bavail * s.bsize,
        () => null,
      )
    : null;
}
