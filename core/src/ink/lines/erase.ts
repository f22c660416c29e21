import type { InkGrid } from './grow.ts';
import type { Refined } from './refine.ts';

/** Across a line, ink wider than its stroke by this many pixels belongs to something that crosses or touches it. */
const CROSSING = 1.6;
const WIDEST = 12;

/** Takes the strokes of lines out of a grid of ink, but where something else crosses or touches them. Changes the grid. */
export function eraseLines({ mask, width, height }: InkGrid, lines: readonly Refined[]): void {
  const set = (x: number, y: number) =>
    x >= 0 && y >= 0 && x < width && y < height && mask[Math.floor(y) * width + Math.floor(x)] > 0;
  const gone: number[] = [];
  for (const line of lines) {
    if (line.width > WIDEST) continue;
    for (let t = line.from - 1; t <= line.to + 1; t += 0.5) {
      const x = line.x + t * line.ux,
        y = line.y + t * line.uy;
      const reach = (side: number) => {
        let v = 0;
        while (v <= line.width + CROSSING && set(x - side * v * line.uy, y + side * v * line.ux)) v += 0.5;
        return v;
      };
      const up = reach(1),
        down = reach(-1);
      if (up + down > line.width + CROSSING) continue;
      for (let v = -down; v <= up; v += 0.5) {
        const px = Math.floor(x - v * line.uy),
          py = Math.floor(y + v * line.ux);
        if (px >= 0 && py >= 0 && px < width && py < height) gone.push(py * width + px);
      }
    }
  }
  for (const i of gone) mask[i] = 0;
}
