'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { withoutScaling } from '@calque/core/calibration';
import { compose, invertTransform, meanScale, type Transform } from '@calque/core/geometry';
import { get, group, ofType, setFields, storedTransform, type Underlay } from '@calque/core/model';
import { formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { lineworkUrl } from '@/project/addresses';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { sheetPath } from '@/table/painters/marked';
import { runTask, Stopped } from '@/workers/task';
import type { AlignedSheet, AlignResult, FromAlign, ToAlign } from '@/workers/align-protocol';
import { carriedChanges, middleOf, showPlaced } from './place';
import { useCalibrateState } from './state';

/** Laying a sheet where it belongs: by common points, onto another sheet by itself, by keys. */
export function AlignCard({ underlay: u }: { underlay: Underlay }) {
  const tool = useTableState((s) => s.toolId);
  const { aligning, alignScaled } = useCalibrateState();
  return (
    <Box>
      {tool === 'align-sheet' && aligning && <Pairs scaled={alignScaled} aligning={aligning} />}
      <OntoSheet key={u.id} underlay={u} />
    </Box>
  );
}

function Pairs({
  scaled,
  aligning: { pairs, alignment, accept, retell },
}: {
  scaled: boolean;
  aligning: NonNullable<ReturnType<typeof useCalibrateState.getState>['aligning']>;
}) {
  const style = useFromModel(lengthStyle);
  const setScaled = (alignScaled: boolean) => {
    useCalibrateState.setState({ alignScaled });
    retell();
  };
  return (
    <Box
      sx={{ p: 1, mt: 0.75, bgcolor: 'knownWash', borderLeft: 4, borderColor: 'now' }}
      data-testid="align-pairs"
    >
      <Typography>
        {pairs === 0
          ? 'Pick a point of the sheet, then where it is to lie.'
          : `${pairs === 1 ? 'One pair shifts the sheet' : `${pairs} pairs shift and turn it`}${pairs > 1 && scaled ? ', and scale it' : ''}.`}
      </Typography>
      {alignment && pairs > 1 && (
        <Typography color="text.secondary">
          Turned by {formatNumber((alignment.radians * 180) / Math.PI, 3)}°
          {scaled ? `, scaled by ${formatNumber(alignment.scale, 5)}` : ''}; the pairs miss by{' '}
          {formatLengthWithUnit(alignment.rms, style)} (root mean square).
        </Typography>
      )}
      <FormControlLabel
        control={<Checkbox checked={scaled} onChange={(e) => setScaled(e.target.checked)} />}
        label="scale the sheet as well"
      />
      <Button variant="contained" disabled={pairs === 0} onClick={accept}>
        Lay it by {pairs === 1 ? 'this pair' : 'these pairs'}
      </Button>
    </Box>
  );
}

/** Below this share of common lines a person should look twice. */
const POOR_FIT = 0.5;
/** Sheets whose lines, or some of them, lie in a picture. */
const WITH_PICTURE: ReadonlySet<string> = new Set(['scan', 'mixed']);
/** As many lines are lit up to show how it would lie. */
const MOST_SHOWN = 20000;

function OntoSheet({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const session = useSession();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const others = ofType(model, 'underlay').filter((o) => o.id !== u.id && o.scaleState !== 'paper');
  const [ontoId, setOntoId] = useState('');
  const [share, setShare] = useState<number | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const [found, setFound] = useState<{
    result: AlignResult;
    placement: Transform;
    drift: number;
    onto: Underlay;
  } | null>(null);
  const worker = useRef<{ stop(): void } | null>(null),
    run = useRef(0);
  /** The scan whose lines are being read from its ink. */
  const [reading, setReading] = useState<string | null>(null);
  const stop = () => {
    run.current++;
    for (const o of [u, get(model, 'underlay', ontoId)]) {
      const ink = o && table.inks.of(o);
      if (reading !== null && ink?.state === 'reading') ink.stop();
    }
    worker.current?.stop();
    worker.current = null;
    setReading(null);
    setShare(null);
  };
  // What is being read for it goes on; that it is done concerns nobody then.
  useEffect(
    () => () => {
      run.current++;
      worker.current?.stop();
    },
    [],
  );
  useEffect(() => {
    if (!found) return;
    const some = (lines: Float64Array) =>
      Array.from({ length: Math.min(MOST_SHOWN, lines.length / 4) }, (_, i) => [
        ...lines.subarray(4 * i, 4 * i + 4),
      ]);
    table.setMarked({
      sets: [
        { path: sheetPath(some(found.result.onto), found.onto.placement), colour: 'found', width: 3 },
        { path: sheetPath(some(found.result.moving), found.placement), colour: 'now', width: 1.25 },
      ],
    });
    return () => table.setMarked(null);
  }, [table, found]);
  if (others.length === 0) return null;
  /** A sheet as the aligner takes it: by its own lines, a scan by those of its ink, which are read first; words where there are none. */
  const sheetFor = async (o: Underlay): Promise<AlignedSheet | string> => {
    const sheet: AlignedSheet = {
      url: new URL(lineworkUrl(session.projectId, o.fileId, o.page), window.location.href).href,
      crop: o.crop,
    };
    const file = session.state.files.find((f) => f.id === o.fileId),
      page = file?.sheets.find((s) => s.page === o.page);
    if (!file || !page || !WITH_PICTURE.has(page.content)) return sheet;
    const shownBefore = table.inks.of(o)?.state === 'read';
    if (!shownBefore) {
      setReading(o.name);
      await table.inks.read(file, page);
      setReading(null);
    }
    const ink = table.inks.of(o);
    if (ink?.state !== 'read') return ink?.state === 'failed' ? ink.why : '';
    // They were read to be compared: on the drawing they show where they are asked for.
    if (!shownBefore) table.inks.show(o, false);
    return { ...sheet, url: page.content === 'scan' ? null : sheet.url, ink: ink.lines };
  };
  const begin = async () => {
    const onto = get(model, 'underlay', ontoId);
    if (!onto) return;
    setWhy(null);
    setFound(null);
    setShare(0);
    const mine = (run.current += 1),
      moving = await sheetFor(u),
      other = typeof moving === 'string' ? moving : await sheetFor(onto);
    if (run.current !== mine) return;
    if (typeof moving === 'string' || typeof other === 'string') {
      stop();
      setWhy([moving, other].find((o): o is string => typeof o === 'string' && o !== '') ?? null);
      return;
    }
    const next = new Worker(new URL('../../workers/align.worker.ts', import.meta.url), { type: 'module' });
    const task = runTask<ToAlign, FromAlign>(
      next,
      { moving, onto: other },
      { onProgress: setShare, broken: 'Aligning the two sheets failed. Try it again.' },
    );
    worker.current = task;
    void task.done.then(
      (result) => {
        stop();
        setFound({ result, onto, ...laidOnto(u, onto, result) });
      },
      (error: Error) => {
        if (error instanceof Stopped) return;
        stop();
        setWhy(error.message);
      },
    );
  };
  const accept = () => {
    if (!found) return;
    const scaled =
      u.scaleState === 'paper'
        ? { scaleState: found.onto.scaleState === 'own' ? ('calibrated' as const) : found.onto.scaleState }
        : {};
    const change = group([
      setFields(u, { placement: storedTransform(found.placement), ...scaled }),
      ...carriedChanges(table, u, found.placement),
    ]);
    if (change && session.do(change, `Align ${u.name} onto ${found.onto.name}`)) {
      setFound(null);
      showPlaced(table, u.id);
    }
  };
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <TextField
          select
          fullWidth
          label="Onto another sheet, by itself"
          value={ontoId}
          onChange={(e) => setOntoId(e.target.value)}
        >
          {others.map((o) => (
            <MenuItem key={o.id} value={o.id}>
              {o.name}
            </MenuItem>
          ))}
        </TextField>
        <Button
          variant="outlined"
          disabled={u.locked || ontoId === '' || share !== null}
          onClick={() => void begin()}
        >
          Align
        </Button>
      </Box>
      {share !== null && (
        <Box sx={{ mt: 0.75 }}>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography sx={{ flex: 1 }}>
              {reading
                ? `Reading the lines of ${reading} from its ink`
                : 'Looking for what the two sheets share'}
            </Typography>
            <Button onClick={stop}>Stop</Button>
          </Box>
          <LinearProgress
            variant={reading ? 'indeterminate' : 'determinate'}
            value={100 * share}
            aria-label="Aligning"
          />
        </Box>
      )}
      {why && <Typography sx={{ color: 'differs', mt: 0.75 }}>≠ {why}</Typography>}
      {found && (
        <Box
          sx={{ p: 1, mt: 0.75, bgcolor: 'knownWash', borderLeft: 4, borderColor: 'now' }}
          data-testid="align-found"
        >
          <Typography
            sx={{ fontWeight: 650, color: found.result.fit.found < POOR_FIT ? 'assumed' : undefined }}
          >
            {found.result.fit.found < POOR_FIT ? 'Look twice: ' : ''}
            {formatNumber(found.result.fit.found * 100, 0)} % of its lines lie on {found.onto.name}, within{' '}
            {formatLengthWithUnit(found.result.fit.residual * meanScale(found.onto.placement), style)}.
          </Typography>
          <Typography color="text.secondary">
            {u.scaleState === 'paper'
              ? `It takes its scale from ${found.onto.name}.`
              : `It keeps its own scale; by its lines it would be ${formatNumber(Math.abs(found.drift - 1) * 100, 3)} % ${found.drift > 1 ? 'larger' : 'smaller'}.`}{' '}
            Its lines are shown over those of {found.onto.name}.
          </Typography>
          <Box sx={{ display: 'flex', gap: 1, mt: 0.75 }}>
            <Button variant="contained" onClick={accept}>
              Lay it there
            </Button>
            <Button onClick={() => setFound(null)}>Leave it where it is</Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** Where the lines lay it: at the other's scale when it has none of its own, else turned and shifted alone. `drift`: the scale that its lines would give, against its own. */
function laidOnto(
  u: Underlay,
  onto: Underlay,
  { fit }: AlignResult,
): { placement: Transform; drift: number } {
  const byLines = compose(onto.placement, fit.transform);
  const move = compose(byLines, invertTransform(u.placement));
  const drift = meanScale(move);
  return {
    placement: u.scaleState === 'paper' ? byLines : compose(withoutScaling(move, middleOf(u)), u.placement),
    drift,
  };
}
