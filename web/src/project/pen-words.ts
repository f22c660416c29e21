import { MM_PER_POINT } from '@calque/core/geometry';
import type { Pen } from '@calque/core/linework';
import { formatNumber } from '@calque/core/units';

const NAMED: [number, string][] = [
  [0x000000, 'black'],
  [0xffffff, 'white'],
  [0xff0000, 'red'],
  [0x00ff00, 'green'],
  [0x0000ff, 'blue'],
  [0x808080, 'grey'],
];
const NEAR = 40;

/** A pen in a few words: its width on paper, its colour, whether it is dashed. */
export function penWords({ width, colour, dash }: Pen): string {
  const channels = [colour >> 16, (colour >> 8) & 255, colour & 255];
  const named = NAMED.find(([c]) =>
    [c >> 16, (c >> 8) & 255, c & 255].every((v, i) => Math.abs(v - channels[i]) <= NEAR),
  )?.[1];
  const grey = Math.max(...channels) - Math.min(...channels) < NEAR ? 'grey' : null;
  const thin =
    width * MM_PER_POINT < 0.005 ? 'as thin as can be' : `${formatNumber(width * MM_PER_POINT, 2)} mm`;
  return `${thin}, ${named ?? grey ?? `#${colour.toString(16).padStart(6, '0')}`}${dash.length > 0 ? ', dashed' : ''}`;
}
