'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import type { Change, Hole, Part } from '@calque/core/model';
import { featuresOf, readHoleTables, sheetUnitOf, zeroOfTable, type HoleTable } from '@calque/core/part';
import { exactStyle, formatLength } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';
import { holeByCallout } from './forms/hole-fields';
import { useLaidSheets } from './held';
import { addedFeature } from './part-changes';
import { openFeature } from './part-ui';
import { PlaceTool } from './place-tool';
import { sheetRounds, tracedRounds } from './sheet-rounds';

/** Holes of one place are one, millimetres. */
const SAME = 1e-3;

/** Tables of holes on the sheets of a plane, drilled in one step: a feature to each size. */
export function HoleTableCard({ part, planeId }: { part: Part; planeId: string }) {
  const model = useProject((s) => s.model),
    { sheets } = useLaidSheets(part);
  const tables = useMemo(
    () =>
      sheets
        .filter((s) => s.underlay.planeId === planeId)
        .flatMap((s) => readHoleTables(s.texts, sheetUnitOf(model)))
        .filter((t) => t.holes.length > 0),
    [sheets, planeId, model],
  );
  return tables.map((t, i) => <OneTable key={i} part={part} planeId={planeId} holes={t} />);
}

function OneTable({ part, planeId, holes: read }: { part: Part; planeId: string; holes: HoleTable }) {
  const session = useSession(),
    table = useTable(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    [picked, setPicked] = useState<[number, number] | null>(null);
  const found = useMemo(
      () => zeroOfTable(read, [...sheetRounds(table, planeId), ...tracedRounds(table, planeId)]),
      // Rounds are asked for anew with every change.
      // eslint-disable-next-line react-hooks/exhaustive-deps
      [read, table, planeId, model],
    ),
    zero = picked ?? found?.at ?? [0, 0],
    sorts = new Map<string, HoleTable['holes']>();
  for (const h of read.holes) sorts.set(h.callout.text, [...(sorts.get(h.callout.text) ?? []), h]);
  const places = read.holes.map((h): [number, number] => [zero[0] + h.x, zero[1] + h.y]),
    known = featuresOf(model, part.id).flatMap((f) =>
      f.form.kind === 'hole' && f.form.planeId === planeId ? f.form.at : [],
    ),
    drilled = places.every((q) => known.some((p) => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME));
  if (drilled) return null;
  const unknown = [...sorts.values()].find(([h]) => h.callout.thread && !h.callout.thread.known);
  const drill = () => {
    const changes = [...sorts].map(([words, of], i): Change => {
      const form: Hole = holeByCallout(
        {
          kind: 'hole',
          planeId,
          at: of.map((h): [number, number] => [zero[0] + h.x, zero[1] + h.y]),
          centres: [],
          diameter: of[0].callout.diameter,
          depth: null,
          tip: null,
          head: null,
          thread: null,
          back: false,
          said: '',
        },
        of[0].callout,
      );
      const entity = addedFeature(
        model,
        part.id,
        form,
        () => crypto.randomUUID(),
        `Holes ${words}`.slice(0, 60),
      );
      return { type: 'add', entity: { ...entity, order: entity.order + i } };
    });
    if (!session.do({ type: 'group', changes }, `Drill ${count(read.holes.length, 'hole')} of a table`))
      return;
    openFeature(null);
    session.tell(
      `${count(read.holes.length, 'hole')} drilled by the table, in ${count(sorts.size, 'size')}.`,
    );
  };
  return (
    <Box data-testid="hole-table" sx={{ borderLeft: 4, borderColor: 'found', pl: 1, my: 1 }}>
      <Typography>
        The sheet has a table of {count(read.holes.length, 'hole')} in {count(sorts.size, 'size')}.
      </Typography>
      {read.unread.length > 0 && (
        <Typography sx={{ color: 'assumed' }}>
          {count(read.unread.length, 'row')} could not be read: {read.unread.slice(0, 3).join('; ')}
        </Typography>
      )}
      <Typography sx={{ color: picked || found?.fits === read.holes.length ? 'known' : 'assumed' }}>
        {picked
          ? `Zero as it was picked, at ${zero.map((v) => formatLength(v, exactStyle(v, style))).join(', ')}.`
          : found
            ? `Zero at ${zero.map((v) => formatLength(v, exactStyle(v, style))).join(', ')}: so ${found.fits} of ${read.holes.length} stand in circles that are drawn.`
            : 'Zero is taken at that of the plane: no circles that are drawn say otherwise.'}
      </Typography>
      {unknown && (
        <Typography sx={{ color: 'differs' }}>
          No table here knows the thread {unknown[0].callout.thread!.name}: drill these by themselves.
        </Typography>
      )}
      <Button variant="outlined" disabled={unknown !== undefined} onClick={drill}>
        Drill them
      </Button>
      <Button
        onClick={() =>
          table.hold(
            new PlaceTool(
              table,
              'Click where X and Y of the table are nought',
              () => places,
              ([at]) => setPicked(at),
              true,
            ),
          )
        }
      >
        Pick its zero
      </Button>
    </Box>
  );
}
