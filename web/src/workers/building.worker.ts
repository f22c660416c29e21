/// <reference lib="webworker" />
import { shopViews, writeGlb, writeIfc, writeStep, writeXlsx } from '@calque/core/exchange';
import { get, modelOf, settingsOf, type Model } from '@calque/core/model';
import { sceneOf, seenFrom, seenFromOutlook } from '@calque/core/solids';
import { tablesOf } from '@calque/core/takeoff';
import type { BuildingTask, FromBuilding, ToBuilding } from './building-protocol';

/** Makes solids, tables and building models away from the page. */
declare const self: DedicatedWorkerGlobalScope;

type Made = Omit<Extract<FromBuilding, { type: 'done' }>, 'type'>;

/** Storeys that are done are told after so long, and then less and less often, milliseconds. */
const FIRST_AFTER = 150;

async function made(
  model: Model,
  task: BuildingTask,
  onShare: (share: number) => void,
  onSome: (made: Made) => void,
): Promise<Made> {
  switch (task.make) {
    case 'scene': {
      const began = performance.now();
      let next = FIRST_AFTER;
      return {
        scene: sceneOf(model, {
          onShare,
          onSome: (some) => {
            const passed = performance.now() - began;
            if (!task.partly || passed < next) return;
            next = 2.5 * passed;
            onSome({ scene: some(), more: true });
          },
        }),
      };
    }
    case 'tables':
      return { tables: tablesOf(model) };
    case 'seen': {
      const plane = get(model, 'plane', task.planeId);
      return plane ? { seen: seenFrom(model, plane) } : {};
    }
    case 'outlook':
      return { seen: seenFromOutlook(model, task, task.storeyId ?? undefined) };
    case 'glb':
      return { bytes: owned(writeGlb(model, task.storeyId ?? undefined)) };
    case 'step': {
      const text = writeStep(model, { at: task.at });
      return { bytes: text === null ? null : new TextEncoder().encode(text) };
    }
    case 'shop': {
      const views = shopViews(model);
      if (views.length === 0) return { bytes: null };
      const { writePdf } = await import('@calque/core/paper'),
        { bytes } = await writePdf(views, {
          scale: 10,
          paper: 'A3',
          title: { project: settingsOf(model).name, date: task.date },
        });
      return { bytes: owned(bytes) };
    }
    case 'xlsx': {
      const { storey } = task,
        tables = tablesOf(model).map((t) => ({
          ...t,
          rows: t.rows.filter((r) => storey === null || r.storey === storey),
        }));
      return { bytes: await writeXlsx(tables, settingsOf(model).units) };
    }
    case 'ifc': {
      const { view, at, projectKey, storeyId } = task;
      const text = writeIfc(model, { view, at, projectKey, ...(storeyId && { storeyId }) });
      return { bytes: new TextEncoder().encode(text) };
    }
  }
}

/** Bytes whose buffer can be handed over. */
const owned = (bytes: Uint8Array | null) => bytes && new Uint8Array(bytes);

self.onmessage = async ({ data: { entities, ...task } }: MessageEvent<ToBuilding>) => {
  const say = (message: FromBuilding, handed: Transferable[] = []) => self.postMessage(message, handed);
  try {
    const sayMade = (done: Made) =>
      say({ type: 'done', ...done }, [
        ...(done.scene?.groups.flatMap((g) => [g.triangles.buffer, g.edges.buffer]) ?? []),
        ...(done.bytes ? [done.bytes.buffer] : []),
      ]);
    const onShare = (share: number) => say({ type: 'progress', share });
    sayMade(await made(modelOf([...entities]), task, onShare, sayMade));
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
