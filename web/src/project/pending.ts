import { FIRST_FORM, FORM, upgradeChange } from '@calque/core/formats';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { SentStep } from './wire';

/** A step that could not be saved, with the reason; it waits for the person. */
export interface SetAside {
  step: SentStep;
  why: string;
}

/** Steps that the server has not taken yet, kept in the browser so that closing the tab loses nothing; each tab has its own. */
export interface PendingStore {
  /** What tabs that are gone have left of a project, in the order in which it was done; it is this tab's from now on. */
  takeLeft(projectId: string): Promise<SentStep[]>;
  add(projectId: string, steps: readonly SentStep[]): Promise<void>;
  remove(stepIds: readonly string[]): Promise<void>;
  asides(projectId: string): Promise<SetAside[]>;
  setAside(projectId: string, aside: SetAside): Promise<void>;
  forgetAside(stepIds: readonly string[]): Promise<void>;
}

interface Kept extends DBSchema {
  /** Version 1: one row to a project, so that of two tabs one overwrote the other's. */
  pending: { key: string; value: SentStep[] };
  /** One row to a step; its key counts up, so that the order is kept. */
  steps: {
    key: number;
    value: { projectId: string; tab: string; step: SentStep; form?: number };
    indexes: { projectId: string; stepId: string };
  };
  aside: {
    key: string;
    value: SetAside & { projectId: string; form?: number };
    indexes: { projectId: string };
  };
}

const FORMER_TAB = 'former';
const BLOCKED_MS = 3000;
const tabLock = (tab: string) => `calque-tab:${tab}`;

let database: Promise<IDBPDatabase<Kept>> | null = null;

function open(): Promise<IDBPDatabase<Kept>> {
  database ??= openDB<Kept>('calque', 2, {
    async upgrade(db, before, _now, transaction) {
      const steps = db.createObjectStore('steps', { autoIncrement: true });
      steps.createIndex('projectId', 'projectId');
      steps.createIndex('stepId', 'step.id');
      db.createObjectStore('aside', { keyPath: 'step.id' }).createIndex('projectId', 'projectId');
      if (before !== 1) return;
      const former = transaction.objectStore('pending');
      for (const projectId of await former.getAllKeys())
        for (const step of (await former.get(projectId)) ?? [])
          await steps.add({ projectId, tab: FORMER_TAB, step });
      db.deleteObjectStore('pending');
    },
    // A page of a newer version waits for this one: it may go on.
    blocking: (_current, _blocked, event) => {
      (event.target as IDBDatabase).close();
      database = null;
    },
    terminated: () => {
      database = null;
    },
  }).catch((error: unknown) => {
    database = null;
    throw error;
  });
  // A page of an older version may hold the store until it is closed: this one goes on meanwhile as where nothing is kept.
  return Promise.race([
    database,
    new Promise<never>((_, reject) => {
      setTimeout(
        () => reject(new Error('The store of this browser is held by a page of an older version.')),
        BLOCKED_MS,
      );
    }),
  ]);
}

/** What a newer version has kept waits for it. */
const isNewer = ({ form = FIRST_FORM }: { form?: number }): boolean => form > FORM;
/** A kept step in the form of this version. */
const inThisForm = ({ step, form = FIRST_FORM }: { step: SentStep; form?: number }): SentStep =>
  form === FORM ? step : { ...step, change: upgradeChange(step.change, form) as SentStep['change'] };

/** Strict: kept means on the disk, also when the browser is killed right after. */
const STRICT = { durability: 'strict' } as const;

/** The store of one tab: alive as long as it holds a lock of its name. */
export function browserPending(tab: string): PendingStore {
  const locks = globalThis.navigator?.locks;
  const alive = locks
    ? new Promise<void>((held) => {
        void locks
          .request(tabLock(tab), () => {
            held();
            return new Promise<never>(() => {});
          })
          .catch(() => held());
      })
    : Promise.resolve();
  const living = async (): Promise<Set<string>> =>
    new Set((await locks?.query())?.held?.map((l) => l.name ?? '') ?? []);
  /** Two tabs that open at once must not both take what a third one left. */
  const alone = <T>(work: () => Promise<T>): Promise<T> =>
    locks ? (locks.request('calque-take-left', work) as Promise<T>) : work();

  return {
    takeLeft: (projectId) =>
      alone(async () => {
        await alive;
        const db = await open(),
          there = await living();
        const transaction = db.transaction('steps', 'readwrite', STRICT);
        const taken: SentStep[] = [];
        for (
          let row = await transaction.store.index('projectId').openCursor(projectId);
          row;
          row = await row.continue()
        ) {
          if (row.value.tab === tab || there.has(tabLock(row.value.tab)) || isNewer(row.value)) continue;
          const step = inThisForm(row.value);
          taken.push(step);
          await row.update({ ...row.value, step, form: FORM, tab });
        }
        await transaction.done;
        return taken;
      }),
    async add(projectId, steps) {
      await alive;
      const transaction = (await open()).transaction('steps', 'readwrite', STRICT);
      for (const step of steps) void transaction.store.add({ projectId, tab, step, form: FORM });
      await transaction.done;
    },
    async remove(stepIds) {
      const transaction = (await open()).transaction('steps', 'readwrite');
      for (const id of stepIds)
        for (const key of await transaction.store.index('stepId').getAllKeys(id))
          void transaction.store.delete(key);
      await transaction.done;
    },
    asides: async (projectId) =>
      (await (await open()).getAllFromIndex('aside', 'projectId', projectId))
        .filter((kept) => !isNewer(kept))
        .map((kept) => ({ step: inThisForm(kept), why: kept.why })),
    async setAside(projectId, aside) {
      const transaction = (await open()).transaction('aside', 'readwrite', STRICT);
      void transaction.store.put({ ...aside, projectId, form: FORM });
      await transaction.done;
    },
    async forgetAside(stepIds) {
      const transaction = (await open()).transaction('aside', 'readwrite');
      for (const id of stepIds) void transaction.store.delete(id);
      await transaction.done;
    },
  };
}
