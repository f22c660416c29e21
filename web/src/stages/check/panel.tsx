'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { openingsOf } from '@calque/core/building';
import { frameDoubts, keepsLevel, levelsOfMembers, type JointDoubt } from '@calque/core/framing';
import {
  kindOf,
  KINDS,
  ofType,
  standingOf,
  TRACED_TYPES,
  type Model,
  type Traced,
  type Wall,
} from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { CommandButton, useKeyOf } from '@/commands/context';
import { ChecksTable } from '@/ui/checks-table';
import { GradeCard } from './grade/grade-card';
import { MeasuredCard } from './measured-card';

/** Measure, grade, compare with the printed figures, list what is assumed. */
export function CheckPanel() {
  return useTableState((s) => s.toolId) === 'grade' ? <GradeCard /> : <Checks />;
}

function Checks() {
  const table = useTable();
  const session = useSession();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const hold = useKeyOf('known');
  const checks = ofType(model, 'check');
  const assumed = ofType(model, 'wall').filter((w) => w.heightAssumed);
  const unheld = ofType(model, 'wall').filter((w) => standingOf(model, w).doubt !== null);
  const doubtful = (w: Wall) => openingsOf(w).filter((o) => o.opening.assumed.length > 0).length,
    openings = ofType(model, 'wall').filter((w) => doubtful(w) > 0),
    unsure = openings.reduce((n, w) => n + doubtful(w), 0);
  // Of everything but walls, whose heights and openings are told one by one.
  const others = useFromModel(assumedOthers);
  const storeys = ofType(model, 'storey').filter((s) => s.heightAssumed);
  return (
    <Box>
      <Typography variant="h2">Check</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        Measure again, and hold the sheet against its printed figures.
      </Typography>
      <MeasuredCard />
      <Box sx={{ mt: 1.5, display: 'flex', flexWrap: 'wrap', gap: 0.75 }}>
        <CommandButton id="grade" label="Grade the trace against the sheet" />
        <CommandButton id="takeoff" label="Tables of the takeoff" />
      </Box>
      <Typography variant="h3" sx={{ mt: 2, mb: 0.5 }}>
        Printed against measured
      </Typography>
      {checks.length === 0 ? (
        <Typography color="text.secondary">
          No known dimensions yet: point at some on the sheet in Calibrate, with Hold against{hold}.
        </Typography>
      ) : (
        <ChecksTable
          checks={checks}
          onRemove={(c) => session.do({ type: 'remove', entity: c }, 'Remove a known dimension')}
        />
      )}
      <Typography variant="h3" sx={{ mt: 2, mb: 0.5 }}>
        Assumed, until someone confirms it
      </Typography>
      {storeys.map((s) => (
        <Typography key={s.id} sx={{ color: 'assumed' }}>
          Height of {s.name}: {formatLengthWithUnit(s.height, style)}
        </Typography>
      ))}
      {assumed.length > 0 ? (
        <Button onClick={() => table.setSelection(assumed.map((w) => w.id))}>
          {assumed.length === 1 ? 'The height of one wall' : `The heights of ${assumed.length} walls`}: select
          them
        </Button>
      ) : (
        storeys.length === 0 &&
        unsure === 0 &&
        others.length === 0 && <Typography color="text.secondary">Nothing is assumed.</Typography>
      )}
      {unheld.length > 0 && (
        <Button onClick={() => table.setSelection(unheld.map((w) => w.id))} sx={{ color: 'differs' }}>
          {unheld.length === 1
            ? 'One wall names a level that does not hold'
            : `${unheld.length} walls name levels that do not hold`}
          : select {unheld.length === 1 ? 'it' : 'them'}
        </Button>
      )}
      {unsure > 0 && (
        <Button onClick={() => table.setSelection(openings.map((w) => w.id))}>
          {unsure === 1 ? 'Figures of one opening' : `Figures of ${unsure} openings`}: select their walls
        </Button>
      )}
      {unsure > 0 && <CommandButton id="card-schedule" label="Take openings from a schedule" />}
      {others.map(({ words, ids }) => (
        <Button key={words} onClick={() => table.setSelection(ids)}>
          {words}: select {ids.length === 1 ? 'it' : 'them'}
        </Button>
      ))}
      <FrameDoubtsList />
    </Box>
  );
}

