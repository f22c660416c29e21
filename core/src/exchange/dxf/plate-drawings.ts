import { strToU8, zipSync } from 'fflate';
import { joinedFrame } from '../../framing/index.ts';
import type { Point } from '../../geometry/index.ts';
import { settingsOf, type Model, type OutlineRing, type Pair } from '../../model/index.ts';
import { markedPlates } from '../../takeoff/index.ts';
import { frameViews } from '../shop/frame.ts';
import type { Drawing } from '../drawing.ts';
import { writeDxf, type DxfUnits } from './write-dxf.ts';

const OUTLINE = { name: 'Outline', colour: 0x17273a, index: 7 },
  HOLES = { name: 'Holes', colour: 0xd4451f, index: 1 },
  WORDS = { name: 'Mark', colour: 0x2456a6, index: 5 };

/** A plate at true size: its outline, its holes as circles, and its mark with thickness and number beside it. */
export interface PlateDrawing {
  /** A file's name, without its ending. */
  name: string;
  drawing: Drawing;
}

/** One drawing for each plate of the takeoff, by the marks that it has there. */
export const plateDrawings = (model: Model): PlateDrawing[] =>
  markedPlates(joinedFrame(model))
    // Cleats are cut from angles, not out of plate.
    .filter(({ plates: [first] }) => !first.angle)
    .map(({ mark, plates: [first, ...others] }): PlateDrawing => {
      const { outline, drawn, slots, holes, thickness, material } = first,
        [x0, y0] = [0, 1].map((k) => Math.min(...outline.map((p) => p[k]))),
        about = ([x, y]: Point): Pair => [x - x0, y - y0],
        moved = ({ points, bulges }: OutlineRing): OutlineRing => ({ points: points.map(about), bulges }),
        words = `${mark}, ${Math.round(thickness * 100) / 100} thick, ${material}, ${others.length + 1} off`;
      return {
        name: mark,
        drawing: {
          layers: [OUTLINE, HOLES, WORDS],
          shapes: [
            {
              kind: 'polyline',
              layer: OUTLINE.name,
              ...(drawn ? moved(drawn) : { points: outline.map(about) }),
              closed: true,
            },
            ...slots.map((s) => ({
              kind: 'polyline' as const,
              layer: HOLES.name,
              ...moved(s),
              closed: true,
            })),
            ...holes.map(({ at, d }) => ({
              kind: 'circle' as const,
              layer: HOLES.name,
              cx: at[0] - x0,
              cy: at[1] - y0,
              r: d / 2,
            })),
            { kind: 'text', layer: WORDS.name, x: 0, y: -25, height: 10, radians: 0, text: words },
          ],
        },
      };
    });

/** The frame of each upright plane with its marks and dimensions, by the names of the planes; those of one name are counted. */
export function frameDrawings(model: Model): PlateDrawing[] {
  const taken = new Map<string, number>();
  return frameViews(model).map(({ name, drawing }) => {
    const own =
        name
          .replace(/[\\/:*?"<>|\p{C}]/gu, '_')
          .trim()
          .slice(0, 80) || 'Frame',
      n = (taken.get(own.toLowerCase()) ?? 0) + 1;
    taken.set(own.toLowerCase(), n);
    return { name: n === 1 ? own : `${own} (${n})`, drawing };
  });
}

const unitsOf = (model: Model): DxfUnits => {
  const { units } = settingsOf(model);
  return units === 'mm' || units === 'm' || units === 'in' ? units : units === 'ft-in' ? 'in' : 'mm';
};

/** All of them as DXF in one ZIP archive; null where there are none. */
export const plateArchive = (model: Model): Uint8Array<ArrayBuffer> | null =>
  archiveOf(model, plateDrawings(model));
/** The same of frames. */
export const frameArchive = (model: Model): Uint8Array<ArrayBuffer> | null =>
  archiveOf(model, frameDrawings(model));

function archiveOf(model: Model, files: readonly PlateDrawing[]): Uint8Array<ArrayBuffer> | null {
  return files.length === 0
    ? null
    : new Uint8Array(
        zipSync(
          Object.fromEntries(
            files.map(({ name, drawing }) => [`${name}.dxf`, strToU8(writeDxf(drawing, unitsOf(model)))]),
          ),
        ),
      );
}
