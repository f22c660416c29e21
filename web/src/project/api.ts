import { FORM } from '@calque/core/formats';
import { withoutBroken } from '@calque/core/texts';
import type { ShelfThing } from '@calque/core/model';
import { fileUrl } from './addresses';
import type {
  ChangesAnswer,
  ChangesRequest,
  ErrorAnswer,
  FileInfo,
  HealthAnswer,
  OnShelf,
  ProjectCard,
  RoomAnswer,
  StepsAnswer,
  TallyAnswer,
} from './wire';
import type { UnitSystem } from '@calque/core/units';

/** An answer that says no, with the server's words. `status` 0: no answer came at all. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
    this.name = 'ApiError';
  }
}

export const AWAY = 'The server does not answer. Your work is kept here and sent when it is back.';

async function call<T>(method: string, url: string, body?: unknown): Promise<T> {
  const response = await fetch(url, {
    method,
    headers: body === undefined ? undefined : { 'Content-Type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(() => {
    throw new ApiError(0, 'away', AWAY);
  });
  const answer = (await response.json().catch(() => null)) as unknown;
  if (response.ok || (response.status === 409 && (answer as ChangesAnswer | null)?.ok === false))
    return answer as T;
  const { code = 'server', message = `The server answered ${response.status}.` } = (answer ??
    {}) as Partial<ErrorAnswer>;
  throw new ApiError(response.status, code, message);
}

/** A page that is older or newer than the server understands nothing of what it says. */
export function inThisForm<T extends { form: number }>(answer: T): T {
  if (answer.form === FORM) return answer;
  throw new ApiError(
    426,
    'newer-form',
    answer.form > FORM
      ? 'Calque has been updated meanwhile. Reload this page; what is not saved yet is kept in this browser and sent then.'
      : 'The server runs an older Calque than this page. Reload the page when it has been updated.',
  );
}

export const api = {
  projects: () => call<{ open: ProjectCard[]; binned: ProjectCard[] }>('GET', '/api/projects'),
  createProject: (settings: { name: string; units: UnitSystem; precision: number }) =>
    call<{ id: string }>('POST', '/api/projects', settings),
  tally: (id: string) => call<TallyAnswer>('GET', `/api/projects/${id}/tally`),
  copy: (id: string) => call<{ id: string }>('POST', `/api/projects/${id}/copy`),
  bin: (id: string) => call('POST', `/api/projects/${id}/bin`),
  unbin: (id: string) => call('PUT', `/api/projects/${id}/bin`),
  destroy: (id: string) => call('DELETE', `/api/projects/${id}/bin`),
  steps: (id: string, after: number, last?: number, before?: number) =>
    call<StepsAnswer>(
      'GET',
      `/api/projects/${id}/changes?after=${after}${last ? `&last=${last}` : ''}${before ? `&before=${before}` : ''}`,
    ).then(inThisForm),
  send: (id: string, request: ChangesRequest) =>
    call<ChangesAnswer>('POST', `/api/projects/${id}/changes`, request),
  files: (id: string) => call<FileInfo[]>('GET', `/api/projects/${id}/files`),
  stopReading: (id: string, fileId: string) => call('POST', fileUrl(id, fileId), { action: 'cancel' }),
  /** With the password that is known already, where none is given. */
  readAgain: (id: string, fileId: string, password: string | null = null) =>
    call('POST', fileUrl(id, fileId), { action: 'read', password }),
  readWithUnits: (id: string, fileId: string, millimetresPerUnit: number) =>
    call('POST', fileUrl(id, fileId), { action: 'read', millimetresPerUnit }),
  findPages: (id: string, words: string) =>
    call<{ fileId: string; page: number }[]>(
      'GET',
      `/api/projects/${id}/find?words=${encodeURIComponent(words)}`,
    ),
  room: (id: string, bytes: number) => call<RoomAnswer>('GET', `/api/projects/${id}/room?bytes=${bytes}`),
  shelf: () => call<OnShelf[]>('GET', '/api/shelf'),
  putOnShelf: (thing: ShelfThing, seen: number) =>
    call<{ version: number }>('PUT', `/api/shelf/${encodeURIComponent(thing.id)}?seen=${seen}`, thing),
  takeOffShelf: (id: string, seen: number) =>
    call('DELETE', `/api/shelf/${encodeURIComponent(id)}?seen=${seen}`),
  health: () => call<HealthAnswer>('GET', '/api/health'),
  removeFile: (id: string, fileId: string) => call('DELETE', fileUrl(id, fileId)),
};

/** `same`: name of the file with the same bytes that is attached already. */
export interface Uploaded {
  id: string;
  same?: string;
}
export interface Upload {
  done: Promise<Uploaded>;
  cancel(): void;
}

/** Sends a file to a project when there is room for it; what is too large is told before anything is sent. */
export function uploadTo(
  projectId: string,
  name: string,
  file: Blob,
  onProgress: (share: number) => void,
): Upload {
  let sending: Upload | null = null,
    cancelled = false;
  const done = (async () => {
    const room = await api.room(projectId, file.size);
    if (!room.ok) throw new ApiError(413, 'no-room', room.message);
    if (cancelled) throw new ApiError(0, 'cancelled', 'The upload was stopped.');
    sending = upload(
      `/api/projects/${projectId}/files?name=${encodeURIComponent(withoutBroken(name))}`,
      file,
      onProgress,
    );
    return sending.done;
  })();
  return {
    done,
    cancel: () => {
      cancelled = true;
      sending?.cancel();
    },
  };
}

/** Sends a file with progress; `fetch` cannot tell how much has gone out, so this is an XMLHttpRequest. */
export function upload(url: string, file: Blob, onProgress: (share: number) => void): Upload {
  const request = new XMLHttpRequest();
  const done = new Promise<Uploaded>((resolve, reject) => {
    request.open('POST', url);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.responseType = 'json';
    request.upload.onprogress = (event) => onProgress(event.total > 0 ? event.loaded / event.total : 0);
    request.onload = () => {
      const answer = request.response as (Uploaded & Partial<ErrorAnswer>) | null;
      if (request.status === 201 && answer) resolve(answer);
      else
        reject(
          new ApiError(
            request.status,
            answer?.code ?? 'server',
            answer?.message ?? `The server answered ${request.status}.`,
          ),
        );
    };
    request.onerror = () => reject(new ApiError(0, 'away', 'The upload broke off. Send the file again.'));
    request.onabort = () => reject(new ApiError(0, 'cancelled', 'The upload was stopped.'));
    request.send(file);
  });
  return { done, cancel: () => request.abort() };
}
