'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import type { PrintedDimension, Rival } from '@calque/core/calibration';
import { applyTransform, boxOfPoints } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import {
  BARE_UNITS,
  describeScale,
  formatLength,
  formatNumber,
  parseLength,
  type BareUnit,
} from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { knownOn } from '@/project/known';
import { isImperial, lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';
import { sheetPath, type Marked } from '@/table/painters/marked';
import { calibrateFromBar, calibrateFromPrinted, NO_VERDICTS, takesPart, type Verdicts } from './evidence';
import { partViews, viewsWithin } from './part-views';
import { PhotoFound } from './photo-found';
import {
  barOf,
  chooseUnits,
  onUnderlay,
  printedOf,
  sheetKey,
  startReading,
  usePrinted,
  type FoundOnUnderlay,
} from '@/drawing/printed';

/** The printed dimensions that Calque has read on the sheet, and calibrating from them. */
export function FoundCard({ underlay: u }: { underlay: Underlay }) {
  const store = usePrinted();
  const table = useTable();
  const printed = printedOf(store, u);
  // Right after a package was opened its files are still being read.
  const isRead = useProject((s) =>
    s.files.some((f) => f.id === u.fileId && f.sheets.some((p) => p.page === u.page && p.whole)),
  );
  useEffect(() => {
    if (isRead) startReading(table, u);
  }, [table, u, isRead]);
  if (!printed || printed.state === 'reading') {
    return (
      <Box sx={{ mb: 1.25 }}>
        <Typography color="text.secondary">
          {isRead ? 'Reading the printed dimensions …' : 'The sheet itself is still being read …'}
        </Typography>
        <LinearProgress
          variant="determinate"
          value={100 * (printed?.share ?? 0)}
          aria-label="Reading the printed dimensions"
        />
      </Box>
    );
  }
  if (printed.state === 'recognising') {
    return (
      <Box sx={{ mb: 1.25 }} data-testid="recognising">
        <Typography color="text.secondary">
          Its figures are no texts: recognising them from the picture …{' '}
          <Button sx={{ py: 0 }} onClick={printed.stop}>
            Stop
          </Button>
        </Typography>
        <LinearProgress variant="determinate" value={100 * printed.share} aria-label="Recognising figures" />
      </Box>
    );
  }
  if (printed.state === 'failed')
    return (
      <Typography sx={{ color: 'differs', mb: 1.25 }}>
        ≠ {printed.why} <Button onClick={() => startReading(table, u)}>Try again</Button>
      </Typography>
    );
  const seen = store.pictures[sheetKey(u)];
  if (printed.reading.photo && seen?.straight)
    return <PhotoFound underlay={u} reading={printed.reading} picture={seen} />;
  const found = onUnderlay(printed.reading, u);
  const bare = printed.reading.why?.includes('do not agree');
  if (!found) {
    return (
      <Box sx={{ mb: 1.25 }} data-testid="found-none">
        <Typography color="text.secondary">
          {printed.reading.why ?? 'No printed dimensions lie within this crop.'} Pick a dimension that you
          know instead.
        </Typography>
        {printed.offer && (
          <Button
            variant="outlined"
            sx={{ mt: 0.75 }}
            onClick={() => startReading(table, u, { again: true })}
          >
            Recognise figures from the picture
          </Button>
        )}
        {bare && <UnitChoice underlay={u} chosen={store.units[sheetKey(u)] ?? null} />}
      </Box>
    );
  }
  if (printed.reading.views[found.view].from === 'bar') return <BarFound underlay={u} found={found} />;
  return (
    <Found
      key={`${sheetKey(u)}:${store.units[sheetKey(u)] ?? ''}`}
      underlay={u}
      found={found}
      chosen={store.units[sheetKey(u)] ?? null}
    />
  );
}

const UNIT_WORDS: Record<BareUnit, string> = {
  mm: 'millimetres',
  cm: 'centimetres',
  m: 'metres',
  in: 'inches',
  ft: 'feet',
};

function UnitChoice({ underlay: u, chosen }: { underlay: Underlay; chosen: BareUnit | null }) {
  const table = useTable();
  return (
    <TextField
      select
      label="Figures without a unit are in"
      value={chosen ?? 'auto'}
      onChange={(e) => chooseUnits(table, u, e.target.value === 'auto' ? null : (e.target.value as BareUnit))}
      sx={{ minWidth: 200, mt: 1 }}
    >
      <MenuItem value="auto">found out by Calque</MenuItem>
      {BARE_UNITS.map((unit) => (
        <MenuItem key={unit} value={unit}>
          {UNIT_WORDS[unit]}
        </MenuItem>
      ))}
    </TextField>
  );
}

function Found({
  underlay: u,
  found,
  chosen,
}: {
  underlay: Underlay;
  found: FoundOnUnderlay;
  chosen: BareUnit | null;
}) {
  const session = useSession();
  const table = useTable();
  const model = useProject((s) => s.model);
  const [verdicts, setVerdicts] = useState(NO_VERDICTS);
  const [at, setAt] = useState<number | null>(null);
  const { reading, view: v, within } = found;
  const view = reading.views[v];
  const imperial = isImperial(model);
  // Those that disagree come first: they are what one looks at.
  const order = useMemo(
    () =>
      [...within].sort((a, b) => Number(reading.dimensions[a].agrees) - Number(reading.dimensions[b].agrees)),
    [within, reading],
  );
  const taken = within.filter((i) => takesPart(found, i, verdicts));
  const differing = order.filter(
    (i) => !reading.dimensions[i].agrees && !verdicts.out.has(i) && !verdicts.printed.has(i),
  );
  const used = knownOn(model, u.id).some((c) => c.origin === 'read' && c.use === 'fit');
  const current = at === null ? null : order[at];
  const lit = !used || at !== null;
  useEffect(() => {
    table.setMarked(lit ? marksOf(reading.dimensions, within, verdicts, u, current) : null);
    return () => table.setMarked(null);
  }, [table, lit, reading, within, verdicts, u, current]);
  const goTo = (next: number) => {
    const i = (next + order.length) % order.length;
    setAt(i);
    showDimension(table, u, reading.dimensions[order[i]]);
  };
  const accept = () => {
    if (calibrateFromPrinted(table, u, found, verdicts)) setAt(null);
  };
  const several = viewsWithin(u, reading).length,
    asked = view.unit === null;
  const notes = reading.notes.filter((n) => !n.bar && n.view === v);
  const contradicting = notes.filter((n) => Math.abs(n.factor / view.factor - 1) > 0.005);
  return (
    <Box
      data-testid="found"
      sx={{ p: 1.25, bgcolor: 'knownWash', borderLeft: 4, borderColor: used ? 'known' : 'now', mb: 1.25 }}
    >
      <Typography sx={{ fontWeight: 650 }}>
        {asked
          ? askedWords(within.length, view.rivals, imperial)
          : foundWords(within.length, taken.length, view, imperial)}
      </Typography>
      {asked && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 0.75 }}>
          {view.rivals.map((r) => (
            <Button key={r.unit} variant="contained" onClick={() => chooseUnits(table, u, r.unit)}>
              They are {UNIT_WORDS[r.unit]}
            </Button>
          ))}
        </Box>
      )}
      {within.some((i) => reading.dimensions[i].recognised) && (
        <Typography color="text.secondary">
          Its figures were recognised from the picture, not read as texts: look at a few before you rely on
          them.
        </Typography>
      )}
      {view.stretched && (
        <Typography sx={{ color: 'assumed' }}>
          The paper is stretched: {describeScale(view.x, imperial).text} across,{' '}
          {describeScale(view.y, imperial).text} up. Width and height are scaled apart.
        </Typography>
      )}
      {differing.slice(0, 3).map((i) => (
        <Outlier key={i} d={reading.dimensions[i]} onFind={() => goTo(order.indexOf(i))} />
      ))}
      {differing.length > 3 && (
        <Typography sx={{ color: 'differs' }}>
          ≠ and {differing.length - 3} more: walk through them.
        </Typography>
      )}
      {contradicting.map((n) => (
        <Typography key={n.text} sx={{ color: 'assumed' }}>
          The note “{n.text}” says otherwise: the dimensions win.
        </Typography>
      ))}
      {reading.chains
        .filter((c) => !c.agrees && within.includes(c.total))
        .map((c) => (
          <Typography key={c.total} sx={{ color: 'differs' }}>
            ≠ {c.parts.map((p) => reading.dimensions[p].text).join(' + ')} does not make{' '}
            {reading.dimensions[c.total].text}.
          </Typography>
        ))}
      {reading.unknown.map((part) => (
        <Typography key={part.texts.join()} color="text.secondary">
          {part.texts.join(', ')} {part.texts.length === 1 ? 'stands' : 'stand'} apart, at a scale of{' '}
          {part.texts.length === 1 ? 'its' : 'their'} own that is not known.
        </Typography>
      ))}
      {several > 1 && (
        <Typography color="text.secondary">
          This sheet shows {several} views at scales of their own.{' '}
          <Button
            variant="outlined"
            disabled={u.locked}
            sx={{ py: 0 }}
            onClick={() =>
              session.do(partViews(model, u, reading, v, imperial), `Part the views of ${u.name}`)
            }
          >
            Make each a sheet of its own
          </Button>
        </Typography>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 1 }}>
        <Button
          variant={used ? 'outlined' : 'contained'}
          disabled={u.locked || asked || taken.length === 0}
          onClick={accept}
        >
          {used ? 'Calibrate from them again' : `Calibrate from ${taken.length === 1 ? 'it' : 'them'}`}
        </Button>
        <Button variant="outlined" onClick={() => (at === null ? goTo(0) : setAt(null))}>
          {at === null ? 'Walk through them' : 'End the walk'}
        </Button>
      </Box>
      {at !== null && current !== null && (
        <Walk
          key={current}
          d={reading.dimensions[current]}
          out={verdicts.out.has(current)}
          corrected={verdicts.printed.get(current)?.typed ?? null}
          place={`${at + 1} of ${order.length}`}
          onGo={(by) => goTo(at + by)}
          onOut={(out) =>
            setVerdicts((s) => ({
              ...s,
              out: new Set(out ? [...s.out, current] : [...s.out].filter((i) => i !== current)),
            }))
          }
          onPrinted={(mm, typed) =>
            setVerdicts((s) => ({ ...s, printed: new Map([...s.printed, [current, { mm, typed }]]) }))
          }
        />
      )}
      {reading.dimensions.some((d) => /^[\d\s.,]+$/.test(d.text)) && (
        <UnitChoice underlay={u} chosen={chosen} />
      )}
    </Box>
  );
}

