'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import type { WallAlignment } from '@calque/core/model';
import { bandOf, plainBody } from '@calque/core/building';
import { ALIGNMENT_WORDS } from './wall-tool';

/** The drawing of each choice is the band that the program itself makes for it, with the drawn line upon it. */
const FROM: [number, number] = [4, 13],
  TO: [number, number] = [76, 13],
  THICKNESS = 13;

function Band({ alignment }: { alignment: WallAlignment }) {
  // On the page y goes down: what is left of the line lies above it.
  const ring = plainBody(bandOf({ id: '', from: FROM, to: TO, thickness: THICKNESS, alignment }));
  const up = (y: number) => 26 - y;
  return (
    <svg width={74} height={28} viewBox="0 -1 80 28" aria-hidden>
      <polygon
        points={ring.map(([x, y]) => `${x},${up(y)}`).join(' ')}
        fill="currentColor"
        fillOpacity={0.16}
        stroke="currentColor"
        strokeWidth={1.4}
      />
      <path
        d={`M${FROM[0]} ${up(FROM[1])}H${TO[0]}`}
        style={{ stroke: 'var(--mui-palette-now)' }}
        strokeWidth={2.4}
      />
    </svg>
  );
}

/** Which line of a wall is drawn: its middle, or one of its faces. */
export function FaceChoice({
  value,
  onChange,
}: {
  value: WallAlignment | null;
  onChange(alignment: WallAlignment): void;
}) {
  return (
    <Box role="group" aria-label="Alignment" sx={{ display: 'flex', gap: 0.5 }}>
      {(['centre', 'left', 'right'] as const).map((a) => (
        <ButtonBase
          key={a}
          aria-pressed={value === a}
          onClick={() => onChange(a)}
          sx={{
            flexDirection: 'column',
            flex: 1,
            pt: 0.75,
            pb: 0.5,
            fontSize: 12,
            fontWeight: value === a ? 650 : 500,
            border: 1,
            borderColor: value === a ? 'text.primary' : 'edge',
            bgcolor: value === a ? 'action.hover' : undefined,
          }}
        >
          <Band alignment={a} />
          {ALIGNMENT_WORDS[a]}
        </ButtonBase>
      ))}
    </Box>
  );
}
