'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo } from 'react';
import {
  applyTransform,
  flattenPiece,
  type Box as PlaneBox,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import { kindOf, type Model, type Part } from '@calque/core/model';
import {
  figurePlaces,
  heldOnInk,
  inkOn,
  planeState,
  rulesOn,
  waysToMove,
  type HeldFigure,
  type HeldView,
  type SeenPlane,
} from '@calque/core/part';
import { formatLength, formatLengthWithUnit, formatNumber, type LengthStyle } from '@calque/core/units';
import { CommandButton } from '@/commands/context';
import { useFromModel, useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import type { Marked } from '@/table/painters/marked';
import { PlanePath } from '@/table/painters/plane-path';
import { LengthField } from '@/ui/length-field';
import { laidOn, useHeldFigures, useSeenPlanes } from './held';
import { setSheetSlack, showWay, toggleHeld, useOnPlane } from './on-plane';

const MM_PER_POINT = 25.4 / 72;

/** What of a part's solid and rules is shown over the plane in hand: its figures, how it can move, and the solid held against the sheet. */
export function HeldCard({ part, planeId }: { part: Part; planeId: string }) {
  const table = useTable(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    loaded = useTableState((s) => s.sheetsLoaded),
    tool = useTableState((s) => s.toolId),
    edges = useTableState((s) => s.viewEdges),
    { held: isHeld, slack: wanted, way } = useOnPlane(),
    seen = useSeenPlanes(part).find((s) => s.plane.id === planeId) ?? null,
    { held: figures } = useHeldFigures(part);
  const laid = laidOn(model, part.id).filter((u) => u.planeId === planeId),
    paper = Math.max(0, ...laid.map((u) => Math.hypot(u.placement[0], u.placement[1]))) / MM_PER_POINT,
    slack = wanted ?? SLACK_ON_PAPER * (paper || 1);
  const view = useMemo(() => {
    if (!isHeld || !seen) return null;
    const box = boxAround(seen),
      inks = laidOn(model, part.id)
        .filter((u) => u.planeId === planeId)
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
        (figures?.figures ?? []).filter((f) => f.planeId === planeId),
        way === null
          ? []
          : (ways[way % Math.max(1, ways.length)] ?? []).flatMap((e) => kindOf(e).pieces(e as never)),
      ),
    );
    return () => table.setMarked(null);
  }, [table, model, planeId, style, view, figures, way, ways, tool]);
  const state = useMemo(
    () => (rulesOn(model, planeId).length > 0 ? planeState(model, planeId) : null),
    [model, planeId],
  );
  return (
    <Box sx={{ my: 1 }} data-testid="held-card">
      {laid.length > 0 && (
        <FormControlLabel
          control={<Switch size="small" checked={isHeld} onChange={toggleHeld} />}
          label="Hold the solid against the sheet"
        />
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap' }}>
        <FormControlLabel
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
            sx={{ color: view && (view.share < 1 || view.only.length > 0) ? 'differs' : 'known' }}
          >
            {view ? heldWords(view, slack, style) : 'There is no solid yet, or its views are being made …'}
          </Typography>
          <LengthField label="Counts as the same within" positive value={slack} onChange={setSheetSlack} />
        </>
      )}
      {state && state.freedom > 0 && state.contradictory.length === 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
          <Button variant="outlined" onClick={() => showWay(way === null ? 0 : way + 1)}>
            {way === null ? 'Show what can move' : 'The next way'}
          </Button>
          {way !== null && <Button onClick={() => showWay(null)}>Done</Button>}
          {way !== null && (
            <Typography color="text.secondary">
              {ways.length === 0
                ? 'Only what no rule names: it moves freely.'
                : `way ${(way % ways.length) + 1} of ${ways.length}`}
            </Typography>
          )}
        </Box>
      )}
    </Box>
  );
}

/** Half of a line's width and what a draughtsman lets pass, millimetres of paper. */
const SLACK_ON_PAPER = 0.35;
const MARGIN = 5;

