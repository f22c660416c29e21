import * as yup from 'yup';
import { formOf, NewerForm } from '../../formats/index.ts';
import { isSoundText, soundName } from '../../texts/index.ts';

/** The `.calque` package: a zip of JSON and the attached files as they came. See docs/format.md. */
export const PACKAGE_FORMAT = 'calque';
export const PACKAGE_VERSION = 3;

/**
 * Version 1 held all entities and the whole log as one JSON text each; since version 2 each stands on a line of its own, so that none
 * is too long to read; since version 3 the manifest says in which form they are (see @calque/core/formats).
 */
export const PACKAGE_ENTRIES = {
  manifest: 'manifest.json',
  entities: { 1: 'entities.json', 2: 'entities.jsonl', 3: 'entities.jsonl' },
  log: { 1: 'log.json', 2: 'log.jsonl', 3: 'log.jsonl' },
} as const;

/** An attached file: `path` is an entry of the zip and nothing else. */
export interface PackagedFile {
  id: string;
  name: string;
  sha256: string;
  bytes: number;
  path: string;
  /** What a person said of a drawing that does not say its units. */ millimetresPerUnit?: number | null;
  password?: string | null;
}
export interface Manifest {
  format: string;
  version: 1 | 2 | 3;
  /** The form of its entities and steps. */
  form: number;
  written: string;
  files: PackagedFile[];
}

export class PackageError extends Error {
  constructor(
    readonly code: 'not-a-package' | 'newer-version' | 'damaged' | 'too-large',
    message: string,
  ) {
    super(message);
    this.name = 'PackageError';
  }
}

export const packagedPath = (sha256: string): string => `files/${sha256}`;

const MOST_FILES = 20000,
  LONGEST_FILE_NAME = 200;

const file = yup.object({
  id: yup
    .string()
    .strict()
    .required()
    .matches(/^[A-Za-z0-9_-]{1,64}$/, 'a file has no sound id'),
  name: yup.string().strict().defined().max(10000),
  sha256: yup
    .string()
    .strict()
    .required()
    .matches(/^[0-9a-f]{64}$/, 'a file has no sound checksum'),
  bytes: yup.number().strict().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
  path: yup.string().strict().required(),
  millimetresPerUnit: yup.number().strict().positive().max(1e7).nullable().optional(),
  password: yup
    .string()
    .strict()
    .max(500)
    .nullable()
    .optional()
    .test('sound', 'a password holds characters that cannot be kept', (v) => !v || isSoundText(v)),
});

/** Checks what a package says of itself; throws PackageError with words. Names are shown and never paths, paths are entries of the zip and never of a disk. */
export function parseManifest(value: unknown): Manifest {
  const given = (typeof value === 'object' && value !== null ? value : {}) as {
    format?: unknown;
    version?: unknown;
    form?: unknown;
    written?: unknown;
    files?: unknown;
  };
  if (given.format !== PACKAGE_FORMAT)
    throw new PackageError('not-a-package', 'This zip is not a .calque package.');
  const { version } = given;
  if (typeof version === 'number' && version > PACKAGE_VERSION)
    throw new PackageError(
      'newer-version',
      `The package was written in version ${version}; this installation reads up to ${PACKAGE_VERSION}. Update it first.`,
    );
  if (version !== 1 && version !== 2 && version !== 3)
    throw new PackageError('damaged', 'The package is damaged (manifest.json): it does not say its version.');
  try {
    const form = formOf(given.form, 'This package');
    const files = yup
      .array()
      .of(file)
      .required()
      .max(MOST_FILES)
      .validateSync(given.files, { strict: true }) as PackagedFile[];
    if (files.some((f) => f.path !== packagedPath(f.sha256)))
      throw new Error('a file lies elsewhere than at its checksum');
    if (new Set(files.map((f) => f.id)).size < files.length) throw new Error('two files have one id');
    return {
      format: PACKAGE_FORMAT,
      version,
      form,
      written: typeof given.written === 'string' ? given.written : '',
      files: files.map((f) => ({ ...f, name: soundName(f.name, LONGEST_FILE_NAME, 'unnamed') })),
    };
  } catch (error) {
    if (error instanceof NewerForm) throw new PackageError('newer-version', error.message);
    throw damaged('manifest.json', error);
  }
}

export const damaged = (entry: string, error: unknown): PackageError =>
  error instanceof PackageError
    ? error
    : new PackageError(
        'damaged',
        `The package is damaged (${entry}): ${(error instanceof Error ? error.message : String(error)).slice(0, 300)}.`,
      );
