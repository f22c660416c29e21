import { once } from 'node:events';
import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';
import { openPromise, type Entry, type ZipFile } from 'yauzl';
import { PackageError } from '@calque/core/exchange';

/** Most entries of a package, and most bytes that its JSON may inflate to. */
const MOST_ENTRIES = 20100,
  MOST_TEXT = 4e9;
/** A text that is read as one, bytes; one line of entities or of the log, characters. */
const MOST_WHOLE = 400e6,
  LONGEST_LINE = 200e6;

/** The entries of a zip on a disk by their names, which are only ever looked up. */
export interface ZipEntries {
  has(name: string): boolean;
  /** Bytes that it says it inflates to; what comes is held to that. */
  size(name: string): number;
  stream(name: string): Promise<Readable>;
  /** The bytes of an entry, all of them. */
  bytes(name: string): Promise<Uint8Array>;
  /** A JSON text as a value. */
  json(name: string): Promise<unknown>;
  /** Lines of JSON as values. */
  lines(name: string): AsyncGenerator<unknown>;
  close(): void;
}

const NOT_A_ZIP = 'This is not a .calque package: it cannot be opened as a zip.';

export async function openZip(path: string): Promise<ZipEntries> {
  const zip = await openPromise(path, {
    autoClose: false,
    lazyEntries: true,
    validateEntrySizes: true,
  }).catch(() => {
    throw new PackageError('not-a-package', NOT_A_ZIP);
  });
  const entries = await listed(zip);
  const find = (name: string): Entry => {
    const entry = entries.get(name);
    if (!entry)
      throw new PackageError('not-a-package', `This is not a .calque package: it holds no ${name}.`);
    return entry;
  };
  const stream = (name: string) => zip.openReadStreamPromise(find(name)) as unknown as Promise<Readable>;
  const bounded = (name: string, most: number) => {
    if (find(name).uncompressedSize > most)
      throw new PackageError(
        'too-large',
        `The package holds ${Math.round(find(name).uncompressedSize / 1e6)} MB of ${name}, more than is opened.`,
      );
  };
  const bytes = async (name: string): Promise<Buffer> => {
    bounded(name, MOST_WHOLE);
    const parts: Buffer[] = [];
    for await (const part of await stream(name)) parts.push(part as Buffer);
    return Buffer.concat(parts);
  };
  return {
    has: (name) => entries.has(name),
    size: (name) => find(name).uncompressedSize,
    stream,
    bytes,
    async json(name) {
      return JSON.parse((await bytes(name)).toString('utf8')) as unknown;
    },
    async *lines(name) {
      bounded(name, MOST_TEXT);
      const source = await stream(name);
      let failure: Error | null = null;
      let length = 0;
      source.on('error', (error: Error) => {
        failure = error;
      });
      // A line without end would be gathered until the memory is full.
      source.on('data', (part: Buffer) => {
        const last = part.lastIndexOf(10);
        length = last < 0 ? length + part.length : part.length - last;
        if (length > LONGEST_LINE) source.destroy(new Error(`a line of ${name} is longer than any`));
      });
      for await (const line of createInterface({ input: source, crlfDelay: Infinity }))
        if (line !== '') yield JSON.parse(line) as unknown;
      if (failure) throw failure as Error;
    },
    close: () => zip.close(),
  };
}

async function listed(zip: ZipFile): Promise<Map<string, Entry>> {
  if (zip.entryCount > MOST_ENTRIES) {
    zip.close();
    throw new PackageError('too-large', `The package holds ${zip.entryCount} entries, more than is opened.`);
  }
  const entries = new Map<string, Entry>();
  zip.on('entry', (entry: Entry) => {
    entries.set(entry.fileName, entry);
    zip.readEntry();
  });
  const end = once(zip, 'end');
  zip.readEntry();
  await end.catch((error: unknown) => {
    zip.close();
    throw new PackageError(
      'not-a-package',
      `${NOT_A_ZIP.slice(0, -1)} (${(error instanceof Error ? error.message : String(error)).slice(0, 120)}).`,
    );
  });
  return entries;
}
