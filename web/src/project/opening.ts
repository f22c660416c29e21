import { EMPTY_MODEL, type Entity, type Model } from '@calque/core/model';
import { linesUrl } from './addresses';
import { ApiError, AWAY, inThisForm } from './api';
import type { ErrorAnswer, FileInfo, ProjectHead } from './wire';

/** A project as much of it as has come. */
export interface PartlyOpened {
  model: Model;
  files: FileInfo[];
  /** Of its entities, from 0 to 1. */
  share: number;
}

/** Below so many entities all of it is there before it could be shown in part. */
const SHOWN_PARTLY = 20000;
/** It is shown again at most so often, milliseconds, and when so many times as much is there: each time all of it is painted. */
const SHOW_AGAIN_MS = 400,
  SHOW_AGAIN_TIMES = 2.5;
/** Lines are read together up to so many. */
const TOGETHER = 4000;

const broken = () => new ApiError(0, 'broken', 'The project did not come whole: the connection broke off.');

/** Fetches a project line by line; tells of a large one as it comes. Throws ApiError, also where it did not come whole. */
export async function openProject(
  projectId: string,
  onPart: (partly: PartlyOpened) => void,
): Promise<{ seq: number; model: Model; files: FileInfo[] }> {
  const response = await fetch(linesUrl(projectId)).catch(() => {
    throw new ApiError(0, 'away', AWAY);
  });
  if (!response.ok || !response.body) {
    const { code = 'server', message = `The server answered ${response.status}.` } = ((await response
      .json()
      .catch(() => null)) ?? {}) as Partial<ErrorAnswer>;
    throw new ApiError(response.status, code, message);
  }
  let head: ProjectHead | null = null,
    // One edit as long as nobody sees what it has made: each new one copies what it touches.
    edit = EMPTY_MODEL.edit(),
    shown = performance.now(),
    shownSize = 0;
  const take = (lines: readonly string[]) => {
    let entities = lines;
    if (!head && lines.length > 0) {
      head = inThisForm(JSON.parse(lines[0]) as ProjectHead);
      entities = lines.slice(1);
    }
    if (entities.length === 0) return;
    // One text for many: parsing each line by itself takes longer.
    for (const e of JSON.parse(`[${entities.join(',')}]`) as Entity[]) edit.set(e.id, e);
  };
  for await (const lines of linesOf(response.body)) {
    take(lines);
    const { count = 0, files = [] } = (head as ProjectHead | null) ?? {};
    const isSoon = performance.now() - shown < SHOW_AGAIN_MS || edit.size < SHOW_AGAIN_TIMES * shownSize;
    if (count < SHOWN_PARTLY || edit.size >= count || isSoon) continue;
    const model = edit.done();
    edit = model.edit();
    onPart({ model, files, share: model.size / count });
    // The page is to show it before more is taken.
    await new Promise((resolve) => setTimeout(resolve, 0));
    shown = performance.now();
    shownSize = model.size;
  }
  if (!head) throw broken();
  const { seq, count, files } = head as ProjectHead;
  const model = edit.done();
  if (model.size !== count) throw broken();
  return { seq, model, files };
}

/** The lines of a text that comes in pieces, many at a time. */
async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string[]> {
  const reader = body
    .pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>)
    .getReader();
  let rest = '',
    lines: string[] = [],
    isFirst = true;
  try {
    for (;;) {
      const { value, done } = await reader.read().catch(() => {
        throw broken();
      });
      if (done) break;
      const parts = (rest + value).split('\n');
      rest = parts.pop()!;
      for (const line of parts) lines.push(line);
      // What others lie on comes first, and is shown at once.
      if (lines.length < TOGETHER && !isFirst) continue;
      yield lines;
      lines = [];
      isFirst = false;
    }
    yield lines;
  } finally {
    void reader.cancel().catch(() => {});
  }
  if (rest !== '') yield [rest];
}
