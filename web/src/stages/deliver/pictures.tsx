'use client';

import Box from '@mui/material/Box';
import { useEffect, useMemo, useState } from 'react';
import { writeSvg, type Drawing } from '@calque/core/exchange';
import { boxOfPoints } from '@calque/core/geometry';
import type { Seen } from '@calque/core/solids';
import { makeOfBuilding } from '@/project/building-task';
import { useProject } from '@/project/context';
import { hasSolids } from '@/project/seen';

/** From where the picture of the model is looked at, radians. */
const OUTLOOK = { round: -1.05, above: 0.5 } as const;
const HEIGHT = 118;
/** More shapes than a small picture shows anything of. */
const MOST_SHAPES = 20000;
/** The longer side of what is drawn small, millimetres of paper: lines have their usual weight there. */
const PAPER = 110;

/** A small picture of the solids, without what they hide. */
export function ModelPicture({ storeyId }: { storeyId: string | null }) {
  const model = useProject((s) => s.model);
  const [seen, setSeen] = useState<Seen | null>(null);
  useEffect(() => {
    if (!hasSolids(model)) return;
    const task = makeOfBuilding(
      model,
      { make: 'outlook', storeyId, ...OUTLOOK },
      {
        onEnd: (end) => setSeen('done' in end ? (end.done.seen ?? null) : null),
      },
    );
    return () => task.stop();
  }, [model, storeyId]);
  const path = useMemo(() => {
    if (!seen || seen.lines.length === 0) return null;
    const [x0, y0, x1, y1] = boxOfPoints(seen.lines.flatMap((l) => [l.from, l.to])),
      k = Math.min(240 / (x1 - x0), (HEIGHT - 8) / (y1 - y0)),
      at = ([x, y]: readonly [number, number]) => `${((x - x0) * k).toFixed(1)} ${((y1 - y) * k).toFixed(1)}`;
    return {
      d: seen.lines.map((l) => `M${at(l.from)}L${at(l.to)}`).join(''),
      width: (x1 - x0) * k,
      height: (y1 - y0) * k,
    };
  }, [seen]);
  if (!path) return null;
  return (
    <Box sx={{ height: HEIGHT, display: 'grid', placeItems: 'center', color: 'text.primary', mb: 0.75 }}>
      <svg
        viewBox={`-1 -1 ${path.width + 2} ${path.height + 2}`}
        width={path.width}
        height={path.height}
        role="img"
        aria-label="What the model holds"
      >
        <path d={path.d} stroke="currentColor" strokeWidth={0.7} fill="none" />
      </svg>
    </Box>
  );
}

/** A small picture of a drawing as it is delivered. */
export function DrawingPicture({ drawing }: { drawing: Drawing }) {
  const address = useMemo(() => {
    if (drawing.shapes.length === 0 || drawing.shapes.length > MOST_SHAPES) return null;
    const svg = writeSvg(drawing, { scale: 1, title: '', margin: 0 }),
      size = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg),
      longest = size ? Math.max(Number(size[1]), Number(size[2])) : 0;
    if (!(longest > 0)) return null;
    return `data:image/svg+xml;utf8,${encodeURIComponent(writeSvg(drawing, { scale: longest / PAPER, title: '', margin: 2 }))}`;
  }, [drawing]);
  if (!address) return null;
  return (
    <Box
      component="img"
      src={address}
      alt="What the drawing holds"
      sx={{
        width: '100%',
        height: HEIGHT,
        objectFit: 'contain',
        bgcolor: '#ffffff',
        border: 1,
        borderColor: 'edge',
        mb: 0.75,
        display: 'block',
      }}
    />
  );
}
