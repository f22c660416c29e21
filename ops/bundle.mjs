// Bundles the programs that run in Node (command line, reader, start and test) from TypeScript to .build/; ops/prepare.cjs says when.
import { build } from 'esbuild';
import { existsSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';

const ENTRIES = {
  cli: 'cli/src/main.ts',
  'cli-child': 'cli/src/read-child.ts',
  'reader-service': 'reader/src/service/main.ts',
  'reader-child': 'reader/src/service/child.ts',
  'package-child': 'store/src/package/child.ts',
  'steps-thread': 'store/src/steps-thread.ts',
  'picture-thread': 'store/src/picture-thread.ts',
  'web-server': 'ops/src/web/server.ts',
  ops: 'ops/src/main.ts',
  demo: 'demo/src/main.ts',
  bench: 'bench/src/main.ts',
  faults: 'bench/src/faults/main.ts',
  load: 'bench/src/load.ts',
  several: 'bench/src/several.ts',
  attacks: 'attacks/src/main.ts',
  'fuzz-child': 'attacks/src/fuzz-child.ts',
};
/** Packages of hundreds of small modules, which Node.js takes longer to find than to run. */
const BUNDLED_TOO = ['@cantoo/pdf-lib'];
const entryPoints = Object.fromEntries(Object.entries(ENTRIES).filter(([, file]) => existsSync(file)));
const OUT = '.build';
/** Parts of former bundles are kept so long: an instance that runs may still ask for them. */
const KEPT_MS = 24 * 3600 * 1000;
const { metafile } = await build({
  entryPoints,
  outdir: OUT,
  metafile: true,
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: 'linked',
  outExtension: { '.js': '.mjs' },
  logLevel: 'error',
  plugins: [
    {
      name: 'own-packages-in-others-out',
      setup(b) {
        b.onResolve({ filter: /^[^./]/ }, ({ path, importer }) =>
          path.startsWith('@calque/') ||
          path.startsWith('node:') ||
          BUNDLED_TOO.includes(path) ||
          importer.includes('/node_modules/')
            ? undefined
            : { path, external: true },
        );
      },
    },
  ],
});

for (const name of readdirSync(OUT)) {
  const file = join(OUT, name);
  if (!/\.mjs(\.map)?$/.test(name) || file in metafile.outputs) continue;
  if (Date.now() - statSync(file).mtimeMs > KEPT_MS) rmSync(file, { force: true });
}
