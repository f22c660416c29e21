import Konva from 'konva';
import {
  applyTransform,
  boxesTouch,
  boxOfPoints,
  boxRing,
  unionBox,
  type Box,
  type Point,
} from '@calque/core/geometry';
import {
  closedLayers,
  get,
  gridOn,
  isTraced,
  lookOf,
  ofType,
  planeOf,
  settingsOf,
  storeysOf,
  type Underlay,
} from '@calque/core/model';
import { SNAP_KINDS, type SnapKind } from '@calque/core/snapping';
import { KeyDispatcher } from '@/commands/keys';
import type { ProjectSession } from '@/project/session';
import { InkCache } from './ink-cache';
import { DARK_INK, LIGHT_INK, type Ink } from './ink';
import { TableInput } from './input';
import { contentOf } from './drawn-bounds';
import type { LineworkCache } from './linework-cache';
import { LookCache } from './look-cache';
import { takeSheetWords } from './painters/sheet-words';
import { WordRoom } from './painters/word-room';
import { paintMarked, type Marked } from './painters/marked';
import { paintLoupe, placesAreClose } from './painters/loupe';
import { paintInks } from './painters/inks';
import { paintGrid } from './painters/grid';
import { paintFound, paintKeyCursor, paintOrigin, paintTouched } from './painters/overlay';
import { paintPlaneNames, paintPlanes } from './painters/planes';
import { paintOpenGroup } from './painters/open-group';
import { SheetPainter, type SheetScene } from './painters/sheets';
import { paintGhost, paintTrace } from './painters/trace';
import { findSnaps, foundWords, type Found } from './snapping';
import { createTableState } from './state';
import { TileCache } from './tile-cache';
import type { Brush } from './brush';
import type { Pick, Tool } from './tool';
import { Touches } from './touches';
import { TraceCache } from './trace-cache';
import { fitBox, toPlane, toScreen, type Viewport } from './viewport';

type LayerName = 'sheets' | 'trace' | 'front' | 'overlay';
const LAYERS: readonly LayerName[] = ['sheets', 'trace', 'front', 'overlay'];

/** So long after its last step a movement of the view has ended, milliseconds. */
const SETTLE_MS = 110;

/**
 * The drawing surface: view, painting, pointer and keys. Holds no React state; tells the panels through
 * its store. Four Konva layers, one custom shape each, so that moving the cursor repaints the overlay alone.
 */
export class Table {
  readonly state = createTableState();
  /** All keys of the page, in the order in which they are asked for. */
  readonly keys = new KeyDispatcher();
  readonly traces = new TraceCache(() => this.repaint('trace'));
  readonly looks = new LookCache();
  readonly tiles: TileCache;
  readonly inks: InkCache;
  private readonly sheetPainter: SheetPainter;
  private readonly stage: Konva.Stage;
  private readonly layers: Record<LayerName, Konva.Layer>;
  private tool: Tool;
  private idle: () => Tool;
  private ink: Ink = LIGHT_INK;
  private candidates: Found[] = [];
  private chosen = 0;
  lastPick: Pick | null = null;
  private marked: Marked | null = null;
  private movedAt = -Infinity;
  private settle: ReturnType<typeof setTimeout> | null = null;
  private keyCursor = false;
  private readonly touches = new Touches(
    () => ({
      found: this.tool.snaps ? this.candidates[this.chosen] : undefined,
      others: this.candidates,
      scale: this.view.scale,
    }),
    () => this.repaint('overlay'),
  );
  /** What the words of the trace and of the sheets take up: those of the overlay keep off them. */
  private words: WordRoom | null = null;
  private readonly input: TableInput;
  private readonly stops: (() => void)[] = [];

