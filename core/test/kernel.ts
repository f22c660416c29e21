import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import init from 'replicad-opencascadejs';
import { takeKernel } from '@calque/core/forming';

let loading: Promise<void> | null = null;
/** Loads the geometry kernel, once to a file of tests. */
export function loadKernel(): Promise<void> {
  loading ??= (async () => {
    const wasmBinary = readFileSync(createRequire(import.meta.url).resolve('replicad-opencascadejs/wasm'));
    takeKernel(await init({ wasmBinary } as never));
  })();
  return loading;
}
