import { buildSheetIndex, sheetSnapper, type SnapGeometry } from '@calque/core/snapping';
import { quantile } from './measure.ts';

const QUERIES = 20000;

/** Snap queries over a page of random short segments at a radius of 11 pixels when half the page is in sight. */
export function snapTimes(count: number): { build: number; median: number; p99: number } {
  let seed = 11;
  const chance = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  const segments = new Float64Array(4 * count);
  for (let i = 0; i < segments.length; i += 4) {
    segments[i] = chance() * 3370;
    segments[i + 1] = chance() * 2384;
    segments[i + 2] = segments[i] + (chance() - 0.5) * 24;
    segments[i + 3] = segments[i + 1] + (chance() - 0.5) * 24;
  }
  const none = new Float64Array(0);
  const geometry: SnapGeometry = { segments, fillEdges: none, arcs: none, circles: none, curves: none };
  const began = performance.now();
  const snapper = sheetSnapper(geometry, buildSheetIndex(geometry));
  const build = performance.now() - began;
  const radius = 11 / (1280 / 1685);
  const times: number[] = [];
  for (let i = 0; i < QUERIES; i++) {
    const x = chance() * 3370, y = chance() * 2384;
    const t = performance.now();
    snapper.query(x, y, radius);
    times.push(performance.now() - t);
  }
  // The first ones are compiled as they run.
  const warm = times.slice(2000);
  return { build, median: quantile(warm, 0.5), p99: quantile(warm, 0.99) };
}
