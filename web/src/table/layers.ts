import Konva from 'konva';
import { gridOn, lookOf, ofType } from '@calque/core/model';
import type { ProjectSession } from '@/project/session';
import type { Brush } from './brush';
import type { Palette } from './palette';
import type { InkCache } from './ink-cache';
import type { LineworkCache } from './linework-cache';
import { paintGrid } from './painters/grid';
import { paintInks } from './painters/inks';
import { paintLoupe, placesAreClose } from './painters/loupe';
import { paintMarked, type Marked } from './painters/marked';
import { paintOpenGroup } from './painters/open-group';
import { paintFound, paintKeyCursor, paintOrigin, paintTouched } from './painters/overlay';
import { paintPlaneNames, paintPlanes, paintVeil } from './painters/planes';
import { takeSheetWords } from './painters/sheet-words';
import type { SheetPainter, SheetScene } from './painters/sheets';
import { paintJoints } from './painters/joints';
import { paintViewEdges } from './painters/view-edges';
import { paintGhost, paintTrace, THROUGH } from './painters/trace';
import { WordRoom } from './painters/word-room';
import type { Found } from './snapping';
import type { TableState } from './state';
import type { Pick, Tool } from './tool';
import type { Touched } from '@calque/core/snapping';
import type { TraceCache } from './trace-cache';
import { viewEdgesOf } from './view-edges';
import { toScreen } from './viewport';

export type LayerName = 'sheets' | 'trace' | 'front' | 'overlay';
const LAYERS: readonly LayerName[] = ['sheets', 'trace', 'front', 'overlay'];

/** What is painted: asked for at every painting, so that it is always what holds now. */
export interface Shown {
  readonly session: ProjectSession;
  readonly traces: TraceCache;
  readonly sheets: LineworkCache;
  readonly inks: InkCache;
  readonly sheetPainter: SheetPainter;
  readonly state: TableState;
  readonly palette: Palette;
  readonly tool: Tool;
  readonly lastPick: Pick | null;
  readonly candidates: readonly Found[];
  readonly touched: readonly Touched[];
  readonly marked: Marked | null;
  /** The cursor is moved by keys and no pointer shows it. */ readonly keyCursor: boolean;
  /** Is the view being moved? Then what costs time may wait. */ readonly moving: boolean;
  /** The storeys that show as ghosts beside the one in hand. */ readonly ghostIds: readonly string[];
}

/** The painted half of the surface: four Konva layers, one custom shape each, so that moving the cursor repaints the overlay alone. */
export class TableLayers {
  private readonly stage: Konva.Stage;
  private readonly layers: Record<LayerName, Konva.Layer>;
  /** What the words of the trace and of the sheets take up: those of the overlay keep off them. */
  private words: WordRoom | null = null;

  constructor(
    container: HTMLDivElement,
    private readonly shown: () => Shown,
  ) {
    this.stage = new Konva.Stage({
      container,
      width: container.clientWidth || 1,
      height: container.clientHeight || 1,
      listening: false,
    });
    this.layers = {
      sheets: this.add((c, now) => this.paintSheets(c, now)),
      trace: this.add((c, now) => this.paintTrace(c, now)),
      front: this.add((c, now) => this.paintFront(c, now)),
      overlay: this.add((c, now) => this.paintOverlay(c, now)),
    };
    // What lies in front of the trace adds its ink, as tracing paper does; its paper hides nothing.
    this.canvasOf('front').style.mixBlendMode = 'multiply';
  }

  repaint(...names: LayerName[]): void {
    for (const name of names.length > 0 ? names : LAYERS) this.layers[name].batchDraw();
  }

  resize(width: number, height: number): void {
    this.stage.size({ width, height });
  }

  destroy(): void {
    this.stage.destroy();
  }

  private canvasOf(name: LayerName): HTMLCanvasElement {
    return this.layers[name].getNativeCanvasElement();
  }

