import { arcPiece, pathPieces, segmentPiece, type Piece } from '@calque/core/geometry';
import { buildSheetIndex, LiveItems, sheetSnapper, Snapper, type SnapGeometry } from '@calque/core/snapping';
import { quantile } from './quantile.ts';

const QUERIES = 20000;
const WIDTH = 3370,
  HEIGHT = 2384;
/** 11 pixels when half the page is in sight, and when a part of it is, as people trace. */
const RADIUS = 11 / (1280 / 1685),
  TRACING_RADIUS = 11 / (1280 / 400);
/** The first ones are compiled as they run. */
const WARM = 2000;

function chanceFrom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** A page of random short segments. */
function page(count: number, chance: () => number): SnapGeometry {
  const segments = new Float64Array(4 * count),
    none = new Float64Array(0);
  for (let i = 0; i < segments.length; i += 4) {
    segments[i] = chance() * WIDTH;
    segments[i + 1] = chance() * HEIGHT;
    segments[i + 2] = segments[i] + (chance() - 0.5) * 24;
    segments[i + 3] = segments[i + 1] + (chance() - 0.5) * 24;
  }
  return { segments, fillEdges: none, arcs: none, circles: none, curves: none };
}

/** Snap queries over a page of random short segments at a radius of 11 pixels when half the page is in sight. */
export function snapTimes(count: number): { build: number; median: number; p99: number } {
  const chance = chanceFrom(11),
    geometry = page(count, chance);
  const began = performance.now();
  const snapper = sheetSnapper(geometry, buildSheetIndex(geometry));
  const build = performance.now() - began;
  const times = timed(chance, (x, y) => snapper.query(x, y, RADIUS));
  return { build, median: quantile(times, 0.5), p99: quantile(times, 0.99) };
}

export interface TogetherTimes {
  median: number;
  p99: number;
  rawMedian: number;
  raw99: number;
  change: number;
}

/**
 * Snap queries over a page and traced elements together while the elements change, one after each hundred queries; the raw search
 * of both indexes for the same places is the limit. Milliseconds.
 */
export function togetherTimes(segments: number, elements: number): TogetherTimes {
  const chance = chanceFrom(11),
    geometry = page(segments, chance),
    index = buildSheetIndex(geometry);
  const sheet = sheetSnapper(geometry, index),
    items = new LiveItems(),
    live = new Snapper(items);
  const piecesAt = (i: number): Piece[] => {
    const x = chance() * WIDTH,
      y = chance() * HEIGHT;
    if (i % 3 === 0) return [segmentPiece([x, y], [x + 12, y + 5])];
    return i % 3 === 1
      ? [arcPiece({ cx: x, cy: y, r: 6, start: 1, end: 4 })]
      : pathPieces({
          points: [
            [x, y],
            [x + 14, y],
            [x + 14, y + 9],
          ],
          bulges: [0, 0.3, 0],
          closed: true,
        });
  };
  items.fill(Array.from({ length: elements }, (_, i) => [`e${i}`, { pieces: piecesAt(i) }] as const));
  const changes: number[] = [];
  let asked = 0;
  const times = timed(
    chance,
    (x, y) => {
      sheet.query(x, y, TRACING_RADIUS);
      live.query(x, y, TRACING_RADIUS);
    },
    () => {
      if (asked++ % 100 !== 0) return;
      const i = Math.floor(chance() * elements),
        pieces = piecesAt(i),
        t = performance.now();
      items.set(`e${i}`, { pieces });
      changes.push(performance.now() - t);
    },
  );
  const raw = timed(chanceFrom(12), (x, y) => {
    index?.search(x - TRACING_RADIUS, y - TRACING_RADIUS, x + TRACING_RADIUS, y + TRACING_RADIUS);
    items.search(x - TRACING_RADIUS, y - TRACING_RADIUS, x + TRACING_RADIUS, y + TRACING_RADIUS);
  });
  return {
    median: quantile(times, 0.5),
    p99: quantile(times, 0.99),
    rawMedian: quantile(raw, 0.5),
    raw99: quantile(raw, 0.99),
    change: quantile(changes, 0.99),
  };
}

function timed(
  chance: () => number,
  ask: (x: number, y: number) => void,
  between: () => void = () => {},
): number[] {
  const times: number[] = [];
  for (let i = 0; i < QUERIES; i++) {
    between();
    const x = chance() * WIDTH,
      y = chance() * HEIGHT,
      t = performance.now();
    ask(x, y);
    times.push(performance.now() - t);
  }
  return times.slice(WARM);
}
