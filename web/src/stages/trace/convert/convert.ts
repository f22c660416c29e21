import { create } from 'zustand';
import { countWithin, type Converted } from '@calque/core/conversion';
import { makeRegion, type Point } from '@calque/core/geometry';
import type { Linework, SheetKind, Switches } from '@calque/core/linework';
import {
  get,
  group,
  lookOf,
  newLayer,
  ofType,
  setFields,
  type Change,
  type TraceLayer,
  type Underlay,
} from '@calque/core/model';
import { formatNumber } from '@calque/core/units';
import { lineworkUrl } from '@/project/addresses';
import { removeUnderlays } from '@/project/removal';
import { cropRing } from '@/table/look-cache';
import { sheetPath } from '@/table/painters/marked';
import type { Table } from '@/table/table';
import { partHere } from '@/drawing/drawn';
import { runTask, Stopped } from '@/workers/task';
import type { FromConvert, ToConvert } from '@/workers/convert-protocol';

/** What becomes of the sheet when a region of it has been converted. */
export type After = 'stays' | 'hidden' | 'removed';

interface ConvertState {
  /** The underlay whose region is being chosen; null while none is. */
  underlayId: string | null;
  /** The region as a ring in sheet points; null for all that is laid. */
  ring: readonly Point[] | null;
  off: readonly SheetKind[];
  layersOff: readonly string[];
  /** Pens that are left out, by penKey. */
  pensOff: readonly string[];
  layering: 'file' | 'kind';
  after: After;
  running: { share: number; stop(): void } | null;
  why: string | null;
  /** Pieces converted in a millisecond, as it went last time. */
  pace: number;
}

/** As measured with 100,000 lines of a plan, until this machine has told otherwise. */
const FIRST_PACE = 50;
/** These are seldom wanted as linework. */
const USUALLY_OFF: readonly SheetKind[] = ['hatch', 'fill', 'picture', 'markup'];

export const useConvert = create<ConvertState>(() => ({
  underlayId: null,
  ring: null,
  off: USUALLY_OFF,
  layersOff: [],
  pensOff: [],
  layering: 'file',
  after: 'stays',
  running: null,
  why: null,
  pace: FIRST_PACE,
}));

export function openConvert(table: Table): void {
  const u = get(table.session.state.model, 'underlay', table.state.getState().underlayId);
  if (!u) {
    table.session.tell('Choose a sheet in the stack first.', true);
    return;
  }
  useConvert.setState({ underlayId: u.id, ring: null, layersOff: [], pensOff: [], running: null, why: null });
}

export function closeConvert(table: Table): void {
  useConvert.getState().running?.stop();
  useConvert.setState({ underlayId: null, running: null });
  table.setMarked(null);
}

/** What is left out: what the sheet's own switches hide, and what was put off here. */
export function switchesOf(
  u: Underlay,
  { off, layersOff, pensOff }: Pick<ConvertState, 'off' | 'layersOff' | 'pensOff'>,
): Switches {
  const own = lookOf(u).switches;
  return {
    ...own,
    kinds: [...new Set([...own.kinds, ...off])],
    layers: { ...own.layers, ...Object.fromEntries(layersOff.map((key) => [key, false])) },
    pens: [...new Set([...own.pens, ...pensOff])],
  };
}

export const regionOf = (u: Underlay, ring: ConvertState['ring']) =>
  makeRegion([ring ?? cropRing(u)], 'nonzero');

/** Why nothing would come of it: a scan has no lines of its own. */
const emptyWords = (l: Linework) =>
  l.content === 'scan' || (l.pictures.length > 0 && l.segments.length + l.fillEdges.length === 0)
    ? 'This sheet is a scan: it has no lines of its own, only ink. Read its lines from the ink (G) and trace on those, or fit single ones (;).'
    : 'Nothing that is switched on lies in this region.';