  constructor(
    private readonly container: HTMLDivElement,
    readonly session: ProjectSession,
    readonly sheets: LineworkCache,
    idle: (table: Table) => Tool,
  ) {
    sheets.isRead = (fileId, page) =>
      session.state.files.some((f) => f.id === fileId && f.sheets.some((s) => s.page === page));
    sheets.isWhole = (fileId, page) =>
      session.state.files.some((f) => f.id === fileId && f.sheets.some((s) => s.page === page && s.whole));
    sheets.onLoaded = () => {
      this.state.setState((s) => ({ sheetsLoaded: s.sheetsLoaded + 1 }));
      this.repaint('sheets', 'front', 'overlay');
    };
    this.tiles = new TileCache(
      session.projectId,
      () => this.repaint('sheets', 'front'),
      (_key, message) => this.state.setState({ sheetProblem: message }),
    );
    this.inks = new InkCache(this.tiles, this.sheets, () => {
      this.state.setState((s) => ({ inksChanged: s.inksChanged + 1 }));
      this.repaint('trace', 'overlay');
    });
    this.sheetPainter = new SheetPainter(this.tiles, this.sheets, this.looks);
    this.idle = () => idle(this);
    this.tool = this.idle();
    this.stage = new Konva.Stage({
      container,
      width: container.clientWidth || 1,
      height: container.clientHeight || 1,
      listening: false,
    });
    this.layers = {
      sheets: this.addLayer((c) => this.paintSheetsLayer(c)),
      trace: this.addLayer((c) => this.paintTraceLayer(c)),
      front: this.addLayer((c) => this.paintFrontLayer(c)),
      overlay: this.addLayer((c) => this.paintOverlay(c)),
    };
    // What lies in front of the trace adds its ink, as tracing paper does; its paper hides nothing.
    this.layers.front.getNativeCanvasElement().style.mixBlendMode = 'multiply';
    this.prefetch();
    this.input = new TableInput(this.container, this);
    this.stops.push(() => this.input.close());
    this.stops.push(() => this.keys.close());
    this.listen();
    this.resize();
    this.showTool();
  }

  // --- view

  get view(): Viewport {
    return this.state.getState().view;
  }

  setView(view: Viewport): void {
    this.state.setState({ view });
    this.movedAt = performance.now();
    this.repaint();
    if (this.settle) clearTimeout(this.settle);
    this.settle = setTimeout(() => this.repaint('sheets'), SETTLE_MS);
  }

  /** Shows a box of the plane in the space that the panels leave. */
  show(box: Box): void {
    const { size, insets } = this.state.getState();
    if (size.width > 0) this.setView(fitBox(box, size.width, size.height, insets));
  }

  showAll(): void {
    const box = this.contentBox();
    if (box) this.show(box);
  }

  showUnderlay(underlay: Underlay): void {
    this.show(this.boxOf(underlay));
  }

  /** What of an underlay is worth seeing, on its plane. */
  private boxOf(u: Underlay): Box {
    const shown = contentOf(u, this.sheets.get(u.fileId, u.page)?.linework ?? null);
    return boxOfPoints(boxRing(shown).map((p) => applyTransform(u.placement, p)));
  }

  private contentBox(): Box | null {
    const { model } = this.session.state;
    const { planeId } = this.state.getState();
    const boxes: Box[] = ofType(model, 'underlay')
      .filter((u) => u.planeId === planeId && u.visible)
      .map((u) => this.boxOf(u));
    const traced = this.traces.of(model, planeId).index.bounds;
    if (traced) boxes.push(traced);
    const plane = get(model, 'plane', planeId);
    if (plane && boxes.length === 0) boxes.push([0, 0, plane.width, plane.height]);
    return boxes.length > 0 ? boxes.reduce(unionBox) : null;
  }

  /** Is anything of the project in sight? If not, the surface offers the way back. */
  seesSomething(): boolean {
    const box = this.contentBox();
    return !box || this.sees(box);
  }

  /** Is some of a box of the plane in sight? */
  sees(box: Box): boolean {
    const { size } = this.state.getState(),
      a = toPlane(this.view, [0, size.height]),
      b = toPlane(this.view, [size.width, 0]);
    return boxesTouch(box, [a[0], a[1], b[0], b[1]]);
  }

  setDark(dark: boolean): void {
    this.ink = dark ? DARK_INK : LIGHT_INK;
    this.container.style.background = this.ink.table;
    this.repaint();
  }

  setInsets(insets: Partial<ReturnType<Table['state']['getState']>['insets']>): void {
    this.state.setState((s) => ({ insets: { ...s.insets, ...insets } }));
  }

  repaint(...names: LayerName[]): void {
    for (const name of names.length > 0 ? names : LAYERS) this.layers[name].batchDraw();
  }

  /** Starts fetching the linework of what lies on the table, so that the first pick finds it there. */
  private prefetch(): void {
    this.sheets.prefetch(ofType(this.session.state.model, 'underlay').filter((u) => u.visible));
  }

  // --- tools

  get currentTool(): Tool {
    return this.tool;
  }

  take(tool: Tool): void {
    this.tool.cancel();
    this.tool = tool;
    this.candidates = [];
    this.touches.clear();
    this.container.style.cursor = tool.cursor;
    this.showTool();
    this.look();
    this.container.focus({ preventScroll: true });
  }

  /** Back to selecting. */
  layDown(): void {
    this.take(this.idle());
  }

