import { measured } from './measured.ts';

const BENCH_PORT = 4498;

/** Measures speed and memory and prints the figures for docs/performance.md. */
export async function bench(): Promise<void> {
  await measured('bench', BENCH_PORT, (serving) => ({ BENCH_URL: serving.url }));
}
