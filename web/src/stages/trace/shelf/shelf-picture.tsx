'use client';

import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { drawingOfElements, writeSvg } from '@calque/core/exchange';
import { boxOfPoints } from '@calque/core/geometry';
import { piecesOf, type Assembly, type Model, type ShelfThing } from '@calque/core/model';
import { useProject } from '@/project/context';
import { TypePicture } from '@/kinds/wall/type-picture';

/** A thing of the shelf at a glance: layers cut across, a group as it is drawn, an opening seen square on. */
export function ShelfPicture({ thing }: { thing: ShelfThing }) {
  if (thing.type === 'wallType') return <TypePicture layers={thing.layers} />;
  if (thing.type === 'assembly') return <GroupPicture group={thing} />;
  const wide = thing.width ?? 1000,
    top = Math.max(thing.head, 2400);
  return (
    <svg
      viewBox={`${-wide / 2 - 600} ${-top - 100} ${wide + 1200} ${top + 150}`}
      height={44}
      role="img"
      aria-label="Seen square on"
    >
      <g fill="none" stroke="currentColor" strokeWidth={35}>
        <path d={`M${-wide / 2 - 600} 0H${wide / 2 + 600}`} />
        <rect x={-wide / 2} y={-thing.head} width={wide} height={thing.head - thing.sill} />
      </g>
    </svg>
  );
}

/** More elements than a small picture shows. */
const MOST_DRAWN = 400;

function GroupPicture({ group }: { group: Assembly }) {
  const model = useProject((s) => s.model);
  const address = useMemo(() => pictureOf(model, group), [model, group]);
  return (
    <Box
      component="img"
      src={address}
      alt=""
      sx={{ height: 44, maxWidth: '100%', display: 'block', bgcolor: '#ffffff', objectFit: 'contain' }}
    />
  );
}

function pictureOf(model: Model, { name, elements }: Assembly): string {
  const some = elements.slice(0, MOST_DRAWN),
    [x0, y0, x1, y1] = boxOfPoints(
      some.flatMap((e) => piecesOf(e).flatMap((p) => (p.kind === 'segment' ? [p.from, p.to] : []))),
    ),
    // Its longer side takes some sixty millimetres of paper, so that lines have a usual weight.
    scale = Math.max((x1 - x0) / 60, (y1 - y0) / 60, 1e-3);
  const svg = writeSvg(drawingOfElements(model, some), {
    scale: Number.isFinite(scale) ? scale : 20,
    title: name,
    margin: 2,
  });
  return `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`;
}
