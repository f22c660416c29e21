'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { boxOfPoints, grownBox } from '@calque/core/geometry';
import type { Proposals, Told } from '@calque/core/proposals';
import { formatLengthWithUnit } from '@calque/core/units';
import { CommandButton } from '@/commands/context';
import { useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import {
  DOUBTFUL,
  doOffersHold,
  isRefused,
  offersOf,
  openOffers,
  refuseOffers,
  takeOffers,
  wordsFor,
  roomsThatClose,
} from './offers';
import { Pens } from './pens';
import type { Offer } from './offer';
import { lookAtSheet, stopLooking, useOffers } from './seen';

/** So much is shown around a doubtful one that is looked at, millimetres. */
const AROUND = 1500;

/** What the sheet is seen to show, and what can be done with it. */
export function SeenCard() {
  const table = useTable(),
    seen = useOffers(),
    // What is offered follows the model.
    model = useProject((s) => s.model);
  const planeId = useTableState((s) => s.planeId),
    underlayId = useTableState((s) => s.underlayId),
    holds = seen.state !== 'seen' || doOffersHold(table, seen);
  // Another sheet, or one that lies otherwise now, is looked at anew.
  useEffect(() => {
    if (!holds) lookAtSheet(table);
  }, [holds, model, planeId, underlayId, table]);
  if (seen.state === 'none') return null;
  if (seen.state === 'looking')
    return (
      <Box data-testid="seen">
        <Typography sx={{ mb: 0.5 }}>
          {seen.share === null ? 'Calque looks at the sheet …' : 'Calque reads the ink of the scan …'}
        </Typography>
        <LinearProgress
          sx={{ mb: 1 }}
          {...(seen.share !== null && { variant: 'determinate', value: 100 * seen.share })}
        />
        <Button onClick={stopLooking}>Stop</Button>
      </Box>
    );
  if (seen.state === 'failed' || !seen.proposals)
    return (
      <Box data-testid="seen">
        <Typography sx={{ mb: 1 }}>{seen.why}</Typography>
        {seen.why.includes('not to scale') ? (
          <CommandButton id="stage-calibrate" label="Bring it to scale" sx={{ bgcolor: 'slip' }} />
        ) : (
          <Button variant="outlined" onClick={() => lookAtSheet(table)}>
            Look again
          </Button>
        )}
      </Box>
    );
  const open = openOffers(table, seen),
    there = offersOf(table, seen).filter((o) => !isRefused(seen, o)).length - open.length;
  return (
    <Box data-testid="seen">
      <Typography sx={{ mb: 1 }} data-testid="seen-words">
        {sentence(seen.proposals)}
        {there > 0 &&
          ` ${there === 1 ? 'One' : there} of this ${there === 1 ? 'is' : 'are'} in the model already.`}
      </Typography>
      <TakeAll open={open} />
      <Classes open={open} proposals={seen.proposals} />
      <Doubtful open={open} />
      <Pens proposals={seen.proposals} />
    </Box>
  );
}

/** "Calque sees 31 walls in 3 thicknesses, 12 doors, 9 windows, 8 rooms, 4 columns." */
export function sentence(p: Proposals): string {
  const of = (kind: string) => p.openings.filter((o) => o.kind === kind).length,
    thick = p.classes.length > 1 ? ` in ${p.classes.length} thicknesses` : '';
  const parts = [
    p.walls.length > 0 ? `${count(p.walls.length, 'wall')}${thick}` : '',
    ...(
      [
        [of('door'), 'door'],
        [of('window'), 'window'],
        [of('gap'), 'open gap'],
        [p.rooms.length, 'room'],
        [p.columns.length, 'column'],
        [p.grid.length, 'grid line'],
        [p.stairs.length, 'flight of stairs', 'flights of stairs'],
        [p.north ? 1 : 0, 'north arrow'],
        [p.levels.length, 'level'],
        [p.members.length, 'member'],
      ] as const
    ).map(([n, word, many]) => (n > 0 ? count(n, word, many) : '')),
  ].filter(Boolean);
  return parts.length > 0
    ? `Calque sees ${parts.join(', ')}.`
    : 'Calque sees no walls and no members here. Is the sheet to its right scale, and its layers on? Else take walls one by one, or trace them.';
}

/** All that is offered and not doubtful, at once. */
function TakeAll({ open }: { open: readonly Offer[] }) {
  const table = useTable(),
    walls = open.filter((o) => !o.ring && o.confidence >= DOUBTFUL),
    sure = [...walls, ...roomsThatClose(table, open, walls)];
  if (open.length === 0)
    return (
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        All of it is taken or refused.
      </Typography>
    );
  return (
    <Box sx={{ mb: 1.25 }}>
      {sure.length > 0 && (
        <Button variant="contained" onClick={() => takeOffers(table, sure)} fullWidth>
          Take {wordsFor(sure)}
        </Button>
      )}
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.5 }}>
        Walls come with their openings. Nothing is drawn before you take it, and one undo takes it back.
      </Typography>
    </Box>
  );
}

