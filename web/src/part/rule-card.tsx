'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { setFields, type Change, type Model, type Rule, type RulePlace } from '@calque/core/model';
import { isRuled, readPrinted, rulesOn, type PrintedFigure, type Ruled } from '@calque/core/part';
import { formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { AngleField } from './forms/fields';
import { figuresFor, relationsFor, type Driven } from './rule-offers';
import { readByDrawn, TextTool } from './text-tool';

const samePlaces = (a: readonly RulePlace[], b: readonly RulePlace[]) =>
  a.length === b.length && a.every((p, i) => p.id === b[i].id && p.grip === b[i].grip);

/** Figures that keep the way in which what they measure lies. */
const SIGNED: ReadonlySet<Rule['kind']> = new Set<Rule['kind']>(['across', 'up', 'angle']);
/** What a drawing may be off by and still be as printed, millimetres. */
const AGREES = 0.005;

/** What a printed figure says of something: a radius also its diameter, and the other way round; null where it says nothing of it. */
function valueFor(kind: Rule['kind'], { kind: said, value }: PrintedFigure): number | null {
  if (kind === 'angle') return said === 'angle' ? value : null;
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
  if (chosen.length === 0 || chosen.length > 3) return null;
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
  const labelOf = (f: Driven) => (known(f.kind, f.of) ? `${f.label}, drives` : `${f.label}, not fixed yet`);
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
        const signed = SIGNED.has(f.kind) && f.now < 0 ? -value : value,
          off = Math.abs(f.now) - value;
        if (!drive(f, signed, { printed: text, tolerance: read!.tolerance })) return null;
        const measured =
          f.kind === 'angle'
            ? `${formatNumber((Math.abs(f.now) * 180) / Math.PI, 2)}°`
            : formatLengthWithUnit(Math.abs(f.now), style);
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
          {f.kind === 'angle' ? (
            <AngleField
              label={labelOf(f)}
              value={known(f.kind, f.of)?.value ?? f.now}
              least={-360}
              most={360}
              onChange={(v) => drive(f, v)}
            />
          ) : (
            <LengthField
              exact
              label={labelOf(f)}
              positive={f.kind !== 'across' && f.kind !== 'up'}
              value={known(f.kind, f.of)?.value ?? f.now}
              onChange={(v) => drive(f, v)}
            />
          )}
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
        {relationsFor(chosen).map(({ kind, words, of, also = [] }) => (
          <Button
            key={kind}
            variant="outlined"
            disabled={known(kind, of) !== undefined}
            onClick={() =>
              session.do(
                {
                  type: 'group',
                  changes: [of, ...also].map((places): Change => ({
                    type: 'add',
                    entity: { type: 'rule', id: crypto.randomUUID(), planeId, kind, of: places, value: null },
                  })),
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
