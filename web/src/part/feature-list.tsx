'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import type { Part } from '@calque/core/model';
import { featureName, featuresOf } from '@calque/core/part';
import { useProject, useSession } from '@/project/context';
import { FeatureCard } from './feature-card';
import { partWorker, usePartSolid } from './part-solid';
import { openFeature, usePartUi } from './part-ui';

const MARKS = { made: '●', failed: '✕', off: '○' } as const;
const WORDS = { made: '', failed: 'not made', off: 'left out' } as const;

/** The features of a part in their order, with what became of each; one of them open. */
export function FeatureList({ part }: { part: Part }) {
  const { projectId } = useSession(),
    model = useProject((s) => s.model),
    all = featuresOf(model, part.id),
    open = usePartUi((s) => s.featureId),
    { states, making, why } = usePartSolid();
  const feature = all.find((f) => f.id === open);
  return (
    <Box data-testid="features">
      <Typography variant="h3">Features</Typography>
      {all.length === 0 && (
        <Typography color="text.secondary">
          None yet. Draw an outline on one of its planes, or take one from the sheet, select it, and extrude
          it.
        </Typography>
      )}
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {all.map((f) => {
          const state = states.find((s) => s.id === f.id)?.state;
          return (
            <li key={f.id}>
              <ButtonBase
                aria-pressed={f.id === open}
                onClick={() => openFeature(f.id === open ? null : f.id)}
                sx={{
                  width: '100%',
                  justifyContent: 'flex-start',
                  gap: 1,
                  px: 0.5,
                  py: 0.375,
                  textAlign: 'left',
                  borderLeft: 3,
                  borderColor: f.id === open ? 'now' : 'transparent',
                  '&:hover': { bgcolor: 'action.hover' },
                }}
              >
                <Box
                  component="span"
                  aria-hidden
                  sx={{
                    color: state === 'failed' ? 'differs' : state === 'made' ? 'known' : 'text.secondary',
                    width: 14,
                  }}
                >
                  {state ? MARKS[state] : '…'}
                </Box>
                <span>{featureName(f, all)}</span>
                <Typography variant="caption" color="text.secondary" sx={{ ml: 'auto' }}>
                  {state ? WORDS[state] : 'waits'}
                </Typography>
              </ButtonBase>
            </li>
          );
        })}
      </Box>
      {making && (
        <Box sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography role="status" color="text.secondary" sx={{ flex: 1 }}>
            {making.name === ''
              ? 'The kernel of solids is being made ready …'
              : `Being made: ${making.name}, ${making.done + 1} of ${making.of} …`}
          </Typography>
          <Button onClick={() => partWorker.stop()}>Stop</Button>
        </Box>
      )}
      {why && (
        <Box sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography role="status" sx={{ flex: 1, color: 'differs' }}>
            {why}
          </Typography>
          <Button onClick={() => partWorker.again(model, part.id, projectId)}>Make again</Button>
        </Box>
      )}
      {feature && <FeatureCard key={feature.id} feature={feature} />}
    </Box>
  );
}
