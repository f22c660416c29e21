import { createStore, type StoreApi } from 'zustand/vanilla';
import { SNAP_KINDS, type SnapKind } from '@calque/core/snapping';
import type { FieldRequest } from './tool';
import type { Insets, Viewport } from './viewport';

/** What the surface tells the panels. */
export interface TableState {
  view: Viewport;
  pointer: [number, number] | null;
  /** What the pick has found, in words, and how many other things lie there. */
  snap: { words: string; others: number } | null;
  /** Kinds that picks find, and the one that the next pick is limited to. */
  snapKinds: ReadonlySet<SnapKind>;
  snapOnly: SnapKind | null;
  /** Other storeys whose trace shows through, tinted; picks find it. */
  ghosts: ReadonlySet<string>;
  /** Edges of the other views of a part show on its planes; picks find them. */
  viewEdges: boolean;
  /** Does what has been marked as done show? */
  showDone: boolean;
  showConstruction: boolean;
  /** What is shown alone for the moment, in words, and the ids of all that is put away for it. */
  alone: { words: string; away: ReadonlySet<string> } | null;
  /** Every pick is shown at eight times. */
  loupe: boolean;
  toolId: string;
  toolWords: string;
  field: FieldRequest | null;
  /** What was typed for a figure or name that must be given, before its field was there to take it. */
  typedAhead: string;
  planeId: string;
  underlayId: string | null;
  /** The one underlay that is shown alone for the moment. */
  aloneId: string | null;
  selection: ReadonlySet<string>;
  lookThrough: boolean;
  insets: Insets;
  size: { width: number; height: number };
  sheetProblem: string | null;
  /** Goes up with each sheet whose linework has come. */
  sheetsLoaded: number;
  /** Goes up with each change of what is read from ink. */
  inksChanged: number;
}

export const createTableState = (): StoreApi<TableState> =>
  createStore<TableState>(() => ({
    view: { scale: 0.05, x: 400, y: 500 },
    pointer: null,
    snap: null,
    snapKinds: new Set(SNAP_KINDS),
    snapOnly: null,
    ghosts: new Set(),
    viewEdges: false,
    showDone: false,
    showConstruction: true,
    alone: null,
    loupe: false,
    toolId: 'select',
    toolWords: '',
    field: null,
    typedAhead: '',
    planeId: 'ground',
    underlayId: null,
    aloneId: null,
    selection: new Set(),
    lookThrough: false,
    insets: { left: 270, top: 48, right: 350, bottom: 40 },
    size: { width: 0, height: 0 },
    sheetProblem: null,
    sheetsLoaded: 0,
    inksChanged: 0,
  }));
