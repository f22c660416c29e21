/// <reference lib="webworker" />
import { createWorker, OEM, PSM } from 'tesseract.js';
import { pgmOf, type Recogniser } from '@calque/core/ink';

/** Recognition of figures in a worker of its own, from files that this server ships. */
export async function startRecogniser(origin: string): Promise<{ read: Recogniser; stop(): void }> {
  const engine = `${origin}/engine/recognition`;
  const worker = await createWorker('eng', OEM.LSTM_ONLY, { workerPath: `${engine}/worker.min.js`, corePath: engine, langPath: engine, workerBlobURL: false, cacheMethod: 'none', gzip: true });
  await worker.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_LINE });
  let now: string | null = null;
  return {
    async read(image, only) {
      if (only !== now) {
        now = only;
        await worker.setParameters({ tessedit_char_whitelist: only ?? '' });
      }
      // What goes to the worker as it is, though its types name files and canvases alone.
      const { data } = await worker.recognize(pgmOf(image) as unknown as Blob);
      return { text: data.text, confidence: data.confidence };
    },
    stop: () => void worker.terminate(),
  };
}
