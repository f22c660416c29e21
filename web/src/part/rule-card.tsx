'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { isCircle, setFields, type Model, type Rule, type RulePlace } from '@calque/core/model';
import { isRuled, readPrinted, rulesOn, type PrintedFigure, type Ruled } from '@calque/core/part';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { readByDrawn, TextTool } from './text-tool';

const whole = (e: Ruled): RulePlace => ({ id: e.id, grip: null });
const isLine = (e: Ruled) => e.type !== 'arc';

/** A figure that could drive what is selected, with what it is now. */
interface Driven {
  kind: Rule['kind'];
  label: string;
  of: RulePlace[];
  now: number;
}

function figuresFor(chosen: readonly Ruled[]): Driven[] {
  const [a, b] = chosen;
  if (chosen.length === 1 && a.type !== 'arc')
    return [
      {
        kind: 'length',
        label: 'Length',
        of: [whole(a)],
        now: Math.hypot(a.to[0] - a.from[0], a.to[1] - a.from[1]),
      },
    ];
  if (chosen.length === 1 && a.type === 'arc')
    return [
      isCircle(a)
        ? { kind: 'diameter', label: 'Diameter', of: [whole(a)], now: 2 * a.radius }
        : { kind: 'radius', label: 'Radius', of: [whole(a)], now: a.radius },
    ];
  if (chosen.length !== 2) return [];
  if (a.type !== 'arc' && b.type !== 'arc') {
    const n = Math.hypot(b.to[0] - b.from[0], b.to[1] - b.from[1]),
      gap =
        ((a.from[0] - b.from[0]) * (b.to[1] - b.from[1]) - (a.from[1] - b.from[1]) * (b.to[0] - b.from[0])) /
        n;
    return [
      { kind: 'gap', label: 'Gap between them', of: [{ id: a.id, grip: 0 }, whole(b)], now: Math.abs(gap) },
    ];
  }
  if (a.type === 'arc' && b.type === 'arc') {
    const of = [a, b].map((e): RulePlace => ({ id: e.id, grip: isCircle(e) ? 4 : 3 }));
    return [
      { kind: 'across', label: 'Centres across', of, now: b.centre[0] - a.centre[0] },
      { kind: 'up', label: 'Centres up', of, now: b.centre[1] - a.centre[1] },
    ];
  }
  const [line, round] = a.type === 'arc' ? [b, a] : [a, b];
  if (line.type === 'arc' || round.type !== 'arc') return [];
  const n = Math.hypot(line.to[0] - line.from[0], line.to[1] - line.from[1]),
    off =
      ((round.centre[0] - line.from[0]) * (line.to[1] - line.from[1]) -
        (round.centre[1] - line.from[1]) * (line.to[0] - line.from[0])) /
      n;
  return [
    {
      kind: 'gap',
      label: 'Centre from the line',
      of: [{ id: round.id, grip: isCircle(round) ? 4 : 3 }, whole(line)],
      now: Math.abs(off),
    },
  ];
}

/** Rules without a figure that what is selected could have. */
function relationsFor(chosen: readonly Ruled[]): { kind: Rule['kind']; words: string; of: RulePlace[] }[] {
  const [a, b] = chosen,
    both = () => [whole(a), whole(b)];
  if (chosen.length === 1)
    return isLine(a)
      ? [
          { kind: 'level', words: 'Level', of: [whole(a)] },
          { kind: 'upright', words: 'Upright', of: [whole(a)] },
          { kind: 'fixed', words: 'Fix its beginning', of: [{ id: a.id, grip: 0 }] },
        ]
      : [
          {
            kind: 'fixed',
            words: 'Fix its centre',
            of: [{ id: a.id, grip: a.type === 'arc' && isCircle(a) ? 4 : 3 }],
          },
        ];
  if (chosen.length !== 2) return [];
  if (isLine(a) && isLine(b))
    return [
      { kind: 'parallel', words: 'Parallel', of: both() },
      { kind: 'square', words: 'Square', of: both() },
      { kind: 'equal', words: 'Equally long', of: both() },
    ];
  if (!isLine(a) && !isLine(b))
    return [
      { kind: 'equal', words: 'Equally round', of: both() },
      { kind: 'concentric', words: 'One centre', of: both() },
      { kind: 'touching', words: 'Touching', of: both() },
    ];
  return [{ kind: 'touching', words: 'Touching', of: both() }];
}

const samePlaces = (a: readonly RulePlace[], b: readonly RulePlace[]) =>
  a.length === b.length && a.every((p, i) => p.id === b[i].id && p.grip === b[i].grip);

