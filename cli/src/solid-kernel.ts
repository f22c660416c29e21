import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import init from 'replicad-opencascadejs';
import { takeKernel, type Kernel } from '@calque/core/forming';

let loading: Promise<void> | null = null;

/** Loads the geometry kernel, once. */
export function loadKernel(): Promise<void> {
  loading ??= (async () => {
    const wasmBinary = readFileSync(createRequire(import.meta.url).resolve('replicad-opencascadejs/wasm')),
      settings: object = { wasmBinary };
    takeKernel(await (init as (given: object) => Promise<Kernel>)(settings));
  })();
  return loading;
}
