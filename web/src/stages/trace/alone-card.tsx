'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { allTraced, sectionName, type Model, type Traced } from '@calque/core/model';
import { useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { useTable, useTableState } from '@/table/context';
import type { Table } from '@/table/table';

/** Elements that have something in common, by which they can be shown alone. */
interface Common {
  key: string;
  words: string;
  ids: string[];
}

/** What elements are told apart by, and how it is called. */
const BY: readonly { words: string; of(e: Traced): string }[] = [
  { words: 'Phases', of: (e) => e.phase ?? '' },
  { words: 'Marks', of: (e) => (e.type === 'member' ? e.mark : '') },
  { words: 'Sections', of: (e) => (e.type === 'member' ? sectionName(e) : '') },
];
/** More of a list than anybody reads; the rest is found by selecting. */
const MOST = 60;

function commonIn(model: Model, of: (e: Traced) => string): Common[] {
  const found = new Map<string, string[]>();
  for (const e of allTraced(model)) {
    const key = of(e);
    if (key === '') continue;
    const ids = found.get(key);
    if (ids) ids.push(e.id);
    else found.set(key, [e.id]);
  }
  return [...found]
    .map(([key, ids]) => ({ key, words: key, ids }))
    .sort((a, b) => a.key.localeCompare(b.key, 'en', { numeric: true }));
}

/** Shows elements alone: the rest is put away, but for grid lines; what is drawn from now on shows. */
export function showAlone(table: Table, ids: ReadonlySet<string>, words: string): void {
  const away = new Set(
    allTraced(table.session.state.model)
      .filter((e) => !ids.has(e.id) && e.type !== 'gridLine')
      .map((e) => e.id),
  );
  table.setAlone({ words, away });
}

/** Chooses what is shown alone: what is selected, or all of a phase, a mark, a section. */
export function AloneCard() {
  const table = useTable(),
    model = useProject((s) => s.model),
    selection = useTableState((s) => s.selection),
    alone = useTableState((s) => s.alone);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const lists = useMemo(
    () =>
      BY.map(({ words, of }) => ({ words, found: commonIn(model, of) })).filter((l) => l.found.length > 0),
    [model],
  );
  const keyOf = (list: string, key: string) => `${list}\n${key}`,
    meant = lists.flatMap((l) => l.found.filter((c) => chosen.has(keyOf(l.words, c.key)))),
    ids = new Set(meant.flatMap((c) => c.ids)),
    selected = [...selection].filter((id) => model.has(id));
  return (
    <Box data-testid="alone-card" sx={{ display: 'grid', gap: 1 }}>
      <Typography variant="h3" sx={{ pr: 4 }}>
        Show alone
      </Typography>
      <Typography color="text.secondary">
        The rest is put away: it is not seen, not snapped to, and stays in the project. Grid lines stay.
      </Typography>
      <Button
        variant="outlined"
        disabled={selected.length === 0}
        onClick={() => showAlone(table, new Set(selected), `${count(selected.length, 'element')} selected`)}
      >
        {selected.length === 0 ? 'Nothing is selected' : `What is selected (${selected.length})`}
      </Button>
      {lists.map(({ words, found }) => (
        <Box key={words} role="group" aria-label={words}>
          <Typography color="text.secondary">{words}</Typography>
          {found.slice(0, MOST).map((c) => (
            <FormControlLabel
              key={c.key}
              sx={{ display: 'block' }}
              control={
                <Checkbox
                  checked={chosen.has(keyOf(words, c.key))}
                  onChange={(e) => {
                    const next = new Set(chosen);
                    if (e.target.checked) next.add(keyOf(words, c.key));
                    else next.delete(keyOf(words, c.key));
                    setChosen(next);
                  }}
                />
              }
              label={`${c.words} (${c.ids.length})`}
            />
          ))}
          {found.length > MOST && (
            <Typography variant="caption" color="text.secondary">
              and {found.length - MOST} more: select one, and all with the same.
            </Typography>
          )}
        </Box>
      ))}
      {lists.length === 0 && (
        <Typography color="text.secondary">
          Marks and sections of members, and phases said in the card of what is selected, are listed here.
        </Typography>
      )}
      <Button
        variant="contained"
        disabled={ids.size === 0}
        onClick={() => showAlone(table, ids, meant.map((c) => c.words).join(', '))}
      >
        {ids.size === 0 ? 'Show alone' : `Show ${count(ids.size, 'element')} alone`}
      </Button>
      {alone && <Button onClick={() => table.setAlone(null)}>Show all again</Button>}
    </Box>
  );
}
