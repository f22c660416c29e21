/// <reference lib="webworker" />
import init from 'replicad-opencascadejs';
import { writePartGlb, writeStl, writeThreeMf } from '@calque/core/exchange';
import {
  Builder,
  faceOutline,
  kernelMemory,
  LARGEST_STEP,
  refuseLargeStep,
  sectionOn,
  shownSolid,
  skinOf,
  stepOf,
  takeKernel,
  TO_LOOK_AT,
  viewOn,
  type Body,
  type Kernel,
} from '@calque/core/forming';
import { get, modelOf } from '@calque/core/model';
import { draftOf, recipeOf, thicknessOf } from '@calque/core/part';
import type { AskedOfPart, FromPart, GivenFile, PartAnswers, PartQuestion, ToPart } from './part-protocol';

/** Holds the solid of a part: makes it step by step, and again from what a change touches. */
declare const self: DedicatedWorkerGlobalScope;

/** As fine as files for others to make it from are written, millimetres and radians. */
const FINE = { off: 0.02, angle: 0.2 };

let kernel: Promise<void> | null = null;
/** Attached files whose solids are taken: they never change. */
const given = new Map<string, Uint8Array>();
/** Sizes of those that are stored, so that what is too large is refused before it is fetched. */
const sizes = new Map<string, number>();
const builder = new Builder((id) => {
  refuseLargeStep(sizes.get(id) ?? 0);
  return given.get(id) ?? null;
});
let body: Body | null = null;

/** The kernel is served beside the page, and loaded when the first part is opened. */
function loadKernel(): Promise<void> {
  kernel ??= (async () => {
    const settings: object = { locateFile: () => '/engine/solids.wasm' };
    takeKernel(await (init as (given: object) => Promise<Kernel>)(settings));
  })();
  return kernel;
}

const say = (message: FromPart, handed: Transferable[] = []) => self.postMessage(message, handed);

async function written({ file, words, at }: Extract<ToPart, { type: 'write' }>): Promise<Uint8Array | null> {
  if (!body) return null;
  if (file === 'step') return new TextEncoder().encode(await stepOf(body, { ...words, at }));
  const skin = skinOf(body, FINE);
  if (file === 'stl') return writeStl(skin, words.name);
  return file === '3mf' ? writeThreeMf(skin, words) : writePartGlb(skin, words);
}

/** What cannot be fetched is told by the feature that takes it. */
async function fetchGiven(files: readonly GivenFile[]): Promise<void> {
  for (const { id, url } of files) {
    if (given.has(id)) continue;
    const answer = await fetch(url);
    if (answer.status === 404) continue;
    if (!answer.ok)
      throw new Error(`A STEP file could not be fetched (${answer.status}): make the part again.`);
    const size = Number(answer.headers.get('content-length') ?? 0);
    sizes.set(id, size);
    if (size > LARGEST_STEP) await answer.body?.cancel();
    else given.set(id, new Uint8Array(await answer.arrayBuffer()));
  }
}

/** What the solid is asked once it is made. */
function looked(asked: AskedOfPart): PartAnswers[PartQuestion]['gives'] | null {
  if (!body) return null;
  const solid = body;
  switch (asked.about) {
    case 'views':
      return asked.frames.map((frame) => viewOn(solid, frame));
    case 'face':
      return faceOutline(solid, asked.name);
    case 'section':
      return sectionOn(solid, asked.frame);
    case 'thickness':
      return thicknessOf(skinOf(solid, TO_LOOK_AT));
    case 'draft':
      return draftOf(skinOf(solid, TO_LOOK_AT), asked.pull);
  }
}

async function answer(asked: ToPart): Promise<void> {
  const { task } = asked;
  try {
    await loadKernel();
    if (asked.type === 'write') {
      const bytes = await written(asked);
      say({ type: 'written', task, bytes: bytes && new Uint8Array(bytes) });
      return;
    }
    if (asked.type === 'look') {
      say({ type: 'looked', task, found: looked(asked.asked) });
      return;
    }
    await fetchGiven(asked.files);
    const model = modelOf([...asked.entities]),
      part = get(model, 'part', asked.partId),
      made = builder.rebuild(recipeOf(model, asked.partId), (done, of, name) =>
        say({ type: 'progress', task, done, of, name }),
      );
    body = made.body;
    const solid = body && part && shownSolid(model, part, body);
    say(
      { type: 'rebuilt', task, solid, states: made.states, memory: kernelMemory() },
      solid ? [solid.skin.corners.buffer, solid.skin.normals.buffer, solid.skin.triangles.buffer] : [],
    );
  } catch (error) {
    say({ type: 'failed', task, why: error instanceof Error ? error.message : String(error) });
  }
}

/** One after the other, and of rebuilds that wait the last alone. */
let waiting: ToPart[] = [],
  busy = false;
async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  // What came meanwhile is heard before the next begins.
  while (waiting.length > 0) {
    const last = waiting.findLastIndex((w) => w.type === 'rebuild');
    waiting = waiting.filter((w, i) => w.type !== 'rebuild' || i === last);
    // Before anything is asked the solid is made as it is by now.
    const next = Math.max(
      0,
      waiting.findIndex((w) => w.type === 'rebuild'),
    );
    await answer(waiting.splice(next, 1)[0]);
    await new Promise((done) => setTimeout(done));
  }
  busy = false;
}

self.onmessage = ({ data }: MessageEvent<ToPart>) => {
  waiting.push(data);
  void work();
};
