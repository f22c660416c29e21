import { readFileSync } from 'node:fs';
import Flatbush from 'flatbush';
import { planLines } from '@calque/core/conversion';
import { makeRegion, MM_PER_POINT, pieceBox, type Box, type Piece, type Point } from '@calque/core/geometry';
import { NO_SWITCHES, type Linework } from '@calque/core/linework';
import { DEFAULT_MEMORY_MB } from '../src/index.ts';
import { readFile } from '../src/read-file.ts';

/** For each sheet: true millimetres per millimetre of paper, its height, and each wall's middle line (points, y down) and thickness. */
const SHEETS = new URL('sheets/', import.meta.url);
export const TRUTH = JSON.parse(readFileSync(new URL('walls.json', SHEETS), 'utf8')) as Record<
  string,
  { millimetres: number; height: number; walls: [number, number, number, number, number][] }
>;
export async function lineworkOf(name: string): Promise<Linework> {
  let out: Linework | null = null;
  await readFile(
    new Uint8Array(readFileSync(new URL(name, SHEETS))),
    { maxMegabytes: DEFAULT_MEMORY_MB, page: 1 },
    () => {},
    (p) => {
      out = p.linework;
    },
  );
  return out!;
}

/** The solid lines of a sheet on the plane, by box. */
export async function linesOf(name: string): Promise<(box: Box) => Piece[]> {
  const k = TRUTH[name].millimetres * MM_PER_POINT,
    l = await lineworkOf(name);
  const runs = planLines(
    l,
    makeRegion(
      [
        [
          [0, 0],
          [l.width, 0],
          [l.width, l.height],
          [0, l.height],
        ],
      ],
      'nonzero',
    ),
    NO_SWITCHES,
    [k, 0, 0, k, 0, 0],
  ).filter((r) => !r.dashed);
  const pieces = runs.flatMap((r) => r.pieces),
    index = new Flatbush(pieces.length);
  for (const p of pieces) index.add(...(pieceBox(p) as [number, number, number, number]));
  index.finish();
  return (box) => index.search(...(box as [number, number, number, number])).map((i) => pieces[i]);
}

/** Its walls by their middle lines, millimetres of the plane. */
export function trueWalls(name: string): { a: Point; b: Point; thickness: number }[] {
  const { millimetres, height, walls } = TRUTH[name],
    k = millimetres * MM_PER_POINT;
  return walls.map(([x0, y0, x1, y1, thickness]) => ({
    a: [x0 * k, (height - y0) * k],
    b: [x1 * k, (height - y1) * k],
    thickness,
  }));
}
