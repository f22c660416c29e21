import {
  applyTransform,
  invertTransform,
  transformBox,
  type Box,
  type Transform,
} from '@calque/core/geometry';
import { bytesUrl, drawingUrl, lineworkUrl, passwordUrl, tilesUrl } from '@/project/addresses';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { SheetSource } from '@/workers/protocol';
import { TileClient } from '@/workers/tile-client';
import type { ShownLook } from './look-cache';

const TILE = 512;
/** Each tile is drawn a pixel larger all round, so that no seam shows between neighbours. */
const APRON = 1;
/** About 1 MB each: a bound on what all sheets together may hold. */
const MOST_TILES = 180;
/** Drawings at true size are thousands of times as large as paper. */
const COARSEST = -18,
  FINEST = 7;
/** The whole page at this many pixels is always kept, so that there is never nothing to show. */
const BASE_PIXELS = 900;

type Context2d = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** The sheet being painted, the part of it in sight, and the tiles that are wanted of it. */
interface Painted {
  source: string;
  sheet: SheetInfo;
  look: string;
  /** The look before, shown where this one's tiles have not come yet. */ former: string | null;
  visible: Box;
  wanted: Set<string>;
}

interface Tile {
  bitmap: ImageBitmap | null;
  used: number;
  cancel: (() => void) | null;
  failed: boolean;
}

function sourceOf(
  projectId: string,
  file: FileInfo,
  sheet: SheetInfo,
  linesOnly: boolean,
): [string, SheetSource] {
  if (linesOnly || file.kind === 'dxf' || file.kind === 'svg')
    return [
      `${file.id}:${sheet.page}:lines`,
      { kind: 'lines', url: lineworkUrl(projectId, file.id, sheet.page) },
    ];
  if (sheet.pixels)
    return [
      `${file.id}:${sheet.page}:tiles`,
      { kind: 'tiles', url: tilesUrl(projectId, file.id, sheet.page), ...sheet.pixels },
    ];
  // A file that has been opened by its password is another source than it was before.
  const key = `${file.id}:${file.layered}:${file.opened}`;
  if (file.kind !== 'pdf') return [key, { kind: 'picture', url: bytesUrl(projectId, file.id) }];
  // The copy with all layers on has no password any more. Of any other only the worker that draws it hears.
  if (file.layered) return [key, { kind: 'pdf', url: drawingUrl(projectId, file.id), passwordUrl: null }];
  return [
    key,
    {
      kind: 'pdf',
      url: bytesUrl(projectId, file.id),
      passwordUrl: file.opened ? passwordUrl(projectId, file.id) : null,
    },
  ];
}

/** Where pictures of sheets come from. */
export type SheetTiles = Pick<TileCache, 'paint' | 'pictureOf' | 'close' | 'waiting'>;

/** Pictures of sheets in tiles, at the resolution that the zoom asks for. */
export class TileCache {
  private readonly tiles = new Map<string, Tile>();
  private readonly client: TileClient;
  private readonly opened = new Set<string>();
  /** The look that each page was painted in last, and the one before. */
  private readonly looks = new Map<string, { now: string; former: string | null }>();
  private clock = 0;
  /** Tiles asked for and not there yet. */
  waiting = 0;

  constructor(
    private readonly projectId: string,
    private readonly onTile: () => void,
    onSheetFailed: (key: string, message: string) => void,
  ) {
    this.client = new TileClient(onSheetFailed);
  }

