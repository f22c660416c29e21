'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { placementTurn, scaleFactorOf } from '@calque/core/calibration';
import { get, ofType, type Underlay } from '@calque/core/model';
import { describeScale, formatLength, formatNumber, parseAngle, type LengthStyle } from '@calque/core/units';
import { traceTally, tracedFrom } from '@/project/trace-words';
import { CommandButton, useKeyOf } from '@/commands/context';
import { useFromModel, useProject } from '@/project/context';
import { doubtOf, useDoubts } from '@/project/doubts';
import { isImperial, lengthStyle } from '@/project/views';
import { DoubtCard } from './doubt-card';
import { useTable, useTableState } from '@/table/context';
import { Figure } from '@/ui/figure';
import { knownOn } from '@/project/known';
import { AlignCard } from './align-card';
import { FitCard } from './fit-card';
import { FoundCard } from './found-card';
import { useCalibrateState } from './state';
import { ScaleCard } from './scale-card';
import { StraightenCard } from './straighten-card';
import { UsualCard } from './usual-card';
import { takeCalibrateTool, takeTurnTool, turnCurrent } from './tools';

/** Brings the current sheet to true scale, turn and place. */
export function CalibratePanel() {
  const table = useTable();
  const model = useProject((s) => s.model);
  const underlayId = useTableState((s) => s.underlayId);
  const planeId = useTableState((s) => s.planeId);
  const tool = useTableState((s) => s.toolId);
  const style = useFromModel(lengthStyle);
  const doubts = useDoubts();
  const u = get(model, 'underlay', underlayId);
  if (!u) {
    const others = ofType(model, 'underlay').filter((x) => x.planeId === planeId);
    return (
      <Box>
        <Typography variant="h2">Calibrate</Typography>
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          {others.length > 0
            ? 'Choose the sheet to bring to scale:'
            : 'No sheet lies on the table of this storey. Lay one down in Sheets (1) first.'}
        </Typography>
        {others.map((x) => (
          <Button key={x.id} variant="outlined" sx={{ mr: 1, mb: 1 }} onClick={() => table.setUnderlay(x.id)}>
            {x.name}
          </Button>
        ))}
      </Box>
    );
  }
  const doubt = doubtOf(u, doubts);
  const traced = tracedFrom(model, u.id),
    tracedHere = traceTally(model, planeId).total;
  return (
    <Box>
      <Typography variant="h2">
        {doubt
          ? 'The scale of this sheet is in doubt'
          : u.scaleState === 'calibrated'
            ? 'This sheet is to scale'
            : 'Bring this sheet to scale'}
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 1.25 }}>
        {u.name}
        {u.locked ? ', locked: unlock it in the stack to change it' : ''}
      </Typography>
      <DoubtCard underlay={u} />
      {!doubt && u.scaleState === 'calibrated' && tracedHere === 0 && (
        <CommandButton id="wall" label="Trace the first wall" hides sx={{ mb: 1.25 }} />
      )}
      <Calibrating underlay={u} active={tool === 'calibrate'} style={style} imperial={isImperial(model)} />
      <AlignCard underlay={u} />
      <Turned underlay={u} />
      {traced > 0 && <CarryChoice traced={traced} />}
    </Box>
  );
}

/** What Calque found, the way by hand, the figures, and the evidence. */
function Calibrating({
  underlay: u,
  active,
  style,
  imperial,
}: {
  underlay: Underlay;
  active: boolean;
  style: LengthStyle;
  imperial: boolean;
}) {
  const model = useProject((s) => s.model);
  const checks = useMemo(() => knownOn(model, u.id), [model, u.id]);
  const content = useProject(
    (s) => s.files.find((f) => f.id === u.fileId)?.sheets.find((x) => x.page === u.page)?.content,
  );
  return (
    <>
      <FoundCard underlay={u} />
      <ByHand underlay={u} checks={checks.length} active={active} />
      <ScaleCard underlay={u} />
      <UsualCard underlay={u} />
      {content !== undefined && content !== 'vector' && !u.straightened && <StraightenCard underlay={u} />}
      {u.calibration && <Figures underlay={u} style={style} imperial={imperial} />}
      {!u.calibration && u.scaleState === 'stated' && (
        <Figure label="Scale, as stated" value={describeScale(scaleFactorOf(u.placement), imperial).text} />
      )}
      <FitCard underlay={u} checks={checks} />
    </>
  );
}

