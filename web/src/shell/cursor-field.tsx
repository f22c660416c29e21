'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState, type KeyboardEvent as ReactKeyboardEvent } from 'react';
import { parseAngle, parseLength, formatLengthWithUnit } from '@calque/core/units';
import { useFromModel } from '@/project/context';
import { measuredAsTyped } from '@/project/last-measured';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { isTyping } from '@/table/input';
import type { Field, FieldRequest } from '@/table/tool';
import { toScreen } from '@/table/viewport';

const GAP = 22;
const WIDTH = 272;
/** Width of a field by what it takes, CSS pixels. */
const FIELD_WIDTHS: Record<Field['unit'], number> = { length: 92, angle: 62, number: 62, text: 210 };
/** What the label of a field and the space after it take, and the space around all of them. */
const LABEL_WIDTH = 58,
  PADDING = 20;

/** What was typed last into each field, to be offered again. */
const typedLast = new Map<string, string>();

/** The figure being asked for, at the work. Typing a digit anywhere on the drawing goes into it. */
export function CursorField() {
  const request = useTableState((s) => s.field);
  // Another set of fields is another question: it starts empty.
  return request ? (
    <Question key={`${request.fields.map((f) => f.id).join()} ${request.onTab}`} request={request} />
  ) : null;
}

