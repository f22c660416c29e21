export * as schema from './schema.ts';
export type { FileKind, FileStatus } from './schema.ts';
export * from './database.ts';
export * from './blobs.ts';
export * from './notices.ts';
export * from './projects.ts';
export * from './files.ts';
export * from './meta.ts';
