'use client';

import type { Extrude, Given, Revolve, Rib, Shell, Slot } from '@calque/core/model';
import { useSession } from '@/project/context';
import { LengthField } from '@/ui/length-field';
import { usePartUi } from '../part-ui';
import { AngleField, Choice, Tick } from './fields';

const DOES = [
  ['add', 'adds'],
  ['cut', 'takes away'],
  ['common', 'keeps what both have'],
] as const;

/** A profile that goes so deep. */
export function ExtrudeFields({ form, set }: { form: Extrude; set(form: Extrude): void }) {
  const session = useSession(),
    face = usePartUi((s) => s.faces[0]),
    { reach } = form,
    way = reach.kind === 'depth' && reach.both ? 'both' : reach.kind;
  return (
    <>
      <Choice
        label="What it does"
        value={form.does}
        options={DOES}
        onChange={(does) => set({ ...form, does })}
      />
      <Choice
        label="How far"
        value={way}
        options={[
          ['depth', 'so deep'],
          ['both', 'half to each side'],
          ['through', 'through all'],
          ['face', 'up to a face'],
        ]}
        onChange={(kind) => {
          if (kind === 'through') set({ ...form, reach: { kind } });
          else if (kind === 'face') {
            if (face !== undefined) set({ ...form, reach: { kind, face } });
            else session.tell('Choose the face in the picture of the part first: it goes up to that.');
          } else
            set({
              ...form,
              reach: {
                kind: 'depth',
                depth: reach.kind === 'depth' ? reach.depth : 10,
                both: kind === 'both',
              },
            });
        }}
      />
      {reach.kind === 'depth' && (
        <LengthField
          exact
          label="Depth"
          value={reach.depth}
          onChange={(depth) => set({ ...form, reach: { ...reach, depth } })}
        />
      )}
      <AngleField
        label="Draft"
        value={form.draft}
        least={-60}
        most={60}
        onChange={(draft) => set({ ...form, draft })}
      />
      <Tick label="the other way" on={form.back} onChange={(back) => set({ ...form, back })} />
    </>
  );
}

/** The solid of a file: whether it adds, or takes away where it stands. */
export const GivenFields = ({ form, set }: { form: Given; set(form: Given): void }) => (
  <Choice label="What it does" value={form.does} options={DOES} onChange={(does) => set({ ...form, does })} />
);

export function RevolveFields({ form, set }: { form: Revolve; set(form: Revolve): void }) {
  return (
    <>
      <Choice
        label="What it does"
        value={form.does}
        options={DOES}
        onChange={(does) => set({ ...form, does })}
      />
      <AngleField
        label="Round by"
        value={form.angle}
        least={0.1}
        most={360}
        onChange={(angle) => set({ ...form, angle: Math.min(angle, 2 * Math.PI) })}
      />
    </>
  );
}

export function RibFields({ form, set }: { form: Rib; set(form: Rib): void }) {
  return (
    <>
      <LengthField
        exact
        label="Thickness"
        value={form.thickness}
        onChange={(thickness) => set({ ...form, thickness })}
      />
      <Tick
        label="fills to the right of its line"
        on={form.right}
        onChange={(right) => set({ ...form, right })}
      />
    </>
  );
}

export function ShellFields({ form, set }: { form: Shell; set(form: Shell): void }) {
  return (
    <LengthField
      exact
      label="Walls"
      value={form.thickness}
      onChange={(thickness) => set({ ...form, thickness })}
    />
  );
}

export function SlotFields({ form, set }: { form: Slot; set(form: Slot): void }) {
  return (
    <>
      <LengthField
        exact
        label="Length over all"
        value={form.length}
        onChange={(length) => set({ ...form, length })}
      />
      <LengthField exact label="Width" value={form.width} onChange={(width) => set({ ...form, width })} />
      <LengthField
        exact
        label="Depth"
        value={form.depth}
        empty="through all"
        onChange={(depth) => set({ ...form, depth })}
        onEmptied={() => set({ ...form, depth: null })}
      />
      <AngleField
        label="Turned by"
        value={form.angle}
        least={-360}
        most={360}
        onChange={(angle) => set({ ...form, angle })}
      />
      <Tick label="from the other side" on={form.back} onChange={(back) => set({ ...form, back })} />
    </>
  );
}
