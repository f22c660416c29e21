'use client';

import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo } from 'react';
import {
  applyTransform,
  flattenPiece,
  MM_PER_POINT,
  pieceBox,
  unionBox,
  type Box as PlaneBox,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import { get, kindOf, type Model, type Part } from '@calque/core/model';
import {
  figurePlaces,
  heldOnInk,
  inkOn,
  rulesOn,
  waysToMove,
  type FigurePlaces,
  type HeldFigure,
  type HeldView,
  type SeenPlane,
  type SolidView,
} from '@calque/core/part';
import {
  exactStyle,
  formatLength,
  formatLengthWithUnit,
  formatNumber,
  type LengthStyle,
} from '@calque/core/units';
import { CommandButton } from '@/commands/context';
import { useFromModel, useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import type { Marked } from '@/table/painters/marked';
import { PlanePath } from '@/table/painters/plane-path';
import { LengthField } from '@/ui/length-field';
import { isToScale, laidOn, useHeldFigures, useSeenPlanes } from './held';
import { setSheetSlack, toggleEdges, toggleHeld, useOnPlane } from './on-plane';
import { edgesSnapper } from './solid-edges';

/** What of a part's solid and rules is shown over the plane in hand: its figures, a way to move, its edges, and the solid held against the sheet. */
export function HeldCard({ part, planeId }: { part: Part; planeId: string }) {
  const table = useTable(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    loaded = useTableState((s) => s.sheetsLoaded),
    tool = useTableState((s) => s.toolId),
    edges = useTableState((s) => s.viewEdges),
    { held: isHeld, edges: finds, slack: wanted, way } = useOnPlane(),
    seen = useSeenPlanes(part).find((s) => s.plane.id === planeId) ?? null,
    { held: figures } = useHeldFigures(part);
  const here = laidOn(model, part.id).filter((u) => u.planeId === planeId),
    laid = here.filter(isToScale),
    paper = Math.max(0, ...laid.map((u) => Math.hypot(u.placement[0], u.placement[1]))) / MM_PER_POINT,
    slack = wanted ?? SLACK_ON_PAPER * (paper || 1);
  const view = useMemo(() => {
    if (!isHeld || !seen) return null;
    const box = boxAround(seen),
      inks = laidOn(model, part.id)
        .filter((u) => u.planeId === planeId && isToScale(u))
        .flatMap((u) => {
          const linework = table.sheets.get(u.fileId, u.page)?.linework;
          return linework ? [inkOn(u, linework, box)] : [];
        });
    const lines = new Float64Array(inks.flatMap((i) => [...i.lines])),
      drawn = new Uint8Array(inks.flatMap((i) => [...i.drawn]));
    return heldOnInk(seen.view, { lines, drawn }, slack);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isHeld, seen, model, part.id, planeId, table, slack, loaded]);
  const ways = useMemo(() => (way === null ? [] : waysToMove(model, planeId)), [model, planeId, way]);
  useEffect(() => {
    table.setMarked(
      marksOf(
        model,
        planeId,
        style,
        view,
        finds ? (seen?.view ?? null) : null,
        (figures?.figures ?? []).filter((f) => f.planeId === planeId),
        way === null
          ? []
          : (ways[way % Math.max(1, ways.length)] ?? []).flatMap((e) => kindOf(e).pieces(e as never)),
      ),
    );
    return () => table.setMarked(null);
  }, [table, model, planeId, style, view, figures, way, ways, tool, finds, seen]);
  useEffect(() => {
    table.setSolidEdges(finds && seen ? { planeId, snapper: edgesSnapper(seen.view) } : null);
    return () => table.setSolidEdges(null);
  }, [table, finds, seen, planeId]);
  return (
    <Box sx={{ my: 1 }} data-testid="held-card">
      {here.length > laid.length && (
        <Typography sx={{ color: 'assumed' }}>
          {here.length - laid.length === 1
            ? 'A sheet here is'
            : `${here.length - laid.length} sheets here are`}{' '}
          not to scale yet: bring it to scale, and its figures are offered and held against the solid.
        </Typography>
      )}
      {laid.length > 0 && (
        <FormControlLabel
          sx={{ ml: 0, mr: 1 }}
          control={<Switch size="small" checked={isHeld} onChange={toggleHeld} />}
          label="Hold the solid against the sheet"
        />
      )}
      <FormControlLabel
        sx={{ ml: 0, mr: 1 }}
        control={<Switch size="small" checked={finds} onChange={toggleEdges} />}
        label="Edges of the solid"
      />
      <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap' }}>
        <FormControlLabel
          sx={{ ml: 0, mr: 1 }}
          control={<Switch size="small" checked={edges} onChange={() => table.setViewEdges(!edges)} />}
          label="Edges of the other views"
        />
        <CommandButton id="part-align-view" label="Align by one" />
      </Box>
      {isHeld && laid.length > 0 && (
        <>
          <Typography
            role="status"
            data-testid="held-words"
            sx={{ color: view && (view.off.length > 0 || view.only.length > 0) ? 'differs' : 'known' }}
          >
            {view ? heldWords(view, slack, style) : 'There is no solid yet, or its views are being made …'}
          </Typography>
          <Box sx={{ mt: 1 }}>
            <LengthField
              exact
              label="Counts as the same within"
              positive
              value={slack}
              onChange={setSheetSlack}
            />
          </Box>
        </>
      )}
    </Box>
  );
}

/** Half of a line's width and what a draughtsman lets pass, millimetres of paper. */
const SLACK_ON_PAPER = 0.35;
const MARGIN = 5;

function boxAround({ view }: SeenPlane): PlaneBox {
  const boxes = [...view.visible, ...view.hidden].map(pieceBox),
    [x0, y0, x1, y1] = boxes.reduce(unionBox, boxes[0] ?? [0, 0, 0, 0]);
  return [x0 - MARGIN, y0 - MARGIN, x1 + MARGIN, y1 + MARGIN];
}

const heldWords = ({ share, off, only }: HeldView, slack: number, style: LengthStyle): string => {
  // Rounded down: all is said of all alone.
  const edges =
    off.length === 0 && share > 0
      ? 'All edges'
      : `${formatNumber(Math.floor(share * 1000) / 10, 1)} % of the edges`;
  return `${edges} of the solid that are seen here lie on lines of the sheet within ${formatLengthWithUnit(slack, exactStyle(slack, style))}; ${only.length === 0 ? 'no line within it is on the sheet alone' : `${count(only.length, 'line')} within it ${only.length === 1 ? 'is' : 'are'} on the sheet alone`}.`;
};

/** The solid against the sheet, what differs, and the way that is shown, beside the figures that drive. */
function marksOf(
  model: Model,
  planeId: string,
  style: LengthStyle,
  view: HeldView | null,
  shown: SolidView | null,
  figures: readonly HeldFigure[],
  moving: readonly Piece[],
): Marked {
  return {
    sets: [
      ...(shown
        ? [
            {
              path: pathOf([...shown.visible, ...shown.hidden].map((p) => flattenPiece(p, 0.1))),
              colour: 'found' as const,
              width: 1,
            },
          ]
        : []),
      ...(view
        ? [
            { path: pathOf(view.on), colour: 'known' as const, width: 2 },
            { path: pathOf(view.only), colour: 'assumed' as const, width: 2.5 },
            { path: pathOf(view.off), colour: 'differs' as const, width: 3 },
          ]
        : []),
      ...(moving.length > 0
        ? [{ path: pathOf(moving.map((p) => flattenPiece(p, 0.2))), colour: 'assumed' as const, width: 2 }]
        : []),
    ],
    labels: [
      ...drivingLabels(model, planeId, style),
      ...(view ? figures.filter((f) => !f.agrees).flatMap((f) => differenceLabel(model, f, style)) : []),
    ],
  };
}

type Label = NonNullable<Marked['labels']>[number];

function pathOf(rows: readonly (readonly Point[])[]): PlanePath {
  const path = new PlanePath();
  for (const row of rows) for (let i = 1; i < row.length; i++) path.segment(row[i - 1], row[i]);
  return path;
}

/** Figures that drive: beside the printed figure from which they were taken, else beside what they measure. */
const drivingLabels = (model: Model, planeId: string, style: LengthStyle): Label[] =>
  rulesOn(model, planeId).flatMap((rule) => {
    const places = figurePlaces(model, rule);
    if (!places || rule.value === null) return [];
    const value = Math.abs(rule.value),
      sign = rule.kind === 'diameter' ? '⌀ ' : rule.kind === 'radius' ? 'R ' : '',
      text =
        rule.kind === 'angle'
          ? `${formatNumber((value * 180) / Math.PI, 2)}°`
          : `${sign}${formatLength(value, exactStyle(value, style))}`,
      u = rule.printed ? get(model, 'underlay', rule.printed.underlayId) : undefined,
      at = u?.planeId === planeId ? applyTransform(u.placement, rule.printed!.at) : middleOf(places);
    return [{ at, text, colour: 'known' }];
  });

function middleOf(places: FigurePlaces): Point {
  if (places.kind === 'angle') return places.first[0];
  if (places.kind === 'straight')
    return [(places.from[0] + places.to[0]) / 2, (places.from[1] + places.to[1]) / 2];
  const { centre, radius } = places;
  return [centre[0] + radius * Math.SQRT1_2, centre[1] + radius * Math.SQRT1_2];
}

function differenceLabel(model: Model, f: HeldFigure, style: LengthStyle): Label[] {
  const u = get(model, 'underlay', f.underlayId),
    measured =
      f.model === null ? 'not in the solid' : `solid ${formatLength(f.model, exactStyle(f.model, style))}`;
  return u
    ? [
        {
          at: applyTransform(u.placement, f.at),
          text: f.words === '' ? measured : f.words,
          colour: 'differs',
        },
      ]
    : [];
}
