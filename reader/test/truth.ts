import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { readFile, type FileFacts, type ReadOptions, type ReadPage } from '@calque/reader';

/** What the fixture sheets hold, measured by those who drew them: points of the displayed page, y down. */
export interface TruthPage {
  page: number;
  size: [number, number];
  visible: number;
  curves: number | null;
  lines: [number, number, number, number][];
  decoys: [number, number, number, number][];
  arcs: [number, number, number, number][];
  circles: [number, number, number][];
  texts: { s: string; size: number; angle: number; at: [number, number]; anchor: string }[];
  layers: Record<string, { segments: number; on: boolean }>;
}

export interface TruthCase {
  file: string;
  pages?: TruthPage[];
  password?: string;
  as?: string;
}

export const fixture = (name: string) => fileURLToPath(new URL(`./sheets/${name}`, import.meta.url));
export const bytesOf = (name: string) => new Uint8Array(readFileSync(fixture(name)));
export const truth = JSON.parse(readFileSync(fixture('truth.json'), 'utf8')) as Record<string, TruthCase>;

export async function read(
  bytes: Uint8Array,
  options: Partial<ReadOptions> = {},
): Promise<{ facts: FileFacts; pages: ReadPage[] }> {
  const pages: ReadPage[] = [];
  let facts: FileFacts | undefined;
  await readFile(
    bytes,
    { maxMegabytes: 640, ...options },
    (f) => {
      facts = f;
    },
    (p) => {
      pages.push(p);
    },
  );
  return { facts: facts!, pages };
}
