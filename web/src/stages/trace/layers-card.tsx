'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { isTraced, ofType, setFields, type Entity, type LineType, type TraceLayer } from '@calque/core/model';
import { useFromModel, useProject, useSession } from '@/project/context';
import { addLayer, removeLayer, showAllLayers, showLayerAlone } from './layers';
import { useTraceState } from '@/drawing/state';

const layersOf = (model: Parameters<typeof ofType>[0]) => ofType(model, 'layer');
const LINE_TYPE_WORDS: [LineType, string][] = [
  ['solid', 'solid'],
  ['dashed', 'dashed'],
  ['dotted', 'dotted'],
  ['dash-dot', 'dash, dot'],
];
const small = { py: 0, px: 0.75, minWidth: 0 } as const;

/** The layers of the trace: which is current, what shows, what is locked, how each is drawn. */
const layerIdOf = (e: Entity): string | null => (isTraced(e) && e.layerId ? e.layerId : null);

export function LayersCard() {
  const session = useSession();
  const model = useProject((s) => s.model);
  const layers = useFromModel(layersOf);
  const current = useTraceState((s) => s.layerId);
  const setLayer = useTraceState((s) => s.setLayer);
  const [name, setName] = useState('');
  const [why, setWhy] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const counts = useMemo(() => model.tally(layerIdOf), [model]);
  const now = layers.find((l) => l.id === current);
  const add = () => {
    const message = addLayer(session, name);
    setWhy(message);
    if (message === null) setName('');
  };
  return (
    <Box data-testid="layers">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        {layers.length === 0
          ? 'Layers of the trace: none yet'
          : `Layers: ${layers.length}, new elements on ${now?.name ?? 'none'}`}
      </Typography>
      {layers.map((l) => (
        <Box
          key={l.id}
          sx={{ borderLeft: 4, borderColor: l.id === current ? 'now' : 'transparent', pl: 0.75, py: 0.4 }}
        >
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, opacity: l.visible ? 1 : 0.55 }}>
            <ColourField layer={l} />
            <Button
              sx={{
                ...small,
                flex: 1,
                justifyContent: 'flex-start',
                textAlign: 'left',
                overflowWrap: 'anywhere',
              }}
              aria-pressed={l.id === current}
              onClick={() => setLayer(l.id === current ? null : l.id)}
            >
              {l.name}
              {l.id === current ? ' · current' : ''}
            </Button>
            <Typography color="text.secondary" sx={{ fontVariantNumeric: 'tabular-nums' }}>
              {counts.get(l.id) ?? 0}
            </Typography>
          </Box>
          <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
            <Button
              sx={small}
              onClick={() =>
                session.do(
                  setFields(l, { visible: !l.visible }),
                  `${l.visible ? 'Hide' : 'Show'} ${l.name}`.slice(0, 190),
                )
              }
            >
              {l.visible ? 'Hide' : 'Show'}
            </Button>
            <Button
              sx={small}
              onClick={() =>
                session.do(
                  setFields(l, { locked: !l.locked }),
                  `${l.locked ? 'Unlock' : 'Lock'} ${l.name}`.slice(0, 190),
                )
              }
            >
              {l.locked ? 'Unlock' : 'Lock'}
            </Button>
            <Button sx={small} onClick={() => showLayerAlone(session, l)}>
              Alone
            </Button>
            <Button
              sx={small}
              aria-expanded={chosen === l.id}
              onClick={() => setChosen(chosen === l.id ? null : l.id)}
            >
              More
            </Button>
          </Box>
          {chosen === l.id && <LayerLook layer={l} />}
        </Box>
      ))}
      {layers.some((l) => !l.visible) && (
        <Button onClick={() => showAllLayers(session)}>Show all layers</Button>
      )}
      <Box sx={{ display: 'flex', gap: 1, mt: 1, alignItems: 'flex-start' }}>
        <TextField
          label="New layer"
          value={name}
          error={why !== null}
          helperText={why}
          onChange={(e) => {
            setName(e.target.value);
            setWhy(null);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') add();
          }}
        />
        <Button variant="outlined" onClick={add}>
          Add
        </Button>
      </Box>
      <Typography variant="caption" color="text.secondary">
        A click on a name makes it the layer that new elements come onto.
      </Typography>
    </Box>
  );
}

function ColourField({ layer: l }: { layer: TraceLayer }) {
  const session = useSession();
  const [draft, setDraft] = useState<string | null>(null);
  const colour = `#${l.colour.toString(16).padStart(6, '0')}`;
  // The picker tells every shade that it passes: only the one that it is left at is a step.
  const keep = () => {
    if (draft && draft !== colour)
      session.do(setFields(l, { colour: parseInt(draft.slice(1), 16) }), `Colour of ${l.name}`.slice(0, 190));
    setDraft(null);
  };
  return (
    <Box
      component="input"
      type="color"
      aria-label={`Colour of ${l.name}`}
      value={draft ?? colour}
      onChange={(e: React.ChangeEvent<HTMLInputElement>) => setDraft(e.target.value)}
      onBlur={keep}
      sx={{ width: 24, height: 20, p: 0, border: 0, bgcolor: 'transparent' }}
    />
  );
}

function LayerLook({ layer: l }: { layer: TraceLayer }) {
  const session = useSession();
  const [name, setName] = useState(l.name);
  const [weight, setWeight] = useState(String(l.weight));
  const rename = () => {
    if (name.trim() && name.trim() !== l.name)
      session.do(setFields(l, { name: name.trim() }), 'Rename a layer');
  };
  const weigh = () => {
    const mm = Number(weight.replace(',', '.'));
    if (mm > 0 && mm <= 10) session.do(setFields(l, { weight: mm }), `Weight of ${l.name}`.slice(0, 190));
    else setWeight(String(l.weight));
  };
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, py: 1 }}>
      <TextField
        label="Name"
        value={name}
        onChange={(e) => setName(e.target.value)}
        onBlur={rename}
        onKeyDown={(e) => {
          if (e.key === 'Enter') rename();
        }}
        sx={{ width: 150 }}
      />
      <TextField
        label="Weight, mm"
        value={weight}
        onChange={(e) => setWeight(e.target.value)}
        onBlur={weigh}
        onKeyDown={(e) => {
          if (e.key === 'Enter') weigh();
        }}
        sx={{ width: 100 }}
      />
      <TextField
        select
        label="Line type"
        value={l.lineType}
        onChange={(e) =>
          session.do(
            setFields(l, { lineType: e.target.value as LineType }),
            `Line type of ${l.name}`.slice(0, 190),
          )
        }
        sx={{ width: 130 }}
      >
        {LINE_TYPE_WORDS.map(([id, words]) => (
          <MenuItem key={id} value={id}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ width: 120 }}>
        <Typography color="text.secondary">Faded</Typography>
        <Slider
          size="small"
          aria-label={`Fade of ${l.name}`}
          min={0}
          max={1}
          step={0.05}
          defaultValue={l.fade}
          onChangeCommitted={(_, v) =>
            session.do(setFields(l, { fade: v as number }), `Fade ${l.name}`.slice(0, 190))
          }
        />
      </Box>
      <Button color="inherit" onClick={() => removeLayer(session, l)}>
        Remove; what lies on it stays
      </Button>
    </Box>
  );
}