/** A sheet that prints no dimensions, but a graphic scale. */
function BarFound({ underlay: u, found }: { underlay: Underlay; found: FoundOnUnderlay }) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const view = found.reading.views[found.view],
    bar = barOf(found.reading)!,
    imperial = isImperial(model);
  const used = knownOn(model, u.id).some((c) => c.origin === 'read' && c.use === 'fit');
  useEffect(() => {
    table.setMarked(
      used
        ? null
        : {
            sets: [{ path: sheetPath([[...bar.from, ...bar.to]], u.placement), colour: 'known', width: 3 }],
            labels: [],
          },
    );
    return () => table.setMarked(null);
  }, [table, used, bar.from, bar.to, u.placement]);
  return (
    <Box
      data-testid="found"
      sx={{ p: 1.25, bgcolor: 'knownWash', borderLeft: 4, borderColor: used ? 'known' : 'now', mb: 1.25 }}
    >
      <Typography sx={{ fontWeight: 650 }}>
        This sheet prints no dimensions, but its graphic scale ({bar.text}) says{' '}
        {describeScale(view.factor, imperial).text}, within {formatNumber(view.uncertainty * 100, 2)} %.
      </Typography>
      {found.reading.notes
        .filter((n) => !n.bar && Math.abs(n.factor / view.factor - 1) > 0.005)
        .map((n) => (
          <Typography key={n.text} sx={{ color: 'assumed' }}>
            The note “{n.text}” says otherwise: the graphic scale wins, since it was printed with the drawing.
          </Typography>
        ))}
      <Button
        variant={used ? 'outlined' : 'contained'}
        sx={{ mt: 1 }}
        disabled={u.locked}
        onClick={() => calibrateFromBar(table, u, found)}
      >
        {used ? 'Calibrate from it again' : 'Calibrate from it'}
      </Button>
    </Box>
  );
}

