'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState, type KeyboardEvent as ReactKeyboardEvent } from 'react';
import { parseAngle, parseLength, formatLengthWithUnit } from '@calque/core/units';
import { useFromModel } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { isTyping } from '@/table/input';
import type { Field, FieldRequest } from '@/table/tool';
import { toScreen } from '@/table/viewport';

const GAP = 22;
const WIDTH = 272;
/** A third field needs this much more. */
const FIELD_WIDTH = 130;

/** The figure being asked for, at the work. Typing a digit anywhere on the drawing goes into it. */
export function CursorField() {
  const request = useTableState((s) => s.field);
  // Another set of fields is another question: it starts empty.
  return request ? <Question key={request.fields.map((f) => f.id).join()} request={request} /> : null;
}

function Question({ request }: { request: FieldRequest }) {
  const table = useTable();
  const view = useTableState((s) => s.view);
  const size = useTableState((s) => s.size);
  const insets = useTableState((s) => s.insets);
  const style = useFromModel(lengthStyle);
  const [values, setValues] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const inputs = useRef<Record<string, HTMLInputElement | null>>({});
  const { required } = request;
  const firstId = request.fields[0].id;

  useEffect(() => {
    if (required) inputs.current[firstId]?.focus();
  }, [required, firstId]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (/^[\d.,]$/.test(event.key)) {
        event.preventDefault();
        setValues((v) => ({ ...v, [firstId]: (v[firstId] ?? '') + event.key }));
        inputs.current[firstId]?.focus();
      } else if (event.key === 'Tab' && document.activeElement?.getAttribute('role') === 'application') {
        event.preventDefault();
        inputs.current[firstId]?.focus();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [firstId]);

  const commit = () => {
    const message = table.submitField(values);
    setProblem(message);
    if (message === null) setValues({});
  };
  const onKeyDown = (event: ReactKeyboardEvent, index: number) => {
    if (event.key === 'Enter') commit();
    else if (event.key === 'Escape') {
      setValues({});
      setProblem(null);
      if (required) table.currentTool.cancel();
      (document.querySelector('[role=application]') as HTMLElement | null)?.focus();
      table.showTool();
    } else if (event.key === 'Tab' && request.fields.length > 1) {
      const next = request.fields[(index + (event.shiftKey ? request.fields.length - 1 : 1)) % request.fields.length];
      inputs.current[next.id]?.focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const [sx, sy] = toScreen(view, request.at);
  const width = WIDTH + FIELD_WIDTH * Math.max(0, request.fields.length - 2);
  const x = Math.min(Math.max(sx + GAP, insets.left), size.width - insets.right - width), y = Math.min(Math.max(sy - 56, insets.top + 8), size.height - insets.bottom - 90);
  const readBack = request.fields.map((f) => read(f.unit, values[f.id], style)).filter(Boolean).join(', ');
  return (
    <Box data-testid="cursor-field" sx={{ position: 'absolute', left: x, top: y, bgcolor: '#17273a', color: '#fffefa', px: 1, py: 0.75, boxShadow: '0 3px 12px rgba(23,39,58,.3)', maxWidth: width + 28 }}>
      <Box sx={{ display: 'flex', gap: 1 }}>
        {request.fields.map((f, i) => (
          <Box key={f.id} component="label" sx={{ display: 'flex', alignItems: 'center', gap: 0.75, fontSize: 13 }}>
            {f.label}
            <Box component="input" ref={(el: HTMLInputElement | null) => { inputs.current[f.id] = el; }} value={values[f.id] ?? ''} placeholder={f.live} aria-label={f.label} autoComplete="off" spellCheck={false}
              onChange={(e: React.ChangeEvent<HTMLInputElement>) => { setValues({ ...values, [f.id]: e.target.value }); setProblem(null); }} onKeyDown={(e: ReactKeyboardEvent) => onKeyDown(e, i)}
              sx={{ width: f.unit === 'length' ? 92 : 62, font: 'inherit', fontVariantNumeric: 'tabular-nums', border: 0, px: 0.75, py: 0.25, color: '#17273a', bgcolor: '#fffefa', '&::placeholder': { color: '#55616d', opacity: 1 } }} />
          </Box>
        ))}
      </Box>
      {(problem || readBack || request.hint) && (
        <Typography role={problem ? 'alert' : undefined} sx={{ fontSize: 12, mt: 0.5, color: problem ? '#ffb9a3' : '#c9d2da', maxWidth: 280 }}>{problem ?? (readBack ? `${readBack} · Enter` : request.hint)}</Typography>
      )}
    </Box>
  );
}

/** What has been typed, read back, so that a unit is never misunderstood. */
function read(unit: Field['unit'], text: string | undefined, style: ReturnType<typeof lengthStyle>): string {
  if (!text?.trim()) return '';
  if (unit === 'number') return '';
  if (unit === 'angle') return parseAngle(text) === null ? '' : `${text.trim().replace(/°$/, '')}°`;
  const parsed = parseLength(text, style.units);
  return parsed.ok ? `= ${formatLengthWithUnit(parsed.mm, style)}` : '';
}