/** A field that has come in place of its words is typed into at once. */
const focusField = (row: HTMLElement | null): void => row?.querySelector('input')?.focus();

/** What is thinner is no wall, millimetres. */
const THINNEST = 10;

/** As thick as walls were seen that a person has said to be otherwise. */
const seenThick = (thickness: number, { asThick = [] }: Told): number =>
  asThick.find((a) => Math.abs(a.is - thickness) < 0.05)?.was ?? thickness;

function Row({
  words,
  more,
  onTake,
  onRefuse,
  name,
  thickness,
  onThickness,
}: {
  words: string;
  more: string;
  name: string;
  onTake: (() => void) | null;
  onRefuse: (() => void) | null;
  /** Of walls: what can be said to be otherwise. */
  thickness?: number;
  onThickness?(mm: number): void;
}) {
  const [changes, setChanges] = useState(false);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, py: 0.25 }}>
      <Box sx={{ flex: 1, minWidth: 0 }} onBlur={() => setChanges(false)}>
        {changes && thickness !== undefined ? (
          <Box ref={focusField}>
            {' '}
            <LengthField
              label="As thick as"
              value={thickness}
              exact
              least={THINNEST}
              onChange={(mm) => {
                setChanges(false);
                onThickness?.(mm);
              }}
            />
          </Box>
        ) : (
          <Typography
            {...(onThickness && {
              component: 'button',
              onClick: () => setChanges(true),
              title: 'Say how thick they are',
              sx: { all: 'unset', cursor: 'pointer', textDecoration: 'underline dotted' },
            })}
          >
            {words}
          </Typography>
        )}
        <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
          {more}
        </Typography>
      </Box>
      {onTake && (
        <Button size="small" variant="outlined" onClick={onTake} aria-label={`Take ${name}`}>
          Take
        </Button>
      )}
      {onRefuse && (
        <Button size="small" onClick={onRefuse} aria-label={`Refuse ${name}`}>
          Refuse
        </Button>
      )}
    </Box>
  );
}

