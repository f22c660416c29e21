'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { ofType } from '@calque/core/model';
import { ShowLink } from '@/commands/show-link';
import { useRegistry } from '@/commands/context';
import { useShown } from '@/commands/shown';
import type { StageId } from '@/commands/command';
import { useDelivered } from '@/project/delivered';
import { useLastMeasured } from '@/project/last-measured';
import { traceTally } from '@/project/trace-words';
import { useProject } from '@/project/context';
import { RIGHT_WIDTH } from '../measures';
import { stepAtHand, useFirstMinutes } from './state';
import { FIRST_STEPS, targetOf, type FirstStep } from './steps';

const STAGES: readonly StageId[] = ['sheets', 'calibrate', 'trace', 'check', 'deliver'];
/** Where things stand is looked up so often, milliseconds. */
const LOOK_MS = 300;

/** Room that the slip takes below the card. */
export const FIRST_MINUTES_ROOM = 168;

/** Are they still shown? */
export const useShowsFirstMinutes = (): boolean => useFirstMinutes((s) => !s.off);

/** The way from a file to something delivered, step by step, in place: below the card, where no plan is fitted. */
export function FirstMinutes({
  stage,
  bottom,
  compact,
}: {
  stage: StageId;
  bottom: number;
  compact: boolean;
}) {
  const { off, done, follow, putAway } = useFirstMinutes();
  const registry = useRegistry();
  const model = useProject((s) => s.model);
  const loaded = useProject((s) => s.loaded && s.opening === null);
  const measured = useLastMeasured((s) => s.figure !== null);
  const showing = useShown((s) => s.id !== null);
  const delivered = useDelivered((s) => s.times);
  useEffect(() => {
    // What a tool that is shown at work does is not what the person has done.
    if (!loaded || showing) return;
    const sheets = ofType(model, 'underlay');
    follow({
      sheets: sheets.length,
      scaled: sheets.filter((u) => u.scaleState === 'calibrated' || u.scaleState === 'own').length,
      traced: traceTally(model).total,
      // As it is now: what was measured while a tool was shown has been put back.
      measured: useLastMeasured.getState().figure !== null,
      delivered,
    });
  }, [loaded, showing, model, measured, delivered, follow]);
  if (off || !loaded) return null;
  const step = stepAtHand({ done });
  const shows = step?.shows ? registry.list.find((c) => c.id === step.shows) : undefined;
  return (
    <>
      {step && <Ring target={targetOf(step, stage, STAGES)} />}
      <Box
        component="section"
        aria-label="First minutes"
        sx={{
          position: 'absolute',
          right: 14,
          bottom: bottom + 10,
          width: compact ? 'auto' : RIGHT_WIDTH,
          bgcolor: 'slip',
          border: 1,
          borderColor: 'edge',
          borderLeft: 4,
          borderLeftColor: 'now',
          boxShadow: '0 4px 18px rgba(23,39,58,.14)',
          px: 1.5,
          py: compact ? 0.25 : 1,
          display: compact ? 'flex' : 'block',
          gap: 1,
          alignItems: 'center',
        }}
      >
        <Typography role="status" sx={{ fontWeight: 650 }}>
          {step
            ? `${FIRST_STEPS.indexOf(step) + 1} of ${FIRST_STEPS.length}: ${step.words}`
            : 'That is the whole way.'}
        </Typography>
        {!compact && (
          <Typography color="text.secondary" sx={{ mb: 0.5 }}>
            {step ? wordsFor(step, stage) : 'From a sheet to a drawing. All keys stand under “?”.'}
          </Typography>
        )}
        <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
          {shows && !compact ? <ShowLink command={shows} /> : <span />}
          <Button size="small" onClick={putAway}>
            {step ? 'Not again' : 'Close'}
          </Button>
        </Box>
      </Box>
    </>
  );
}

const wordsFor = (step: FirstStep, stage: StageId): string =>
  stage === step.stage ? step.how : `In ${step.stage[0].toUpperCase()}${step.stage.slice(1)}: ${step.how}`;

/** A ring round what is to be pressed. */
function Ring({ target }: { target: string }) {
  const [at, setAt] = useState<{ x: number; y: number; w: number; h: number } | null>(null);
  useEffect(() => {
    const look = () => {
      const box = document.querySelector(target)?.getBoundingClientRect();
      const next = box ? { x: box.x, y: box.y, w: box.width, h: box.height } : null;
      setAt((now) => (JSON.stringify(now) === JSON.stringify(next) ? now : next));
    };
    look();
    const again = setInterval(look, LOOK_MS);
    return () => clearInterval(again);
  }, [target]);
  if (!at) return null;
  return (
    <Box
      aria-hidden
      data-testid="first-target"
      sx={{
        position: 'fixed',
        left: at.x - 2,
        top: at.y - 2,
        width: at.w + 4,
        height: at.h + 4,
        border: 2,
        borderColor: 'now',
        pointerEvents: 'none',
        zIndex: 2,
      }}
    />
  );
}