/** What would be taken, and how long it may take, in words. */
export function forecast(l: Linework, u: Underlay, state: ConvertState): { words: string; pieces: number } {
  const { lines, curves, texts } = countWithin(l, regionOf(u, state.ring), switchesOf(u, state));
  const pieces = lines + curves + texts,
    seconds = pieces / state.pace / 1000;
  const parts = [
    lines > 0 && `${formatNumber(lines, 0)} lines`,
    curves > 0 && `${formatNumber(curves, 0)} arcs and curves`,
    texts > 0 && `${formatNumber(texts, 0)} texts`,
  ].filter(Boolean);
  return {
    pieces,
    words:
      pieces === 0
        ? emptyWords(l)
        : `${parts.join(', ')}; ${seconds < 1 ? 'less than a second' : `about ${formatNumber(Math.ceil(seconds), 0)} s`}`,
  };
}

/** Lights the region up on the drawing. */
export function showRegion(table: Table, u: Underlay, ring: ConvertState['ring']): void {
  const corners = ring ?? cropRing(u);
  const sides = corners.map((p, i) => [...p, ...corners[(i + 1) % corners.length]]);
  table.setMarked({ sets: [{ path: sheetPath(sides, u.placement), colour: 'now', width: 2 }] });
}

export function startConvert(table: Table, u: Underlay): void {
  const state = useConvert.getState();
  const worker = new Worker(new URL('../../../workers/convert.worker.ts', import.meta.url), {
    type: 'module',
  });
  const began = performance.now();
  const request: ToConvert = {
    url: new URL(lineworkUrl(table.session.projectId, u.fileId, u.page), location.href).href,
    ring: state.ring ?? cropRing(u),
    ask: {
      switches: switchesOf(u, state),
      placement: u.placement,
      layering: state.layering,
      planeId: u.planeId,
      source: {
        underlayId: state.after === 'removed' ? null : u.id,
        sheet: u.name,
        ends: 'snapped',
        thickness: 'typed',
      },
    },
  };
  const { stop } = runTask<ToConvert, FromConvert>(worker, request, {
    onProgress: (share) => useConvert.setState({ running: { share, stop } }),
    broken: 'The converter could not be started. Reload the page.',
    onEnd: (end) => {
      useConvert.setState({ running: null });
      if ('error' in end) {
        if (!(end.error instanceof Stopped)) useConvert.setState({ why: end.error.message });
        return;
      }
      const { converted } = end.done,
        took = performance.now() - began;
      if (converted.from > 2000) useConvert.setState({ pace: converted.from / took });
      put(table, u, converted, state.after);
    },
  });
  useConvert.setState({ running: { share: 0, stop }, why: null });
}

/** Puts what came out as one step: new layers, the elements on them, and what becomes of the sheet. */
function put(table: Table, u: Underlay, { layers, elements, layerOf, from }: Converted, after: After): void {
  const { session } = table,
    { model } = session.state;
  if (elements.length === 0) {
    useConvert.setState({ why: 'Nothing that is switched on lies in this region.' });
    return;
  }
  const known = ofType(model, 'layer'),
    added: TraceLayer[] = [];
  const ids = layers.map(({ name, colour, weight }, i) => {
    const same = known.find((l) => l.name === name);
    if (same) return same.id;
    const layer: TraceLayer = { ...newLayer(crypto.randomUUID(), name, known.length + i), colour, weight };
    added.push(layer);
    return layer.id;
  });
  // Short ids of one batch: thirty thousand long ones would be megabytes.
  const batch = crypto.randomUUID().slice(0, 8),
    part = partHere(table),
    idOf = (i: number) => `c${batch}-${i.toString(36)}`;
  const step = group([
    ...added.map((entity): Change => ({ type: 'add', entity })),
    ...elements.map((e, i): Change => ({
      type: 'add',
      entity: { ...e, id: idOf(i), layerId: ids[layerOf[i]], ...(part && { part }) },
    })),
    after === 'hidden'
      ? setFields(u, { visible: false })
      : after === 'removed'
        ? removeUnderlays(model, [u])
        : null,
  ]);
  if (!session.do(step, `Convert ${u.name}`.slice(0, 190))) return;
  session.tell(
    `${formatNumber(elements.length, 0)} elements on ${layers.length === 1 ? 'one layer' : `${layers.length} layers`} were made of ${formatNumber(from, 0)} pieces of the sheet. One undo takes all back.`,
  );
  closeConvert(table);
  table.setSelection(elements.map((_, i) => idOf(i)));
}
