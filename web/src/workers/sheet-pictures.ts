/// <reference lib="webworker" />
import { decodeLinework, type Linework } from '@calque/core/linework';
import { indexFromBytes, itemOffsets } from '@calque/core/snapping';
import type Flatbush from 'flatbush';
import type { RenderTile } from './protocol';

/** Sheets whose picture is no PDF: a picture file, tiles kept on the server, or linework. */
export interface TilePainter {
  tile(tile: RenderTile, off: Uint8Array | null): Promise<ImageBitmap>;
}

export async function fetchBytes(url: string): Promise<ArrayBuffer> {
  const response = await fetch(url);
  if (!response.ok) throw new Error('The file cannot be fetched from the server.');
  return response.arrayBuffer();
}

function paperCanvas(tile: RenderTile): {
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
} {
  const canvas = new OffscreenCanvas(tile.width, tile.height);
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, tile.width, tile.height);
  context.imageSmoothingQuality = 'high';
  return { canvas, context };
}

export async function pictureFile(url: string): Promise<TilePainter> {
  const bitmap = await createImageBitmap(new Blob([await fetchBytes(url)]), {
    imageOrientation: 'from-image',
  });
  return {
    async tile(tile) {
      const { canvas, context } = paperCanvas(tile);
      context.drawImage(
        bitmap,
        -tile.x,
        -tile.y,
        tile.scale * tile.sheetWidth,
        tile.scale * tile.sheetHeight,
      );
      return canvas.transferToImageBitmap();
    },
  };
}

const TILE_PIXELS = 512;
const TILES_KEPT = 64;

/** A picture kept in tiles on the server: level 0 in one tile, each further level twice as fine. */
export function picturePyramid(url: string, width: number, height: number): TilePainter {
  const finest = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / TILE_PIXELS)));
  const kept = new Map<string, Promise<ImageBitmap | null>>();
  const part = (level: number, column: number, row: number) => {
    const key = `${level}/${column}_${row}`;
    let found = kept.get(key);
    if (!found) {
      found = fetchBytes(`${url}/${key}`)
        .then((bytes) => createImageBitmap(new Blob([bytes])))
        .catch(() => null);
      if (kept.size >= TILES_KEPT) kept.delete(kept.keys().next().value!);
      kept.set(key, found);
    }
    return found;
  };
  return {
    async tile(tile) {
      const { canvas, context } = paperCanvas(tile);
      // Pixels of the picture for one pixel asked for decide the level.
      const per = width / (tile.scale * tile.sheetWidth);
      const level = Math.max(0, Math.min(finest, finest - Math.floor(Math.log2(Math.max(1, per)))));
      const shrink = 2 ** (finest - level),
        k = per / shrink;
      const columns = Math.ceil(Math.ceil(width / shrink) / TILE_PIXELS),
        rows = Math.ceil(Math.ceil(height / shrink) / TILE_PIXELS);
      const first = (at: number) => Math.max(0, Math.floor((at * k) / TILE_PIXELS));
      for (
        let r = first(tile.y);
        r <= Math.min(rows - 1, Math.floor(((tile.y + tile.height) * k) / TILE_PIXELS));
        r++
      ) {
        for (
          let c = first(tile.x);
          c <= Math.min(columns - 1, Math.floor(((tile.x + tile.width) * k) / TILE_PIXELS));
          c++
        ) {
          const bitmap = await part(level, c, r);
          if (bitmap)
            context.drawImage(
              bitmap,
              (c * TILE_PIXELS) / k - tile.x,
              (r * TILE_PIXELS) / k - tile.y,
              bitmap.width / k,
              bitmap.height / k,
            );
        }
      }
      return canvas.transferToImageBitmap();
    },
  };
}

/** Pens thinner than this in pixels are drawn as thin as can be seen. */
const THINNEST = 0.7;

/** A sheet drawn from its linework: a drawing at true size, or any sheet by its lines alone. */
export async function linePicture(url: string): Promise<TilePainter> {
  const { linework, index } = decodeLinework(await fetchBytes(url));
  const tree = indexFromBytes(index),
    offsets = itemOffsets(linework);
  return { tile: async (tile, off) => drawLines(linework, tree, offsets, tile, off) };
}