/** What of a frame is probably not meant; nothing where there is no member. */
function FrameDoubtsList() {
  const table = useTable();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle),
    levels = useMemo(() => levelsOfMembers(model), [model]),
    drawnOff = levels.filter((l) => Math.abs(l.drawn - l.level) >= 0.05);
  const { doubled, nearly, free, unknown, clashes, joints } = useMemo(() => frameDoubts(model), [model]);
  if (!['member', 'plate', 'bolts'].some((t) => model.hasType(t as Traced['type']))) return null;
  const unmade = (what: string, isMeant: (j: JointDoubt) => boolean) => {
    const meant = joints.filter(isMeant);
    return [...new Set(meant.map((j) => j.words))].map((words) => ({
      words: `${what} ${what.endsWith('do') ? 'not' : 'does not'} come out: ${words}`,
      ids: meant.filter((j) => j.words === words).map((j) => j.id),
    }));
  };
  const lists = [
    { words: 'Members in one place', ids: doubled.flat() },
    { words: 'Ends that come near another member and do not meet it', ids: nearly.map((n) => n.id) },
    { words: 'Ends at which nothing is', ids: free.map((f) => f.id) },
    { words: 'Members that run into one another and are not joined', ids: clashes.flat() },
    { words: 'Sections that no table has', ids: unknown },
    {
      words: 'Ends that do not lie at their printed level any more',
      ids: levels.filter((l) => !keepsLevel(l)).map((l) => l.id),
    },
    ...unmade('An end', (j) => j.end !== null),
    ...unmade('Plates, bolts or cleats do', (j) => j.end === null).map((l) => ({ ...l, noun: 'element' })),
  ].filter((l) => l.ids.length > 0);
  return (
    <Box sx={{ mt: 2 }} data-testid="frame-doubts">
      <Typography variant="h3" sx={{ mb: 0.5 }}>
        The frame
      </Typography>
      {lists.length === 0 && (
        <Typography color="text.secondary">
          {model.hasType('member')
            ? 'Every end meets another member or stands on a floor; no two have the same ends.'
            : 'Every plate is whole, and all bolts hold something.'}
        </Typography>
      )}
      {drawnOff.length > 0 && (
        <Button onClick={() => table.setSelection([...new Set(drawnOff.map((l) => l.id))])}>
          {count(drawnOff.length, 'end lies', 'ends lie')} at a printed level that the sheet draws up to{' '}
          {formatLengthWithUnit(Math.max(...drawnOff.map((l) => Math.abs(l.drawn - l.level))), style)} off:
          the print counts
        </Button>
      )}
      {lists.map(({ words, ids, noun = 'member' }: { words: string; ids: string[]; noun?: string }) => (
        <Button
          key={words}
          onClick={() => table.setSelection([...new Set(ids)].filter((id) => model.has(id)))}
        >
          {words}: select {count(new Set(ids).size, noun)}
        </Button>
      ))}
    </Box>
  );
}

/** What is assumed of other elements than walls, together where it is the same: "thickness, top of 2 slabs". */
const assumedOthers = (model: Model): { words: string; ids: string[] }[] => {
  const found = new Map<string, { of: Traced; ids: string[] }>();
  for (const e of tracedWithDoubts(model)) {
    const words = kindOf(e).doubts!.assumed(e).join(', ');
    if (words === '') continue;
    const key = `${e.type} ${words}`,
      known = found.get(key);
    if (known) known.ids.push(e.id);
    else found.set(key, { of: e, ids: [e.id] });
  }
  return [...found].map(([key, { of, ids }]) => {
    const word = kindOf(of).word(of),
      words = key.slice(of.type.length + 1);
    return { words: `${words} of ${count(ids.length, word)}`.replace(/^./, (c) => c.toUpperCase()), ids };
  });
};

const tracedWithDoubts = (model: Model): Traced[] =>
  TRACED_TYPES.filter((t) => t !== 'wall' && KINDS[t].doubts !== null).flatMap((t) => ofType(model, t));