function askedWords(all: number, rivals: readonly Rival[], imperial: boolean): string {
  return `This sheet has ${all} printed dimensions. They agree on ${rivals.map((r) => `${describeScale(r.factor, imperial).text} if they are ${UNIT_WORDS[r.unit]}`).join(', on ')}. Which are they?`;
}

function foundWords(
  all: number,
  agreeing: number,
  view: { factor: number; uncertainty: number },
  imperial: boolean,
): string {
  const scale = describeScale(view.factor, imperial).text;
  const within =
    view.uncertainty < 5e-4 ? 'within 0.05 %' : `within ${formatNumber(view.uncertainty * 100, 2)} %`;
  if (all === 1) return `This sheet has one printed dimension: ${scale}.`;
  return `This sheet has ${all} printed dimensions. ${agreeing === all ? 'All' : agreeing} agree on ${scale}, ${within}.`;
}

function Outlier({ d, onFind }: { d: PrintedDimension; onFind(): void }) {
  const style = useFromModel(lengthStyle);
  return (
    <Typography sx={{ color: 'differs' }}>
      ≠ Prints {d.text}, measures {formatLength(d.measured, style)} on this sheet.{' '}
      <Button onClick={onFind} sx={{ px: 0.5, py: 0 }}>
        Look
      </Button>
    </Typography>
  );
}

