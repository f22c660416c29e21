import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { createWorker, OEM, PSM } from 'tesseract.js';
import { recogniserOf, type Recogniser } from '@calque/core/ink';

/** Starts the recognition of figures in a thread of its own, with the data that its package ships; nothing is fetched or kept. */
export async function startRecogniser(): Promise<{ read: Recogniser; stop(): Promise<unknown> }> {
  const require = createRequire(import.meta.url);
  const langPath = join(dirname(require.resolve('@tesseract.js-data/eng/package.json')), '4.0.0_best_int');
  const worker = await createWorker('eng', OEM.LSTM_ONLY, { langPath, cacheMethod: 'none', gzip: true });
  await worker.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_LINE });
  return {
    read: recogniserOf(
      (only) => worker.setParameters({ tessedit_char_whitelist: only }),
      async (pgm) => (await worker.recognize(Buffer.from(pgm))).data,
    ),
    stop: () => worker.terminate(),
  };
}
