'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import {
  chainOf,
  drawnLength,
  get,
  group,
  isRun,
  isTraced,
  kindWord,
  piecesApart,
  setFields,
  shownOf,
  type Traced,
  type Wall,
  type WallAlignment,
} from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { tracedHere } from '@/table/hit';
import { removeChosen } from '@/table/removal';
import type { Table } from '@/table/table';
import { useNudge } from '@/table/nudge';
import { LengthField } from '@/ui/length-field';
import { flipDone } from './done';
import { takeEditTool } from './edit-tools';
import { editGroup, takeApart, takeGroupTool } from './groups/groups';
import { joinChosen } from './join';
import { makeWalls, wallsToLines } from './walls-of';
import { takeMatchTool } from './match-tool';
import { PropertiesCard } from './properties-card';
import { shared } from './shared-value';
import { ALIGNMENT_WORDS } from './tools';

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
  const by = (same: (e: Traced) => unknown) => {
    const wanted = new Set(chosen.map(same));
    return here.filter((e) => wanted.has(same(e))).map((e) => e.id);
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
  const session = useSession();
  const table = useTable();
  const model = useProject((s) => s.model);
  const selection = useTableState((s) => s.selection);
  const tool = useTableState((s) => s.toolId);
  const style = useFromModel(lengthStyle);
  const chosen = [...selection]
    .map((id) => model.get(id))
    .filter((e): e is Traced => !!e && isTraced(e))
    .map((e) => shownOf(e, model));
  const placed = chosen.filter((e) => e.type === 'placed');
  const walls = chosen.filter((e): e is Wall => e.type === 'wall');
  if (chosen.length === 0) return null;
  const total = chosen.reduce((s, e) => s + drawnLength(e), 0);
  const set = (fields: (w: Wall) => Partial<Omit<Wall, 'id' | 'type'>>, label: string) =>
    session.do(group(walls.map((w) => setFields(w, fields(w)))), label);
  const words = countedWords(chosen);
  const assumed = walls.filter((w) => w.heightAssumed).length;
  const from =
    walls.length === 1
      ? (get(model, 'underlay', walls[0].source.underlayId)?.name ??
        (walls[0].source.sheet ? `${walls[0].source.sheet}, taken off since` : undefined))
      : undefined;
  return (
    <Box data-testid="selection" sx={{ borderTop: 1, borderColor: 'edge', pt: 1.25 }}>
      <Typography variant="h3">Selected: {words}</Typography>
      <Typography color="text.secondary" sx={{ mb: 1.25 }}>
        {formatLengthWithUnit(total, style)} {chosen.length > 1 ? 'together' : 'long'}
        {from ? `, traced on ${from}` : ''}
        {chosen.some((e) => e.source.ink) ? ', on lines read from its ink' : ''}
      </Typography>
      {walls.length > 0 && (
        <>
          <Box sx={{ display: 'flex', gap: 1, mb: 1.25, alignItems: 'flex-start' }}>
            <LengthField
              label="Thickness"
              value={shared(walls, (w) => w.thickness)}
              onChange={(thickness) =>
                set((w) => ({ thickness, source: { ...w.source, thickness: 'typed' } }), 'Change thickness')
              }
            />
            <LengthField
              label="Height"
              value={shared(walls, (w) => w.height)}
              onChange={(height) => set(() => ({ height, heightAssumed: false }), 'Change height')}
            />
          </Box>
          <ToggleButtonGroup
            exclusive
            size="small"
            value={shared(walls, (w) => w.alignment)}
            aria-label="Alignment"
            onChange={(_, a: WallAlignment | null) => {
              if (a) set(() => ({ alignment: a }), 'Change alignment');
            }}
            sx={{ mb: 1 }}
          >
            {(['centre', 'left', 'right'] as const).map((a) => (
              <ToggleButton key={a} value={a}>
                {ALIGNMENT_WORDS[a]}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          {assumed > 0 && (
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
              <Typography variant="caption" sx={{ color: 'assumed' }}>
                {assumed === 1 && walls.length === 1 ? 'height assumed' : `${assumed} heights assumed`}
              </Typography>
              <Button onClick={() => set(() => ({ heightAssumed: false }), 'Confirm heights')}>
                Confirm
              </Button>
            </Box>
          )}
        </>
      )}
      {placed.length === 1 && chosen.length === 1 && (
        <Typography sx={{ fontWeight: 650 }}>{get(model, 'assembly', placed[0].assemblyId)?.name}</Typography>
      )}
      <PropertiesCard chosen={chosen} />
      <Box sx={{ mt: 0.5, display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {(
          [
            ['move', 'Move (V)'],
            ['copy', 'Copy (D)'],
            ['row', 'Row (Shift B)'],
            ['turn', 'Turn (U)'],
            ['mirror', 'Mirror (Y)'],
            ['scale', 'Scale (E)'],
            ['align', 'Align (Shift E)'],
          ] as const
        ).map(([id, words]) => (
          <Button
            key={id}
            variant={tool === id ? 'contained' : 'outlined'}
            aria-pressed={tool === id}
            onClick={() => takeEditTool(table, id)}
          >
            {words}
          </Button>
        ))}
        <Button variant="outlined" onClick={() => joinChosen(table)}>
          Join (Shift J)
        </Button>
        <Button
          variant={tool === 'match' ? 'contained' : 'outlined'}
          aria-pressed={tool === 'match'}
          onClick={() => takeMatchTool(table)}
        >
          Match (Shift M)
        </Button>
        <Button variant="outlined" onClick={() => takeGroupTool(table)}>
          Make a group (Shift F)
        </Button>
        {placed.length === 1 && chosen.length === 1 && (
          <Button variant="outlined" onClick={() => editGroup(table)}>
            Edit the group (Shift Z)
          </Button>
        )}
        {chosen.some((e) => e.type === 'placed' || piecesApart(e, () => '') !== null) && (
          <Button variant="outlined" onClick={() => takeApart(table)}>
            Take apart
          </Button>
        )}
        {chosen.some(
          (e) => e.type === 'area' || (isRun(e) && e.type !== 'wall' && e.type !== 'gridLine'),
        ) && (
          <Button variant="outlined" onClick={() => makeWalls(table)}>
            Make walls
          </Button>
        )}
        {walls.length > 0 && (
          <Button variant="outlined" onClick={() => wallsToLines(table)}>
            Make lines
          </Button>
        )}
        <Button variant="outlined" onClick={() => flipDone(table)}>
          {chosen.every((e) => e.done) ? 'Not done' : 'Done'} (Shift K)
        </Button>
        <Button variant="outlined" onClick={() => removeChosen(table)}>
          Delete (Del)
        </Button>
      </Box>
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
