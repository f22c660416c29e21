'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { printedSchedule, withSchedule } from '@calque/core/building';
import { pageSortOf } from '@calque/core/linework';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { nameOfSheet } from '@/project/sheet-names';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';

/** What a schedule that a page prints says of doors and windows, by their tags. */
export function ScheduleCard() {
  const pages = usePages();
  const [chosen, setChosen] = useState<string | null>(null);
  // The first page of tables is most likely the one.
  const page = pages.find((p) => p.key === chosen) ?? pages.find((p) => p.isTable) ?? null;
  return (
    <Box data-testid="schedule-card" sx={{ display: 'grid', gap: 1.25 }}>
      <Typography variant="h3" sx={{ pr: 4 }}>
        Openings from a schedule
      </Typography>
      {pages.length === 0 ? (
        <Typography color="text.secondary">
          There is no page yet: drop the file with the schedule on the drawing.
        </Typography>
      ) : (
        <Autocomplete
          options={pages}
          value={page}
          disableClearable={page !== null}
          blurOnSelect
          getOptionKey={(p) => p.key}
          getOptionLabel={(p) => p.label}
          isOptionEqualToValue={(a, b) => a.key === b.key}
          noOptionsText="No page of that name"
          renderInput={(params) => <TextField {...params} label="Page with the schedule" />}
          onChange={(_, next) => setChosen(next?.key ?? null)}
        />
      )}
      {page && <Read key={page.key} fileId={page.fileId} page={page.page} />}
    </Box>
  );
}

function usePages() {
  const model = useProject((s) => s.model),
    files = useProject((s) => s.files);
  return useMemo(
    () =>
      files.flatMap((f) =>
        f.sheets.map((s) => {
          const { number, title } = nameOfSheet(model, s),
            named = [number, title].filter((t) => t !== '').join(' ');
          return {
            key: `${f.id}/${s.page}`,
            fileId: f.id,
            page: s.page,
            label: `${named || f.name}, page ${s.page}`,
            isTable: pageSortOf(s) === 'table',
          };
        }),
      ),
    [files, model],
  );
}

const MOST_NAMED = 12;
const named = (tags: readonly string[]) =>
  `${tags.slice(0, MOST_NAMED).join(', ')}${tags.length > MOST_NAMED ? ' …' : ''}`;

/** What the schedule of a page would do, and the button that does it. */
function Read({ fileId, page }: { fileId: string; page: number }) {
  const table = useTable(),
    session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle);
  // A page that has come since is looked at.
  useTableState((s) => s.sheetsLoaded);
  const linework = table.sheets.get(fileId, page)?.linework ?? null;
  if (!linework) return <Typography role="status">The page is being fetched …</Typography>;
  const rows = printedSchedule(linework.texts);
  if (rows.length === 0)
    return (
      <Typography role="status" color="text.secondary">
        No schedule of openings was found on this page: Calque looks for columns headed by a tag and a width
        and height, or a size
        {linework.texts.length === 0 ? '. Its words are no texts, but lines or a picture' : ''}.
      </Typography>
    );
  const { change, taken, differs, unplaced, missing } = withSchedule(model, rows);
  return (
    <>
      <Typography role="status">
        {count(rows.length, 'row')}:{' '}
        {taken.length === 0
          ? 'nothing that the openings traced here do not say already, or their tags are others.'
          : `${named(taken)} would take what it says of ${taken.length === 1 ? 'its' : 'their'} sill, head, type and material.`}
      </Typography>
      {differs.length > 0 && (
        <Typography variant="caption" sx={{ color: 'differs' }}>
          {differs
            .slice(0, MOST_NAMED)
            .map(
              (d) =>
                `≠ ${d.tag} is printed ${formatLengthWithUnit(d.printed, style)} wide, the plan has ${formatLengthWithUnit(d.measured, style)}`,
            )
            .join('; ')}
          . The plan&apos;s width stays.
        </Typography>
      )}
      {(unplaced.length > 0 || missing.length > 0) && (
        <Typography variant="caption" color="text.secondary">
          {unplaced.length > 0 && `Not traced, or without their tag: ${named(unplaced)}. `}
          {missing.length > 0 && `Not in the schedule: ${named(missing)}.`}
        </Typography>
      )}
      <Button
        variant="contained"
        disabled={!change}
        onClick={() => change && session.do(change, 'Take openings from a schedule')}
      >
        {taken.length === 0 ? 'Nothing to take' : `Take ${count(taken.length, 'opening')}`}
      </Button>
    </>
  );
}
