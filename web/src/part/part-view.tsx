'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef, useState } from 'react';
import { flattenPiece, worldFromPlane } from '@calque/core/geometry';
import { looseOf, piecesOf, tracedOn, type Model, type Part, type WorkPlane } from '@calque/core/model';
import { partPlanes } from '@calque/core/part';
import { useProject, useSession } from '@/project/context';
import { AT_AN_ANGLE } from '@/space/looks';
import { useTableState } from '@/table/context';
import { cssColour, DARK_PALETTE, LIGHT_PALETTE } from '@/table/palette';
import { ChosenCard } from './chosen-card';
import { CostCard } from './cost-card';
import { FactsCard } from './facts-card';
import { LookCard, type PartLook } from './look-card';
import { colourOfPart } from './part-colour';
import { FeatureList } from './feature-list';
import { MakingCard } from './making-card';
import { partWorker, usePartSolid } from './part-solid';
import { nameOfEdge, PartSurface } from './part-surface';
import { PlaceCard } from './place-card';
import { PrintedCard } from './printed-card';
import { chooseNothing, flipEdges, flipFace, usePartUi } from './part-ui';

const SLACK = 4;
const STEP = Math.PI / 24,
  ZOOM = 1.2;
const CHORDS = 0.2;
const PLAIN: PartLook = { shades: null, section: null };

const CARD = {
  position: 'absolute',
  bgcolor: 'slip',
  border: 1,
  borderColor: 'edge',
  boxShadow: '0 4px 18px rgba(23,39,58,.14)',
  p: 1.5,
} as const;

interface Props {
  part: Part;
  top: number;
  onGo(planeId: string): void;
  onClose(): void;
}

