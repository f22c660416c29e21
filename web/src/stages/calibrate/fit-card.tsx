'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import {
  bestNext,
  FIT_MODELS,
  inflation,
  scaleFactorOf,
  type KnownLength,
  type PrintedDimension,
} from '@calque/core/calibration';
import { applyTransform, type Point } from '@calque/core/geometry';
import { ofType, type Check, type Underlay } from '@calque/core/model';
import { describeScale, formatLength, formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { checked, isFitted, knownLength } from '@/project/known';
import { doubtOf, useDoubts } from '@/project/doubts';
import { acrossWords, doubtWords, isImperial, lengthStyle } from '@/project/views';
import { nameMyself, whoIsIt } from '@/project/who';
import { useTable } from '@/table/context';
import { ChecksTable } from '@/ui/checks-table';
import { Figure } from '@/ui/figure';
import { chartUnit, ResidualChart } from '@/ui/residual-chart';
import {
  errorOf,
  fitOf,
  goBackTo,
  MODEL_WORDS,
  refit,
  REFUSAL_WORDS,
  stretchWords,
  wantedOf,
  type Wanted,
} from './fit';
import { onUnderlay, printedOf, usePrinted } from '@/drawing/printed';
import { exportRecord, printRecord } from './record';
import { takeCheckTool } from './tools';

/** From this many dimensions on, a chart says more than the table. */
const CHART_FROM = 3;

/** The known dimensions of a sheet, the fit to them, and how far off the sheet may be. */
export function FitCard({ underlay: u, checks }: { underlay: Underlay; checks: readonly Check[] }) {
  const table = useTable();
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const wanted = wantedOf(u);
  const fitted = fitOf(checks, wanted);
  const setUse = (check: Check) =>
    refit(
      table,
      u,
      checks.map((c) =>
        c.id === check.id ? { ...c, use: isFitted(c) ? ('check' as const) : ('fit' as const) } : c,
      ),
      isFitted(check) ? `Leave ${check.typed} out of the fit` : `Fit to ${check.typed}`,
    );
  const remove = (check: Check) => {
    if (isFitted(check))
      refit(
        table,
        u,
        checks.filter((c) => c.id !== check.id),
        'Remove a known dimension',
      );
    else session.do({ type: 'remove', entity: check }, 'Remove a known dimension');
  };
  const residuals = useMemo(
    () =>
      checks.map((c) => {
        const r = checked(u, c);
        return {
          label: c.typed || formatLength(c.printed, style),
          millimetres: r.difference,
          within: r.agrees,
          allowed: r.allowed,
          fitted: isFitted(c),
        };
      }),
    [checks, u, style],
  );
  const tolerances = residuals.map((r) => r.allowed).sort((a, b) => a - b);
  return (
    <Box>
      {fitted && <Evidence underlay={u} checks={checks} wanted={wanted} />}
      <Box sx={{ display: 'flex', alignItems: 'center', mt: 2, mb: 0.5 }}>
        <Typography variant="h3" sx={{ flex: 1 }}>
          Known dimensions
        </Typography>
        <Button variant="outlined" onClick={() => takeCheckTool(table)}>
          Add a check (K)
        </Button>
      </Box>
      {checks.length === 0 && (
        <Typography color="text.secondary">
          None yet. One good dimension does not prove the rest: hold two or three others against the sheet.
        </Typography>
      )}
      {checks.length >= CHART_FROM && (
        <ResidualChart
          residuals={residuals}
          tolerance={tolerances[Math.floor(tolerances.length / 2)]}
          unit={chartUnit(style.units)}
        />
      )}
      {checks.length > 0 && <ChecksTable checks={checks} onUse={setUse} onRemove={remove} />}
      {checks.length > 0 && (
        <Box sx={{ display: 'flex', gap: 0.5, mt: 0.75, alignItems: 'center', flexWrap: 'wrap' }}>
          <Who />
          <Button onClick={() => exportRecord(session, u, checks)}>Export (CSV)</Button>
          <Button onClick={() => printRecord(session, u, checks)}>Print the record</Button>
        </Box>
      )}
      <History underlay={u} />
    </Box>
  );
}

/** What the fit says: the model, what spoils it, the stated error, and what would help most. */
function Evidence({
  underlay: u,
  checks,
  wanted,
}: {
  underlay: Underlay;
  checks: readonly Check[];
  wanted: Wanted;
}) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const fitted = useMemo(() => checks.filter(isFitted), [checks]);
  const found = fitOf(checks, wanted)!;
  const { choice, outcome } = found;
  const imperial = isImperial(model);
  const error = errorOf(u, checks, wanted);
  const doubt = useDoubts((s) => doubtOf(u, s));
  const next = useNext(u, checks);
  const [shown, setShown] = useState(false);
  useEffect(() => {
    if (!shown || !error) return;
    table.setMarked({
      sets: [],
      ellipses: error.corners.map((c) => ({ ...c, at: applyTransform(u.placement, c.at) })),
      labels: error.corners.map((c) => ({
        at: applyTransform(u.placement, inwards(c.at, u.crop)),
        text: `± ${acrossWords(c.radius, imperial)}`,
        colour: 'assumed',
      })),
    });
    return () => table.setMarked(null);
  }, [table, shown, error, u.placement, u.crop, imperial]);
  const spoiler = choice.spoiler && fitted[choice.spoiler.at];
  const stretch = stretchWords(found, fitted.length, imperial);
  return (
    <Box data-testid="evidence" sx={{ borderTop: 1, borderColor: 'edge', pt: 1 }}>
      {error && (
        <>
          <Typography>
            Fitted to {fitted.length === 1 ? 'one dimension' : `${fitted.length} dimensions`}:{' '}
            {describeScale(scaleFactorOf(u.placement), imperial).text}.{' '}
            {doubt ? (
              <>
                Its picks alone would make it good to {acrossWords(error.across, imperial)} across the sheet;
                but {doubtWords(doubt, imperial)}, so that is not so.
              </>
            ) : (
              <>
                <b>Within {acrossWords(error.across, imperial)} across the sheet</b> (95 %)
                {fitted.length === 1
                  ? ', if its two ends are those of the figure: nothing else bears it out'
                  : ''}
                .
              </>
            )}
          </Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', rowGap: 1, my: 0.75 }}>
            <Figure
              label="A length of 10 m may be off"
              value={`± ${formatNumber(error.tenMetres, error.tenMetres < 10 ? 1 : 0)} mm`}
            />
            <Box>
              <Button variant="outlined" aria-pressed={shown} onClick={() => setShown(!shown)}>
                {shown ? 'Hide the corners' : 'Show it at the corners'}
              </Button>
            </Box>
          </Box>
        </>
      )}
      {!outcome.ok && <Typography sx={{ color: 'differs' }}>≠ {REFUSAL_WORDS[outcome.reason]}</Typography>}
      {spoiler && (
        <Typography sx={{ color: 'differs' }}>
          ≠ {spoiler.typed || formatLength(spoiler.printed, style)} spoils the fit: without it the others say{' '}
          {formatLengthWithUnit(choice.spoiler!.expected, style)}.{' '}
          <Button
            variant="outlined"
            disabled={u.locked}
            sx={{ py: 0 }}
            onClick={() =>
              refit(
                table,
                u,
                checks.map((c) => (c.id === spoiler.id ? { ...c, use: 'check' } : c)),
                `Leave ${spoiler.typed} out of the fit`,
              )
            }
          >
            Leave it out
          </Button>
        </Typography>
      )}
      {stretch && <Typography sx={{ color: 'assumed' }}>{stretch}</Typography>}
      {!spoiler && !stretch && outcome.ok && inflation(outcome.fit) > 1 && (
        <Typography sx={{ color: 'differs' }}>
          ≠ These dimensions contradict one another by more than their picks explain, and none of them alone
          is to blame. Hold others against the sheet, to see which are right.
        </Typography>
      )}
      {next && <Typography color="text.secondary">{next}</Typography>}
      <TextField
        select
        label="Model of the fit"
        value={wanted}
        disabled={u.locked}
        sx={{ minWidth: 230, mt: 1 }}
        onChange={(e) => refit(table, u, checks, `Fit ${u.name} by another model`, e.target.value as Wanted)}
      >
        <MenuItem value="auto">as the evidence says: {MODEL_WORDS[choice.model]}</MenuItem>
        {FIT_MODELS.map((m) => {
          const fit = choice.fits[m];
          return (
            <MenuItem key={m} value={m} disabled={!fit.ok}>
              {MODEL_WORDS[m]}
              {fit.ok ? '' : `: ${REFUSAL_WORDS[fit.reason].toLowerCase()}`}
            </MenuItem>
          );
        })}
      </TextField>
    </Box>
  );
}

