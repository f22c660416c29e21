'use client';

import { useEffect, useMemo } from 'react';
import { create } from 'zustand';
import type { ShownSolid } from '@calque/core/forming';
import { ofType, type Part, type Underlay } from '@calque/core/model';
import {
  drivingSources,
  heldFigures,
  partPlanes,
  sheetUnitOf,
  type HeldFigures,
  type LaidSheet,
  type SeenPlane,
  type SolidView,
  threadedHoles,
} from '@calque/core/part';
import { printedOf, startReading, usePrinted } from '@/drawing/printed';
import { useProject } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { useOnPlane } from './on-plane';
import { partWorker, usePartSolid } from './part-solid';

/** What is seen of a solid on the planes of its part: asked of the worker once for each solid. */
interface Seen {
  of: ShownSolid | null;
  planes: string;
  views: readonly SolidView[];
}
const useSeen = create<Seen>(() => ({ of: null, planes: '', views: [] }));

/** What is being asked, so that it is asked once. */
let asked: { of: ShownSolid; planes: string } | null = null;

/** The planes of a part on which sheets lie, and the one in hand where its edges are wanted, each with what is seen of its solid there; none until that is known of the solid as it is. */
export function useSeenPlanes(part: Part): readonly SeenPlane[] {
  const model = useProject((s) => s.model),
    solid = usePartSolid((s) => s.solid),
    planeId = useTableState((s) => s.planeId),
    inHand = useOnPlane((s) => s.edges) ? planeId : null,
    seen = useSeen();
  const planes = useMemo(() => {
      const laid = new Set(laidOn(model, part.id).map((u) => u.planeId));
      return partPlanes(model, part.id).filter((p) => laid.has(p.id) || p.id === inHand);
    }, [model, part.id, inHand]),
    key = JSON.stringify(planes.map((p) => [p.id, p.origin, p.across, p.up]));
  useEffect(() => {
    if (!solid || planes.length === 0 || (asked?.of === solid && asked.planes === key)) return;
    asked = { of: solid, planes: key };
    void partWorker
      .look('views', { frames: planes.map(({ origin, across, up }) => ({ origin, across, up })) })
      .then(
        (views) => useSeen.setState({ of: solid, planes: key, views: views ?? [] }),
        // A worker that was stopped is asked again with the next solid.
        () => {
          asked = null;
          useSeen.setState({ of: solid, planes: key, views: [] });
        },
      );
  }, [solid, planes, key]);
  return useMemo(
    () =>
      seen.of === solid && seen.planes === key
        ? planes.flatMap((plane, i) => (seen.views[i] ? [{ plane, view: seen.views[i] }] : []))
        : NONE,
    [seen, solid, planes, key],
  );
}
const NONE: readonly SeenPlane[] = [];

/** Nothing can be held against a sheet that is not to scale yet. */
export const isToScale = (u: Pick<Underlay, 'scaleState'>): boolean => u.scaleState !== 'paper';

/** The visible sheets that lie on a part's planes. */
export const laidOn = (model: Parameters<typeof partPlanes>[0], partId: string): Underlay[] => {
  const planes = new Set(partPlanes(model, partId).map((p) => p.id));
  return ofType(model, 'underlay').filter((u) => planes.has(u.planeId) && u.visible);
};

/** The sheets on a part's planes with what is printed on them; `reading`: of some it is still being read. */
export function useLaidSheets(part: Part): { sheets: readonly LaidSheet[]; reading: boolean } {
  const table = useTable(),
    model = useProject((s) => s.model),
    printed = usePrinted(),
    // Linework that comes in is told by the table's own state.
    loaded = useTableState((s) => s.sheetsLoaded);
  const laid = useMemo(() => laidOn(model, part.id), [model, part.id]);
  useEffect(() => {
    for (const u of laid) startReading(table, u, { ahead: true });
  }, [table, laid]);
  return useMemo(() => {
    const waited = laid.filter((u) => printedOf(printed, u)?.state !== 'failed'),
      sheets = waited.flatMap((underlay): LaidSheet[] => {
        const state = printedOf(printed, underlay),
          linework = table.sheets.get(underlay.fileId, underlay.page)?.linework;
        return state?.state === 'read' && linework
          ? [{ underlay, texts: linework.texts, reading: state.reading }]
          : [];
      });
    return { sheets, reading: sheets.length < waited.length };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [laid, printed, table, loaded]);
}

/** All that is printed on the sheets of a part, beside what drives, held against its solid as it is; null until both are known. */
export function useHeldFigures(part: Part): { held: HeldFigures | null; reading: boolean } {
  const model = useProject((s) => s.model),
    solid = usePartSolid((s) => s.solid),
    seen = useSeenPlanes(part),
    isSeen = useSeen((s) => s.of) === solid,
    { sheets, reading } = useLaidSheets(part);
  const held = useMemo(
    () =>
      solid && seen.length > 0
        ? heldFigures(
            seen,
            sheets.filter((s) => isToScale(s.underlay)),
            threadedHoles(solid),
            drivingSources(model, partPlanes(model, part.id)),
            sheetUnitOf(model),
          )
        : null,
    [model, part.id, solid, seen, sheets],
  );
  return {
    held,
    reading: reading || (laidOn(model, part.id).some(isToScale) && !isSeen && solid !== null),
  };
}