function drawLines(
  l: Linework,
  tree: Flatbush | null,
  offsets: readonly number[],
  tile: RenderTile,
  off: Uint8Array | null,
): ImageBitmap {
  const { canvas, context } = paperCanvas(tile);
  const { scale, x, y } = tile;
  const at = (px: number, py: number): [number, number] => [px * scale - x, (l.height - py) * scale - y];
  const margin = 2 / scale;
  const found =
    tree?.search(
      x / scale - margin,
      l.height - (y + tile.height) / scale - margin,
      (x + tile.width) / scale + margin,
      l.height - y / scale + margin,
    ) ?? [];
  const byPen = new Map<number, Path2D>();
  const pathOf = (pen: number) => {
    let path = byPen.get(pen);
    if (!path) byPen.set(pen, (path = new Path2D()));
    return path;
  };
  for (const item of found) {
    if (off?.[item]) continue;
    const kind = offsets.findIndex((_, k) => item < offsets[k + 1]),
      i = item - offsets[kind];
    if (kind <= 1) {
      const lines = kind === 0 ? l.segments : l.fillEdges;
      const path = pathOf(kind === 0 ? l.segmentStyle[2 * i + 1] : -1);
      path.moveTo(...at(lines[4 * i], lines[4 * i + 1]));
      path.lineTo(...at(lines[4 * i + 2], lines[4 * i + 3]));
    } else if (kind === 2) {
      const [cx, cy, r, start, end] = l.arcs.subarray(5 * i, 5 * i + 5);
      const path = pathOf(l.arcStyle[2 * i + 1]);
      path.moveTo(...at(cx + r * Math.cos(start), cy + r * Math.sin(start)));
      path.arc(...at(cx, cy), r * scale, -start, -end, true);
    } else if (kind === 3) {
      const [cx, cy, r] = l.circles.subarray(3 * i, 3 * i + 3);
      const path = pathOf(l.circleStyle[2 * i + 1]);
      path.moveTo(...at(cx + r, cy));
      path.arc(...at(cx, cy), r * scale, 0, 2 * Math.PI);
    } else if (kind === 4) {
      const c = l.curves.subarray(8 * i, 8 * i + 8);
      const path = pathOf(l.curveStyle[2 * i + 1]);
      path.moveTo(...at(c[0], c[1]));
      path.bezierCurveTo(...at(c[2], c[3]), ...at(c[4], c[5]), ...at(c[6], c[7]));
    }
  }
  for (const [pen, path] of byPen) {
    const { width, colour, dash } = l.pens[pen] ?? { width: 0, colour: 0x17273a, dash: [] };
    context.strokeStyle = `#${colour.toString(16).padStart(6, '0')}`;
    context.lineWidth = Math.max(THINNEST, width * scale);
    context.setLineDash(dash.some((d) => d * scale > 1) ? dash.map((d) => d * scale) : []);
    context.stroke(path);
  }
  drawTexts(l, context, tile);
  return canvas.transferToImageBitmap();
}

/** A text smaller than this on the screen could not be read. */
const SMALLEST_TEXT = 3;

function drawTexts(
  l: Linework,
  context: OffscreenCanvasRenderingContext2D,
  { scale, x, y, width, height }: RenderTile,
): void {
  if (!l.reference) return;
  context.fillStyle = '#17273a';
  for (const t of l.texts) {
    const size = t.height * scale,
      px = t.x * scale - x,
      py = (l.height - t.y) * scale - y,
      reach = t.width * scale + size;
    if (size < SMALLEST_TEXT || px + reach < 0 || px - reach > width || py + reach < 0 || py - reach > height)
      continue;
    context.save();
    context.translate(px, py);
    context.rotate(-t.radians);
    context.font = `${size}px sans-serif`;
    context.fillText(t.text, 0, 0);
    context.restore();
  }
}