/** A part in space: its solid, made step by step; faces and edges are chosen here, and features made of them. */
export function PartView({ part, top, onGo, onClose }: Props) {
  const model = useProject((s) => s.model),
    planeInHand = useTableState((s) => s.planeId);
  const { mode, systemMode } = useColorScheme();
  const palette = (mode === 'system' ? systemMode : mode) === 'dark' ? DARK_PALETTE : LIGHT_PALETTE;
  const canvas = useRef<HTMLCanvasElement>(null),
    surface = useRef<PartSurface | null>(null);
  const [broken] = useState(() => document.createElement('canvas').getContext('webgl2') === null);
  const { solid, states } = usePartSolid(),
    { faces, edges, lit } = usePartUi();
  const planes = useMemo(() => partPlanes(model, part.id), [model, part.id]);

  const { projectId } = useSession();
  useEffect(() => partWorker.follow(model, part.id, projectId), [model, part.id, projectId]);
  useEffect(() => {
    if (broken) return;
    const element = canvas.current!;
    surface.current = new PartSurface(element, palette, { left: 14, right: 334 });
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
  }, [broken]);
  useEffect(() => surface.current?.setPalette(palette), [palette]);
  const colour = cssColour(colourOfPart(part));
  useEffect(() => surface.current?.setSolid(solid, colour), [solid, colour]);
  const [look, setLook] = useState<PartLook>(PLAIN);
  useEffect(() => surface.current?.setLook(look), [look, solid, colour]);
  const drawn = useMemo(() => linesOf(model, planes, planeInHand), [model, planes, planeInHand]);
  useEffect(() => surface.current?.setLines(drawn), [drawn, palette]);
  const places = useMemo(
    () => [...lit, ...states.flatMap((s) => (s.state === 'failed' && s.at ? [s.at] : []))],
    [states, lit],
  );
  useEffect(() => surface.current?.setMarks(faces, edges, places), [faces, edges, places, solid, palette]);
  const fitted = useRef(false);
  useEffect(() => {
    const { current } = surface;
    if (fitted.current || !current || current.view.wasHandled) return;
    current.view.look(AT_AN_ANGLE);
    if (solid) fitted.current = true;
  }, [solid, drawn]);

  const press = useRef<[number, number] | null>(null);
  const at = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = canvas.current!.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  const click = (event: React.MouseEvent) => {
    const from = press.current,
      here = at(event);
    if (!from || Math.hypot(here[0] - from[0], here[1] - from[1]) > SLACK || !surface.current) return;
    const pick = surface.current.pick(here);
    if (!pick) return chooseNothing();
    if (!event.shiftKey && !event.ctrlKey && !event.metaKey && !isAlready(pick)) chooseNothing();
    if (pick.kind === 'face') flipFace(pick.name);
    else flipEdges([nameOfEdge(pick.edge, solid!.edges)]);
  };
  const isAlready = (pick: NonNullable<ReturnType<PartSurface['pick']>>): boolean =>
    pick.kind === 'face'
      ? faces.includes(pick.name)
      : edges.some((e) => e.between.join() === pick.edge.between.join());
  const go = (planeId: string) => {
    onClose();
    onGo(planeId);
  };
  const onCanvas: Readonly<Record<string, () => void>> = {
    ArrowLeft: () => surface.current?.view.turn(-STEP, 0),
    ArrowRight: () => surface.current?.view.turn(STEP, 0),
    ArrowUp: () => surface.current?.view.turn(0, STEP),
    ArrowDown: () => surface.current?.view.turn(0, -STEP),
    '+': () => surface.current?.view.zoom(ZOOM),
    '=': () => surface.current?.view.zoom(ZOOM),
    '-': () => surface.current?.view.zoom(1 / ZOOM),
    Home: () => surface.current?.view.fit(),
  };
  const onKey = (event: React.KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.key === 'Tab' || /^[1-5?]$/.test(event.key)) return;
    if (event.key === 'Escape') {
      if (faces.length + edges.length > 0) chooseNothing();
      else onClose();
    } else if (event.target !== canvas.current) return;
    else onCanvas[event.key]?.();
    event.preventDefault();
  };

  return (
    <Box
      component="section"
      aria-label={`${part.name} in space`}
      onKeyDown={onKey}
      sx={{ position: 'absolute', inset: `${top}px 0 0 0`, bgcolor: 'table', zIndex: 5, overflow: 'hidden' }}
    >
      <canvas
        ref={canvas}
        tabIndex={0}
        aria-label="The part in space. Arrows turn it, + and - make it larger and smaller, Home shows all of it; a click chooses a face or an edge, with Shift another."
        data-testid="part-space"
        style={{ width: '100%', height: '100%', display: 'block', touchAction: 'none', cursor: 'grab' }}
        onPointerDown={(e) => {
          press.current = at(e);
          canvas.current?.focus();
        }}
        onClick={click}
      />
      <Box
        role="toolbar"
        aria-label="Planes of the part"
        sx={{
          position: 'absolute',
          top: 14,
          left: 14,
          right: 340,
          display: 'flex',
          flexWrap: 'wrap',
          gap: 0.5,
        }}
      >
        <Button
          variant="outlined"
          sx={{ bgcolor: 'slip' }}
          onClick={() => surface.current?.view.look(AT_AN_ANGLE)}
        >
          At an angle
        </Button>
        {planes.map((p) => (
          <Button key={p.id} variant="outlined" sx={{ bgcolor: 'slip' }} onClick={() => go(p.id)}>
            Draw on {p.name.replace(`${part.name}: `, '')}
          </Button>
        ))}
      </Box>
      <Box
        sx={{ ...CARD, top: 14, right: 14, width: 312, maxHeight: 'calc(100% - 90px)', overflowY: 'auto' }}
      >
        <Typography variant="h2" sx={{ mb: 0.5 }}>
          {part.name}
        </Typography>
        <ChosenCard part={part} onGo={go} />
        <FeatureList part={part} />
        <LookCard onLook={setLook} />
        <FactsCard part={part} />
        <PlaceCard part={part} onGo={go} />
        <PrintedCard part={part} />
        <MakingCard part={part} />
        <CostCard part={part} />
        <Button variant="contained" fullWidth sx={{ mt: 1.5 }} onClick={onClose}>
          Back to the plane
        </Button>
      </Box>
      <Typography
        role="status"
        color="text.secondary"
        sx={{ position: 'absolute', left: 16, right: 340, bottom: 10, pointerEvents: 'none' }}
      >
        {broken
          ? 'This browser draws nothing in three dimensions here (WebGL is off or not there). The part is made all the same, and its figures are true.'
          : 'Drag turns it, the right button moves it, the wheel zooms; a click chooses a face or an edge, with Shift another.'}
      </Typography>
    </Box>
  );
}

/** What is drawn on the planes of a part, in its space; on the plane in hand in the colour of what is being done. */
function linesOf(
  model: Model,
  planes: readonly WorkPlane[],
  inHand: string,
): { points: Float32Array[]; now: boolean }[] {
  return planes.map((plane) => ({
    now: plane.id === inHand,
    points: tracedOn(model, plane.id).flatMap((owner) =>
      looseOf(owner).flatMap((e) =>
        piecesOf(e).map((piece) =>
          Float32Array.from(flattenPiece(piece, CHORDS).flatMap((p) => [...worldFromPlane(plane, p)])),
        ),
      ),
    ),
  }));
}
