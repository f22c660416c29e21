'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { wallSchedule } from '@calque/core/building';
import {
  drawingOfModel,
  viewsOfModel,
  isDelivered,
  writeOpeningsCsv,
  dxfOfModel,
  writeDxf,
  writeWallsCsv,
  type Drawing,
  type DxfUnits,
} from '@calque/core/exchange';
import { openingSchedule } from '@calque/core/takeoff';
import { ofType, settingsOf, type Underlay, storeysOf } from '@calque/core/model';
import { formatArea, formatLengthWithUnit } from '@calque/core/units';
import { useDelivered } from '@/project/delivered';
import { traceTally, traceWords } from '@/project/trace-words';
import { useFromModel, useProject, useSession } from '@/project/context';
import { isImperial, lengthStyle } from '@/project/views';
import { saveText } from '@/ui/save-text';
import { BuildingRows } from './building-rows';
import { FrameRows } from './frame-rows';
import { DrawingPicture } from './pictures';
import { PaperRow } from './paper-row';
import { ReadyRow } from './ready/ready-row';
import { Row } from './row';

const DXF_UNITS: { id: DxfUnits; words: string }[] = [
  { id: 'mm', words: 'millimetres' },
  { id: 'm', words: 'metres' },
  { id: 'in', words: 'inches' },
  { id: 'ft', words: 'feet' },
];

const MOST_PICTURED = 5000,
  NOTHING: Drawing = { layers: [], shapes: [] };

/** Hands the trace out in open formats. */
export function DeliverPanel() {
  const session = useSession();
  const model = useProject((s) => s.model);
  const saved = useProject((s) => s.saved);
  const style = useFromModel(lengthStyle);
  const storeys = storeysOf(model),
    upright = ofType(model, 'plane'),
    planes = [...storeys, ...upright];
  const [chosen, setChosen] = useState('all');
  // One that has been removed since is chosen no more.
  const planeId = planes.some((p) => p.id === chosen) ? chosen : 'all';
  const files = useProject((s) => s.files);
  const [withSheets, setWithSheets] = useState(true);
  const [units, setUnits] = useState<DxfUnits>(isImperial(model) ? 'in' : 'mm');
  const { name } = settingsOf(model);
  const rows = useFromModel(wallSchedule);
  const openings = useFromModel(openingSchedule);
  const traced = traceTally(model);
  const empty = traced.total === 0;
  const assumed = rows.filter((r) => r.wall.heightAssumed).length;
  const onePlane = planeId === 'all' ? undefined : planeId,
    isThere = isDelivered(model, onePlane);
  const drawing = () => drawingOfModel(model, onePlane),
    // A picture of a large project would be slow to make, and show little.
    shown = useMemo(
      () => (model.size > MOST_PICTURED ? NOTHING : drawingOfModel(model, onePlane)),
      [model, onePlane],
    );
  const referred = ofType(model, 'underlay').filter(
    (u) => isThere(u) && files.find((f) => f.id === u.fileId)?.kind === 'pdf',
  ).length;
  const fileOf = (u: Underlay) => {
    const file = withSheets ? files.find((f) => f.id === u.fileId) : undefined;
    return file?.kind === 'pdf' ? file.name : null;
  };
  const give = (...file: Parameters<typeof saveText>) => {
    saveText(...file);
    useDelivered.getState().again();
  };
  const dxf = () => {
    session.tell('The DXF was written.');
    give(`${name}.dxf`, writeDxf(dxfOfModel(model, onePlane, fileOf), units), 'application/dxf');
  };
  const openingsCsv = () => give(`${name} openings.csv`, writeOpeningsCsv(openings, style.units), 'text/csv');
  const csv = () => give(`${name} walls.csv`, writeWallsCsv(rows, style.units), 'text/csv');
  return (
    <Box>
      <Typography variant="h2">Deliver</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        {empty
          ? 'Nothing has been traced yet. The package can be written all the same.'
          : `${traceWords(traced)}${
              rows.length > 0
                ? `; the walls ${formatLengthWithUnit(
                    rows.reduce((s, r) => s + r.length, 0),
                    style,
                  )} together, ${formatArea(
                    rows.reduce((s, r) => s + r.area, 0),
                    style.units,
                  )} of one face`
                : ''
            }${assumed ? `; ${assumed} heights are assumed` : ''}.`}
      </Typography>
      {planes.length > 1 && (
        <TextField
          select
          fullWidth
          label={upright.length > 0 ? 'Storey or plane' : 'Storey'}
          value={planeId}
          onChange={(e) => setChosen(e.target.value)}
          sx={{ mb: 1, mt: 0.5 }}
        >
          <MenuItem value="all">all storeys</MenuItem>
          {planes.map((p) => (
            <MenuItem key={p.id} value={p.id}>
              {p.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <ReadyRow />
      <Row
        title="DXF drawing"
        words={`Joined outlines as closed polylines, lines, arcs, curves, texts, groups as blocks, on the layers of the trace, units set.${withSheets && referred > 0 ? ' It refers to the PDF sheets as they lie here: keep those files beside it.' : ''}`}
      >
        <DrawingPicture drawing={shown} />
        <TextField
          select
          label="Units"
          value={units}
          onChange={(e) => setUnits(e.target.value as DxfUnits)}
          sx={{ width: 130 }}
        >
          {DXF_UNITS.map((u) => (
            <MenuItem key={u.id} value={u.id}>
              {u.words}
            </MenuItem>
          ))}
        </TextField>
        <Button variant="contained" disabled={empty} onClick={dxf}>
          Write DXF
        </Button>
        <FormControlLabel
          control={
            <Checkbox
              checked={withSheets && referred > 0}
              onChange={(e) => setWithSheets(e.target.checked)}
            />
          }
          disabled={referred === 0}
          label={
            referred === 0
              ? 'no PDF sheets to refer to'
              : `with its ${referred === 1 ? 'PDF sheet' : `${referred} PDF sheets`}`
          }
          sx={{ width: '100%' }}
        />
      </Row>
      <BuildingRows storeyId={onePlane ?? null} storey={storeys.find((s) => s.id === onePlane) ?? null} />
      <FrameRows />
      <PaperRow drawing={drawing} views={() => viewsOfModel(model, onePlane)} empty={empty} onGive={give} />
      <Row title="Walls as CSV" words="Length along the drawn line, thickness, height, area of one face.">
        <Button variant="contained" disabled={rows.length === 0} onClick={csv}>
          Write CSV
        </Button>
      </Row>
      <Row
        title="Openings as CSV"
        words="Doors, windows and gaps: width, height, sill, swing, wall, and what of it is assumed."
      >
        <Button variant="contained" disabled={openings.length === 0} onClick={openingsCsv}>
          Write openings
        </Button>
      </Row>
      <Row
        title="Package"
        words={
          saved === 'saved'
            ? 'Everything, with the attached files (but no passwords of protected ones) and the history; opens again on another installation.'
            : 'Wait until all is saved.'
        }
      >
        <Button
          variant="contained"
          disabled={saved !== 'saved'}
          component="a"
          href={`/api/projects/${session.projectId}/package`}
          download
          onClick={() => useDelivered.getState().again()}
        >
          Write .calque
        </Button>
      </Row>
    </Box>
  );
}