interface WalkProps {
  d: PrintedDimension;
  out: boolean;
  corrected: string | null;
  place: string;
  onGo(by: number): void;
  onOut(out: boolean): void;
  onPrinted(mm: number, typed: string): void;
}

function Walk({ d, out, corrected, place, onGo, onOut, onPrinted }: WalkProps) {
  const style = useFromModel(lengthStyle);
  const [typed, setTyped] = useState(corrected ?? '');
  const parsed = typed.trim() === '' ? null : parseLength(typed, style.units);
  const bad = parsed !== null && !(parsed.ok && parsed.mm > 0);
  const take = () => {
    if (parsed?.ok && parsed.mm > 0) onPrinted(parsed.mm, typed.trim());
  };
  return (
    <Box sx={{ mt: 1, pt: 1, borderTop: 1, borderColor: 'edge' }} data-testid="walk">
      <Typography>
        Prints <b>{d.text}</b>
        {d.recognised ? ' (recognised)' : ''}, measures {formatLength(d.measured, style)}
        {corrected !== null ? `, taken as ${corrected}` : d.agrees ? ', agrees' : ', disagrees'}
        {out ? ', left out' : ''}.
      </Typography>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, mt: 0.5 }}>
        <Button variant="outlined" onClick={() => onGo(-1)}>
          Before
        </Button>
        <Button variant="outlined" onClick={() => onGo(1)}>
          Next
        </Button>
        <Typography variant="caption" color="text.secondary" sx={{ flex: 1 }}>
          {place}
        </Typography>
        <Button onClick={() => onOut(!out)}>{out ? 'Take it in' : 'Leave it out'}</Button>
      </Box>
      <Box sx={{ display: 'flex', gap: 0.75, mt: 0.75 }}>
        <TextField
          label="It ought to say"
          value={typed}
          error={bad}
          helperText={bad ? 'Type a length, such as 5460 or 5.46 m.' : undefined}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') take();
          }}
          sx={{ width: 150 }}
        />
        <Button onClick={take} disabled={parsed === null || bad}>
          Correct it
        </Button>
      </Box>
    </Box>
  );
}

function showDimension(table: ReturnType<typeof useTable>, u: Underlay, d: PrintedDimension): void {
  const [x0, y0, x1, y1] = boxOfPoints([
    applyTransform(u.placement, d.from),
    applyTransform(u.placement, d.to),
  ]);
  const margin = Math.max(x1 - x0, y1 - y0);
  table.show([x0 - margin, y0 - margin, x1 + margin, y1 + margin]);
}

/** Printed dimensions lit up where they lie: agreeing, disagreeing with what they print and measure, and the one being looked at. */
function marksOf(
  all: readonly PrintedDimension[],
  within: readonly number[],
  verdicts: Verdicts,
  u: Underlay,
  current: number | null,
): Marked {
  const lines = (numbers: readonly number[]) =>
    sheetPath(
      numbers.map((i) => [...all[i].from, ...all[i].to]),
      u.placement,
    );
  const shown = within.filter((i) => !verdicts.out.has(i) && i !== current);
  const agreeing = shown.filter((i) => all[i].agrees || verdicts.printed.has(i)),
    differing = shown.filter((i) => !all[i].agrees && !verdicts.printed.has(i));
  const middle = (d: PrintedDimension) =>
    applyTransform(u.placement, [(d.from[0] + d.to[0]) / 2, (d.from[1] + d.to[1]) / 2]);
  return {
    sets: [
      { path: lines(agreeing), colour: 'known', width: 2 },
      { path: lines(differing), colour: 'differs', width: 3 },
      ...(current === null ? [] : [{ path: lines([current]), colour: 'now' as const, width: 4 }]),
    ],
    labels: within
      .filter((i) => !all[i].agrees && !verdicts.out.has(i))
      .map((i) => ({
        at: middle(all[i]),
        text: `≠ prints ${all[i].text}, measures ${formatNumber(all[i].measured, 0)} mm`,
        colour: 'differs',
      })),
  };
}
