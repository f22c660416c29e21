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
import { tracedFrom } from '@/project/trace-words';
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
import { takeCalibrateTool, takeLevelTool, takeOriginTool, takeTurnTool, turnCurrent } from './tools';

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
  const traced = tracedFrom(model, u.id);
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
      <Calibrating underlay={u} active={tool === 'calibrate'} style={style} imperial={isImperial(model)} />
      <AlignCard underlay={u} />
      <Typography variant="h3" sx={{ mt: 2, mb: 0.5 }}>
        Turn and place
      </Typography>
      <TurnAndPlace underlay={u} />
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
  const done = u.scaleState === 'calibrated';
  const words = active
    ? 'Click a printed figure or its line, or pick two ends on the drawing and type the true length there.'
    : !done
      ? 'By hand: find the longest dimension that is printed, pick its two ends and type what it is.'
      : checks < 2
        ? 'Now hold a few other printed dimensions against it (K).'
        : null;
  return (
    <Box sx={{ mb: 1.25 }}>
      {words && <Typography sx={{ mb: 0.75 }}>{words}</Typography>}
      <Button variant="outlined" disabled={u.locked} onClick={() => takeCalibrateTool(table)}>
        {done ? 'Fit to another dimension (C)' : 'Pick a known dimension (C)'}
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

function TurnAndPlace({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const [angle, setAngle] = useState('');
  const [aboutPoint, setAboutPoint] = useState(false);
  const parsed = angle.trim() === '' ? null : parseAngle(angle);
  const degrees = (placementTurn(u.placement) * 180) / Math.PI;
  const turn = (radians: number) => (aboutPoint ? takeTurnTool : turnCurrent)(table, radians);
  const turnBy = () => {
    if (parsed === null) return;
    turn(parsed);
    setAngle('');
  };
  return (
    <Box>
      <Typography variant="caption" color="text.secondary">
        Turned by {formatNumber(degrees, 2)}° against the paper.
      </Typography>
      <Box sx={{ display: 'flex', gap: 0.75, flexWrap: 'wrap', mt: 0.75, alignItems: 'flex-start' }}>
        <Button variant="outlined" sx={{ px: 1 }} disabled={u.locked} onClick={() => turn(Math.PI / 2)}>
          Quarter left
        </Button>
        <Button variant="outlined" sx={{ px: 1 }} disabled={u.locked} onClick={() => turn(-Math.PI / 2)}>
          Quarter right
        </Button>
        <TextField
          label="Angle"
          value={angle}
          sx={{ width: 74 }}
          error={angle.trim() !== '' && parsed === null}
          onChange={(e) => setAngle(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') turnBy();
          }}
          placeholder="24.5°"
        />
        <Button
          variant="outlined"
          sx={{ px: 1, minWidth: 0 }}
          disabled={u.locked || parsed === null}
          onClick={turnBy}
        >
          Turn
        </Button>
        <FormControlLabel
          sx={{ width: '100%', my: -0.5 }}
          control={<Checkbox checked={aboutPoint} onChange={(e) => setAboutPoint(e.target.checked)} />}
          label="about a point that I pick next"
        />
        <Button variant="outlined" disabled={u.locked} onClick={() => takeLevelTool(table)}>
          Level by an edge (L)
        </Button>
        <Button variant="outlined" disabled={u.locked} onClick={() => takeOriginTool(table)}>
          Point on the origin (O)
        </Button>
      </Box>
    </Box>
  );
}