/** Walls by their thickness, and the other kinds. */
function Classes({ open, proposals }: { open: readonly Offer[]; proposals: Proposals }) {
  const table = useTable(),
    model = useProject((s) => s.model),
    style = lengthStyle(model),
    rows = proposals.classes.flatMap((thickness, i) => {
      const of = open.filter((o) => o.thicknessClass === i);
      if (of.length === 0) return [];
      const length = of.reduce(
          (sum, { shape: s }) =>
            s.type === 'wall' ? sum + Math.hypot(s.to[0] - s.from[0], s.to[1] - s.from[1]) : sum,
          0,
        ),
        words = `${formatLengthWithUnit(thickness, style)} thick`;
      return [
        <Row
          key={i}
          words={words}
          name={`walls ${words}`}
          more={`${count(of.length, 'wall')}, ${formatLengthWithUnit(length, style)} long`}
          onTake={() => takeOffers(table, of)}
          onRefuse={() => {
            const { told } = useOffers.getState();
            lookAtSheet(table, { ...told, notThick: [...told.notThick, seenThick(thickness, told)] });
          }}
          thickness={thickness}
          onThickness={(is) => {
            const { told } = useOffers.getState(),
              was = seenThick(thickness, told),
              others = (told.asThick ?? []).filter((a) => a.was !== was);
            lookAtSheet(table, { ...told, asThick: [...others, { was, is }] });
          }}
        />,
      ];
    });
  const others = (
    [
      ['column', 'column', ''],
      ['stair', 'stair', 'by their treads'],
      ['symbol', 'mark', 'north, levels'],
      ['member', 'member', 'by what is written along them'],
      ['gridLine', 'grid line', ''],
      ['space', 'room', 'as their walls close them'],
    ] as const
  ).flatMap(([type, word, more]) => {
    const of = open.filter((o) => o.shape.type === type);
    if (of.length === 0) return [];
    // Rooms are taken where their walls stand.
    const ready = type === 'space' ? roomsThatClose(table, open, []) : of,
      some = ready.length < of.length ? `${ready.length} of them: take their walls first` : more;
    return [
      <Row
        key={type}
        words={count(of.length, word)}
        name={`${word}s`}
        more={ready.length === 0 ? 'when their walls are taken' : some}
        onTake={ready.length === 0 ? null : () => takeOffers(table, ready)}
        onRefuse={() => refuseOffers(of)}
      />,
    ];
  });
  return (
    <Box sx={{ mb: 1 }} data-testid="seen-classes">
      {rows}
      {others}
    </Box>
  );
}

/** Those that are doubtful, one after the other, each with why. */
function Doubtful({ open }: { open: readonly Offer[] }) {
  const table = useTable(),
    walked = useOffers((s) => s.walked),
    doubtful = open
      .filter((o) => o.confidence < DOUBTFUL && !o.ring)
      .sort((a, b) => a.confidence - b.confidence);
  if (doubtful.length === 0) return null;
  const at = doubtful.findIndex((o) => o.key === walked),
    now = at < 0 ? null : doubtful[at];
  const walk = (o: Offer | undefined) => {
    useOffers.setState({ walked: o?.key ?? null });
    if (o) table.show(grownBox(boxOfPoints(pointsOf(o)), AROUND));
    table.repaint('overlay');
  };
  const next = doubtful[(at + 1) % doubtful.length];
  return (
    <Box sx={{ borderLeft: 4, borderColor: 'assumed', pl: 1, mb: 1 }} data-testid="seen-doubtful">
      <Typography>
        {doubtful.length === 1 ? 'One of them is' : `${doubtful.length} of them are`} doubtful
      </Typography>
      {now && (
        <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
          {at + 1} of {doubtful.length}: {surely(now).join('; ')}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
        {now && (
          <>
            <Button
              size="small"
              variant="outlined"
              onClick={() => {
                takeOffers(table, [now]);
                walk(next === now ? undefined : next);
              }}
            >
              Take it
            </Button>
            <Button
              size="small"
              onClick={() => {
                refuseOffers([now]);
                walk(next === now ? undefined : next);
              }}
            >
              Refuse it
            </Button>
          </>
        )}
        <Button size="small" onClick={() => walk(next)}>
          {now ? 'Next' : 'Walk through them'}
        </Button>
        {!now && (
          <Button size="small" onClick={() => refuseOffers(doubtful)}>
            Refuse all
          </Button>
        )}
      </Box>
    </Box>
  );
}

const OTHER: Partial<Record<string, string>> = { member: 'a member', stair: 'a flight of stairs' };
/** How sure an offer is, and why not; how many of walls as sure are right has been counted, of others not. */
const surely = ({ shape, confidence, doubts }: Offer): string[] =>
  [
    shape.type === 'wall' ? `${Math.round(100 * confidence)} % sure` : (OTHER[shape.type] ?? ''),
    ...doubts,
  ].filter(Boolean);

const pointsOf = ({ shape, at }: Offer) =>
  shape.type === 'wall' || shape.type === 'member' ? [shape.from, shape.to] : [at];
