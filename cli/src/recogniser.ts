import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { createWorker, OEM, PSM } from 'tesseract.js';
import { pgmOf, type Recogniser } from '@calque/core/ink';

/** Starts the recognition of figures in a thread of its own, with the data that its package ships; nothing is fetched or kept. */
export async function startRecogniser(): Promise<{ read: Recogniser; stop(): Promise<unknown> }> {
  const require = createRequire(import.meta.url);
  const langPath = join(dirname(require.resolve('@tesseract.js-data/eng/package.json')), '4.0.0_best_int');
  const worker = await createWorker('eng', OEM.LSTM_ONLY, { langPath, cacheMethod: 'none', gzip: true });
  await worker.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_LINE });
  let now: string | null = null;
  return {
    async read(image, only) {
      if (only !== now) {
        now = only;
        await worker.setParameters({ tessedit_char_whitelist: only ?? '' });
      }
      const { data } = await worker.recognize(Buffer.from(pgmOf(image)));
      return { text: data.text, confidence: data.confidence };
    },
    stop: () => worker.terminate(),
  };
}