function ByHand({ underlay: u, checks, active }: { underlay: Underlay; checks: number; active: boolean }) {
  const table = useTable();
  const key = useKeyOf('calibrate'),
    hold = useKeyOf('known');
  const done = u.scaleState === 'calibrated';
  const words = active
    ? 'Click a printed figure or its line, or pick two ends on the drawing and type the true length there.'
    : !done
      ? 'By hand: find the longest dimension that is printed, pick its two ends and type what it is.'
      : checks < 2
        ? `Now hold a few other printed dimensions against it${hold}.`
        : null;
  return (
    <Box sx={{ mb: 1.25 }}>
      {words && <Typography sx={{ mb: 0.75 }}>{words}</Typography>}
      <Button variant="outlined" disabled={u.locked} onClick={() => takeCalibrateTool(table)}>
        {done ? 'Fit to another dimension' : 'Pick a known dimension'}
        {key}
      </Button>
    </Box>
  );
}

function CarryChoice({ traced }: { traced: number }) {
  const { carry, setCarry } = useCalibrateState();
  const things = traced === 1 ? 'One element was traced' : `${traced} elements were traced`;
  return (
    <Box sx={{ mt: 1.5 }}>
      <Typography>{things} on this sheet. When it is scaled, turned or moved</Typography>
      <RadioGroup value={carry ? 'along' : 'stay'} onChange={(e) => setCarry(e.target.value === 'along')}>
        <FormControlLabel value="stay" control={<Radio />} label="they stay exactly where they are" />
        <FormControlLabel
          value="along"
          control={<Radio />}
          label="they go along; thicknesses measured on it are scaled too"
        />
      </RadioGroup>
    </Box>
  );
}

function Figures({
  underlay: u,
  style,
  imperial,
}: {
  underlay: Underlay;
  style: LengthStyle;
  imperial: boolean;
}) {
  const c = u.calibration!;
  const scale = describeScale(scaleFactorOf(u.placement), imperial);
  return (
    <Box
      data-testid="calibration-figures"
      sx={{
        display: 'grid',
        gridTemplateColumns: '1fr 1fr',
        rowGap: 1,
        borderTop: 1,
        borderColor: 'edge',
        pt: 1,
      }}
    >
      <Figure label="The sheet said" value={formatLength(c.oldLength, style)} />
      <Figure label="It is" value={formatLength(c.trueLength, style)} />
      <Figure label="Factor" value={formatNumber(c.factor, 5)} />
      <Figure label="Scale of the sheet" value={scale.text} />
      {scale.remark && !u.straightened && (
        <Typography
          variant="caption"
          sx={{ gridColumn: '1 / -1', color: scale.usual ? 'text.secondary' : 'assumed' }}
        >
          {scale.remark}
        </Typography>
      )}
    </Box>
  );
}

/** How the sheet is turned, and any other angle than those of the ledge. */
function Turned({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const [angle, setAngle] = useState('');
  const { aboutPoint, setAboutPoint } = useCalibrateState();
  const parsed = angle.trim() === '' ? null : parseAngle(angle);
  const degrees = (placementTurn(u.placement) * 180) / Math.PI;
  const turnBy = () => {
    if (parsed === null) return;
    (aboutPoint ? takeTurnTool : turnCurrent)(table, parsed);
    setAngle('');
  };
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', mt: 1.5, pt: 1 }}>
      <Typography variant="caption" color="text.secondary">
        Turned by {formatNumber(degrees, 2)}° against the paper.
      </Typography>
      <Box sx={{ display: 'flex', gap: 0.75, mt: 0.75, alignItems: 'center' }}>
        <TextField
          label="Angle"
          value={angle}
          disabled={u.locked}
          sx={{ width: 90 }}
          error={angle.trim() !== '' && parsed === null}
          onChange={(e) => setAngle(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') turnBy();
          }}
          placeholder="24.5°"
        />
        <Button variant="outlined" disabled={u.locked || parsed === null} onClick={turnBy}>
          Turn
        </Button>
      </Box>
      <FormControlLabel
        control={<Checkbox checked={aboutPoint} onChange={(e) => setAboutPoint(e.target.checked)} />}
        label="turn about a point that I pick next"
      />
    </Box>
  );
}