function Question({ request }: { request: FieldRequest }) {
  const table = useTable();
  const view = useTableState((s) => s.view);
  const size = useTableState((s) => s.size);
  const insets = useTableState((s) => s.insets);
  const style = useFromModel(lengthStyle);
  const [values, setValues] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [set, setSet] = useState(0);
  const [asked, setAsked] = useState(!request.onTab);
  const inputs = useRef<Record<string, HTMLInputElement | null>>({});
  const { required } = request;
  const sets = [request.fields, ...(request.others ?? [])];
  const fields = sets[Math.min(set, sets.length - 1)];
  const firstId = fields[0].id;
  /** The field that is to have the cursor once it is there. */
  const wanted = useRef<string | null>(null);

  useEffect(() => {
    if (!wanted.current) return;
    inputs.current[wanted.current]?.focus();
    wanted.current = null;
  });
  useEffect(() => {
    if (required) inputs.current[firstId]?.focus();
  }, [required, firstId]);

  useEffect(() => {
    const take = () => {
      const { typedAhead } = table.state.getState();
      if (typedAhead === '') return;
      table.typeAhead('');
      setValues((v) => ({ ...v, [firstId]: (v[firstId] ?? '') + typedAhead }));
      inputs.current[firstId]?.focus();
    };
    queueMicrotask(take);
    return table.state.subscribe(take);
  }, [firstId, table]);
  useEffect(() => {
    return table.keys.on('cursor field', (event) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return false;
      if (asked && /^[-\d.,]$/.test(event.key)) {
        setValues((v) => ({ ...v, [firstId]: (v[firstId] ?? '') + event.key }));
        inputs.current[firstId]?.focus();
        return true;
      }
      if (event.key !== 'Tab' || document.activeElement?.getAttribute('role') !== 'application') return false;
      setAsked(true);
      wanted.current = firstId;
      inputs.current[firstId]?.focus();
      return true;
    });
  }, [firstId, asked, table]);

  const commit = () => {
    const message = table.submitField(values);
    setProblem(message);
    if (message !== null) return;
    for (const [id, text] of Object.entries(values)) if (text.trim() !== '') typedLast.set(id, text);
    setValues({});
    setSet(0);
    setAsked(!request.onTab);
  };
  const measured = (index: number): string | null => {
    const { unit } = fields[index];
    return unit === 'length' || unit === 'angle' ? measuredAsTyped(unit, style.units) : null;
  };
  const onKeyDown = (event: ReactKeyboardEvent, index: number) => {
    if (event.key === 'Enter') commit();
    else if (event.key === 'Escape') {
      setValues({});
      setProblem(null);
      setSet(0);
      setAsked(!request.onTab);
      if (required) table.currentTool.cancel();
      (document.querySelector('[role=application]') as HTMLElement | null)?.focus();
      table.showTool();
    } else if (event.key === 'ArrowUp' && fields.some((f) => typedLast.has(f.id))) {
      setValues({
        ...values,
        ...Object.fromEntries(
          fields.flatMap((f) => (typedLast.has(f.id) && !values[f.id] ? [[f.id, typedLast.get(f.id)!]] : [])),
        ),
      });
    } else if (event.key === 'ArrowDown' && measured(index) !== null) {
      setValues({ ...values, [fields[index].id]: measured(index)! });
    } else if (event.key === 'Tab' && (fields.length > 1 || sets.length > 1)) {
      const next = index + (event.shiftKey ? -1 : 1);
      if (next >= 0 && next < fields.length) inputs.current[fields[next].id]?.focus();
      else {
        // Behind the last field the same is asked in other figures; what was typed before no longer counts.
        const other = (set + (event.shiftKey ? sets.length - 1 : 1)) % sets.length;
        const id = sets[other][event.shiftKey ? sets[other].length - 1 : 0].id;
        if (other === set) inputs.current[id]?.focus();
        else {
          wanted.current = id;
          setSet(other);
          setValues({});
        }
      }
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  if (!asked) return null;
  const [sx, sy] = toScreen(view, request.at);
  const width = Math.max(
    WIDTH,
    ...sets.map((set) => set.reduce((sum, f) => sum + FIELD_WIDTHS[f.unit] + LABEL_WIDTH, PADDING)),
  );
  const x = Math.min(Math.max(sx + GAP, insets.left), size.width - insets.right - width),
    y = Math.min(Math.max(sy - 56, insets.top + 8), size.height - insets.bottom - 90);
  const readBack = fields
    .map((f) => read(f.unit, values[f.id], style))
    .filter(Boolean)
    .join(', ');
  // A box that only offers must not catch the click that was meant for the drawing beneath it.
  return (
    <Box
      data-testid="cursor-field"
      sx={{
        position: 'absolute',
        left: x,
        top: y,
        pointerEvents: required ? undefined : 'none',
        bgcolor: '#17273a',
        color: '#fffefa',
        px: 1,
        py: 0.75,
        boxShadow: '0 3px 12px rgba(23,39,58,.3)',
        maxWidth: width + 28,
      }}
    >
      <Box sx={{ display: 'flex', gap: 1 }}>
        {fields.map((f, i) => (
          <Box
            key={f.id}
            component="label"
            sx={{ display: 'flex', alignItems: 'center', gap: 0.75, fontSize: 13 }}
          >
            {f.label}
            <Box
              component="input"
              ref={(el: HTMLInputElement | null) => {
                inputs.current[f.id] = el;
              }}
              value={values[f.id] ?? ''}
              placeholder={f.live}
              aria-label={f.label}
              autoComplete="off"
              spellCheck={false}
              onChange={(e: React.ChangeEvent<HTMLInputElement>) => {
                setValues({ ...values, [f.id]: e.target.value });
                setProblem(null);
                request.onTyping?.();
              }}
              onKeyDown={(e: ReactKeyboardEvent) => onKeyDown(e, i)}
              sx={{
                width: FIELD_WIDTHS[f.unit],
                font: 'inherit',
                fontVariantNumeric: 'tabular-nums',
                border: 0,
                px: 0.75,
                py: 0.25,
                color: '#17273a',
                bgcolor: '#fffefa',
                '&::placeholder': { color: '#55616d', opacity: 1 },
              }}
            />
          </Box>
        ))}
      </Box>
      {request.question && (
        <Box
          role="alertdialog"
          aria-label="The sheet says otherwise"
          data-testid="scale-question"
          sx={{ mt: 0.75, maxWidth: 300 }}
        >
          <Typography sx={{ fontSize: 12.5, color: '#ffd9a8' }}>{request.question.words}</Typography>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75, mt: 0.75 }}>
            {request.question.answers.map((a, i) => (
              <Button
                key={a.label}
                autoFocus={i === 0}
                variant="outlined"
                sx={{ color: '#fffefa', borderColor: '#8d99a5', py: 0.25 }}
                onClick={() => {
                  a.act();
                  table.showTool();
                }}
              >
                {a.label}
              </Button>
            ))}
          </Box>
        </Box>
      )}
      {!request.question && (problem || readBack || request.hint) && (
        <Typography
          role={problem ? 'alert' : undefined}
          sx={{ fontSize: 12, mt: 0.5, color: problem ? '#ffb9a3' : '#c9d2da', maxWidth: 280 }}
        >
          {problem ?? (readBack ? `${readBack} · Enter` : request.hint)}
        </Typography>
      )}
    </Box>
  );
}

/** What has been typed, read back, so that a unit is never misunderstood. */
function read(unit: Field['unit'], text: string | undefined, style: ReturnType<typeof lengthStyle>): string {
  if (!text?.trim()) return '';
  if (unit === 'number' || unit === 'text') return '';
  if (unit === 'angle') return parseAngle(text) === null ? '' : `${text.trim().replace(/°$/, '')}°`;
  const parsed = parseLength(text, style.units);
  return parsed.ok ? `= ${formatLengthWithUnit(parsed.mm, style)}` : '';
}