  /** Tells the panels what the tool says now; call after its state changed. */
  showTool(): void {
    this.state.setState({
      toolId: this.tool.id,
      toolWords: this.tool.words(),
      field: this.tool.field?.() ?? null,
    });
    this.repaint('overlay');
  }

  submitField(values: Record<string, string>): string | null {
    const message = this.tool.submit?.(values) ?? null;
    this.showTool();
    if (message === null) this.container.focus({ preventScroll: true });
    return message;
  }

  /** Keeps a letter for the field that is about to show; an empty one is what the field leaves when it has taken them. */
  typeAhead(letter: string): void {
    this.state.setState((s) => ({ typedAhead: letter === '' ? '' : s.typedAhead + letter }));
  }

  setSelection(ids: Iterable<string>): void {
    this.state.setState({ selection: new Set(ids) });
    this.repaint('trace', 'overlay');
  }

  setUnderlay(id: string | null): void {
    this.state.setState({ underlayId: id });
    this.repaint('sheets', 'front');
  }

  /** Goes to a storey, or to a plane of its own. */
  setPlane(planeId: string): void {
    if (planeId !== this.state.getState().planeId) this.layDown();
    this.state.setState({ planeId, selection: new Set() });
    this.repaint();
  }

  /** Lights lines of a sheet up, to show where something lies; null puts them out. */
  setMarked(marked: Marked | null): void {
    this.marked = marked;
    this.repaint('overlay');
  }

  /** Shows one underlay alone for a while; null shows all again. */
  showAlone(aloneId: string | null): void {
    this.state.setState({ aloneId });
    this.repaint();
  }

  /** Shows the trace of another storey as a ghost, or no more. */
  setGhost(planeId: string, shown: boolean): void {
    const ghosts = new Set(this.state.getState().ghosts);
    if (shown) ghosts.add(planeId);
    else ghosts.delete(planeId);
    this.state.setState({ ghosts });
    this.repaint('trace');
  }

  /** The storeys that show as ghosts beside the one in hand. */
  private ghostIds(): string[] {
    const { ghosts, planeId } = this.state.getState(),
      { model } = this.session.state;
    // Storeys lie over one another; on an upright plane the plan of one would say nothing.
    if (!get(model, 'storey', planeId)) return [];
    return [...ghosts].filter((id) => id !== planeId && get(model, 'storey', id));
  }

  /** Shows what is marked as done, or hides it while tracing goes on. */
  setShowDone(showDone: boolean): void {
    this.state.setState({ showDone });
    this.traces.showDone(showDone);
    this.dropGone();
    this.repaint('trace', 'overlay');
  }

  setLookThrough(lookThrough: boolean): void {
    if (this.state.getState().lookThrough === lookThrough) return;
    this.state.setState({ lookThrough });
    this.repaint('trace');
  }

  // --- picks

  /** Limits the next pick to the kind after the one it is limited to, and after the last to none. */
  nextLimit(): void {
    if (!this.tool.snaps) return;
    const at = SNAP_KINDS.indexOf(this.state.getState().snapOnly as SnapKind);
    this.limitNextPick(SNAP_KINDS[at + 1] ?? null);
  }

  /** The next of the things that lie under the cursor. */
  nextCandidate(): void {
    if (this.candidates.length < 2 || !this.lastPick) return;
    this.chosen = (this.chosen + 1) % this.candidates.length;
    this.usePick(this.pickFrom(this.lastPick.screen, this.lastPick.shift, this.lastPick.alt));
  }

  /** Limits the next pick to one kind; null lifts that. */
  limitNextPick(snapOnly: SnapKind | null): void {
    this.state.setState({ snapOnly });
    this.look();
  }

  setSnapKinds(snapKinds: ReadonlySet<SnapKind>): void {
    this.state.setState({ snapKinds });
    this.look();
  }

  /** Shows every pick at eight times; otherwise only where places lie close together. */
  setLoupe(loupe: boolean): void {
    this.state.setState({ loupe });
    this.repaint('overlay');
  }

  /** Looks again at what lies under the cursor. */
  look(): void {
    if (this.lastPick) this.moveTo(this.lastPick.screen, this.lastPick.shift, this.lastPick.alt);
  }

