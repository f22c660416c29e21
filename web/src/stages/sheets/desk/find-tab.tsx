'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { applyTransform, transformBox } from '@calque/core/geometry';
import { textShows, type PageText } from '@calque/core/linework';
import { useTable } from '@/table/context';
import { sheetPath } from '@/table/painters/marked';
import type { Desk } from './use-desk';

const MOST_LISTED = 60;
/** Room shown round a text, in its heights. */
const AROUND = 14;

/** Finds words on the sheet (rooms, doors, notes) and goes to them. */
export function FindTab({ desk: { underlay: u, look, linework: l } }: { desk: Desk }) {
  const table = useTable();
  const [words, setWords] = useState('');
  if (!l) return <Typography color="text.secondary">The sheet is still being fetched.</Typography>;
  if (l.texts.length === 0)
    return (
      <Typography color="text.secondary">
        {l.content === 'scan'
          ? 'This sheet is a scan: it has no texts that can be searched.'
          : 'The texts of this sheet are drawn as outlines or have no letters behind them: they cannot be searched.'}
      </Typography>
    );
  const wanted = words.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const inCrop = (t: PageText) =>
    t.x >= u.crop[0] && t.x <= u.crop[2] && t.y >= u.crop[1] && t.y <= u.crop[3];
  const found =
    wanted.length === 0
      ? []
      : l.texts.filter(
          (t) =>
            textShows(l, look.switches, t) &&
            inCrop(t) &&
            wanted.every((w) => t.text.toLowerCase().includes(w)),
        );
  const goTo = (t: PageText) => {
    const c = Math.cos(t.radians),
      s = Math.sin(t.radians),
      h = t.height;
    const corners = [
      [0, -0.25 * h],
      [t.width, -0.25 * h],
      [t.width, h],
      [0, h],
    ].map(([a, b]) => applyTransform([c, s, -s, c, t.x, t.y], [a, b]));
    table.setMarked({
      sets: [
        {
          path: sheetPath(
            corners.map((p, i) => [...p, ...corners[(i + 1) % 4]]),
            u.placement,
          ),
          colour: 'found',
          width: 2.5,
        },
      ],
    });
    const r = AROUND * h + t.width;
    table.show(transformBox(u.placement, [t.x - r, t.y - r, t.x + r, t.y + r]));
  };
  return (
    <Box onMouseLeave={() => table.setMarked(null)}>
      <TextField
        fullWidth
        label="Words on this sheet"
        placeholder="Crew room"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && found[0]) goTo(found[0]);
        }}
      />
      {wanted.length > 0 && (
        <Typography variant="caption" color="text.secondary">
          {found.length === 0
            ? 'Nothing on what is laid of this sheet reads so.'
            : `${found.length === 1 ? 'One place' : `${found.length} places`}${found.length > MOST_LISTED ? `, the first ${MOST_LISTED} listed` : ''}`}
        </Typography>
      )}
      {found.slice(0, MOST_LISTED).map((t, i) => (
        <ButtonBase
          key={i}
          onClick={() => goTo(t)}
          sx={{
            display: 'block',
            width: '100%',
            textAlign: 'left',
            py: 0.4,
            borderBottom: 1,
            borderColor: 'edge',
          }}
        >
          {t.text}
        </ButtonBase>
      ))}
    </Box>
  );
}
