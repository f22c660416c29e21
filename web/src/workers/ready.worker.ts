/// <reference lib="webworker" />
import { get, modelOf } from '@calque/core/model';
import { writeReadyPdf } from '@calque/core/paper';
import { writeReadySvg } from '@calque/core/ready';
import { pictureKey, type FromReady, type ToReady } from './ready-protocol';

/** Writes ready drawings away from the page: a client's PDF may be large. */
declare const self: DedicatedWorkerGlobalScope;

async function written({ entities, ...task }: ToReady): Promise<FromReady> {
  const model = modelOf([...entities]),
    drawing = get(model, 'paperDrawing', task.drawingId);
  if (!drawing) return { type: 'failed', why: 'The drawing has been removed.' };
  if (task.make === 'svg') {
    const { pictures, date } = task;
    return {
      type: 'done',
      svg: writeReadySvg(
        model,
        drawing,
        date,
        (view, part) => pictures[pictureKey(view.view.id, part)] ?? null,
      ),
    };
  }
  const { files, pictures, date } = task;
  return {
    type: 'done',
    ...(await writeReadyPdf(model, drawing, date, {
      bytesOf: (id) => files.get(id) ?? null,
      pictureOf: (view, underlayId) => pictures.get(pictureKey(view.view.id, underlayId ?? 'page')) ?? null,
    })),
  };
}

self.onmessage = async ({ data }: MessageEvent<ToReady>) => {
  const say = (message: FromReady, handed: Transferable[] = []) => self.postMessage(message, handed);
  try {
    const done = await written(data);
    say(done, 'bytes' in done ? [done.bytes.buffer] : []);
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
