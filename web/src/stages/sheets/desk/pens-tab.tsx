'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { meanScale } from '@calque/core/geometry';
import { penKey, penUses, type Pen } from '@calque/core/linework';
import { formatLengthWithUnit } from '@calque/core/units';
import { useProject } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { penWords } from '@/project/pen-words';
import { useTable } from '@/table/context';
import { lightUp } from './marking';
import { SavedLooks } from './saved-looks';
import { SwitchRow } from './switch-row';
import { toggled, type Desk } from './use-desk';

const SHOWN_AT_FIRST = 12;

/** The pens that the author drew with: the thick one is usually the walls. */
export function PensTab({ desk }: { desk: Desk }) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const [all, setAll] = useState(false);
  const {
    underlay: u,
    look: { switches },
    linework: l,
    setSwitches,
  } = desk;
  const uses = useMemo(() => (l ? penUses(l) : []), [l]);
  if (!l) return <Typography color="text.secondary">The sheet is still being fetched.</Typography>;
  if (uses.length === 0)
    return <Typography color="text.secondary">Nothing on this sheet is drawn with a pen.</Typography>;
  const k = meanScale(u.placement),
    style = lengthStyle(model);
  const thickest = uses.reduce((a, b) => (l.pens[b.pen].width > l.pens[a.pen].width ? b : a)).pen;
  return (
    <Box>
      {(all ? uses : uses.slice(0, SHOWN_AT_FIRST)).map(({ pen, length }) => {
        const key = penKey(l.pens[pen]);
        const on = !switches.pens.includes(key);
        const words = penWords(l.pens[pen]) + (pen === thickest && uses.length > 1 ? ', the thickest' : '');
        return (
          <SwitchRow
            key={pen}
            label={words}
            sample={<Sample pen={l.pens[pen]} />}
            aside={formatLengthWithUnit(length * k, { ...style, precision: 0 })}
            on={on}
            onChange={() =>
              setSwitches({ ...switches, pens: toggled(switches.pens, key) }, `Pen ${on ? 'off' : 'on'}`)
            }
            onPoint={(over) => lightUp(table, u, l, over ? (_, p) => p === pen : null)}
          />
        );
      })}
      {uses.length > SHOWN_AT_FIRST && (
        <Button onClick={() => setAll(!all)}>
          {all ? 'Show the longest only' : `Show all ${uses.length} pens`}
        </Button>
      )}
      <SavedLooks desk={desk} />
    </Box>
  );
}

function Sample({ pen: { width, colour, dash } }: { pen: Pen }) {
  return (
    <svg width="38" height="14" aria-hidden style={{ background: '#fffefa', flexShrink: 0 }}>
      <line
        x1="2"
        x2="36"
        y1="7"
        y2="7"
        stroke={`#${colour.toString(16).padStart(6, '0')}`}
        strokeWidth={Math.max(0.6, Math.min(9, width * 1.33))}
        strokeDasharray={dash.length > 0 ? dash.map((d) => Math.max(1, d)).join(' ') : undefined}
      />
    </svg>
  );
}
