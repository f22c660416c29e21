import type { PageSummary } from '@calque/core/linework';
import type { Entity, LogStep, ShelfThing } from '@calque/core/model';

/** What server and page say to each other: types alone. */
export interface ErrorAnswer {
  code: string;
  message: string;
}

export interface ProjectCard {
  id: string;
  name: string;
  updated: string;
  deleted: string | null;
  seq: number;
}

/** How much there is in a project. */
export interface TallyAnswer {
  sheets: number;
  /** Of these, those that were calibrated and not taken against what the sheet says itself. */
  calibrated: number;
  /** All other entities, by their type. */
  types: Record<string, number>;
}

/** A thing of the shelf, and how often it has been changed. */
export interface OnShelf {
  thing: ShelfThing;
  version: number;
}

export type FileKind = 'pdf' | 'png' | 'jpeg' | 'tiff' | 'webp' | 'dxf' | 'svg' | 'step';
export type FileStatus = 'waiting' | 'reading' | 'ready' | 'failed' | 'password' | 'units' | 'cancelled';

export interface SheetInfo extends PageSummary {
  fileId: string;
}

export interface FileInfo {
  id: string;
  name: string;
  kind: FileKind | null;
  status: FileStatus;
  message: string | null;
  pages: number;
  pagesRead: number;
  encrypted: boolean;
  repaired: boolean;
  /** A password is known that opens it. */
  opened: boolean;
  /** There is a copy with all layers on, for drawing them one by one. */
  layered: boolean;
  sheets: SheetInfo[];
}

/** Is there room for a file? Else why not, and what to do. */
export type RoomAnswer = { ok: true } | { ok: false; message: string };

/** How the parts of the installation are, where this is known; what is not well says why. */
export interface HealthAnswer {
  ok: boolean;
  parts: { name: string; state: 'running' | 'restarting' | 'failing'; why: string | null }[];
}

/** Steps, and whether there are more than one answer holds. */
export interface StepsAnswer {
  form: number;
  steps: (LogStep & { clientId: string })[];
  more: boolean;
}

export interface ProjectAnswer {
  /** The form of entities and steps: see @calque/core/formats. */
  form: number;
  seq: number;
  entities: Entity[];
  files: FileInfo[];
}

/** What stands before the entities of a project that comes line by line. */
export interface ProjectHead {
  form: number;
  seq: number;
  /** How many entities follow. */
  count: number;
  files: FileInfo[];
}

export type SentStep = Omit<LogStep, 'seq'>;

export interface ChangesRequest {
  clientId: string;
  form: number;
  steps: SentStep[];
}

export type ChangesAnswer =
  | { ok: true; seq: number }
  | { ok: false; code: 'refused' | 'invalid'; stepId: string; message: string; seq: number };

export type Notice = { projectId: string } & (
  { what: 'changes'; seq: number } | { what: 'files' } | { what: 'project' }
);