function boxAround({ view }: SeenPlane): PlaneBox {
  const points = [...view.visible, ...view.hidden].flatMap((p) => flattenPiece(p, 1));
  const xs = points.map((p) => p[0]),
    ys = points.map((p) => p[1]);
  return [
    Math.min(...xs) - MARGIN,
    Math.min(...ys) - MARGIN,
    Math.max(...xs) + MARGIN,
    Math.max(...ys) + MARGIN,
  ];
}

const heldWords = ({ share, only }: HeldView, slack: number, style: LengthStyle): string => {
  // Rounded down: all is said of all alone.
  const edges =
    share === 1 ? 'All edges' : `${formatNumber(Math.floor(share * 1000) / 10, 1)} % of the edges`;
  return `${edges} of the solid that are seen here lie on lines of the sheet within ${formatLengthWithUnit(slack, { ...style, precision: Math.max(2, style.precision) })}; ${only.length === 0 ? 'no line within it is on the sheet alone' : `${count(only.length, 'line')} within it ${only.length === 1 ? 'is' : 'are'} on the sheet alone`}.`;
};

/** The figures that drive and, where they are asked for, the solid with what differs and the way that is shown. */
function marksOf(
  model: Model,
  planeId: string,
  style: LengthStyle,
  view: HeldView | null,
  figures: readonly HeldFigure[],
  moving: readonly Piece[],
): Marked {
  const path = (rows: readonly (readonly Point[])[]) => {
    const p = new PlanePath();
    for (const row of rows) for (let i = 1; i < row.length; i++) p.segment(row[i - 1], row[i]);
    return p;
  };
  const fine = { ...style, precision: Math.max(style.precision, style.units === 'mm' ? 2 : 3) },
    driving = rulesOn(model, planeId).flatMap((rule) => {
      const places = figurePlaces(model, rule);
      if (!places || rule.value === null) return [];
      const value = Math.abs(rule.value),
        text =
          rule.kind === 'angle'
            ? `${formatNumber((value * 180) / Math.PI, 2)}°`
            : `${rule.kind === 'diameter' ? '⌀ ' : rule.kind === 'radius' ? 'R ' : ''}${formatLength(value, wholeStyle(value, style, fine))}`,
        at: Point =
          places.kind === 'straight'
            ? [(places.from[0] + places.to[0]) / 2, (places.from[1] + places.to[1]) / 2]
            : places.kind === 'round'
              ? [
                  places.centre[0] + places.radius * Math.SQRT1_2,
                  places.centre[1] + places.radius * Math.SQRT1_2,
                ]
              : places.first[0];
      return [
        {
          at,
          text,
          colour: 'known' as const,
          line: places.kind === 'straight' && places.measures !== 'aligned' ? [places.from, places.to] : null,
        },
      ];
    });
  return {
    sets: [
      ...(view
        ? [
            { path: path(view.on), colour: 'known' as const, width: 2 },
            { path: path(view.only), colour: 'assumed' as const, width: 2.5 },
            { path: path(view.off), colour: 'differs' as const, width: 3 },
          ]
        : []),
      ...(moving.length > 0
        ? [{ path: path(moving.map((p) => flattenPiece(p, 0.2))), colour: 'assumed' as const, width: 2 }]
        : []),
    ],
    labels: [
      ...driving.map(({ at, text, colour }) => ({ at, text, colour })),
      ...(view
        ? figures
            .filter((f) => !f.agrees)
            .flatMap((f) => {
              const u = model.get(f.underlayId);
              return u?.type === 'underlay'
                ? [
                    {
                      at: applyTransform(u.placement, f.at),
                      text:
                        f.words !== ''
                          ? f.words
                          : f.model === null
                            ? 'not in the solid'
                            : `solid ${formatLength(f.model, fine)}`,
                      colour: 'differs' as const,
                    },
                  ]
                : [];
            })
        : []),
    ],
  };
}

/** What is whole is written whole. */
const wholeStyle = (value: number, style: LengthStyle, fine: LengthStyle): LengthStyle =>
  style.units === 'mm' && Math.abs(value - Math.round(value)) < 0.005 ? style : fine;