  private add(paint: (context: CanvasRenderingContext2D, now: Shown) => void): Konva.Layer {
    const layer = new Konva.Layer({ listening: false });
    this.stage.add(layer);
    // A stage paints a layer at once when it is added, but a layer waits for the next frame: everything is painted once, then.
    layer.add(
      new Konva.Shape({
        listening: false,
        sceneFunc: (context) =>
          paint((context as unknown as { _context: CanvasRenderingContext2D })._context, this.shown()),
      }),
    );
    return layer;
  }

  private paintSheets(context: CanvasRenderingContext2D, now: Shown): void {
    const { model, files } = now.session.state;
    now.sheetPainter.paint(context, model, files, sceneOf(now), false);
  }

  private paintFront(context: CanvasRenderingContext2D, now: Shown): void {
    const { model, files } = now.session.state,
      { planeId } = now.state;
    // An empty layer that is blended with those below costs every frame as much as a full one.
    const used = ofType(model, 'underlay').some(
      (u) => u.planeId === planeId && u.visible && lookOf(u).inFront,
    );
    this.canvasOf('front').style.display = used ? 'block' : 'none';
    if (used) now.sheetPainter.paint(context, model, files, sceneOf(now), true);
  }

  private paintTrace(context: CanvasRenderingContext2D, now: Shown): void {
    const { planeId, selection, lookThrough, size } = now.state,
      { model } = now.session.state;
    const room = new WordRoom(size.width, size.height, (r) =>
        takeSheetWords(r, brush, model, planeId, now.sheets),
      ),
      brush: Brush = { ...brushOf(context, now), room };
    this.words = room;
    const grid = gridOn(model, planeId);
    if (grid?.shown) paintGrid(brush, grid, size);
    paintPlanes(brush, model, planeId, size);
    const edges = now.state.viewEdges ? viewEdgesOf(model, planeId) : null;
    if (edges) paintViewEdges(brush, edges, size);
    paintInks(brush, model, now.inks, planeId);
    for (const id of now.ghostIds) paintGhost(brush, now.traces.of(model, id), lookThrough);
    paintTrace(brush, model, now.traces.of(model, planeId), selection, lookThrough);
    paintJoints(brush, model, planeId, now.traces.of(model, planeId), lookThrough ? THROUGH : 1);
    paintVeil(brush, model, planeId);
    paintPlaneNames(brush, model, planeId);
    paintOpenGroup(brush, model, planeId);
    paintOrigin(brush);
  }

  /** What is lit up; its notes look for room beside all that is written already. */
  private paintMarks(brush: Brush, marked: Marked): void {
    const seeksRoom = (marked.labels?.length ?? 0) > 0;
    paintMarked(seeksRoom ? { ...brush, room: this.words?.copy() } : brush, marked);
  }

  private paintOverlay(context: CanvasRenderingContext2D, now: Shown): void {
    const { tool, lastPick, candidates, state } = now,
      brush = brushOf(context, now);
    if (now.marked) this.paintMarks(brush, now.marked);
    tool.paint?.(brush);
    if (now.keyCursor && lastPick) paintKeyCursor(brush, lastPick.screen);
    if (!lastPick || !tool.snaps || (tool.instead?.() ?? null) !== null) return;
    const { found } = lastPick;
    paintTouched(brush, now.touched);
    // While a question waits at the cursor nothing is picked: the loupe would only lie over it.
    const magnified = !state.field?.required && (state.loupe || placesAreClose(candidates, state.view.scale));
    if (found && !magnified) paintFound(brush, found);
    if (!magnified) return;
    paintLoupe(
      brush,
      found ? brush.at(found.plane) : lastPick.screen,
      LAYERS.slice(0, 3).map((name) => this.canvasOf(name)),
      candidates,
      found ?? null,
      state.size,
      state.size.width - state.insets.right,
    );
  }
}

function brushOf(context: CanvasRenderingContext2D, { state: { view }, palette }: Shown): Brush {
  return { context, view, palette, at: (p) => toScreen(view, p) };
}

function sceneOf({ state, palette, moving }: Shown): SheetScene {
  const { view, planeId, underlayId, size, aloneId } = state;
  return {
    view,
    palette,
    planeId,
    currentId: underlayId,
    aloneId,
    screen: [0, 0, size.width, size.height],
    pixelRatio: window.devicePixelRatio || 1,
    moving,
  };
}
