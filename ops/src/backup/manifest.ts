import * as yup from 'yup';
import type { Portrait } from './portrait.ts';

/** A backup is a zip of two entries: the database's dump, and what is known of it. */
export const BACKUP_FORMAT = 'calque-backup',
  BACKUP_VERSION = 1;
export const BACKUP_ENTRIES = { dump: 'database.dump', manifest: 'backup.json' } as const;

export interface BackupManifest {
  format: string;
  version: number;
  written: string;
  /** The key of kept passwords. */ secret: string;
  portrait: Portrait;
  dump: { sha256: string };
}

const count = yup.number().integer().min(0).required();
const schema = yup.object({
  format: yup.string().oneOf([BACKUP_FORMAT]).required(),
  version: yup.number().integer().min(1).required(),
  written: yup.string().required().max(40),
  secret: yup.string().required().min(32).max(500),
  portrait: yup
    .object({
      projects: count,
      files: count,
      steps: count,
      entities: count,
      blobs: count,
      digest: yup
        .string()
        .matches(/^[0-9a-f]{32}$/)
        .required(),
    })
    .required(),
  dump: yup
    .object({
      sha256: yup
        .string()
        .matches(/^[0-9a-f]{64}$/)
        .required(),
    })
    .required(),
});

/** Reads what a backup says of itself; throws in words. */
export function parseBackup(text: string): BackupManifest {
  let manifest: BackupManifest;
  try {
    manifest = schema.validateSync(JSON.parse(text), { strict: true });
  } catch {
    throw new Error('This is no backup of Calque, or it is damaged.');
  }
  if (manifest.version > BACKUP_VERSION)
    throw new Error(
      `This backup was made by a later version of Calque (backup version ${manifest.version}; this one reads up to ${BACKUP_VERSION}). Use that version or a later one.`,
    );
  return manifest;
}
