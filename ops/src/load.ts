import { measured } from './measured.ts';

const LOAD_PORT = 4495;

/** Measures an installation under many tabs that edit at once. */
export const load = (): Promise<never> =>
  measured('load', LOAD_PORT, (serving) => ({
    LOAD_URL: serving.url,
    LOAD_PIDS: serving.processes().join(','),
  }));