/** What a drawing may be off by and still be as printed, millimetres. */
const AGREES = 0.005;

/** What a printed figure says of something: a radius also its diameter, and the other way round; null where it says nothing of it. */
function valueFor(kind: Rule['kind'], { kind: said, value }: PrintedFigure): number | null {
  if (said === 'angle') return null;
  if (kind === 'radius') return said === 'diameter' ? value / 2 : value;
  if (kind === 'diameter') return said === 'radius' ? 2 * value : value;
  return said === 'length' ? value : null;
}

/** Rules and figures that drive for what is selected. */
export function RuleCard({ planeId }: { planeId: string }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    selection = useTableState((s) => s.selection),
    style = useFromModel(lengthStyle),
    table = useTable(),
    chosen = chosenRuled(model, selection, planeId);
  if (chosen.length === 0 || chosen.length > 2) return null;
  const rules = rulesOn(model, planeId),
    known = (kind: Rule['kind'], of: readonly RulePlace[]) =>
      rules.find((r) => r.kind === kind && samePlaces(r.of, of));
  const drive = (
    { kind, of, label }: Driven,
    value: number,
    said: Pick<Rule, 'printed' | 'tolerance'> = { printed: null },
  ) => {
    const rule = known(kind, of);
    return session.do(
      rule
        ? setFields<Rule>(rule, { value, ...said })
        : {
            type: 'add',
            entity: { type: 'rule', id: crypto.randomUUID(), planeId, kind, of, value, ...said },
          },
      `Drive: ${label.toLowerCase()}`,
    );
  };
  const point = (f: Driven) => {
    const ids = [...selection];
    table.hold(
      new TextTool(table, `${f.label}: click the printed figure on the sheet`, (text) => {
        const read = readByDrawn(
            table,
            f.now,
            (unit) => readPrinted(text.text, unit),
            (found) => valueFor(f.kind, found) ?? 0,
          ),
          value = read && valueFor(f.kind, read);
        if (value === null)
          return `"${text.text}" is no figure that says ${f.label.toLowerCase()}: click another, or type it.`;
        // Across and up keep the way in which they lie.
        const signed = (f.kind === 'across' || f.kind === 'up') && f.now < 0 ? -value : value,
          off = Math.abs(f.now) - value;
        if (!drive(f, signed, { printed: text, tolerance: read!.tolerance })) return null;
        const measured = formatLengthWithUnit(Math.abs(f.now), style);
        session.tell(
          Math.abs(off) < AGREES
            ? `${text.text} drives, as it was drawn.`
            : `${text.text} drives; the drawing measured ${measured}.`,
        );
        // Selected again, when the tool has been laid down.
        setTimeout(() => table.setSelection(ids));
        return null;
      }),
    );
  };
  return (
    <Box data-testid="rule-card" sx={{ display: 'grid', gap: 1, my: 1 }}>
      {figuresFor(chosen).map((f) => (
        <Box key={f.kind} sx={{ display: 'flex', gap: 0.5, alignItems: 'flex-start' }}>
          <LengthField
            label={known(f.kind, f.of) ? `${f.label}, drives` : `${f.label}, not fixed yet`}
            positive={f.kind !== 'across' && f.kind !== 'up'}
            value={known(f.kind, f.of)?.value ?? f.now}
            onChange={(v) => drive(f, v)}
          />
          <Button
            onClick={() => point(f)}
            aria-label={`Point at the printed figure: ${f.label.toLowerCase()}`}
          >
            On sheet
          </Button>
          {!known(f.kind, f.of) && (
            <Button
              onClick={() => drive(f, f.now)}
              aria-label={`Let ${f.label.toLowerCase()} drive as it is`}
            >
              As it is
            </Button>
          )}
        </Box>
      ))}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {relationsFor(chosen).map(({ kind, words, of }) => (
          <Button
            key={kind}
            variant="outlined"
            disabled={known(kind, of) !== undefined}
            onClick={() =>
              session.do(
                {
                  type: 'add',
                  entity: { type: 'rule', id: crypto.randomUUID(), planeId, kind, of, value: null },
                },
                `Rule: ${words.toLowerCase()}`,
              )
            }
          >
            {words}
          </Button>
        ))}
      </Box>
      {chosen.length === 1 && (
        <Typography variant="caption" color="text.secondary">
          Select two, and rules between them are offered.
        </Typography>
      )}
    </Box>
  );
}

export const chosenRuled = (model: Model, selection: ReadonlySet<string>, planeId: string): Ruled[] =>
  [...selection].flatMap((id) => {
    const e = model.get(id);
    return e && isRuled(e) && e.planeId === planeId ? [e] : [];
  });
