import { measured } from './measured.ts';

const ATTACKS_PORT = 4496;

/** Attacks an installation made for it: hostile requests, files and mutated practice files, each with how it must end. */
export const attacks = (): Promise<never> =>
  measured('attacks', ATTACKS_PORT, (serving) => ({ ATTACKS_URL: serving.url }));
