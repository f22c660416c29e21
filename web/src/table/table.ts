import {
  applyTransform,
  boxesTouch,
  boxOfPoints,
  boxRing,
  unionBox,
  type Box,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { closedLayers, get, isTraced, ofType, planeOf, storeysOf, type Underlay } from '@calque/core/model';
import { SNAP_KINDS, type SnapKind } from '@calque/core/snapping';
import { KeyDispatcher } from '@/commands/keys';
import type { ProjectSession } from '@/project/session';
import { InkCache } from './ink-cache';
import { DARK_PALETTE, LIGHT_PALETTE, type Palette } from './palette';
import { TableInput } from './input';
import { contentOf } from './drawn-bounds';
import { TableLayers, type LayerName, type Shown } from './layers';
import type { LineworkCache } from './linework-cache';
import { LookCache } from './look-cache';
import type { Marked } from './painters/marked';
import { Picking, type PickGround } from './picking';
import { SheetPainter } from './painters/sheets';
import { createTableState, type TableState } from './state';
import { TileCache, type SheetTiles } from './tile-cache';
import type { Pick, Tool } from './tool';
import { TraceCache } from './trace-cache';
import { fitBox, toPlane, type Viewport } from './viewport';
import type { SolidEdges } from './view-edges';

/** So long after its last step a movement of the view has ended, milliseconds. */
const SETTLE_MS = 110;

/**
 * The drawing surface: view, painting, pointer and keys. Holds no React state; tells the panels through
 * its store; its layers do the painting.
 */
export class Table {
  readonly state = createTableState();
  /** All keys of the page, in the order in which they are asked for. */
  readonly keys = new KeyDispatcher();
  readonly traces = new TraceCache(() => this.repaint('trace'));
  readonly looks = new LookCache();
  readonly tiles: SheetTiles;
  readonly inks: InkCache;
  private readonly sheetPainter: SheetPainter;
  private readonly layers: TableLayers;
  private tool: Tool;
  private idle: () => Tool;
  private palette: Palette = LIGHT_PALETTE;
  private marked: Marked | null = null;
  private solidEdges: SolidEdges | null = null;
  private movedAt = -Infinity;
  private settle: ReturnType<typeof setTimeout> | null = null;
  private keyCursor = false;
  private readonly picks = new Picking(
    () => this.shown(),
    (pick) => this.usePick(pick),
    () => this.repaint('overlay'),
  );
  private readonly input: TableInput;
  private readonly stops: (() => void)[] = [];

  constructor(
    private readonly container: HTMLDivElement,
    readonly session: ProjectSession,
    readonly sheets: LineworkCache,
    idle: (table: Table) => Tool,
    tiles?: SheetTiles,
  ) {
    sheets.isRead = (fileId, page) =>
      session.state.files.some((f) => f.id === fileId && f.sheets.some((s) => s.page === page));
    sheets.isWhole = (fileId, page) =>
      session.state.files.some((f) => f.id === fileId && f.sheets.some((s) => s.page === page && s.whole));
    sheets.onLoaded = () => {
      this.state.setState((s) => ({ sheetsLoaded: s.sheetsLoaded + 1 }));
      this.repaint('sheets', 'front', 'overlay');
    };
    this.tiles =
      tiles ??
      new TileCache(
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
    this.layers = new TableLayers(container, () => this.shown());
    this.prefetch();
    this.input = new TableInput(this.container, this);
    this.stops.push(() => this.input.close());
    this.stops.push(() => this.keys.close());
    this.listen();
    this.resize();
    this.showTool();
  }

  /** The bare picture of a sheet on a canvas of one's own, as far as it is there by now: `tiles.waiting` tells whether more comes. */
  paintSheet(context: CanvasRenderingContext2D, u: Underlay, screenFromSheet: Transform, screen: Box): void {
    this.sheetPainter.paintPicture(context, u, this.session.state.files, screenFromSheet, screen);
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
    this.palette = dark ? DARK_PALETTE : LIGHT_PALETTE;
    this.container.style.background = this.palette.table;
    this.repaint();
  }

  setInsets(insets: Partial<ReturnType<Table['state']['getState']>['insets']>): void {
    this.state.setState((s) => ({ insets: { ...s.insets, ...insets } }));
  }

  repaint(...names: LayerName[]): void {
    this.layers.repaint(...names);
  }

  /** What its layers paint and its picks search now. */
  private shown(): Shown & PickGround {
    return {
      session: this.session,
      traces: this.traces,
      sheets: this.sheets,
      inks: this.inks,
      sheetPainter: this.sheetPainter,
      state: this.state.getState(),
      palette: this.palette,
      tool: this.tool,
      looks: this.looks,
      model: this.session.state.model,
      lastPick: this.picks.last,
      candidates: this.picks.candidates,
      touched: this.picks.touched,
      marked: this.marked,
      keyCursor: this.keyCursor,
      moving: performance.now() - this.movedAt < SETTLE_MS - 20,
      ghostIds: this.ghostIds(),
      solidEdges: this.solidEdges,
    };
  }

  /** Starts fetching the linework of what lies on the table, so that the first pick finds it there. */
  private prefetch(): void {
    this.sheets.prefetch(ofType(this.session.state.model, 'underlay').filter((u) => u.visible));
  }

  // --- tools

  get lastPick(): Pick | null {
    return this.picks.last;
  }

  get currentTool(): Tool {
    return this.tool;
  }

  hold(tool: Tool): void {
    this.tool.cancel();
    this.tool = tool;
    this.picks.drop();
    this.container.style.cursor = tool.cursor;
    this.showTool();
    this.searchAgain();
    this.container.focus({ preventScroll: true });
  }

  /** Back to selecting. */
  layDown(): void {
    this.hold(this.idle());
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

  /** Picks find the edges of a solid on a plane, or no more. */
  setSolidEdges(edges: SolidEdges | null): void {
    this.solidEdges = edges;
    this.picks.again();
  }

  /** Shows the edges of a part's other views on the plane in hand, or no more. */
  setViewEdges(viewEdges: boolean): void {
    this.state.setState({ viewEdges });
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

  /** Shows construction lines, or hides them everywhere. */
  setShowConstruction(showConstruction: boolean): void {
    this.state.setState({ showConstruction });
    this.putAway();
  }

  /** Shows some elements alone: all others are put away, and nothing snaps to them; null shows all again. What is drawn from now on shows. */
  setAlone(alone: TableState['alone']): void {
    this.state.setState({ alone });
    this.putAway();
  }

  private putAway(): void {
    const { alone, showConstruction } = this.state.getState();
    this.traces.putAway(
      alone || !showConstruction ? { ids: alone?.away ?? new Set(), construction: !showConstruction } : null,
    );
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
    this.picks.next();
  }

  /** Limits the next pick to one kind; null lifts that. */
  limitNextPick(snapOnly: SnapKind | null): void {
    this.state.setState({ snapOnly });
    this.searchAgain();
  }

  setSnapKinds(snapKinds: ReadonlySet<SnapKind>): void {
    this.state.setState({ snapKinds });
    this.searchAgain();
  }

  /** Shows every pick at eight times; otherwise only where places lie close together. */
  setLoupe(loupe: boolean): void {
    this.state.setState({ loupe });
    this.repaint('overlay');
  }

  /** Looks again at what lies under the cursor. */
  searchAgain(): void {
    this.picks.again();
  }

  /** The pointer has come to a place on the screen: what lies there is found. */
  moveTo(screen: [number, number], shift: boolean, alt: boolean): void {
    this.picks.moveTo(screen, shift, alt);
  }

  /** Touches what the pick has found now. */
  touch(): void {
    this.picks.touch();
  }

  /** A click or the end of a press has been carried out. */
  picked(): void {
    this.picks.letGo();
    this.state.setState({ snapOnly: null });
    this.showTool();
  }

  /** Shift was pressed or let go while the pointer rests. */
  holdAxis(held: boolean): void {
    this.picks.holdAxis(held);
  }

  /** The cursor is moved by keys: it is drawn, since no pointer shows it. */
  showKeyCursor(shown: boolean): void {
    this.keyCursor = shown;
  }

  private usePick(pick: Pick): void {
    this.tool.move?.(pick);
    const instead = this.tool.instead?.() ?? null;
    this.state.setState({
      pointer: pick.plane,
      snap: instead === null ? this.picks.words(pick) : instead === '' ? null : { words: instead, others: 0 },
      field: this.tool.field?.() ?? null,
      toolWords: this.tool.words(),
    });
    this.repaint('overlay');
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
    const { selection, underlayId, aloneId, showDone, alone, showConstruction } = this.state.getState();
    // What has been hidden or locked cannot be changed either: it is let go.
    const { locked } = closedLayers(model);
    const stays = (id: string) => {
      const e = model.get(id),
        isHelp = e?.type === 'constructionLine' && !showConstruction;
      return (
        e !== undefined &&
        !isHelp &&
        !(
          isTraced(e) &&
          ((e.layerId && locked.has(e.layerId)) || (e.done && !showDone) || alone?.away.has(e.id))
        )
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
    this.layers.resize(width, height);
    this.state.setState({ size: { width, height } });
    this.repaint();
  }

  destroy(): void {
    if (this.settle) clearTimeout(this.settle);
    this.picks.letGo();
    this.stops.forEach((stop) => stop());
    this.tiles.close();
    this.traces.close();
    this.layers.destroy();
  }
}

export type { Point };
