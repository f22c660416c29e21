import { applyTransform, compose, type Box, type Transform } from '@calque/core/geometry';
import { lookOf, ofType, type Model, type Underlay } from '@calque/core/model';
import type { FileInfo } from '@/project/wire';
import type { Palette } from '../palette';
import type { LineworkCache } from '../linework-cache';
import { cropRing, type LookCache } from '../look-cache';
import type { SheetTiles } from '../tile-cache';
import type { Viewport } from '../viewport';

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** What painting underlays needs to know of the surface. */
export interface SheetScene {
  view: Viewport;
  palette: Palette;
  planeId: string;
  currentId: string | null;
  aloneId: string | null;
  screen: Box;
  pixelRatio: number;
  /** The view is being moved right now. */ moving: boolean;
}

/** From this many sheets on, moving the view moves their last picture. */
const MANY = 4;
/** For so long, milliseconds; then they are painted anew. */
const STILL_MS = 260;

/** Paints underlays, the lowest first: paper, then its picture, cropped, tinted and faded. */
export class SheetPainter {
  private scratch: OffscreenCanvas | null = null;
  private still: { canvas: OffscreenCanvas; view: Viewport; planeId: string; taken: number } | null = null;

  constructor(
    private readonly tiles: SheetTiles,
    private readonly sheets: LineworkCache,
    private readonly looks: LookCache,
  ) {}

  /** The underlays behind the trace, or those in front of it. */
  paint(
    context: CanvasRenderingContext2D,
    model: Model,
    files: readonly FileInfo[],
    scene: SheetScene,
    inFront: boolean,
  ): void {
    const { aloneId } = scene;
    const shown = ofType(model, 'underlay')
      .filter(
        (u) =>
          (aloneId ? u.id === aloneId : u.visible) &&
          u.planeId === scene.planeId &&
          lookOf(u).inFront === inFront,
      )
      .sort((a, b) => a.order - b.order);
    const many = !inFront && shown.length >= MANY;
    if (many && scene.moving && this.paintStill(context, scene)) return;
    shown.forEach((u, i) => {
      const { paper, tint } = lookOf(u);
      // The lowest lies on the table with its paper; what lies on paper already, or shows its ink alone, is laid over.
      if (i === 0 && !inFront && (paper || scene.palette.dim !== null) && tint === null)
        this.paintOne(context, u, files, scene, true);
      else if (tint === null && !inFront) this.paintInk(context, u, files, scene);
      else this.paintOver(context, u, files, scene, i === 0 && !inFront && paper);
    });
    if (many) this.keepStill(context, scene);
    else if (!inFront) this.still = null;
  }

  /** While many sheets are being moved, their last picture is moved for them; a few times a second they are painted anew. */
  private paintStill(context: CanvasRenderingContext2D, { view, planeId }: SheetScene): boolean {
    const { still } = this;
    if (!still || still.planeId !== planeId || performance.now() - still.taken > STILL_MS) return false;
    const k = view.scale / still.view.scale;
    if (k > 1.6 || k < 0.6) return false;
    // Pixels of the canvas for one of the screen.
    const { a } = context.getTransform();
    context.drawImage(
      still.canvas,
      view.x - k * still.view.x,
      view.y - k * still.view.y,
      (k * still.canvas.width) / a,
      (k * still.canvas.height) / a,
    );
    return true;
  }

  private keepStill(context: CanvasRenderingContext2D, { view, planeId }: SheetScene): void {
    const { width, height } = context.canvas;
    const canvas =
      this.still?.canvas.width === width && this.still.canvas.height === height
        ? this.still.canvas
        : new OffscreenCanvas(width, height);
    const own = canvas.getContext('2d')!;
    own.clearRect(0, 0, width, height);
    own.drawImage(context.canvas, 0, 0);
    this.still = { canvas, view, planeId, taken: performance.now() };
  }

  /** A sheet in its own colours laid on paper: its tiles darken what lies below, without a canvas in between. */
  private paintInk(context: Context, u: Underlay, files: readonly FileInfo[], scene: SheetScene): void {
    context.save();
    context.globalAlpha = 1 - u.fade;
    const { outline, screenFromSheet } = this.outlineOf(context, u, scene);
    outline();
    context.clip();
    this.paintTiles(context, u, files, scene, screenFromSheet, true);
    context.restore();
    this.paintFrame(context, u, scene, outline);
  }

