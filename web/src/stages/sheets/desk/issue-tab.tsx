'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { grownBox, transformBox, type Transform } from '@calque/core/geometry';
import { boxOf, elementWords, get } from '@calque/core/model';
import { groupDifferences, placementOfNew, type Registration } from '@calque/core/registration';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import type { IssueResult } from '@/workers/issue-protocol';
import { useTable } from '@/table/context';
import { sheetPath } from '@/table/painters/marked';
import { Stopped } from '@/workers/task';
import { acceptIssue, comparePages, fitWords, leaningOn, liesAs, POOR_FIT, type PageOf } from './issue';
import { SeenChanges } from './seen-changes';
import type { Desk } from './use-desk';

/** Differences nearer to one another than this (sheet points) are one place. */
const ONE_PLACE = 12;
/** Room shown round a difference, sheet points. */
const AROUND = 40;
/** Room shown round an element, millimetres. */
const ROOM = 1500;

interface Compared {
  older: PageOf;
  newer: PageOf;
  result: IssueResult;
  planeFromNew: Transform;
  accepted: boolean;
}

/** A newer issue of the sheet in the place of this one, laid on it by its lines, with what was added and what is gone. */
export function IssueTab({ desk: { underlay: u } }: { desk: Desk }) {
  const session = useSession();
  const table = useTable();
  const files = useProject((s) => s.files);
  const [choice, setChoice] = useState('');
  const [running, setRunning] = useState<{ share: number; stop(): void } | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const [compared, setCompared] = useState<Compared | null>(null);
  const mounted = useRef(true);
  useEffect(() => {
    mounted.current = true;
    return () => {
      mounted.current = false;
      table.setMarked(null);
    };
  }, [table]);

  // The file attached last is the likeliest.
  const pages = [...files]
    .reverse()
    .flatMap((f) =>
      f.sheets
        .filter((s) => !(s.fileId === u.fileId && s.page === u.page) && s.content !== 'empty')
        .map((sheet) => ({ key: `${f.id}:${sheet.page}`, file: f, sheet })),
    );
  const run = async (
    older: PageOf,
    newer: PageOf,
    placement: (fit: Registration) => Transform,
    accepted: boolean,
  ) => {
    setWhy(null);
    setCompared(null);
    const work = comparePages(
      session.projectId,
      older,
      newer,
      liesAs(u, accepted ? 'newer' : 'older', get(session.state.model, 'storey', u.planeId) !== null),
      (share) => mounted.current && setRunning((r) => r && { ...r, share }),
    );
    setRunning({
      share: 0,
      stop: () => {
        work.stop();
        setRunning(null);
      },
    });
    try {
      const result = await work.done;
      if (mounted.current) show({ older, newer, result, planeFromNew: placement(result.fit), accepted });
    } catch (error) {
      if (mounted.current && !(error instanceof Stopped))
        setWhy(error instanceof Error ? error.message : String(error));
    } finally {
      if (mounted.current) setRunning(null);
    }
  };
  const show = (c: Compared) => {
    setCompared(c);
    table.setMarked({
      sets: [
        { path: sheetPath(c.result.gone, c.planeFromNew), colour: 'differs', width: 2.5 },
        { path: sheetPath(c.result.added, c.planeFromNew), colour: 'known', width: 2.5 },
      ],
    });
  };
  const chosen = pages.find((p) => p.key === choice);
  return (
    <Box>
      {!compared && !running && (
        <>
          <Typography color="text.secondary" sx={{ mb: 0.75 }}>
            Attach the newer file below, choose its page, and it is laid exactly where this one lies.
            Placement, crop, switches and calibration stay.
          </Typography>
          {pages.length === 0 ? (
            <Typography>No other page is attached yet.</Typography>
          ) : (
            <Box sx={{ display: 'flex', gap: 1 }}>
              <TextField
                select
                fullWidth
                label="Newer page"
                value={choice}
                onChange={(e) => setChoice(e.target.value)}
              >
                {pages.map((p) => (
                  <MenuItem key={p.key} value={p.key}>
                    {p.file.name}
                    {p.file.pages > 1 ? `, page ${p.sheet.page}` : ''}
                  </MenuItem>
                ))}
              </TextField>
              <Button
                variant="contained"
                disabled={!chosen}
                onClick={() =>
                  chosen &&
                  void run(
                    { fileId: u.fileId, page: u.page },
                    { fileId: chosen.file.id, page: chosen.sheet.page },
                    (fit) => placementOfNew(u.placement, fit.transform),
                    false,
                  )
                }
              >
                Compare
              </Button>
            </Box>
          )}
          {u.former && (
            <Button
              sx={{ mt: 0.75 }}
              onClick={() => void run(u.former!, { fileId: u.fileId, page: u.page }, () => u.placement, true)}
            >
              What changed against the former issue
            </Button>
          )}
        </>
      )}
      {running && (
        <Box>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography sx={{ flex: 1 }}>Laying the new page on the old one</Typography>
            <Button onClick={running.stop}>Stop</Button>
          </Box>
          <LinearProgress variant="determinate" value={running.share * 100} aria-label="Comparing" />
        </Box>
      )}
      {why && <Typography sx={{ color: 'differs', mt: 0.75 }}>≠ {why}</Typography>}
      {compared && (
        <Outcome
          compared={compared}
          underlayId={u.id}
          onDone={() => {
            setCompared(null);
            table.setMarked(null);
          }}
          onAccept={() => {
            const sheet = files
              .find((f) => f.id === compared.newer.fileId)
              ?.sheets.find((s) => s.page === compared.newer.page);
            if (sheet && acceptIssue(session, u, sheet, compared.result.fit))
              setCompared({ ...compared, accepted: true });
          }}
        />
      )}
    </Box>
  );
}

