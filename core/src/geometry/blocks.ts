import { ringArea, type Ring } from './polygons.ts';
import type { Point } from './spaces.ts';

/** A plane that rises: `z` at a point, and by how much for each millimetre to the right and upwards in plan. */
export interface Slope {
  at: Point;
  z: number;
  dx: number;
  dy: number;
}

/** How high something lies: the same everywhere, or as a plane rises; millimetres above the plane that it stands on. */
export type Height = number | Slope;

/**
 * What stands between two heights over an outline in plan: an outer ring (counter-clockwise) with its holes (clockwise). All solids of
 * a building are made of such blocks, side by side.
 */
export interface Block {
  outline: readonly Ring[];
  low: Height;
  high: Height;
}

export const heightAt = (height: Height, [x, y]: Point): number =>
  typeof height === 'number'
    ? height
    : height.z + height.dx * (x - height.at[0]) + height.dy * (y - height.at[1]);

/** The same plane so much higher. */
export const raised = (height: Height, by: number): Height =>
  typeof height === 'number' ? height + by : { ...height, z: height.z + by };

/** Rings turned as a block needs them: the first counter-clockwise, all others clockwise. */
export const outlineOf = (rings: readonly Ring[]): Ring[] =>
  rings.map((ring, i) => (ringArea(ring) > 0 === (i === 0) ? ring : [...ring].reverse()));

/** Area and centroid of an outline with its holes; the centroid about a point near by, so that far coordinates lose nothing. */
function momentsOf(outline: readonly Ring[]): { area: number; middle: Point } {
  const [ox, oy] = outline[0][0];
  let twice = 0,
    sx = 0,
    sy = 0;
  for (const ring of outline) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [x0, y0] = [ring[j][0] - ox, ring[j][1] - oy],
        [x1, y1] = [ring[i][0] - ox, ring[i][1] - oy],
        cross = x0 * y1 - x1 * y0;
      twice += cross;
      sx += (x0 + x1) * cross;
      sy += (y0 + y1) * cross;
    }
  }
  return {
    area: twice / 2,
    middle: twice === 0 ? [ox, oy] : [ox + sx / (3 * twice), oy + sy / (3 * twice)],
  };
}

/** Area of a block's outline in plan, square millimetres. */
export const footprintOf = ({ outline }: Block): number =>
  outline.length === 0 || outline[0].length === 0 ? 0 : momentsOf(outline).area;

/** Volume, cubic millimetres: a height that changes evenly has its mean over the centroid. */
export function volumeOf(block: Block): number {
  if (block.outline.length === 0 || block.outline[0].length === 0) return 0;
  const { area, middle } = momentsOf(block.outline);
  return area * (heightAt(block.high, middle) - heightAt(block.low, middle));
}

/** Volume of several blocks that share nothing. */
export const volumeOfAll = (blocks: readonly Block[]): number =>
  blocks.reduce((sum, block) => sum + volumeOf(block), 0);

/** How much larger a surface is than its outline in plan. */
export const steepness = (height: Height): number =>
  typeof height === 'number' ? 1 : Math.hypot(1, height.dx, height.dy);