  /** The pointer has come to a place on the screen: what lies there is found. */
  moveTo(screen: [number, number], shift: boolean, alt: boolean): void {
    const bare = toPlane(this.view, screen);
    const { planeId, snapKinds, snapOnly, aloneId } = this.state.getState();
    const kinds = snapOnly ? new Set([snapOnly]) : snapKinds;
    this.candidates = this.tool.snaps
      ? findSnaps(
          this.session.state.model,
          this.sheets,
          this.looks,
          this.traces,
          this.inks,
          bare,
          this.view.scale,
          {
            planeId,
            aloneId,
            onlyUnderlay: this.tool.onlyUnderlay,
            notUnderlay: this.tool.notUnderlay,
            anchor: this.tool.anchor?.() ?? null,
            kinds,
            touched: this.touches.list,
            named: this.tool.named?.(),
            ghosts: this.ghostIds(),
          },
        )
      : [];
    this.chosen = 0;
    this.usePick(this.pickFrom(screen, shift, alt));
    this.touches.wait();
  }

  /** Touches what the pick has found now. */
  touch(): void {
    this.touches.touch();
  }

  /** A click or the end of a press has been carried out. */
  picked(): void {
    this.touches.clear();
    this.state.setState({ snapOnly: null });
    this.showTool();
  }

  /** Shift was pressed or let go while the pointer rests. */
  holdAxis(held: boolean): void {
    if (this.lastPick && this.tool.anchor?.())
      this.usePick(this.pickFrom(this.lastPick.screen, held, this.lastPick.alt));
  }

  /** The cursor is moved by keys: it is drawn, since no pointer shows it. */
  showKeyCursor(shown: boolean): void {
    this.keyCursor = shown;
  }

  private usePick(pick: Pick): void {
    this.lastPick = pick;
    this.tool.move?.(pick);
    const instead = this.tool.instead?.() ?? null;
    this.state.setState({
      pointer: pick.plane,
      snap: instead === null ? this.snapOf(pick) : instead === '' ? null : { words: instead, others: 0 },
      field: this.tool.field?.() ?? null,
      toolWords: this.tool.words(),
    });
    this.repaint('overlay');
  }

  private snapOf({ found }: Pick): { words: string; others: number } | null {
    return found && { words: foundWords(found), others: this.candidates.length - 1 };
  }

  private pickFrom(screen: [number, number], shift: boolean, alt: boolean): Pick {
    const bare = toPlane(this.view, screen);
    const found = this.candidates[this.chosen] ?? null;
    let plane: [number, number] = found ? found.plane : bare;
    const anchor = shift ? (this.tool.anchor?.() ?? null) : null;
    if (anchor) {
      // The axis is held; a snap still says how far along it.
      const across = Math.abs(bare[0] - anchor[0]) >= Math.abs(bare[1] - anchor[1]);
      plane = across ? [plane[0], anchor[1]] : [anchor[0], plane[1]];
    }
    return {
      plane,
      bare,
      screen,
      found,
      others: this.chosen === 0 ? this.candidates.slice(1) : [],
      touched: this.touches.list.at(-1)?.at ?? null,
      shift,
      alt,
    };
  }

  // --- painting

  private addLayer(paint: (context: CanvasRenderingContext2D) => void): Konva.Layer {
    const layer = new Konva.Layer({ listening: false });
    this.stage.add(layer);
    // A stage paints a layer at once when it is added, but a layer waits for the next frame: everything is painted once, then.
    layer.add(
      new Konva.Shape({
        listening: false,
        sceneFunc: (context) =>
          paint((context as unknown as { _context: CanvasRenderingContext2D })._context),
      }),
    );
    return layer;
  }

  private brush(context: CanvasRenderingContext2D): Brush {
    const { view } = this;
    return { context, view, ink: this.ink, at: (p) => toScreen(view, p) };
  }

  private scene(): SheetScene {
    const { planeId, underlayId, size, aloneId } = this.state.getState();
    return {
      view: this.view,
      ink: this.ink,
      planeId,
      currentId: underlayId,
      aloneId,
      screen: [0, 0, size.width, size.height],
      pixelRatio: window.devicePixelRatio || 1,
      moving: performance.now() - this.movedAt < SETTLE_MS - 20,
    };
  }

  private paintSheetsLayer(context: CanvasRenderingContext2D): void {
    const { model, files } = this.session.state;
    this.sheetPainter.paint(context, model, files, this.scene(), false);
  }

  private paintFrontLayer(context: CanvasRenderingContext2D): void {
    const { model, files } = this.session.state,
      { planeId } = this.state.getState();
    // An empty layer that is blended with those below costs every frame as much as a full one.
    const used = ofType(model, 'underlay').some(
      (u) => u.planeId === planeId && u.visible && lookOf(u).inFront,
    );
    this.layers.front.getNativeCanvasElement().style.display = used ? 'block' : 'none';
    if (used) this.sheetPainter.paint(context, model, files, this.scene(), true);
  }

