'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import Typography from '@mui/material/Typography';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useMemo, useRef, useState } from 'react';
import { planeFromWorld, type Frame, type Point, type Transform } from '@calque/core/geometry';
import { viewFrame, type Outlook } from '@calque/core/planes';
import { useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { useTable, useTableState } from '@/table/context';
import { DARK_PALETTE, LIGHT_PALETTE } from '@/table/palette';
import { boxInView, cornersOfScene, sceneOf, type ScenePlane, type SceneSheet } from './scene';
import { paintScene, planeAt, type SpaceBrush } from './paint';

const FIRST: Outlook = { round: -Math.PI / 3, above: Math.PI / 6 };
/** Ways to look at it that are asked for by name. */
const LOOKS: readonly (readonly [string, Outlook])[] = [
  ['From the south', { round: -Math.PI / 2, above: 0 }],
  ['From the east', { round: 0, above: 0 }],
  ['From above', { round: -Math.PI / 2, above: Math.PI / 2 }],
  ['At an angle', FIRST],
];
const MARGIN = 40;
/** Radians for a pixel of a drag. */
const TURN = 0.008;
/** A press that moves less than this is a click, CSS pixels. */
const SLACK = 4;
const STEP = Math.PI / 24;

/** The view that holds everything: the way from its millimetres onto a canvas, y down. */
function fitted(
  planes: readonly ScenePlane[],
  view: Frame,
  width: number,
  height: number,
  zoom: number,
): Transform {
  const seen = cornersOfScene(planes).map((p): Point => planeFromWorld(view, p).point);
  const [x0, y0, x1, y1] = seen.length > 0 ? boxInView(seen) : [0, 0, 1, 1];
  const scale =
    zoom *
    Math.min((width - 2 * MARGIN) / Math.max(x1 - x0, 1), (height - 2 * MARGIN) / Math.max(y1 - y0, 1));
  return [scale, 0, 0, -scale, width / 2 - (scale * (x0 + x1)) / 2, height / 2 + (scale * (y0 + y1)) / 2];
}

/** Pictures of sheets as they come; the painter is told of each. */
class Pictures {
  private readonly known = new Map<string, HTMLImageElement>();
  constructor(private readonly onCome: () => void) {}

  of({ url }: SceneSheet): HTMLImageElement | null {
    let image = this.known.get(url);
    if (!image) {
      this.known.set(url, (image = new Image()));
      image.onload = this.onCome;
      image.src = url;
    }
    return image.complete && image.naturalWidth > 0 ? image : null;
  }
}

/** All sheets and what is traced on them, in their places: a light picture to turn about; a click goes to the plane. */
export function SpaceView({ onGo, onClose }: { onGo(planeId: string): void; onClose(): void }) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const currentId = useTableState((s) => s.planeId);
  const { mode, systemMode } = useColorScheme();
  const palette = (mode === 'system' ? systemMode : mode) === 'dark' ? DARK_PALETTE : LIGHT_PALETTE;
  // The dialog brings the canvas a moment later than this is made.
  const canvas = useRef<HTMLCanvasElement | null>(null);
  const [isThere, setThere] = useState(false);
  const [outlook, setOutlook] = useState(FIRST);
  const [zoom, setZoom] = useState(1);
  const [came, setCame] = useState(0);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const pictures = useMemo(() => new Pictures(() => setCame((n) => n + 1)), []);
  const { planes, leftOut, unscaled } = useMemo(() => {
    void model;
    return sceneOf(table);
  }, [table, model]);
  const drag = useRef<{ x: number; y: number; moved: boolean } | null>(null);
  const view = useMemo(() => viewFrame(outlook), [outlook]);

  const brush = (context: CanvasRenderingContext2D): SpaceBrush => ({
    context,
    palette,
    view,
    screenFromView: fitted(planes, view, size.width, size.height, zoom),
    pictureOf: (sheet) => pictures.of(sheet),
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const sizes = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    sizes.observe(element);
    element.focus();
    return () => sizes.disconnect();
  }, [isThere]);

  useEffect(() => {
    const element = canvas.current,
      context = element?.getContext('2d');
    if (!element || !context || size.width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = size.width * ratio;
    element.height = size.height * ratio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    paintScene(brush(context), planes, currentId);
    element.dataset.planes = String(planes.length);
    // The brush is made of what stands here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isThere, planes, view, zoom, size, palette, currentId, came]);

  const turn = (round: number, above: number) =>
    setOutlook((o) => ({
      round: o.round + round,
      above: Math.min(Math.PI / 2, Math.max(-Math.PI / 2, o.above + above)),
    }));
  const click = (event: React.PointerEvent<HTMLCanvasElement>) => {
    const box = event.currentTarget.getBoundingClientRect(),
      context = event.currentTarget.getContext('2d');
    const found =
      context && planeAt(brush(context), planes, [event.clientX - box.left, event.clientY - box.top]);
    if (!found) return;
    onClose();
    onGo(found.plane.id);
  };
  const onKey = (event: React.KeyboardEvent) => {
    const step = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, STEP],
      ArrowDown: [0, -STEP],
    }[event.key];
    if (step) turn(step[0], step[1]);
    else if (event.key === '+') setZoom((z) => Math.min(20, z * 1.2));
    else if (event.key === '-') setZoom((z) => Math.max(0.2, z / 1.2));
    else return;
    event.preventDefault();
  };

  return (
    <Dialog open onClose={onClose} fullScreen aria-label="In space">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, py: 1, bgcolor: 'slip' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          In space
        </Typography>
        {LOOKS.map(([words, look]) => (
          <Button
            key={words}
            variant="outlined"
            onClick={() => {
              setOutlook(look);
              setZoom(1);
            }}
          >
            {words}
          </Button>
        ))}
        <Button variant="contained" onClick={onClose}>
          Back to the drawing
        </Button>
      </Box>
      <Box sx={{ position: 'relative', flex: 1, minHeight: 0, bgcolor: 'table' }}>
        <canvas
          ref={(element) => {
            canvas.current = element;
            setThere(element !== null);
          }}
          tabIndex={0}
          aria-label="Sheets and planes in their places. Arrows turn the picture, + and - make it larger and smaller."
          data-testid="space"
          style={{ width: '100%', height: '100%', display: 'block', touchAction: 'none', cursor: 'grab' }}
          onKeyDown={onKey}
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            drag.current = { x: e.clientX, y: e.clientY, moved: false };
          }}
          onPointerMove={(e) => {
            const from = drag.current;
            if (!from) return;
            const [dx, dy] = [e.clientX - from.x, e.clientY - from.y];
            if (!from.moved && Math.hypot(dx, dy) <= SLACK) return;
            drag.current = { x: e.clientX, y: e.clientY, moved: true };
            turn(-dx * TURN, dy * TURN);
          }}
          onPointerUp={(e) => {
            if (drag.current && !drag.current.moved) click(e);
            drag.current = null;
          }}
          onWheel={(e) => setZoom((z) => Math.min(20, Math.max(0.2, z * Math.exp(-e.deltaY * 0.0016))))}
        />
        <Typography
          color="text.secondary"
          sx={{ position: 'absolute', left: 16, bottom: 12, pointerEvents: 'none' }}
        >
          {planes.length === 0
            ? 'Nothing lies on any plane yet.'
            : 'Drag to turn it, wheel for larger and smaller; click a plane to go there.'}
          {unscaled > 0
            ? ` ${count(unscaled, 'sheet is', 'sheets are')} not to scale yet, and no size of them here is true.`
            : ''}
          {leftOut > 0 ? ` ${count(leftOut, 'line is', 'lines are')} left out of this picture.` : ''}
        </Typography>
      </Box>
    </Dialog>
  );
}