/** A little towards the middle of the crop, where words have room. */
const inwards = ([x, y]: Point, [x0, y0, x1, y1]: Underlay['crop']): Point => [
  x + 0.08 * ((x0 + x1) / 2 - x),
  y + 0.08 * ((y0 + y1) / 2 - y),
];

/** By how much the ends of a dimension may have been picked elsewhere than where it was read, sheet points, and of its length. */
const SAME_END = 2,
  SAME_END_OF_SAME_FIGURE = 14,
  SAME_END_SHARE = 0.1;

/** Is a known dimension the printed one? By its ends, or by its figure and nearly its ends: an outer tick may have been picked for an inner. */
export function isOf(
  c: Pick<Check, 'from' | 'to' | 'printed'>,
  d: Pick<PrintedDimension, 'from' | 'to' | 'millimetres' | 'half' | 'points'>,
): boolean {
  const within =
    Math.abs(c.printed - d.millimetres) <= Math.max(d.half, 1e-6 * d.millimetres)
      ? Math.max(SAME_END, Math.min(SAME_END_OF_SAME_FIGURE, SAME_END_SHARE * d.points))
      : SAME_END;
  const near = (a: readonly number[], b: readonly number[]) => Math.hypot(a[0] - b[0], a[1] - b[1]) < within;
  return (near(c.from, d.from) && near(c.to, d.to)) || (near(c.from, d.to) && near(c.to, d.from));
}