function Outcome({
  compared: {
    result: { fit, added, gone, seen },
    planeFromNew,
    accepted,
  },
  underlayId,
  onAccept,
  onDone,
}: {
  compared: Compared;
  underlayId: string;
  onAccept(): void;
  onDone(): void;
}) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const [at, setAt] = useState(-1);
  const all = [...added, ...gone];
  const places = groupDifferences(all, ONE_PLACE);
  const u = model.get(underlayId);
  const leaning = u?.type === 'underlay' ? leaningOn(model, u, planeFromNew, gone) : [];
  const goTo = (i: number) => {
    const place = places[(i + places.length) % places.length];
    setAt((i + places.length) % places.length);
    const [x0, y0, x1, y1] = place.box;
    table.show(transformBox(planeFromNew, [x0 - AROUND, y0 - AROUND, x1 + AROUND, y1 + AROUND]));
  };
  const count = (i: number) => {
    const n = places[i].lines.filter((k) => k < added.length).length;
    return [n > 0 && `${n} added`, places[i].lines.length - n > 0 && `${places[i].lines.length - n} gone`]
      .filter(Boolean)
      .join(', ');
  };
  return (
    <Box data-testid="issue-outcome">
      <Typography sx={{ fontWeight: 650, color: fit.found < POOR_FIT ? 'assumed' : undefined }}>
        {fit.found < POOR_FIT ? 'Look twice: ' : ''}
        {fitWords(fit, planeFromNew)}
      </Typography>
      <Typography sx={{ my: 0.75 }}>
        <Box component="span" sx={{ color: 'known', fontWeight: 650 }}>
          + {added.length} lines added
        </Box>{' '}
        and{' '}
        <Box component="span" sx={{ color: 'differs', fontWeight: 650 }}>
          − {gone.length} gone
        </Box>
        {places.length > 0 ? `, in ${places.length === 1 ? 'one place' : `${places.length} places`}.` : '.'}
      </Typography>
      {places.length > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
          <Button variant="outlined" onClick={() => goTo(at - 1)}>
            Before
          </Button>
          <Button variant="outlined" onClick={() => goTo(at + 1)}>
            Next
          </Button>
          <Typography variant="caption" color="text.secondary">
            {at < 0 ? 'step through the places' : `${at + 1} of ${places.length}: ${count(at)}`}
          </Typography>
        </Box>
      )}
      {seen && u?.type === 'underlay' && (
        <SeenChanges seen={seen} underlay={u} accepted={accepted} doubtful={fit.found < POOR_FIT} />
      )}
      {leaning.length > 0 && (
        <Box sx={{ mt: 0.75 }}>
          <Typography sx={{ color: 'assumed' }}>
            {leaning.length === 1 ? 'One traced element leant' : `${leaning.length} traced elements leant`} on
            lines that are gone:
          </Typography>
          {leaning.map((e) => (
            <Button
              key={e.id}
              onClick={() => {
                table.setSelection([e.id]);
                table.show(grownBox(boxOf(e), ROOM));
              }}
            >
              {elementWords(e, style)}
            </Button>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        {!accepted && (
          <Button variant="contained" onClick={onAccept}>
            Take the new issue
          </Button>
        )}
        <Button onClick={onDone}>{accepted ? 'Done' : 'Leave the old one'}</Button>
      </Box>
    </Box>
  );
}
