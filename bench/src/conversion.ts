import { convertRegion } from '@calque/core/conversion';
import { boxRing, makeRegion } from '@calque/core/geometry';
import { emptyLinework, kindCode, NO_SWITCHES } from '@calque/core/linework';

/** A page of lines on a grid, as a plan has them (many touch, overlap and lie in line), or strewn without order: seconds to convert it whole. */
export function conversionTime(count: number, strewn: boolean): { seconds: number; elements: number } {
  let seed = 11;
  const chance = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  const width = 3370,
    height = 2384,
    segments = new Float64Array(4 * count);
  for (let k = 0; k < segments.length; k += 4) {
    const x = chance() * 3300,
      y = chance() * 2300,
      gx = Math.round(x / 6) * 6,
      gy = Math.round(y / 6) * 6,
      run = Math.round(chance() * 6 + 1) * 6;
    segments.set(
      strewn
        ? [x, y, x + (chance() - 0.5) * 24, y + (chance() - 0.5) * 24]
        : chance() < 0.5
          ? [gx, gy, gx + run, gy]
          : [gx, gy, gx, gy + run],
      k,
    );
  }
  const page = {
    ...emptyLinework(width, height),
    segments,
    segmentStyle: new Int32Array(2 * count).map((_, i) => (i % 2 === 0 ? -1 : 0)),
    segmentObject: new Int32Array(count),
    segmentKind: new Uint8Array(count).fill(kindCode('line')),
    pens: [{ width: 0.5, colour: 0, dash: [] }],
  };
  const began = performance.now();
  const { elements } = convertRegion(page, {
    region: makeRegion([boxRing([0, 0, width, height])], 'nonzero'),
    switches: NO_SWITCHES,
    placement: [30, 0, 0, 30, 0, 0],
    layering: 'file',
    planeId: 'ground',
    source: { underlayId: null, ends: 'snapped', thickness: 'typed' },
  });
  return { seconds: (performance.now() - began) / 1000, elements: elements.length };
}