  /** Paints the part of a sheet that lies within the screen and the crop, as a picture or as ink on what lies below; asks for what is missing. */
  paint(
    context: Context2d,
    file: FileInfo,
    sheet: SheetInfo,
    look: ShownLook,
    screenFromSheet: Transform,
    crop: Box,
    screen: Box,
    pixelRatio: number,
    blended: boolean,
  ): void {
    this.clock++;
    const source = this.open(file, sheet, look);
    const visible = intersect(transformBox(invertTransform(screenFromSheet), screen), crop);
    if (!visible) return;
    const perPoint = Math.hypot(screenFromSheet[0], screenFromSheet[1]) * pixelRatio;
    const level = clamp(Math.ceil(Math.log2(perPoint) - 0.2), COARSEST, FINEST);
    const base = clamp(
      Math.floor(Math.log2(BASE_PIXELS / Math.max(sheet.width, sheet.height))),
      COARSEST,
      FINEST,
    );
    const wanted = new Set<string>();
    const at = {
      source,
      sheet,
      look: look.key,
      former: this.formerLook(`${source}:${sheet.page}`, look.key),
      visible,
      wanted,
    };
    const levels = [...new Set([Math.min(base, level), level])];
    for (const z of levels) this.askLevel(at, z);
    context.save();
    if (blended) context.globalCompositeOperation = 'multiply';
    // The context is in screen space; tiles lie in the page's own pixels, y down.
    context.transform(
      screenFromSheet[0],
      screenFromSheet[1],
      -screenFromSheet[2],
      -screenFromSheet[3],
      ...applyTransform(screenFromSheet, [0, sheet.height]),
    );
    this.paintLevel(context, at, level, Math.min(base, level), blended);
    context.restore();
    this.dropUnwanted(`${source}:${sheet.page}:${look.key}:`, wanted);
  }

  /** A part of a sheet (sheet points) as one picture, `scale` pixels to the point; null where it cannot be drawn. */
  pictureOf(
    file: FileInfo,
    sheet: SheetInfo,
    [x0, y0, x1, y1]: Box,
    scale: number,
  ): Promise<ImageBitmap | null> {
    const [key, source] = sourceOf(this.projectId, file, sheet, false);
    this.openSource(key, source);
    return this.client.render({
      key,
      page: sheet.page,
      look: '',
      scale,
      x: Math.round(x0 * scale),
      y: Math.round((sheet.height - y1) * scale),
      width: Math.round((x1 - x0) * scale),
      height: Math.round((y1 - y0) * scale),
      sheetWidth: sheet.width,
      sheetHeight: sheet.height,
    }).bitmap;
  }

  private formerLook(page: string, look: string): string | null {
    const known = this.looks.get(page);
    if (known?.now === look) return known.former;
    const former = known?.now ?? null;
    this.looks.set(page, { now: look, former });
    return former;
  }

  private cellsOf({ sheet, visible }: Painted, z: number): [number, number, number, number] {
    const scale = 2 ** z;
    const columns = Math.ceil((sheet.width * scale) / TILE),
      rows = Math.ceil((sheet.height * scale) / TILE);
    const column = (x: number) => clamp(Math.floor((x * scale) / TILE), 0, columns - 1),
      row = (y: number) => clamp(Math.floor(((sheet.height - y) * scale) / TILE), 0, rows - 1);
    return [column(visible[0]), row(visible[3]), column(visible[2]), row(visible[1])];
  }

  private keyOf({ source, sheet, look: now }: Painted, z: number, c: number, r: number, look = now): string {
    return `${source}:${sheet.page}:${look}:${z}:${c}:${r}`;
  }

  private askLevel(at: Painted, z: number): void {
    const [c0, r0, c1, r1] = this.cellsOf(at, z);
    for (let r = r0; r <= r1; r++) {
      for (let c = c0; c <= c1; c++) {
        const key = this.keyOf(at, z, c, r);
        const tile = this.tiles.get(key) ?? this.ask(key, at.source, at.sheet, at.look, 2 ** z, c, r);
        tile.used = this.clock;
        at.wanted.add(key);
      }
    }
  }

  /** Every place once, by its own tile or by the part of a coarser one that is there. Ink alone must not overlap; pictures on paper do, by a pixel, so that no seam shows. */
  private paintLevel(context: Context2d, at: Painted, z: number, coarsest: number, blended: boolean): void {
    const lap = blended ? 0 : APRON;
    const [c0, r0, c1, r1] = this.cellsOf(at, z);
    for (let r = r0; r <= r1; r++) {
      for (let c = c0; c <= c1; c++) {
        if (this.paintCell(context, at, at.look, [z, c, r], coarsest, lap) || at.former === null) continue;
        this.paintCell(context, at, at.former, [z, c, r], coarsest, lap);
      }
    }
  }

