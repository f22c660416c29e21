// Bundles the programs that run in Node (command line, reader, start and test) from TypeScript to .build/; ops/prepare.cjs says when.
import { build } from 'esbuild';
import { existsSync } from 'node:fs';

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
await build({
  entryPoints,
  outdir: '.build',
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
