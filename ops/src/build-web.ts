import { createHash } from 'node:crypto';
import {
  accessSync,
  constants,
  existsSync,
  readdirSync,
  readFileSync,
  writeFileSync,
  cpSync,
  mkdirSync,
} from 'node:fs';
import { basename, join, relative } from 'node:path';
import { mustRun, root } from './shell.ts';

const SOURCES = [
  'limits/src',
  'journal/src',
  'core/src',
  'store/src',
  'web/src',
  'web/next.config.ts',
  'web/package.json',
  'package-lock.json',
];
const STAMP = 'web/.next/calque-sources';

function hashSources(): string {
  const hash = createHash('sha256');
  const visit = (path: string) => {
    if (!existsSync(path)) return;
    let entries: string[];
    try {
      entries = readdirSync(path).sort();
    } catch {
      hash.update(relative(root, path)).update(readFileSync(path));
      return;
    }
    for (const entry of entries) visit(join(path, entry));
  };
  for (const source of SOURCES) visit(join(root, source));
  return hash.digest('hex');
}

/** What recognition loads: its worker, its engine for what the processor can do, and the data of its language. */
const RECOGNITION = [
  'tesseract.js/dist/worker.min.js',
  ...['relaxedsimd-', 'simd-', ''].map((kind) => `tesseract.js-core/tesseract-core-${kind}lstm.wasm.js`),
  '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz',
];

/** The engines' binaries are served as files of our own, so that the browser fetches nothing from elsewhere. */
function publishEngines(): void {
  const to = join(root, 'web/public/engine');
  mkdirSync(to, { recursive: true });
  cpSync(join(root, 'node_modules/@embedpdf/pdfium/dist/pdfium.wasm'), join(to, 'pdfium.wasm'));
  cpSync(
    join(root, 'node_modules/replicad-opencascadejs/dist/replicad_single.wasm'),
    join(to, 'solids.wasm'),
  );
  mkdirSync(join(to, 'recognition'), { recursive: true });
  for (const file of RECOGNITION)
    cpSync(join(root, 'node_modules', file), join(to, 'recognition', basename(file)));
}

/** Builds the web application unless the built one is of these very sources. */
export async function buildWeb(): Promise<void> {
  const sources = hashSources();
  const stamp = join(root, STAMP);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  try {
    accessSync(join(root, 'web'), constants.W_OK);
  } catch {
    throw new Error(
      `The application in ${root} is not built for its present sources, and this user may not write there. Whoever owns it runs ./calque start once; after that anybody may run it with CALQUE_DATA=FOLDER.`,
    );
  }
  publishEngines();
  await mustRun(process.execPath, ['ops/bundle-worker.mjs'], { cwd: root, quiet: true });
  console.log('Building the application (about a minute, once per version) …');
  await mustRun(join(root, 'node_modules/.bin/next'), ['build'], { cwd: join(root, 'web'), quiet: true });
  writeFileSync(stamp, sources);
}
