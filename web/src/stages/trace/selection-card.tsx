'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import {
  chainOf,
  drawnLength,
  get,
  isTraced,
  kindWord,
  sectionName,
  shownOf,
  type Traced,
} from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { tracedHere } from '@/table/hit';
import type { Table } from '@/table/table';
import { useNudge } from '@/table/nudge';
import { LengthField } from '@/ui/length-field';
import { PropertiesCard } from './properties-card';

/** "two walls, one arc and 12 lines" */
function countedWords(chosen: readonly Traced[]): string {
  const counts = new Map<string, number>();
  for (const e of chosen) counts.set(kindWord(e), (counts.get(kindWord(e)) ?? 0) + 1);
  const words = [...counts].map(([kind, n]) => (n === 1 ? `one ${kind}` : `${n} ${kind}s`));
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}

/** Other elements of the storey that are like the selected ones in some way, those included. */
function likeThese(table: Table, chosen: readonly Traced[]): { words: string; ids: string[] }[] {
  const here = tracedHere(table);
  const by = (same: (e: Traced) => string | null | undefined) => {
    // What has none of it is like no other.
    const wanted = new Set(chosen.map(same).filter((v) => v !== undefined)),
      isWanted = (v: string | null | undefined) => v !== undefined && wanted.has(v);
    return here.filter((e) => isWanted(same(e))).map((e) => e.id);
  };
  return [
    {
      words: 'the whole chain',
      ids: [
        ...chainOf(
          here,
          chosen.map((e) => e.id),
        ),
      ],
    },
    { words: 'all of this kind', ids: by((e) => e.type) },
    ...(chosen.some((e) => e.type === 'member' && e.mark !== '')
      ? [{ words: 'all with this mark', ids: by((e) => (e.type === 'member' && e.mark) || undefined) }]
      : []),
    ...(chosen.some((e) => e.type === 'member')
      ? [{ words: 'all of this section', ids: by((e) => (e.type === 'member' ? sectionName(e) : undefined)) }]
      : []),
    ...(chosen.some((e) => e.phase)
      ? [{ words: 'all of this phase', ids: by((e) => e.phase || undefined) }]
      : []),
    { words: 'all on this layer', ids: by((e) => e.layerId ?? null) },
    { words: 'all from this sheet', ids: by((e) => e.source.underlayId ?? e.source.sheet ?? null) },
  ];
}

/** How far the arrow keys move what is selected. */
function ArrowStep() {
  const { step, setStep } = useNudge();
  return (
    <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1, mt: 1.25 }}>
      <LengthField label="Arrow keys move by" value={step} empty="a pixel" onChange={setStep} />
      {step !== null && <Button onClick={() => setStep(null)}>By a pixel again</Button>}
    </Box>
  );
}

/** What is selected, with its figures; one entry changes all of them. */
export function SelectionCard() {
  const table = useTable();
  const model = useProject((s) => s.model);
  const selection = useTableState((s) => s.selection);
  const style = useFromModel(lengthStyle);
  const chosen = [...selection]
    .map((id) => model.get(id))
    .filter((e): e is Traced => !!e && isTraced(e))
    .map((e) => shownOf(e, model));
  if (chosen.length === 0) return null;
  const total = chosen.reduce((s, e) => s + drawnLength(e), 0);
  const words = countedWords(chosen);
  const from =
    chosen.length === 1
      ? (get(model, 'underlay', chosen[0].source.underlayId)?.name ??
        (chosen[0].source.sheet ? `${chosen[0].source.sheet}, taken off since` : undefined))
      : undefined;
  return (
    <Box data-testid="selection">
      <Typography variant="h2">Selected: {words}</Typography>
      <Typography color="text.secondary" sx={{ mb: 1.25 }}>
        {total > 0 ? `${formatLengthWithUnit(total, style)} ${chosen.length > 1 ? 'together' : 'long'}` : ''}
        {from ? `${total > 0 ? ', ' : ''}traced on ${from}` : ''}
        {chosen.some((e) => e.source.ink) ? ', on lines read from its ink' : ''}
      </Typography>
      <PropertiesCard chosen={chosen} />
      <ArrowStep />
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        Select as well
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {likeThese(table, chosen).map(({ words, ids }) => (
          <Button key={words} disabled={ids.length <= chosen.length} onClick={() => table.setSelection(ids)}>
            {words} ({ids.length})
          </Button>
        ))}
      </Box>
    </Box>
  );
}
