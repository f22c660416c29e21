'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { setFields, WAYS_OF_MAKING, type Part, type WayOfMaking } from '@calque/core/model';
import { LIMIT_WORDS, limitsOf, type LimitName, type MakingCheck } from '@calque/core/part';
import { formatNumber } from '@calque/core/units';
import { useSession } from '@/project/context';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { Choice } from './forms/fields';
import { usePartSolid } from './part-solid';
import { usePartUi } from './part-ui';
import { Unfold } from './unfold';

const WAYS: Readonly<Record<WayOfMaking, string>> = {
  milling: 'milling, three axes',
  turning: 'turning',
  drilling: 'drilling',
  cutting: 'laser or water cutting',
  bending: 'bending of sheet',
};
/** More rows than anybody reads in a card. */
const MOST = 20;
const readFigure = (text: string): number | null => {
  const v = Number(text.replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(v) && v >= 0 && v <= 1e6 ? v : null;
};

/** Can it be made: what speaks against it, each with its place, by limits that can be set. */
export function MakingCard({ part }: { part: Part }) {
  const session = useSession(),
    checks = usePartSolid((s) => s.solid?.checks ?? null),
    [lit, setLit] = useState<MakingCheck | null>(null);
  const set = (fields: Partial<Part>, label: string) => session.do(setFields<Part>(part, fields), label);
  if (!checks) return null;
  const limits = limitsOf(part);
  return (
    <Box sx={{ mt: 1.5 }} data-testid="part-checks">
      <Typography variant="h3">Can it be made?</Typography>
      <Box sx={{ my: 1, '& .MuiTextField-root': { width: '100%' } }}>
        <Choice
          label="By"
          value={part.way}
          options={WAYS_OF_MAKING.map((w) => [w, WAYS[w]] as const)}
          onChange={(way) => set({ way, limits: null }, `Make ${part.name} by ${way}`)}
        />
      </Box>
      <Typography role="status" sx={{ color: checks.length > 0 ? 'assumed' : 'text.secondary' }}>
        {checks.length === 0
          ? 'Nothing that is checked here speaks against it.'
          : checks.length === 1
            ? 'One thing speaks against it:'
            : `${checks.length} things speak against it:`}
      </Typography>
      {checks.slice(0, MOST).map((c, i) => (
        <ButtonBase
          key={i}
          aria-pressed={lit === c}
          onClick={() => {
            setLit(c);
            usePartUi.setState({ faces: c.faces, edges: [], lit: [c.at] });
          }}
          sx={{
            display: 'block',
            width: '100%',
            textAlign: 'left',
            borderLeft: 3,
            borderColor: lit === c ? 'now' : 'assumed',
            pl: 1,
            py: 0.25,
            my: 0.5,
          }}
        >
          {c.words}
        </ButtonBase>
      ))}
      {checks.length > MOST && <Typography variant="caption">and {checks.length - MOST} more</Typography>}
      <Unfold words="Limits">
        <Box sx={{ ...TWO_COLUMNS, mt: 1 }}>
          {(Object.keys(LIMIT_WORDS) as LimitName[]).map((name) => (
            <FigureField
              key={name}
              label={LIMIT_WORDS[name]}
              value={limits[name]}
              shown={(v) => formatNumber(v, 3).replace(/\.?0+$/, '')}
              read={readFigure}
              wrong="A figure of 0 or more"
              onChange={(v) =>
                set({ limits: { ...part.limits, [name]: v } }, `Limit: ${LIMIT_WORDS[name].toLowerCase()}`)
              }
            />
          ))}
        </Box>
      </Unfold>
    </Box>
  );
}