  /** Paints one place by its tile in a look, or by the part of a coarser one; false where there is none. */
  private paintCell(
    context: Context2d,
    at: Painted,
    look: string,
    [z, c, r]: readonly [number, number, number],
    coarsest: number,
    lap: number,
  ): boolean {
    const scale = 2 ** z;
    for (let up = 0; z - up >= coarsest; up++) {
      const k = 2 ** up;
      const pc = Math.floor(c / k),
        pr = Math.floor(r / k);
      const tile = this.tiles.get(this.keyOf(at, z - up, pc, pr, look));
      if (!tile?.bitmap) continue;
      tile.used = this.clock;
      const from = APRON - lap / k,
        side = (TILE + 2 * lap) / k;
      context.drawImage(
        tile.bitmap,
        from + (c * TILE) / k - pc * TILE,
        from + (r * TILE) / k - pr * TILE,
        side,
        side,
        (c * TILE - lap) / scale,
        (r * TILE - lap) / scale,
        (TILE + 2 * lap) / scale,
        (TILE + 2 * lap) / scale,
      );
      return true;
    }
    return false;
  }

  /** Tells the worker where the picture comes from and what of it is off, once each; returns the source's key. */
  private open(file: FileInfo, sheet: SheetInfo, look: ShownLook): string {
    const [key, source] = sourceOf(this.projectId, file, sheet, look.linesOnly);
    this.openSource(key, source);
    const told = `${key}:${sheet.page}:${look.key}`;
    if (look.key !== '' && !this.opened.has(told)) {
      this.opened.add(told);
      const { objects, annotations, items } = look.visibility!;
      this.client.tellLook({ key, page: sheet.page, look: look.key, objects, annotations, items });
    }
    return key;
  }

  private openSource(key: string, source: SheetSource): void {
    if (this.opened.has(key)) return;
    this.opened.add(key);
    this.client.open(key, source);
  }

  private ask(
    key: string,
    source: string,
    sheet: SheetInfo,
    look: string,
    scale: number,
    c: number,
    r: number,
  ): Tile {
    const { bitmap, cancel } = this.client.render({
      key: source,
      page: sheet.page,
      look,
      scale,
      x: c * TILE - APRON,
      y: r * TILE - APRON,
      width: TILE + 2 * APRON,
      height: TILE + 2 * APRON,
      sheetWidth: sheet.width,
      sheetHeight: sheet.height,
    });
    const tile: Tile = { bitmap: null, used: this.clock, cancel, failed: false };
    this.tiles.set(key, tile);
    this.waiting++;
    void bitmap.then((picture) => {
      this.waiting--;
      tile.cancel = null;
      if (!picture) {
        tile.failed = true;
        if (!this.tiles.has(key)) return;
        // Asked for again when it comes into sight again.
        this.tiles.delete(key);
        return;
      }
      tile.bitmap = picture;
      this.trim();
      this.onTile();
    });
    return tile;
  }

  /** Wishes that went out of sight before they were drawn are taken back. */
  private dropUnwanted(prefix: string, wanted: ReadonlySet<string>): void {
    for (const [key, tile] of this.tiles) {
      if (!tile.cancel || !key.startsWith(prefix) || wanted.has(key)) continue;
      this.tiles.delete(key);
      tile.cancel();
    }
  }

  private trim(): void {
    if (this.tiles.size <= MOST_TILES) return;
    const old = [...this.tiles]
      .filter(([, t]) => t.bitmap && t.used < this.clock)
      .sort((a, b) => a[1].used - b[1].used);
    for (const [key, tile] of old.slice(0, this.tiles.size - MOST_TILES)) {
      tile.bitmap?.close();
      this.tiles.delete(key);
    }
  }

  close(): void {
    this.client.close();
    for (const tile of this.tiles.values()) tile.bitmap?.close();
  }
}

const clamp = (v: number, low: number, high: number) => Math.max(low, Math.min(high, v));

function intersect(a: Box, b: Box): Box | null {
  const out: Box = [Math.max(a[0], b[0]), Math.max(a[1], b[1]), Math.min(a[2], b[2]), Math.min(a[3], b[3])];
  return out[0] < out[2] && out[1] < out[3] ? out : null;
}