/** The printed dimension, not used yet, that would make the sheet surest, in words. */
function useNext(u: Underlay, checks: readonly Check[]): string | null {
  const printed = usePrinted((s) => printedOf(s, u));
  const imperial = useFromModel(isImperial);
  return useMemo(() => {
    const found = printed?.state === 'read' ? onUnderlay(printed.reading, u) : null;
    const fitted = checks.filter(isFitted);
    const fit = fitOf(checks, wantedOf(u));
    if (!found || !fit) return null;
    const open = found.within
      .map((i) => found.reading.dimensions[i])
      .filter((d) => d.agrees && !fitted.some((c) => isOf(c, d)));
    const candidates = open.map((d): KnownLength => ({
      from: d.from,
      to: d.to,
      millimetres: d.millimetres,
      sigma: [0.05, 0.05],
      lengthSigma: d.half / Math.sqrt(3),
    }));
    const best = bestNext(fitted.map(knownLength), candidates, fit.model, u.crop);
    return (
      best &&
      `What would help most: the ${open[best.at].text} that is printed ${Math.abs(open[best.at].to[0] - open[best.at].from[0]) > Math.abs(open[best.at].to[1] - open[best.at].from[1]) ? 'across' : 'up'} the sheet; then it is within ${acrossWords(best.across, imperial)}.`
    );
  }, [printed, u, checks, imperial]);
}

/** Whose name stands in the record. */
function Who() {
  const [name, setName] = useState(whoIsIt);
  return (
    <TextField
      label="Your name, for the record"
      value={name}
      sx={{ width: 190 }}
      onChange={(e) => {
        setName(e.target.value);
        nameMyself(e.target.value);
      }}
    />
  );
}

/** How far the corner of the crop that moved most lies from where it lay, millimetres. */
function farthestMove(u: Underlay, now: Underlay['placement'], before: Underlay['placement']): number {
  const [x0, y0, x1, y1] = u.crop;
  return Math.max(
    ...(
      [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ] as Point[]
    ).map((p) => {
      const a = applyTransform(now, p),
        b = applyTransform(before, p);
      return Math.hypot(a[0] - b[0], a[1] - b[1]);
    }),
  );
}

/** The calibrations of before, the latest first. */
function History({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const imperial = isImperial(model);
  const records = ofType(model, 'calibration')
    .filter((r) => r.underlayId === u.id)
    .sort((a, b) => b.number - a.number);
  const [open, setOpen] = useState(false);
  if (records.length < 2) return null;
  return (
    <Box sx={{ mt: 2 }} data-testid="calibration-history">
      <Button onClick={() => setOpen(!open)} aria-expanded={open}>
        {open ? 'Fold the earlier calibrations' : `Earlier calibrations (${records.length - 1})`}
      </Button>
      {open &&
        records.map((r, i) => {
          const before = records[i + 1];
          const factor = scaleFactorOf(r.placement);
          const change = before ? factor / scaleFactorOf(before.placement) : 1;
          return (
            <Box key={r.id} sx={{ borderTop: 1, borderColor: 'edge', py: 0.5 }}>
              <Typography sx={{ fontWeight: i === 0 ? 650 : 500 }}>
                {r.number}. {r.label}
              </Typography>
              <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
                {new Date(r.at).toLocaleString()}
                {r.by ? `, ${r.by}` : ''} · {describeScale(factor, imperial).text} ·{' '}
                {r.known.filter(isFitted).length} fitted, {r.known.filter((k) => !isFitted(k)).length} checks
                {before && Math.abs(change - 1) > 1e-9
                  ? ` · ${formatNumber((change - 1) * 100, 3)} % larger than before`
                  : ''}
                {before && farthestMove(u, r.placement, before.placement) >= 0.1
                  ? ` · its corners moved by up to ${acrossWords(farthestMove(u, r.placement, before.placement), imperial)}`
                  : ''}
              </Typography>
              {i > 0 && (
                <Button disabled={u.locked} onClick={() => goBackTo(table, u, r)}>
                  Go back to this one
                </Button>
              )}
            </Box>
          );
        })}
    </Box>
  );
}
