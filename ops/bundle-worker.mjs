// Bundles the worker that holds the solid of a part into one file of its own: it is the one script here that may make functions from
// text (its kernel does), and comes under a policy that says so (ops/src/web/policy.ts).
import { build } from 'esbuild';

await build({
  entryPoints: { 'part-worker': 'web/src/workers/part.worker.ts' },
  outdir: 'web/public/engine',
  bundle: true,
  minify: true,
  platform: 'browser',
  format: 'esm',
  target: 'es2022',
  // Asked for in Node.js alone.
  external: ['node:*'],
  logLevel: 'error',
});
