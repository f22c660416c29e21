'use client';

import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { IconMagnet, IconMagnetOff } from '@tabler/icons-react';
import { useEffect, useRef } from 'react';
import { SNAP_KINDS } from '@calque/core/snapping';
import { snapWords } from '@/stages/trace/snap-card';
import { useFloating } from '@/commands/floating';
import { MarkButton } from '@/ui/icon-button';
import { MM_PER, formatLength, formatLengthWithUnit, type LengthStyle } from '@calque/core/units';
import { get } from '@calque/core/model';
import { useFromModel, useProject } from '@/project/context';
import { doubtOf, useDoubts } from '@/project/doubts';
import { isImperial, lengthStyle, scaleWords } from '@/project/views';
import { SNAP_NAMES } from '@/table/snapping';
import { useTableState } from '@/table/context';
import type { Viewport } from '@/table/viewport';

const TICKS_HEIGHT = 14;
/** Ticks stand at least this many pixels apart. */
const SMALLEST_GAP = 7;

/** Steps of the ruler in millimetres: tens for metric, feet and inches for imperial projects. */
function stepFor(view: Viewport, style: LengthStyle): { tick: number; long: number } {
  const wanted = SMALLEST_GAP / view.scale;
  if (style.units === 'ft' || style.units === 'ft-in' || style.units === 'in') {
    const steps = [1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 3, 12, 60, 120, 600, 1200, 6000, 12000, 120000].map(
      (n) => n * MM_PER.in,
    );
    const tick = steps.find((s) => s >= wanted) ?? steps.at(-1)!;
    return { tick, long: steps.find((s) => s >= tick * 4) ?? tick * 10 };
  }
  const power = 10 ** Math.floor(Math.log10(wanted));
  const tick = [1, 2, 5, 10].map((m) => m * power).find((s) => s >= wanted)!;
  const head = tick / 10 ** Math.floor(Math.log10(tick * 1.0001));
  return { tick, long: Math.round(head) === 2 ? tick * 5 : tick * 10 };
}

/** What picks find, and the grid: opened where the words of the pick stand. */
function SnapMark() {
  const kinds = useTableState((s) => s.snapKinds);
  const { open, flip } = useFloating();
  const all = kinds.size === SNAP_KINDS.length;
  return (
    <MarkButton
      word={snapWords(kinds)}
      aria-expanded={open === 'picks'}
      onClick={() => flip('picks')}
      sx={{ ml: -1.5, height: 24, color: all ? 'text.secondary' : 'assumed' }}
    >
      {all ? <IconMagnet size={16} stroke={1.6} /> : <IconMagnetOff size={16} stroke={1.6} />}
    </MarkButton>
  );
}

/** Bottom ruler, truly to the drawing's scale; position, what is found, and scale in words. */
export function Ruler() {
  const view = useTableState((s) => s.view);
  const size = useTableState((s) => s.size);
  const pointer = useTableState((s) => s.pointer);
  const snap = useTableState((s) => s.snap);
  const only = useTableState((s) => s.snapOnly);
  const words = useTableState((s) => s.toolWords);
  const underlayId = useTableState((s) => s.underlayId);
  const problem = useTableState((s) => s.sheetProblem);
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const canvas = useRef<HTMLCanvasElement>(null);
  const palette = useTheme().vars?.palette;
  const doubts = useDoubts();
  const underlay = get(model, 'underlay', underlayId);

  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context || size.width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = size.width * ratio;
    element.height = TICKS_HEIGHT * ratio;
    context.scale(ratio, ratio);
    context.strokeStyle = getComputedStyle(element).color;
    const { tick, long } = stepFor(view, style);
    const first = Math.ceil(-view.x / view.scale / tick);
    const last = Math.floor((size.width - view.x) / view.scale / tick);
    context.beginPath();
    for (let i = first; i <= last; i++) {
      const x = Math.round(view.x + i * tick * view.scale) + 0.5;
      const isLong = Math.abs((i * tick) / long - Math.round((i * tick) / long)) < 1e-6;
      context.moveTo(x, 0);
      context.lineTo(x, isLong ? 11 : 5);
    }
    context.stroke();
  }, [view, size, style, palette]);

  const { long } = stepFor(view, style);
  return (
    <Box
      component="footer"
      sx={{
        position: 'absolute',
        inset: 'auto 0 0 0',
        height: 40,
        bgcolor: 'slip',
        borderTop: 1,
        borderColor: 'edge',
        overflow: 'hidden',
      }}
    >
      <Box
        component="canvas"
        ref={canvas}
        aria-hidden
        sx={{ display: 'block', width: '100%', height: TICKS_HEIGHT, color: 'text.secondary' }}
      />
      <Box
        sx={{
          display: 'flex',
          px: { xs: 1, md: 2 },
          gap: { xs: 1, md: 2.5 },
          fontSize: 12.5,
          alignItems: 'center',
          height: 24,
          whiteSpace: 'nowrap',
        }}
      >
        <Box component="b" data-testid="position" sx={{ minWidth: { xs: 110, md: 150 }, fontWeight: 650 }}>
          {pointer ? (
            <>
              x {formatLength(pointer[0], style)}&ensp;y {formatLength(pointer[1], style)}
            </>
          ) : (
            'x –  y –'
          )}
        </Box>
        <Box sx={{ color: 'found', fontWeight: 650, minWidth: 90 }} data-testid="snap">
          {only ? `this pick finds ${SNAP_NAMES[only]} alone · ` : ''}
          {snap ? `${snap.words}${snap.others > 0 ? ` · ${snap.others} more, N` : ''}` : ''}
        </Box>
        <SnapMark />
        <Box
          sx={{
            flex: 1,
            color: problem ? 'differs' : 'text.secondary',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          }}
          data-testid="tool-words"
          title={words}
        >
          {problem ?? words}
        </Box>
        <Box sx={{ color: 'text.secondary', display: { xs: 'none', md: 'block' } }}>
          {underlay
            ? `${underlay.name}: ${scaleWords(underlay, isImperial(model), doubtOf(underlay, doubts))}`
            : ''}
        </Box>
        <Box component="b" sx={{ fontWeight: 650 }}>
          {formatLengthWithUnit(long, style)} = {Math.round(long * view.scale)} px
        </Box>
      </Box>
    </Box>
  );
}
