'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, type ReactNode } from 'react';
import { layerKeys, layerStates, penKey, penUses, type SheetKind } from '@calque/core/linework';
import { get, lookOf } from '@calque/core/model';
import { useProject } from '@/project/context';
import { penWords } from '@/project/pen-words';
import { useTable, useTableState } from '@/table/context';
import { closeConvert, forecast, showRegion, startConvert, useConvert, type After } from './convert';
import { takeRegionTool } from './region-tool';

const KINDS: [SheetKind, string][] = [
  ['line', 'lines'],
  ['curve', 'arcs and curves'],
  ['text', 'texts'],
  ['dimension', 'dimensions'],
  ['hatch', 'hatches'],
  ['fill', 'edges of fills'],
  ['markup', 'mark-ups'],
];
/** More pens than these would push everything else out of sight. */
const MOST_PENS = 10;
const AFTER: [After, string][] = [
  ['stays', 'stays'],
  ['hidden', 'is hidden'],
  ['removed', 'is taken off'],
];

/** Chooses what of a sheet becomes linework, says how much that is, and does it. */
export function ConvertCard() {
  const table = useTable();
  const state = useConvert();
  const u = useProject((s) => get(s.model, 'underlay', state.underlayId));
  const tool = useTableState((s) => s.toolId);
  // The linework comes a moment after the sheet.
  useTableState((s) => s.sheetsLoaded);
  const linework = u ? (table.sheets.get(u.fileId, u.page)?.linework ?? null) : null;
  const { ring, off, layersOff, pensOff } = state;
  const pens = useMemo(
    () => (linework ? penUses(linework).map(({ pen }) => linework.pens[pen]) : []),
    [linework],
  );
  useEffect(() => {
    if (u) showRegion(table, u, ring);
    return () => table.setMarked(null);
  }, [table, u, ring]);
  const said = useMemo(
    () =>
      linework && u
        ? forecast(linework, u, { ...useConvert.getState(), ring, off, layersOff, pensOff })
        : null,
    [linework, u, ring, off, layersOff, pensOff],
  );
  if (!u) return null;
  const flip = <T,>(list: readonly T[], one: T) =>
    list.includes(one) ? list.filter((x) => x !== one) : [...list, one];
  const keys = linework ? layerKeys(linework.layers) : [],
    on = linework ? layerStates(linework.layers, lookOf(u).switches) : [];
  return (
    <Box data-testid="convert">
      <Typography variant="h2">Convert into linework</Typography>
      <Typography sx={{ fontWeight: 650 }}>{u.name}</Typography>
      <Typography color="text.secondary" sx={{ mb: 0.5 }}>
        Clean elements to edit: lines in line joined, doubles gone, chains as paths, true arcs.
      </Typography>
      {u.scaleState === 'paper' && (
        <Typography sx={{ color: 'assumed' }}>
          The sheet is not to scale yet: lengths will be those of the paper.
        </Typography>
      )}
      <Row words="Region">
        <Choice
          pressed={ring === null && !tool.startsWith('region')}
          words="all that is laid"
          onPress={() => useConvert.setState({ ring: null })}
        />
        <Choice
          pressed={tool === 'region-rectangle'}
          words="rectangle"
          onPress={() => takeRegionTool(table, u, false)}
        />
        <Choice
          pressed={tool === 'region-polygon'}
          words="polygon"
          onPress={() => takeRegionTool(table, u, true)}
        />
        {ring !== null && (
          <Typography variant="caption" color="text.secondary">
            as picked
          </Typography>
        )}
      </Row>
      <Row words="Kinds">
        {KINDS.map(([kind, words]) => (
          <Choice
            key={kind}
            pressed={!off.includes(kind)}
            words={words}
            onPress={() => useConvert.setState({ off: flip(off, kind) })}
          />
        ))}
      </Row>
      {keys.length > 0 && (
        <Row words="Layers of the file">
          {keys.map(
            (key, i) =>
              on[i] && (
                <Choice
                  key={key}
                  pressed={!layersOff.includes(key)}
                  words={key || 'no name'}
                  onPress={() => useConvert.setState({ layersOff: flip(layersOff, key) })}
                />
              ),
          )}
        </Row>
      )}
      {pens.length > 1 && (
        <Row words="Pens">
          {pens
            .slice(0, MOST_PENS)
            .map((pen) => ({ key: penKey(pen), words: penWords(pen) }))
            .filter(({ key }) => !lookOf(u).switches.pens.includes(key))
            .map(({ key, words }) => (
              <Choice
                key={key}
                pressed={!pensOff.includes(key)}
                words={words}
                onPress={() => useConvert.setState({ pensOff: flip(pensOff, key) })}
              />
            ))}
        </Row>
      )}
      <Typography variant="caption" color="text.secondary">
        What is switched off on the sheet itself is left out.
        {pens.length > MOST_PENS
          ? ` These are the ${MOST_PENS} pens that draw most; the others are switched on the sheet.`
          : ''}
      </Typography>
      {keys.length > 0 && (
        <Pick
          words="Put it on layers"
          value={state.layering}
          choices={[
            ['file', 'of the file'],
            ['kind', 'by kind'],
          ]}
          onChange={(layering) => useConvert.setState({ layering })}
        />
      )}
      <Pick
        words="The sheet then"
        value={state.after}
        choices={AFTER}
        onChange={(after) => useConvert.setState({ after })}
      />
      {state.why && (
        <Typography role="alert" sx={{ color: 'differs' }}>
          ≠ {state.why}
        </Typography>
      )}
      {state.running ? (
        <Box sx={{ mt: 1 }}>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography sx={{ flex: 1 }}>Converting …</Typography>
            <Button onClick={state.running.stop}>Stop</Button>
          </Box>
          <LinearProgress variant="determinate" value={100 * state.running.share} aria-label="Converting" />
        </Box>
      ) : (
        <>
          <Typography sx={{ my: 0.75, fontWeight: 650 }}>
            {said?.words ?? 'The sheet is still being fetched.'}
          </Typography>
          <Button
            variant="contained"
            disabled={!said || said.pieces === 0}
            onClick={() => startConvert(table, u)}
          >
            Convert
          </Button>
          <Button onClick={() => closeConvert(table)}>Leave it</Button>
        </>
      )}
    </Box>
  );
}

function Row({ words, children }: { words: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, alignItems: 'center', my: 0.75 }}>
      <Typography color="text.secondary" sx={{ width: '100%' }}>
        {words}
      </Typography>
      {children}
    </Box>
  );
}

function Choice({ pressed, words, onPress }: { pressed: boolean; words: string; onPress(): void }) {
  return (
    <Button
      variant={pressed ? 'contained' : 'outlined'}
      aria-pressed={pressed}
      sx={{ py: 0.1 }}
      onClick={onPress}
    >
      {words}
    </Button>
  );
}

function Pick<T extends string>({
  words,
  value,
  choices,
  onChange,
}: {
  words: string;
  value: T;
  choices: readonly (readonly [T, string])[];
  onChange(value: T): void;
}) {
  return (
    <Row words={words}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={value}
        onChange={(_, v: T | null) => {
          if (v) onChange(v);
        }}
        aria-label={words}
      >
        {choices.map(([id, name]) => (
          <ToggleButton key={id} value={id}>
            {name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Row>
  );
}
