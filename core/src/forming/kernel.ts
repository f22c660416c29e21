import { setOC } from 'replicad';
import type { OpenCascadeInstance } from 'replicad-opencascadejs';

/** The geometry kernel, once it is loaded. */
export type Kernel = OpenCascadeInstance;

let loaded: Kernel | null = null;

/** Takes a kernel into use; there is one in a process, as there is in a worker. */
export function takeKernel(kernel: Kernel): void {
  setOC(kernel as never);
  loaded = kernel;
}

export function kernel(): Kernel {
  if (!loaded) throw new Error('The geometry kernel has not been loaded.');
  return loaded;
}

/** What the kernel has taken for itself, bytes. */
export const kernelMemory = (): number =>
  (kernel() as unknown as { wasmMemory: WebAssembly.Memory }).wasmMemory.buffer.byteLength;

interface Deletable {
  delete(): void;
}

/** What was made on the heap of the kernel within a piece of work, and is not needed after it. */
export class Scope {
  private readonly kept: Deletable[] = [];

  keep<T extends Deletable>(thing: T): T {
    this.kept.push(thing);
    return thing;
  }

  end(): void {
    for (const thing of this.kept.splice(0).reverse()) thing.delete();
  }
}

/** Runs a piece of work, and frees what it kept. */
export function inScope<T>(work: (scope: Scope) => T): T {
  const scope = new Scope();
  try {
    return work(scope);
  } finally {
    scope.end();
  }
}

/** What a kernel's exception says of itself; null for anything else. */
export function kernelSays(error: unknown): string | null {
  const { Exception } = WebAssembly as unknown as { Exception?: new () => object };
  if (!Exception || !(error instanceof Exception)) return null;
  try {
    const [type, words] = kernel().getExceptionMessage(error as never);
    return [type, words].filter((w) => w !== '').join(': ');
  } catch {
    return '';
  }
}