  private paintTraceLayer(context: CanvasRenderingContext2D): void {
    const { planeId, selection, lookThrough } = this.state.getState();
    const { model } = this.session.state,
      { size } = this.state.getState();
    const room = new WordRoom(size.width, size.height, (r) =>
        takeSheetWords(r, brush, model, planeId, this.sheets),
      ),
      brush: Brush = { ...this.brush(context), room };
    this.words = room;
    const grid = gridOn(model, planeId);
    if (grid?.shown) paintGrid(brush, grid, size);
    paintPlanes(brush, model, planeId, size);
    paintInks(brush, this.session.state.model, this.inks, planeId);
    for (const id of this.ghostIds())
      paintGhost(brush, this.traces.of(this.session.state.model, id), lookThrough);
    paintTrace(
      brush,
      this.traces.of(this.session.state.model, planeId),
      selection,
      lookThrough,
      settingsOf(this.session.state.model),
    );
    paintPlaneNames(brush, model, planeId);
    paintOpenGroup(brush, this.session.state.model, planeId);
    paintOrigin(brush);
  }

  /** What is lit up; its notes look for room beside all that is written already. */
  private paintMarks(brush: Brush): void {
    const { marked } = this;
    if (!marked) return;
    const seeksRoom = (marked.labels?.length ?? 0) > 0;
    paintMarked(seeksRoom ? { ...brush, room: this.words?.copy() } : brush, marked);
  }

  private paintOverlay(context: CanvasRenderingContext2D): void {
    const brush = this.brush(context);
    this.paintMarks(brush);
    this.tool.paint?.(brush);
    if (this.keyCursor && this.lastPick) paintKeyCursor(brush, this.lastPick.screen);
    const found = this.lastPick?.found;
    if (!this.lastPick || !this.tool.snaps || (this.tool.instead?.() ?? null) !== null) return;
    paintTouched(brush, this.touches.list);
    const { loupe, size, insets, field } = this.state.getState();
    // While a question waits at the cursor nothing is picked: the loupe would only lie over it.
    const magnified = !field?.required && (loupe || placesAreClose(this.candidates, this.view.scale));
    if (found && !magnified) paintFound(brush, found);
    if (magnified)
      paintLoupe(
        brush,
        found ? brush.at(found.plane) : this.lastPick.screen,
        LAYERS.slice(0, 3).map((name) => this.layers[name].getNativeCanvasElement()),
        this.candidates,
        found ?? null,
        size,
        size.width - insets.right,
      );
  }

  // --- what it hears

  private listen(): void {
    const sizes = new ResizeObserver(() => this.resize());
    sizes.observe(this.container);
    this.stops.push(() => sizes.disconnect());
    let { model, files } = this.session.state;
    this.stops.push(
      this.session.store.subscribe((s) => {
        if (s.files !== files) this.sheets.readOn();
        if (s.model !== model || s.files !== files) {
          ({ model, files } = s);
          this.dropGone();
          this.repaint();
          this.state.setState({ field: this.tool.field?.() ?? null, toolWords: this.tool.words() });
        }
      }),
    );
  }

  /** Selection and current underlay follow what undo or another tab took away. */
  private dropGone(): void {
    const { model } = this.session.state;
    const { selection, underlayId, aloneId, showDone } = this.state.getState();
    // What has been hidden or locked cannot be changed either: it is let go.
    const { locked } = closedLayers(model);
    const stays = (id: string) => {
      const e = model.get(id);
      return (
        e !== undefined && !(isTraced(e) && ((e.layerId && locked.has(e.layerId)) || (e.done && !showDone)))
      );
    };
    if ([...selection].some((id) => !stays(id)))
      this.state.setState({ selection: new Set([...selection].filter(stays)) });
    if (underlayId && !get(model, 'underlay', underlayId)) this.state.setState({ underlayId: null });
    if (aloneId && !get(model, 'underlay', aloneId)) this.state.setState({ aloneId: null });
    // The plane in hand went with an undo, or in another tab.
    if (!planeOf(model, this.state.getState().planeId)) {
      const [storey] = storeysOf(model);
      if (storey) this.setPlane(storey.id);
    }
  }

  private resize(): void {
    const { clientWidth: width, clientHeight: height } = this.container;
    if (width === 0 || height === 0) return;
    this.stage.size({ width, height });
    this.state.setState({ size: { width, height } });
    this.repaint();
  }

  destroy(): void {
    if (this.settle) clearTimeout(this.settle);
    this.touches.clear();
    this.stops.forEach((stop) => stop());
    this.tiles.close();
    this.traces.close();
    this.stage.destroy();
  }
}

export type { Point };
