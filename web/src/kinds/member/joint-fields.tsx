'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { BOLT_SIZES, boltOf, memberMet, SIZES_OF, sizesOf } from '@calque/core/framing';
import {
  get,
  group,
  jointAt,
  JOINT_FORMS,
  knownSection,
  meetsAnother,
  MOST_ROWS,
  setFields,
  withJoint,
  type Joint,
  type JointForm,
  type JointSize,
  type MadeForm,
  type Member,
  type MemberEndName,
} from '@calque/core/model';
import { formatNumber } from '@calque/core/units';
import { useProject, useSession } from '@/project/context';
import { useTable } from '@/table/context';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { doubtAt, FORM_WORDS, joined, JointTool, memberName } from './joint-tool';

const SIZE_WORDS: Readonly<Record<JointSize, string>> = {
  gap: 'Gap',
  clearance: 'Clearance of copes',
  width: 'Width',
  height: 'Height',
  thickness: 'Thickness',
  bolt: 'Bolts',
  rows: 'Rows of bolts',
  pitch: 'Pitch',
  gauge: 'Gauge',
  edge: 'Edge distance',
  weld: 'Weld',
  stiffener: 'Stiffeners',
};

const SQUARE = 'square';
const readCount = (text: string): number | null => {
  const v = Number(text);
  return Number.isInteger(v) && v >= 1 && v <= MOST_ROWS ? v : null;
};

/** How the ends of the members selected are made. */
export function JointFields({ chosen }: { chosen: readonly Member[] }) {
  return (
    <>
      <EndFields chosen={chosen} end="start" />
      <EndFields chosen={chosen} end="end" />
      <CleatFields chosen={chosen} />
    </>
  );
}

/** The cleats on which the members selected are held; those of one are changed together. */
function CleatFields({ chosen: members }: { chosen: readonly Member[] }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    held = members.filter((m) => (m.cleats?.length ?? 0) > 0);
  if (held.length === 0) return null;
  const cleats = held.flatMap((m) => m.cleats ?? []),
    set = (fields: (m: Member) => Member['cleats'], label: string) =>
      session.do(group(held.map((m) => setFields<Member>(m, { cleats: fields(m) }))), label),
    setSize = (size: JointSize, value: number | null) =>
      set(
        (m) =>
          (m.cleats ?? []).map((c) => {
            const { [size]: _, ...others } = c.sizes ?? {},
              sizes = value === null ? others : { ...others, [size]: value };
            return { ...c, sizes: Object.keys(sizes).length === 0 ? null : sizes };
          }),
        `Change cleats: ${SIZE_WORDS[size].toLowerCase()}`,
      ),
    doubts = [...new Set(held.flatMap((m) => doubtAt(model, m.id, null) ?? []))];
  return (
    <Box role="group" aria-label="Cleats" sx={{ mt: 1.5 }}>
      <Typography component="div">
        Held by {cleats.length === 1 ? 'a cleat' : `${cleats.length} cleats`} on{' '}
        {cleats.length === 1
          ? memberName(get(model, 'member', cleats[0].to))
          : 'the members that it runs over'}{' '}
        <Button size="small" onClick={() => set(() => null, 'Take cleats away')}>
          Take away
        </Button>
      </Typography>
      <Sizes
        joints={cleats}
        members={held.flatMap((m) => (m.cleats ?? []).map(() => m))}
        form="purlinCleat"
        onChange={setSize}
      />
      {doubts.map((d) => (
        <Typography key={d} variant="caption" component="div" sx={{ mt: 0.5, color: 'differs' }}>
          {d}
        </Typography>
      ))}
    </Box>
  );
}

