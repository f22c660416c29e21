'use client';

import { create } from 'zustand';
import type { Box } from '@calque/core/geometry';
import { get, type Underlay } from '@calque/core/model';
import type { Proposals, Told } from '@calque/core/proposals';
import { laidAs, lookedAt, sheetToScale } from '@/drawing/looked-at';
import { keepPicture } from '@/drawing/printed';
import type { Table } from '@/table/table';
import type { FromPropose, ToPropose } from '@/workers/propose-protocol';
import { runTask, Stopped, type Task } from '@/workers/task';

/** What one thing that is seen is known by while it is offered: its kind and its number. */
export type SeenKey =
  `${'wall' | 'column' | 'grid' | 'room' | 'member' | 'stair' | 'north' | 'level'}:${number}`;

/** What tells an offer that was refused from others: what it would become, and the corners of its box. */
export interface Refused {
  type: string;
  box: Box;
}

export interface SeenState {
  underlayId: string | null;
  /** How the sheet lies while its offers hold. */
  placement: Underlay['placement'] | null;
  /** How it was laid, cropped and switched: see laidAs. */
  laid: string;
  state: 'none' | 'looking' | 'seen' | 'failed';
  why: string;
  /** How much of a scan's ink is read; null where nothing is to be read. */
  share: number | null;
  proposals: Proposals | null;
  /** Was it seen in lines that were read from the ink of a scan? */
  fromInk: boolean;
  /** Where what was refused lies, and what it is: looked at again it stays refused. */
  refused: readonly Refused[];
  /** Elements that offers became, while these are in the model. */
  taken: ReadonlyMap<SeenKey, string>;
  told: Told;
  /** The doubtful one that is looked at. */
  walked: SeenKey | null;
}

const NOTHING: SeenState = {
  underlayId: null,
  placement: null,
  laid: '',
  state: 'none',
  why: '',
  share: null,
  proposals: null,
  fromInk: false,
  refused: [],
  taken: new Map(),
  told: { notThick: [], pens: {} },
  walked: null,
};

export const useOffers = create<SeenState>(() => NOTHING);

let task: Pick<Task<never>, 'stop'> | null = null;

/** Looks at the sheet in hand; `told`: what a person says of it beyond what was said before. */
export function lookAtSheet(table: Table, told?: Told): void {
  const found = sheetToScale(table);
  stopLooking();
  const fail = (why: string) => useOffers.setState({ ...NOTHING, state: 'failed', why });
  if ('why' in found) return void fail(found.why);
  const u = found.sheet;
  // Walls, columns and rooms stand on floors: of an upright plane or a face only members and grid lines are offered.
  const isFloor = get(table.session.state.model, 'plane', u.planeId) === null;
  const before = useOffers.getState(),
    isSame = before.underlayId === u.id;
  useOffers.setState({
    ...NOTHING,
    underlayId: u.id,
    placement: u.placement,
    laid: laidAs(u),
    state: 'looking',
    told: told ?? (isSame ? before.told : NOTHING.told),
    refused: isSame && before.laid === laidAs(u) ? before.refused : NOTHING.refused,
    // What was taken stays taken; the new offers are told from it by where they lie.
    taken: NOTHING.taken,
  });
  const { told: now } = useOffers.getState();
  // Until its picture is drawn there is no worker to stop.
  let isStopped = false;
  task = { stop: () => void ((isStopped = true), useOffers.setState({ state: 'failed', why: 'Stopped.' })) };
  void lookedAt(table, u).then(
    (sheet) => {
      if (!isStopped) task = startLooking(table, u, { ...sheet, told: now }, isFloor);
    },
    () => fail('The sheet cannot be drawn. Try it again.'),
  );
}

function startLooking(
  table: Table,
  u: Underlay,
  request: ToPropose,
  isFloor: boolean,
): Pick<Task<never>, 'stop'> {
  const worker = new Worker(new URL('../../../workers/propose.worker.ts', import.meta.url), {
    type: 'module',
  });
  return runTask<ToPropose, FromPropose>(worker, request, {
    transfer: request.picture ? [request.picture.bitmap] : [],
    onProgress: (share) => useOffers.setState({ share }),
    broken: 'The sheet could not be looked at. Reload the page.',
    onEnd: (end) => {
      task = null;
      if ('done' in end) {
        keepPicture(u, end.done.ink);
        useOffers.setState({
          state: 'seen',
          proposals: isFloor ? floorOf(end.done.proposals) : uprightOf(end.done.proposals),
          fromInk: end.done.ink !== null,
        });
      } else if (end.error instanceof Stopped) useOffers.setState({ state: 'failed', why: 'Stopped.' });
      else useOffers.setState({ state: 'failed', why: end.error.message });
      table.showTool();
    },
  });
}

/** Levels are marked on elevations and sections: on a plan they are notes. */
const floorOf = (p: Proposals): Proposals => ({ ...p, levels: [] });

/** What of a sheet can stand on an upright plane or a face. */
const uprightOf = (p: Proposals): Proposals => ({
  ...p,
  walls: [],
  classes: [],
  openings: [],
  rooms: [],
  columns: [],
  stairs: [],
  north: null,
  pens: [],
});

export function stopLooking(): void {
  task?.stop();
  task = null;
}

/** Forgets what a person has told and refused, and looks again. */
export function forgetTold(table: Table): void {
  useOffers.setState({ refused: NOTHING.refused });
  lookAtSheet(table, NOTHING.told);
}
