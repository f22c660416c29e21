'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { get, ofType, setFields, type Feature, type Hole } from '@calque/core/model';
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
import type { Table } from '@/table/table';
import { LengthField } from '@/ui/length-field';
import { WordsField } from '@/ui/words-field';
import { PlaceTool } from '../place-tool';
import { tracedRounds } from '../sheet-rounds';
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

/** In how many places a hole is drilled. */
const placesOf = (form: Hole): number => form.at.length + form.centres.length;
/** A circle is like another within this, millimetres. */
const LIKE = 0.05;

/** Circles on the plane of a hole that are as large as those in which it is drilled, and that no hole is drilled in. */
function likeRounds(table: Table, form: Hole): string[] {
  const rounds = tracedRounds(table, form.planeId),
    first = rounds.find((r) => form.centres.includes(r.id)),
    taken = new Set(
      ofType(table.session.state.model, 'feature').flatMap((f) =>
        f.form.kind === 'hole' ? f.form.centres : [],
      ),
    );
  return first
    ? rounds.filter((r) => !taken.has(r.id) && Math.abs(r.radius - first.radius) <= LIKE).map((r) => r.id)
    : [];
}

/** The hole as it is by now: picks come one after the other. */
const holeNow = (table: Table, feature: Feature): { feature: Feature; form: Hole } | null => {
  const now = get(table.session.state.model, 'feature', feature.id);
  return now?.form.kind === 'hole' ? { feature: now, form: now.form } : null;
};
function placed(table: Table, feature: Feature, at: [number, number][]): void {
  const now = holeNow(table, feature);
  if (now) table.session.do(setFields<Feature>(now.feature, { form: { ...now.form, at } }), 'Place holes');
}

/** Round holes: by a note of the sheet, by the screw that goes through, by a thread, or by figures. */
export function HoleFields({ feature, form, set }: { feature: Feature; form: Hole; set(form: Hole): void }) {
  const { units } = useFromModel(lengthStyle),
    [screw, setScrew] = useState<string | null>(null),
    [fit, setFit] = useState<Fit>('medium'),
    [wrong, setWrong] = useState<string | null>(null),
    [counted, setCounted] = useState(1),
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
    if (s)
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
    const by = holeByCallout(form, said),
      like = likeRounds(table, form);
    // A note for so many is for all that look alike, where these are so many.
    const spread = said.count > 1 && like.length > 0 && placesOf(form) + like.length === said.count;
    set(spread ? { ...by, centres: [...by.centres, ...like] } : by);
    setCounted(said.count);
    if (spread) table.session.tell(`${said.text}: in the ${said.count} circles that are alike.`);
    return null;
  };
  const head = form.head?.kind ?? 'none',
    like = likeRounds(table, form);
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
        options={sizes.map((s) => s.name)}
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
        exact
        label="Diameter"
        value={form.diameter}
        onChange={(diameter) => set({ ...form, diameter, said: '' })}
      />
      <LengthField
        exact
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
          exact
          label="Head diameter"
          value={form.head.diameter}
          onChange={(diameter) => set({ ...form, said: '', head: { ...form.head!, diameter } })}
        />
      )}
      {form.head?.kind === 'counterbore' && (
        <LengthField
          exact
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
        At {placesOf(form)} {placesOf(form) === 1 ? 'place' : 'places'}
        {form.centres.length > 0 ? `, ${form.centres.length} of them in circles that are drawn` : ''}.
        {counted > 1 && counted !== placesOf(form) ? ` The note is for ${counted}.` : ''}
      </Typography>
      {like.length > 0 && (
        <Button onClick={() => set({ ...form, centres: [...form.centres, ...like] })}>
          Also in the {like.length === 1 ? 'circle' : `${like.length} circles`} like it
        </Button>
      )}
      <Button
        onClick={() =>
          table.hold(
            new PlaceTool(
              table,
              'Click where holes are drilled; again lets one go',
              () => holeNow(table, feature)?.form.at ?? [],
              (at) => placed(table, feature, at),
            ),
          )
        }
      >
        Pick places
      </Button>
    </>
  );
}