function EndFields({ chosen: members, end }: { chosen: readonly Member[]; end: MemberEndName }) {
  const session = useSession(),
    table = useTable(),
    model = useProject((s) => s.model);
  const joints = members.map((m) => jointAt(m, end)),
    form = shared(joints, (j) => j?.form ?? SQUARE),
    [first] = joints;
  const choose = (value: string) => {
    if (value === SQUARE) {
      session.do(
        group(members.map((m) => setFields<Member>(m, withJoint(m, end, null)))),
        'Cut an end square',
      );
      return;
    }
    const next = value as JointForm,
      made = members.map((m) => joined(m, end, next, jointAt(m, end)?.to ?? memberMet(model, m.id, end))),
      why = made.find((c) => typeof c === 'string');
    if (why === undefined) {
      session.do(
        group(made.map((c) => (typeof c === 'string' ? null : c))),
        `Make an end: ${FORM_WORDS[next]}`,
      );
      return;
    }
    if (members.length > 1) session.tell(why as string, true);
    // Nothing is near: the other is pointed at.
    else table.hold(new JointTool(table, { id: members[0].id, end, form: next }));
  };
  const setSize = (size: JointSize, value: number | null) => {
    session.do(
      group(
        members.map((m) => {
          const j = jointAt(m, end);
          if (!j) return null;
          const { [size]: _, ...others } = j.sizes ?? {},
            sizes = value === null ? others : { ...others, [size]: value };
          return setFields<Member>(
            m,
            withJoint(m, end, { ...j, sizes: Object.keys(sizes).length === 0 ? null : sizes }),
          );
        }),
      ),
      `Change an end: ${SIZE_WORDS[size].toLowerCase()}`,
    );
  };
  const doubts = [...new Set(members.flatMap((m) => doubtAt(model, m.id, end) ?? []))];
  return (
    <Box role="group" aria-label={end === 'start' ? 'Start' : 'End'} sx={{ mt: 1.5 }}>
      <TextField
        select
        fullWidth
        label={end === 'start' ? 'Its start is' : 'Its end is'}
        value={form ?? ''}
        onChange={(e) => choose(e.target.value)}
      >
        <MenuItem value={SQUARE}>cut square</MenuItem>
        {JOINT_FORMS.map((f) => (
          <MenuItem key={f} value={f}>
            {FORM_WORDS[f]}
          </MenuItem>
        ))}
      </TextField>
      {first && form !== null && form !== SQUARE && (
        <>
          {meetsAnother(first.form) && (
            <Typography variant="caption" color="text.secondary" component="div" sx={{ mt: 0.5 }}>
              {members.length === 1
                ? `meets ${memberName(first.to === null ? null : get(model, 'member', first.to))} `
                : 'each meets its own '}
              {members.length === 1 && (
                <Button
                  size="small"
                  onClick={() =>
                    table.hold(new JointTool(table, { id: members[0].id, end, form: first.form }))
                  }
                >
                  Point at another
                </Button>
              )}
            </Typography>
          )}
          <Sizes joints={joints as Joint[]} members={members} form={first.form} onChange={setSize} />
        </>
      )}
      {doubts.map((d) => (
        <Typography key={d} variant="caption" component="div" sx={{ mt: 0.5, color: 'differs' }}>
          {d}
        </Typography>
      ))}
    </Box>
  );
}

/** What is usual for the section until something else is typed; left empty it is usual again. */
function Sizes({
  joints,
  members,
  form,
  onChange,
}: {
  joints: readonly Pick<Joint, 'sizes'>[];
  members: readonly Member[];
  form: MadeForm;
  onChange(size: JointSize, value: number | null): void;
}) {
  const known = members.flatMap((m, i) => {
    const section = knownSection(m.section);
    return section ? [sizesOf({ form, sizes: joints[i].sizes }, section)] : [];
  });
  if (known.length === 0) return null;
  const typed = SIZES_OF[form].filter((s) => joints.some((j) => j.sizes?.[s] !== undefined));
  return (
    <>
      <Box sx={{ ...TWO_COLUMNS, mt: 1.25 }}>
        {SIZES_OF[form].map((size) => {
          const value = shared(known, (s) => s[size]);
          if (size === 'bolt')
            return (
              <TextField
                key={size}
                select
                label={SIZE_WORDS.bolt}
                value={value === null ? '' : boltOf(value).name}
                onChange={(e) => onChange('bolt', BOLT_SIZES.find((b) => b.name === e.target.value)!.d)}
              >
                {BOLT_SIZES.map((b) => (
                  <MenuItem key={b.name} value={b.name}>
                    {b.name}
                  </MenuItem>
                ))}
              </TextField>
            );
          if (size === 'rows')
            return (
              <FigureField
                key={size}
                label={SIZE_WORDS.rows}
                value={value}
                shown={(v) => formatNumber(v, 0)}
                read={readCount}
                wrong={`1 to ${MOST_ROWS} rows`}
                onChange={(v) => onChange('rows', v)}
              />
            );
          return (
            <LengthField
              key={size}
              label={SIZE_WORDS[size]}
              value={value}
              positive={size !== 'gap' && size !== 'clearance' && size !== 'stiffener'}
              least={0}
              onChange={(v) => onChange(size, v)}
              onEmptied={() => onChange(size, null)}
            />
          );
        })}
      </Box>
      <Typography variant="caption" color="text.secondary" component="div" sx={{ mt: 0.5 }}>
        {typed.length === 0
          ? 'Usual sizes for its section: a beginning, no design.'
          : `Typed: ${typed.map((s) => SIZE_WORDS[s].toLowerCase()).join(', ')}; the rest is usual, no design. Emptied, a size is usual again.`}
      </Typography>
    </>
  );
}
