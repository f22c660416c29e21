import { joinWalls } from '../building/index.ts';
import { ofType, type Model } from '../model/index.ts';
import type { Drawing, DrawingLayer, Shape } from './drawing.ts';

const WALLS: DrawingLayer = { name: 'Walls', colour: 0x17273a, index: 7 };
const AXES: DrawingLayer = { name: 'Wall lines', colour: 0xd4451f, index: 1 };
const LINES: DrawingLayer = { name: 'Lines', colour: 0x55616d, index: 8 };

/** What has been traced on one storey, or on all: joined outlines, the drawn lines of walls, plain lines. */
export function drawingOfModel(model: Model, storeyId?: string): Drawing {
  const on = (e: { storeyId: string }) => storeyId === undefined || e.storeyId === storeyId;
  const walls = ofType(model, 'wall').filter(on);
  const lines = ofType(model, 'line').filter(on);
  const storeys = [...new Set(walls.map((w) => w.storeyId))];
  // Walls of different storeys lie over one another on paper but never join.
  const outlines = storeys.flatMap((id) => joinWalls(walls.filter((w) => w.storeyId === id)).outlines);
  const shapes: Shape[] = [
    ...outlines.map((rings): Shape => ({ kind: 'region', layer: WALLS.name, rings })),
    ...walls.map((w): Shape => ({ kind: 'line', layer: AXES.name, from: w.from, to: w.to })),
    ...lines.map((l): Shape => ({ kind: 'line', layer: LINES.name, from: l.from, to: l.to })),
  ];
  return { layers: [WALLS, AXES, LINES], shapes };
}