  /** The bare picture of a sheet, as far as it is there by now: what is missing is asked for. */
  paintPicture(
    context: CanvasRenderingContext2D,
    u: Underlay,
    files: readonly FileInfo[],
    screenFromSheet: Transform,
    screen: Box,
  ): void {
    this.paintTiles(context, u, files, { screen, pixelRatio: 1 }, screenFromSheet, true);
  }

  private outlineOf(
    context: Context,
    u: Underlay,
    { view }: SheetScene,
  ): { outline: () => void; screenFromSheet: Transform } {
    const screenFromSheet = compose([view.scale, 0, 0, -view.scale, view.x, view.y], u.placement);
    const corners = cropRing(u).map((p) => applyTransform(screenFromSheet, p));
    const outline = () => {
      context.beginPath();
      corners.forEach(([x, y], i) => (i === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
      context.closePath();
    };
    return { outline, screenFromSheet };
  }

  private paintTiles(
    context: Context,
    u: Underlay,
    files: readonly FileInfo[],
    scene: Pick<SheetScene, 'screen' | 'pixelRatio'>,
    screenFromSheet: Transform,
    blended: boolean,
  ): void {
    const file = files.find((f) => f.id === u.fileId);
    const sheet = file?.sheets.find((s) => s.page === u.page);
    if (!file || !sheet) return;
    const look = this.looks.of(
      u,
      this.sheets.get(u.fileId, u.page)?.linework ?? null,
      file.layered || sheet.layers.length > 0,
    );
    if (look)
      this.tiles.paint(
        context,
        file,
        sheet,
        look,
        screenFromSheet,
        u.crop,
        scene.screen,
        scene.pixelRatio,
        blended,
      );
  }

  private paintFrame(
    context: Context,
    u: Underlay,
    { palette, currentId }: SheetScene,
    outline: () => void,
  ): void {
    if (!lookOf(u).frame) return;
    const current = u.id === currentId;
    context.save();
    context.strokeStyle = current ? palette.now : palette.edge;
    context.lineWidth = current ? 1.5 : 1;
    context.globalAlpha = current ? 0.55 : 1;
    outline();
    context.stroke();
    context.restore();
  }

  /** A sheet laid on like tracing paper: its ink adds to what lies below. */
  private paintOver(
    context: CanvasRenderingContext2D,
    u: Underlay,
    files: readonly FileInfo[],
    scene: SheetScene,
    withPaper: boolean,
  ): void {
    const { width, height } = context.canvas;
    if (this.scratch?.width !== width || this.scratch.height !== height)
      this.scratch = new OffscreenCanvas(width, height);
    const own = this.scratch.getContext('2d')!;
    own.setTransform(1, 0, 0, 1, 0, 0);
    own.clearRect(0, 0, width, height);
    own.setTransform(context.getTransform());
    this.paintOne(own, u, files, scene, false);
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalCompositeOperation = withPaper ? 'source-over' : 'multiply';
    context.drawImage(this.scratch, 0, 0);
    context.restore();
  }

  private paintOne(
    context: Context,
    u: Underlay,
    files: readonly FileInfo[],
    scene: SheetScene,
    lowest: boolean,
  ): void {
    const { palette } = scene;
    const { outline, screenFromSheet } = this.outlineOf(context, u, scene);
    const { tint, paper } = lookOf(u);
    const wash = (colour: string, alpha: number) => {
      context.globalAlpha = alpha;
      context.fillStyle = colour;
      outline();
      context.fill();
    };
    context.save();
    if (lowest && paper) {
      context.shadowColor = 'rgba(23,39,58,0.18)';
      context.shadowBlur = 14;
      context.shadowOffsetY = 3;
    }
    wash('#ffffff', 1);
    context.shadowColor = 'transparent';
    context.clip();
    this.paintTiles(context, u, files, scene, screenFromSheet, false);
    if (tint !== null) {
      // Colours become greys, then black becomes the ink and white stays white.
      context.globalCompositeOperation = 'saturation';
      wash('#808080', 1);
      context.globalCompositeOperation = 'screen';
      wash(`#${tint.toString(16).padStart(6, '0')}`, 1);
      context.globalCompositeOperation = 'source-over';
    }
    // Fading lays paper over the whole picture: tiles overlap, and each on its own would show twice.
    if (u.fade > 0) wash('#ffffff', u.fade);
    if (palette.dim && lowest) wash(palette.dim, 1);
    context.restore();
    this.paintFrame(context, u, scene, outline);
  }
}
