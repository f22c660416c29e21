'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Checkbox from '@mui/material/Checkbox';
import Typography from '@mui/material/Typography';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef, useState } from 'react';
import { minus3, type ModelPoint } from '@calque/core/geometry';
import {
  buildingPlanes,
  elementWords,
  get,
  isTraced,
  looseOf,
  ownerId,
  planeOf,
  shownOf,
  storeysOf,
  type Loose,
  type Model,
} from '@calque/core/model';
import type { Scene } from '@calque/core/solids';
import { formatLength, formatLengthWithUnit, type LengthStyle } from '@calque/core/units';
import { useFromModel, useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { slabPlane, useSeen } from '@/project/seen';
import { useTable, useTableState } from '@/table/context';
import { DARK_PALETTE, LIGHT_PALETTE } from '@/table/palette';
import { CutCard } from './cut-card';
import { cutPlanes, slabCuts, type Extent } from './cuts';
import { AT_AN_ANGLE, namedLooks } from './looks';
import { sceneWithout } from './alone';
import { planesOf } from './scene';
import { ShownCard } from './shown-card';
import { useSolids, type Solids } from './solids';
import { useSpaceState } from './state';
import { SpaceSurface } from './surface';

/** A press that moves less than this is a click, CSS pixels. */
const SLACK = 4;
const STEP = Math.PI / 24,
  ZOOM = 1.2;

interface Props {
  /** Room that the strip and the ruler keep, CSS pixels. */
  top: number;
  onGo(planeId: string): void;
  onClose(): void;
}

/** The model in space: solids, sheets where they lie, what is traced; turned about, cut open, measured; from here one goes on drawing in any plane. */
export function SpaceView({ top, onGo, onClose }: Props) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const selection = useTableState((s) => s.selection);
  const style = useFromModel(lengthStyle);
  const { mode, systemMode } = useColorScheme();
  const palette = (mode === 'system' ? systemMode : mode) === 'dark' ? DARK_PALETTE : LIGHT_PALETTE;
  const canvas = useRef<HTMLCanvasElement>(null);
  const surface = useRef<SpaceSurface | null>(null);
  const [broken] = useState(() => !drawsInSpace());
  const [measuring, setMeasuring] = useState(false);
  const [measured, setMeasured] = useState<ModelPoint[]>([]);
  const { hidden, cut, parallel } = useSpaceState(),
    slabId = useSeen((s) => s.slabId);
  const made = useSolids(model),
    alone = useTableState((s) => s.alone);
  const solids = useMemo(
    () => ({ ...made, scene: made.scene && sceneWithout(made.scene, alone?.away ?? null) }),
    [made, alone],
  );
  const flat = useMemo(() => {
    void model;
    return planesOf(table);
  }, [table, model]);
  const looks = useFromModel(namedLooks);
  const upright = buildingPlanes(model);
  const all = useMemo(() => extentOf(solids.scene), [solids.scene]);
  const chosen = useMemo(() => solidsChosen(solids.scene, selection), [solids.scene, selection]);

  useEffect(() => {
    if (broken) return;
    const element = canvas.current!;
    surface.current = new SpaceSurface(element, table, palette, { left: 214, right: 304 });
    const sizes = new ResizeObserver(() =>
      surface.current?.view.resize(element.clientWidth, element.clientHeight),
    );
    sizes.observe(element);
    element.focus();
    return () => {
      sizes.disconnect();
      surface.current?.close();
      surface.current = null;
    };
    // Colours are handed on below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [table, broken]);

  const fitted = useRef(false);
  useEffect(() => {
    surface.current?.setPlanes(flat.planes);
  }, [flat, palette]);
  useEffect(() => surface.current?.setPalette(palette), [palette]);
  useEffect(() => {
    if (solids.scene) surface.current?.setSolids(solids.scene);
  }, [solids.scene]);
  useEffect(() => {
    // The first view holds everything, as it comes, unless somebody has turned it meanwhile.
    if (fitted.current || !surface.current || (solids.share !== null && !solids.scene)) return;
    if (!surface.current.view.wasHandled) surface.current.view.look(AT_AN_ANGLE);
    if (solids.share === null) fitted.current = true;
  }, [solids]);
  useEffect(() => {
    surface.current?.setHidden({
      storeys: new Set(hidden.storeys),
      types: new Set(hidden.types),
      layers: new Set(hidden.layers),
      sheets: hidden.sheets,
    });
  }, [hidden, solids.scene]);
  useEffect(() => {
    const { current } = surface;
    current?.setCuts([
      ...cutPlanes(cut, model, all, (ids) => current.boxOf(ids)),
      ...slabCuts(slabId === null ? null : slabPlane(model)),
    ]);
  }, [cut, model, all, solids.scene, slabId]);
  useEffect(
    () => surface.current?.setMarks(new Set(chosen), measured),
    [chosen, measured, solids.scene, palette],
  );
  useEffect(() => surface.current?.view.setParallel(parallel), [parallel]);

  const press = useRef<[number, number] | null>(null);
  const at = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = canvas.current!.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  const go = (planeId: string) => {
    onClose();
    onGo(planeId);
  };
  const click = (event: React.MouseEvent) => {
    const from = press.current,
      here = at(event);
    if (!from || Math.hypot(here[0] - from[0], here[1] - from[1]) > SLACK || !surface.current) return;
    if (measuring) {
      const place = surface.current.measuredAt(here);
      if (place) setMeasured((known) => (known.length === 2 ? [place] : [...known, place]));
      return;
    }
    const { element } = surface.current.pick(here);
    table.setSelection(element ? [ownerId(element.id)] : []);
  };
  const doubleClick = (event: React.MouseEvent) => {
    const pick = measuring ? null : surface.current?.pick(at(event));
    const planeId = pick?.element?.storeyId ?? pick?.plane?.id;
    if (planeId) go(planeId);
  };
  const leave = () => {
    if (measuring || measured.length > 0) {
      setMeasuring(false);
      setMeasured([]);
    } else if (selection.size > 0) table.setSelection([]);
    else onClose();
  };
  /** What keys do while the picture has them. */
  const onCanvas: Readonly<Record<string, () => void>> = {
    ArrowLeft: () => surface.current?.view.turn(-STEP, 0),
    ArrowRight: () => surface.current?.view.turn(STEP, 0),
    ArrowUp: () => surface.current?.view.turn(0, STEP),
    ArrowDown: () => surface.current?.view.turn(0, -STEP),
    '+': () => surface.current?.view.zoom(ZOOM),
    '=': () => surface.current?.view.zoom(ZOOM),
    '-': () => surface.current?.view.zoom(1 / ZOOM),
    Home: () => surface.current?.view.fit(),
    m: () => setMeasuring((on) => !on),
    Enter: () => {
      const element = chosen.length > 0 ? elementIn(model, chosen[0]) : null;
      if (element) go(element.planeId);
    },
  };
  const onKey = (event: React.KeyboardEvent) => {
    // Other stages, help, undo and the search are as near as ever.
    if (event.ctrlKey || event.metaKey || event.key === 'Tab' || /^[1-5?]$/.test(event.key)) return;
    if (event.key === 'Escape') leave();
    else if (event.target !== canvas.current) return;
    else onCanvas[event.key.length === 1 ? event.key.toLowerCase() : event.key]?.();
    // Keys of tools draw nothing here.
    event.preventDefault();
  };

  return (
    <Box
      component="section"
      aria-label="Model in space"
      onKeyDown={onKey}
      sx={{ position: 'absolute', inset: `${top}px 0 0 0`, bgcolor: 'table', zIndex: 5, overflow: 'hidden' }}
    >
      <canvas
        ref={canvas}
        tabIndex={0}
        aria-label="The model in space. Arrows turn it, + and - make it larger and smaller, Home shows all of it, M measures."
        data-testid="space"
        style={{
          width: '100%',
          height: '100%',
          display: 'block',
          touchAction: 'none',
          cursor: measuring ? 'crosshair' : 'grab',
        }}
        onPointerDown={(e) => {
          press.current = at(e);
          canvas.current?.focus();
        }}
        onClick={click}
        onDoubleClick={doubleClick}
      />
      <Box sx={{ ...CARD, top: 14, left: 14, width: 200, maxHeight: 'calc(100% - 90px)', overflowY: 'auto' }}>
        <ShownCard
          model={model}
          scene={solids.scene}
          planes={[...flat.planes.map(({ plane }) => plane), ...storeysWithout(model, flat.planes, solids)]}
        />
      </Box>
      <Box
        role="toolbar"
        aria-label="Views"
        sx={{
          ...CARD,
          p: 0.5,
          top: 14,
          left: 228,
          right: 320,
          display: 'flex',
          flexWrap: 'wrap',
          gap: 0.5,
          justifyContent: 'center',
          border: 0,
          bgcolor: 'transparent',
          boxShadow: 'none',
        }}
      >
        {looks.map(([words, look]) => (
          <Button key={words} variant="outlined" sx={VIEW} onClick={() => surface.current?.view.look(look)}>
            {words}
          </Button>
        ))}
        {upright.map((p) => (
          <Button key={p.id} variant="outlined" sx={VIEW} onClick={() => surface.current?.view.lookInto(p)}>
            Into {p.name}
          </Button>
        ))}
      </Box>
      <Box
        sx={{ ...CARD, top: 14, right: 14, width: 290, maxHeight: 'calc(100% - 90px)', overflowY: 'auto' }}
      >
        <Typography variant="h2">Model</Typography>
        <Chosen model={model} ids={chosen} style={style} onGo={go} />
        <Box sx={{ display: 'flex', gap: 1, mt: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
          <Button
            variant={measuring ? 'contained' : 'outlined'}
            aria-pressed={measuring}
            onClick={() => {
              setMeasuring(!measuring);
              setMeasured([]);
            }}
          >
            Measure (M)
          </Button>
          <FormControlLabel
            control={
              <Checkbox
                checked={parallel}
                onChange={(e) => useSpaceState.setState({ parallel: e.target.checked })}
              />
            }
            label="parallel"
          />
        </Box>
        {measuring && <Measured points={measured} style={style} />}
        <CutCard upright={upright} chosen={chosen} all={all} style={style} />
        <Button variant="contained" fullWidth sx={{ mt: 1.5 }} onClick={onClose}>
          Back to the plan
        </Button>
      </Box>
      <Typography
        role="status"
        color="text.secondary"
        sx={{ position: 'absolute', left: 16, right: 16, bottom: 10, pointerEvents: 'none' }}
      >
        {broken
          ? 'This browser draws nothing in three dimensions here (WebGL is off or not there). Plans, planes and everything else work without it.'
          : hintWords(solids, flat)}
      </Typography>
    </Box>
  );
}

/** Can this browser draw in three dimensions at all? */
const drawsInSpace = (): boolean => document.createElement('canvas').getContext('webgl2') !== null;

const CARD = {
  position: 'absolute',
  bgcolor: 'slip',
  border: 1,
  borderColor: 'edge',
  boxShadow: '0 4px 18px rgba(23,39,58,.14)',
  p: 1.5,
} as const;
const VIEW = { bgcolor: 'slip', '&:hover': { bgcolor: 'ledge' } } as const;

function hintWords(
  { scene, share, why }: Solids,
  { planes, leftOut, unscaled }: ReturnType<typeof planesOf>,
): string {
  if (why) return why;
  const isEmpty = planes.length === 0 && (scene?.groups.length ?? 0) === 0;
  return [
    share !== null
      ? `The solids are being made: ${Math.round(share * 100)} %.`
      : isEmpty
        ? 'Nothing lies on any plane yet: lay a sheet or draw walls, and they stand here.'
        : 'Drag turns it, the right button or two fingers move it, the wheel zooms; a click selects, a double click goes on drawing there.',
    unscaled > 0 &&
      `${count(unscaled, 'sheet is', 'sheets are')} not to scale yet, and no size of them here is true.`,
    leftOut > 0 && `${count(leftOut, 'line is', 'lines are')} left out of this picture.`,
  ]
    .filter(Boolean)
    .join(' ');
}

/** Storeys on which only solids stand. */
function storeysWithout(model: Model, planes: readonly { plane: { id: string } }[], { scene }: Solids) {
  const known = new Set(planes.map((p) => p.plane.id)),
    standing = new Set(scene?.groups.map((g) => g.storeyId));
  return storeysOf(model).filter((s) => !known.has(s.id) && standing.has(s.id));
}

/** The corners of all solids, in the model. */
function extentOf(scene: Scene | null): Extent | null {
  if (!scene?.box) return null;
  const back = (p: ModelPoint): ModelPoint =>
    minus3(p, [-scene.origin[0], -scene.origin[1], -scene.origin[2]]);
  return { low: back(scene.box.low), high: back(scene.box.high) };
}

/** The solids that are selected: of a placed group all of its own. */
function solidsChosen(scene: Scene | null, wanted: ReadonlySet<string>): string[] {
  return (
    scene?.groups.flatMap((g) => g.elements.filter((e) => wanted.has(ownerId(e.id))).map((e) => e.id)) ?? []
  );
}

/** An element by its id, or by its own within a placed group. */
function elementIn(model: Model, id: string): Loose | null {
  const owner = model.get(ownerId(id));
  if (!owner || !isTraced(owner)) return null;
  return looseOf(shownOf(owner, model)).find((e) => e.id === id) ?? null;
}

function Chosen({
  model,
  ids,
  style,
  onGo,
}: {
  model: Model;
  ids: readonly string[];
  style: LengthStyle;
  onGo(planeId: string): void;
}) {
  const only = ids.length > 0 ? elementIn(model, ids[0]) : null;
  if (!only)
    return <Typography color="text.secondary">Click a wall, a slab or a roof to see what it is.</Typography>;
  const plane = planeOf(model, only.planeId);
  return (
    <>
      <Typography data-testid="space-chosen" sx={{ fontWeight: 650 }}>
        {ids.length === 1 ? elementWords(only, style) : `${ids.length} elements`}
      </Typography>
      <Typography color="text.secondary">
        {plane?.name}
        {get(model, 'layer', only.layerId ?? '') ? `, layer ${get(model, 'layer', only.layerId!)!.name}` : ''}
      </Typography>
      <Button variant="outlined" sx={{ mt: 0.75 }} onClick={() => onGo(only.planeId)}>
        Go on drawing there
      </Button>
    </>
  );
}

function Measured({ points, style }: { points: readonly ModelPoint[]; style: LengthStyle }) {
  if (points.length < 2)
    return (
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        {points.length === 0 ? 'Click a corner or a face.' : 'Click the other end.'}
      </Typography>
    );
  const [dx, dy, dz] = minus3(points[1], points[0]);
  return (
    <Box data-testid="space-measured" sx={{ mt: 1 }}>
      <Typography variant="h3">{formatLengthWithUnit(Math.hypot(dx, dy, dz), style)}</Typography>
      <Typography color="text.secondary">
        level {formatLength(Math.hypot(dx, dy), style)}, upright {formatLength(Math.abs(dz), style)}
      </Typography>
    </Box>
  );
}
