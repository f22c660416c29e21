'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { get, ofType, storeysOf, type Model, type PaperDrawing } from '@calque/core/model';
import { windowsOf } from '@calque/core/ready';
import { useFromModel, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { Row } from '../row';
import { addDrawing } from './changes';
import { ReadyDesk } from './ready-desk';

const NONE: readonly PaperDrawing[] = [];
export const drawingsOf = (model: Model): readonly PaperDrawing[] => {
  const all = ofType(model, 'paperDrawing');
  return all.length === 0 ? NONE : all;
};

/** Papers of one's own: what stands on them, and where they are opened. */
export function ReadyRow() {
  const session = useSession(),
    drawings = useFromModel(drawingsOf);
  const [open, setOpen] = useState<string | null>(null);
  const begin = () => {
    const { model } = session.state,
      first = [...storeysOf(model), ...ofType(model, 'plane')].find((p) => windowsOf(model, p.id).traced);
    const id = addDrawing(session, first ?? null);
    if (id) setOpen(id);
  };
  const shown = useFromModel((model) => (open ? get(model, 'paperDrawing', open) : null));
  return (
    <Row
      title="Ready drawings"
      words="A paper of your choice with a title block and one or more views, each at its scale, with or without the sheets beneath. Seen as it will print; written as PDF or SVG."
    >
      {drawings.map((d) => (
        <Button
          key={d.id}
          variant="outlined"
          onClick={() => setOpen(d.id)}
          sx={{ width: '100%', justifyContent: 'space-between', textAlign: 'left', overflowWrap: 'anywhere' }}
        >
          <span>{[d.number, d.name].filter((t) => t !== '').join(' ')}</span>
          <span>
            {d.paper}, {count(d.views.length, 'view')}
          </span>
        </Button>
      ))}
      <Button variant={drawings.length === 0 ? 'contained' : 'outlined'} onClick={begin}>
        New drawing
      </Button>
      {shown && <ReadyDesk drawing={shown} onClose={() => setOpen(null)} />}
    </Row>
  );
}
