'use client';

import { create } from 'zustand';
import { get, lookOf, type Underlay } from '@calque/core/model';
import type { Proposals, Told } from '@calque/core/proposals';
import { lineworkUrl } from '@/project/addresses';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';
import type { FromPropose, ToPropose } from '@/workers/propose-protocol';
import { runTask, Stopped, type Task } from '@/workers/task';

/** What one thing that is seen is known by while it is offered: its kind and its number. */
export type SeenKey = `${'wall' | 'column' | 'grid' | 'room'}:${number}`;

export interface SeenState {
  underlayId: string | null;
  /** How the sheet lies while its offers hold. */
  placement: Underlay['placement'] | null;
  /** How it was laid, cropped and switched: see laidAs. */
  laid: string;
  state: 'none' | 'looking' | 'seen' | 'failed';
  why: string;
  proposals: Proposals | null;
  refused: ReadonlySet<SeenKey>;
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
  proposals: null,
  refused: new Set(),
  taken: new Map(),
  told: { notThick: [], pens: {} },
  walked: null,
};

export const useOffers = create<SeenState>(() => NOTHING);

/** What tells how a sheet lies, is cropped and switched: where that differs, what was seen on it holds no more. */
export const laidAs = (u: Underlay): string =>
  JSON.stringify([u.placement, cropRing(u), lookOf(u).switches, u.planeId, u.scaleState]);

let task: Task<Extract<FromPropose, { type: 'done' }>> | null = null;

/** Looks at the sheet in hand; `told`: what a person says of it beyond what was said before. */
export function lookAtSheet(table: Table, told?: Told): void {
  const { model } = table.session.state,
    u = get(model, 'underlay', table.state.getState().underlayId);
  stopLooking();
  if (!u) {
    useOffers.setState({ ...NOTHING, state: 'failed', why: 'Choose a sheet in the stack first.' });
    return;
  }
  if (get(model, 'plane', u.planeId)) {
    useOffers.setState({
      ...NOTHING,
      state: 'failed',
      why: 'Walls stand on floors: on an upright plane or a face nothing is offered. Go to a storey.',
    });
    return;
  }
  if (u.scaleState === 'paper') {
    useOffers.setState({
      ...NOTHING,
      state: 'failed',
      why: `${u.name} is not to scale yet: bring it to scale first, then what it shows can be measured.`,
    });
    return;
  }
  const before = useOffers.getState(),
    isSame = before.underlayId === u.id;
  useOffers.setState({
    ...NOTHING,
    underlayId: u.id,
    placement: u.placement,
    laid: laidAs(u),
    state: 'looking',
    told: told ?? (isSame ? before.told : NOTHING.told),
    // What was taken stays taken; the new offers are told from it by where they lie.
    taken: NOTHING.taken,
  });
  const request: ToPropose = {
    url: new URL(lineworkUrl(table.session.projectId, u.fileId, u.page), location.href).href,
    ring: cropRing(u),
    switches: lookOf(u).switches,
    placement: u.placement,
    told: useOffers.getState().told,
  };
  const worker = new Worker(new URL('../../../workers/propose.worker.ts', import.meta.url), {
    type: 'module',
  });
  task = runTask<ToPropose, FromPropose>(worker, request, {
    broken: 'The sheet could not be looked at. Reload the page.',
    onEnd: (end) => {
      task = null;
      if ('done' in end) useOffers.setState({ state: 'seen', proposals: end.done.proposals });
      else if (end.error instanceof Stopped) useOffers.setState({ state: 'failed', why: 'Stopped.' });
      else useOffers.setState({ state: 'failed', why: end.error.message });
      table.showTool();
    },
  });
}

export function stopLooking(): void {
  task?.stop();
  task = null;
}

/** Lays aside all that is offered. */
export function forgetOffers(): void {
  stopLooking();
  useOffers.setState(NOTHING);
}
