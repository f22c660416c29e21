'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import type { Pair, PaperDrawing } from '@calque/core/model';
import type { LaidPaper, LaidView } from '@calque/core/ready';
import { useProject } from '@/project/context';
import { useTable } from '@/table/context';
import { readySvg } from './write';

/** Pixels of a millimetre of paper in the preview's sheets. */
const FINENESS = 4;
/** So long after the last change the paper is drawn anew, milliseconds. */
const CALM = 120;

interface Props {
  drawing: PaperDrawing;
  laid: LaidPaper;
  chosen: string | null;
  onChoose(id: string | null): void;
  onMove(id: string, at: Pair): void;
}

/** The paper as it will print; its views are moved by dragging, and by the arrows a millimetre at a time. */
export function PaperPreview({ drawing, laid, chosen, onChoose, onMove }: Props) {
  const { address, why } = usePicture(drawing);
  return (
    <Box
      sx={{
        position: 'relative',
        flex: 1,
        minWidth: 0,
        minHeight: 0,
        display: 'grid',
        placeItems: 'center',
        containerType: 'size',
      }}
    >
      <Box
        data-testid="ready-paper"
        onPointerDown={(e) => {
          if (e.target === e.currentTarget) onChoose(null);
        }}
        sx={{
          position: 'relative',
          aspectRatio: `${laid.width} / ${laid.height}`,
          // As large as it fits, whichever way it lies.
          width: `min(100cqw, ${(100 * laid.width) / laid.height}cqh)`,
          bgcolor: '#ffffff',
          boxShadow: '0 2px 14px rgba(23,39,58,.25)',
        }}
      >
        {address && (
          // eslint-disable-next-line @next/next/no-img-element -- drawn by ourselves, at its final size
          <img
            src={address}
            alt={`${drawing.name} as it will print`}
            draggable={false}
            style={{ width: '100%', height: '100%', display: 'block', pointerEvents: 'none' }}
          />
        )}
        {laid.views.map((view) => (
          <ViewFrame
            key={view.view.id}
            view={view}
            laid={laid}
            isChosen={chosen === view.view.id}
            onChoose={() => onChoose(view.view.id)}
            onMove={(at) => onMove(view.view.id, at)}
          />
        ))}
      </Box>
      <Typography
        role="status"
        variant="caption"
        sx={{ position: 'absolute', left: 8, bottom: 4, color: 'text.secondary' }}
      >
        {why ?? (address === null ? 'The paper is being drawn …' : '')}
      </Typography>
    </Box>
  );
}

/** The paper as a picture, drawn anew whenever the drawing or what it shows has changed. */
function usePicture(drawing: PaperDrawing): { address: string | null; why: string | null } {
  const table = useTable(),
    model = useProject((s) => s.model);
  const [shown, setShown] = useState<{ address: string | null; why: string | null }>({
    address: null,
    why: null,
  });
  const last = useRef<string | null>(null);
  useEffect(() => {
    let isWanted = true;
    const draw = async () => {
      try {
        const { svg, whole } = await readySvg(table, model, drawing, FINENESS, () => isWanted);
        if (!isWanted) return;
        const address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
        if (last.current) URL.revokeObjectURL(last.current);
        last.current = address;
        setShown({ address, why: whole ? null : 'A sheet is not drawn to the end yet.' });
      } catch (error) {
        if (isWanted)
          setShown((s) => ({ ...s, why: error instanceof Error ? error.message : String(error) }));
      }
    };
    const soon = setTimeout(() => void draw(), last.current ? CALM : 0);
    return () => {
      isWanted = false;
      clearTimeout(soon);
    };
  }, [table, model, drawing]);
  useEffect(
    () => () => {
      if (last.current) URL.revokeObjectURL(last.current);
    },
    [],
  );
  return shown;
}

const ARROWS: Readonly<Record<string, Pair>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** The frame of a view over the paper, by which it is taken. */
function ViewFrame({
  view,
  laid,
  isChosen,
  onChoose,
  onMove,
}: {
  view: LaidView;
  laid: LaidPaper;
  isChosen: boolean;
  onChoose(): void;
  onMove(at: Pair): void;
}) {
  const [drag, setDrag] = useState<{ from: Pair; by: Pair; millimetre: number } | null>(null);
  const { box } = view,
    [dx, dy] = drag?.by ?? [0, 0],
    share = (v: number, of: number) => `${(100 * v) / of}%`;
  const end = () => {
    if (drag && (drag.by[0] !== 0 || drag.by[1] !== 0))
      onMove([tenth(view.view.at[0] + drag.by[0]), tenth(view.view.at[1] + drag.by[1])]);
    setDrag(null);
  };
  return (
    <Box
      role="button"
      tabIndex={0}
      aria-pressed={isChosen}
      aria-label={`${view.caption || 'Page'}${view.scaleText ? ` at ${view.scaleText}` : ''}: drag it, or move it by the arrows`}
      onFocus={onChoose}
      onKeyDown={(e) => {
        const by = ARROWS[e.key];
        if (!by) return;
        e.preventDefault();
        const step = e.shiftKey ? 10 : 1;
        onMove([tenth(view.view.at[0] + step * by[0]), tenth(view.view.at[1] + step * by[1])]);
      }}
      onPointerDown={(e) => {
        onChoose();
        const paper = e.currentTarget.parentElement!.getBoundingClientRect();
        e.currentTarget.setPointerCapture(e.pointerId);
        setDrag({ from: [e.clientX, e.clientY], by: [0, 0], millimetre: paper.width / laid.width });
      }}
      onPointerMove={(e) => {
        if (drag)
          setDrag({
            ...drag,
            by: [(e.clientX - drag.from[0]) / drag.millimetre, (drag.from[1] - e.clientY) / drag.millimetre],
          });
      }}
      onPointerUp={end}
      onPointerCancel={() => setDrag(null)}
      sx={{
        position: 'absolute',
        left: share(box[0] + dx, laid.width),
        bottom: share(box[1] + dy, laid.height),
        width: share(box[2] - box[0], laid.width),
        height: share(box[3] - box[1], laid.height),
        outline: '1px dashed',
        outlineColor: isChosen ? 'primary.main' : 'rgba(85,97,109,.45)',
        outlineWidth: isChosen ? 2 : 1,
        cursor: drag ? 'grabbing' : 'grab',
        touchAction: 'none',
        '&:focus-visible': { outlineStyle: 'solid' },
      }}
    />
  );
}

const tenth = (v: number) => Math.round(v * 10) / 10;
