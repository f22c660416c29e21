'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Hole } from '@calque/core/model';
import {
  FITS,
  headFor,
  readCallout,
  SCREW_SIZES,
  THREADS,
  threadNamed,
  USUAL_TIP,
  type Fit,
  type HoleCallout,
} from '@calque/core/part';
import { useFromModel } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { WordsField } from '@/ui/words-field';
import { readByDrawn, TextTool } from '../text-tool';
import { AngleField, Choice, Tick } from './fields';

/** A hole as a note of a sheet says it; its places stay. */
export const holeByCallout = (form: Hole, said: HoleCallout): Hole => ({
  ...form,
  diameter: said.diameter,
  depth: said.through ? null : said.depth,
  tip: said.through || said.depth === null ? null : (form.tip ?? USUAL_TIP),
  head: said.head,
  thread: said.thread && { name: said.thread.name, depth: said.thread.depth },
  said: said.text,
});

/** Round holes: by a note of the sheet, by the screw that goes through, by a thread, or by figures. */
export function HoleFields({ form, set }: { form: Hole; set(form: Hole): void }) {
  const { units } = useFromModel(lengthStyle),
    [screw, setScrew] = useState<string | null>(null),
    [fit, setFit] = useState<Fit>('medium'),
    [wrong, setWrong] = useState<string | null>(null),
    table = useTable();
  const inch = units === 'ft-in' || units === 'in',
    sizes = [...SCREW_SIZES].sort(
      (a, b) => Number(b.name.startsWith('M') !== inch) - Number(a.name.startsWith('M') !== inch),
    ),
    size = sizes.find((s) => s.name === screw) ?? null;
  const bySize = (name: string | null, how: Fit) => {
    setScrew(name);
    setFit(how);
    const s = sizes.find((x) => x.name === name);
    if (s?.clearance)
      set({
        ...form,
        diameter: s.clearance[how],
        thread: null,
        head: form.head && headFor(s, form.head.kind),
        said: '',
      });
  };
  /** Why a note does not do; null where it was taken. */
  const bySaid = (text: string): string | null => {
    const said = readByDrawn(
      table,
      form.diameter,
      (unit) => readCallout(text, unit),
      (found) => found.diameter,
    );
    if (!said)
      return `"${text.slice(0, 60)}" is not a note at a hole: such as 4x Ø9 THRU ⌴ Ø15 ↧ 8, or M8 ↧ 16`;
    if (said.thread && !said.thread.known) return `No table here knows the thread ${said.thread.name}`;
    set(holeByCallout(form, said));
    return null;
  };
  const head = form.head?.kind ?? 'none';
  return (
    <>
      <WordsField
        label="As the sheet says it"
        value={form.said}
        mayBeEmpty
        wrong={wrong}
        onChange={(text) => {
          if (text === '') set({ ...form, said: '' });
          else setWrong(bySaid(text));
        }}
      />
      <Button
        onClick={() =>
          table.hold(
            new TextTool(table, 'Click the note at the hole on the sheet', ({ text }) => bySaid(text)),
          )
        }
      >
        Note on the sheet
      </Button>
      <Autocomplete
        options={sizes.filter((s) => s.clearance).map((s) => s.name)}
        value={screw}
        onChange={(_, name) => bySize(name, fit)}
        renderInput={(params) => <TextField {...params} label="Clear of the screw" />}
      />
      <Choice
        label="Fit"
        value={fit}
        options={FITS.map((f) => [f, f] as const)}
        onChange={(f) => bySize(screw, f)}
      />
      <Autocomplete
        options={THREADS.map((t) => t.name)}
        value={form.thread?.name ?? null}
        onChange={(_, name) => {
          const thread = name === null ? null : threadNamed(name);
          set(
            thread
              ? {
                  ...form,
                  thread: { name: thread.name, depth: form.thread?.depth ?? null },
                  diameter: thread.drill,
                  said: '',
                }
              : { ...form, thread: null },
          );
        }}
        renderInput={(params) => <TextField {...params} label="Thread" placeholder="none" />}
      />
      <LengthField
        label="Diameter"
        value={form.diameter}
        onChange={(diameter) => set({ ...form, diameter, said: '' })}
      />
      <LengthField
        label="Depth"
        value={form.depth}
        empty="through all"
        onChange={(depth) => set({ ...form, depth, tip: form.tip ?? USUAL_TIP, said: '' })}
        onEmptied={() => set({ ...form, depth: null, said: '' })}
      />
      {form.depth !== null && (
        <Choice
          label="Its end"
          value={form.tip === null ? 'flat' : 'tip'}
          options={[
            ['tip', 'pointed, 118°'],
            ['flat', 'flat'],
          ]}
          onChange={(end) => set({ ...form, tip: end === 'flat' ? null : USUAL_TIP })}
        />
      )}
      <Choice
        label="Head"
        value={head}
        options={[
          ['none', 'plain'],
          ['counterbore', 'counterbore ⌴'],
          ['countersink', 'countersink ⌵'],
        ]}
        onChange={(kind) =>
          set({
            ...form,
            said: '',
            head:
              kind === 'none'
                ? null
                : ((size && headFor(size, kind)) ??
                  (kind === 'counterbore'
                    ? { kind, diameter: 1.7 * form.diameter, depth: form.diameter }
                    : { kind, diameter: 2 * form.diameter, angle: Math.PI / 2 })),
          })
        }
      />
      {form.head && (
        <LengthField
          label="Head diameter"
          value={form.head.diameter}
          onChange={(diameter) => set({ ...form, said: '', head: { ...form.head!, diameter } })}
        />
      )}
      {form.head?.kind === 'counterbore' && (
        <LengthField
          label="Head depth"
          value={form.head.depth}
          onChange={(depth) => set({ ...form, said: '', head: { ...form.head!, depth } as typeof form.head })}
        />
      )}
      {form.head?.kind === 'countersink' && (
        <AngleField
          label="Head angle"
          value={form.head.angle}
          least={30}
          most={150}
          onChange={(angle) => set({ ...form, said: '', head: { ...form.head!, angle } as typeof form.head })}
        />
      )}
      <Tick label="from the other side" on={form.back} onChange={(back) => set({ ...form, back })} />
      <Typography variant="caption" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
        At {form.at.length + form.centres.length}{' '}
        {form.at.length + form.centres.length === 1 ? 'place' : 'places'}
        {form.centres.length > 0 ? `, ${form.centres.length} of them in circles that are drawn` : ''}.
      </Typography>
    </>
  );
}
