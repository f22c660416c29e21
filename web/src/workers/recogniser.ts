/// <reference lib="webworker" />
import { createWorker, OEM, PSM } from 'tesseract.js';
import { recogniserOf, type Recogniser } from '@calque/core/ink';

/** Recognition of figures in a worker of its own, from files that this server ships. */
export async function startRecogniser(origin: string): Promise<{ read: Recogniser; stop(): void }> {
  const engine = `${origin}/engine/recognition`;
  const worker = await createWorker('eng', OEM.LSTM_ONLY, {
    workerPath: `${engine}/worker.min.js`,
    corePath: engine,
    langPath: engine,
    workerBlobURL: false,
    cacheMethod: 'none',
    gzip: true,
  });
  await worker.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_LINE });
  return {
    // A grey map goes to the worker as it is, though the types name files and canvases alone.
    read: recogniserOf(
      (only) => worker.setParameters({ tessedit_char_whitelist: only }),
      async (pgm) => (await worker.recognize(pgm as unknown as Blob)).data,
    ),
    stop: () => void worker.terminate(),
  };
}
