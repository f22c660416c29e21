import type { Table } from '@/table/table';
import type { Tool } from '@/table/tool';
import { GRID_LINE } from './grid-line-plan';
import { DIMENSION } from './dimension-plan';
import { NoteTool } from './note-tool';
import { PathTool } from './path-tool';
import { ARC, CIRCLE, CURVE, RECTANGLE, REGULAR, SLOT } from './plans';
import { ShapeTool, type ShapePlan } from './shape-tool';

const shape =
  (plan: ShapePlan) =>
  (table: Table): void =>
    table.take(new ShapeTool(table, plan));

/** What can be drawn beside walls and single lines: name, key, and how the tool is taken up. */
export const DRAWINGS: readonly {
  id: string;
  name: string;
  key: string;
  words: string;
  take(table: Table): void;
}[] = [
  {
    id: 'path',
    name: 'Path',
    key: 'Shift+i',
    words: 'Draw a path of lines and arcs as one element',
    take: (table) =>
      table.take(new PathTool(table, { id: 'path', noun: 'Path', label: 'Draw a path', area: false })),
  },
  {
    id: 'rectangle',
    name: 'Rectangle',
    key: 'Shift+r',
    words: 'Draw a rectangle by two corners, or turned',
    take: shape(RECTANGLE),
  },
  {
    id: 'circle',
    name: 'Circle',
    key: 'Shift+c',
    words: 'Draw a circle by centre, diameter or three points',
    take: shape(CIRCLE),
  },
  {
    id: 'arc',
    name: 'Arc',
    key: 'Shift+a',
    words: 'Draw an arc through three points, by its radius or about a centre',
    take: shape(ARC),
  },
  {
    id: 'curve',
    name: 'Curve',
    key: 'Shift+s',
    words: 'Draw a smooth curve (spline) through points',
    take: shape(CURVE),
  },
  { id: 'slot', name: 'Slot', key: 'Shift+o', words: 'Draw a slot', take: shape(SLOT) },
  {
    id: 'regular',
    name: 'Regular shape',
    key: 'Shift+p',
    words: 'Draw a regular shape (polygon) by its sides',
    take: shape(REGULAR),
  },
  {
    id: 'text',
    name: 'Text',
    key: 'Shift+t',
    words: 'Write a text',
    take: (table) => table.take(new NoteTool(table)),
  },
  {
    id: 'dimension',
    name: 'Dimension',
    key: 'Shift+d',
    words: 'Draw a dimension: along points, level or upright, in a row, of a radius or an angle',
    take: shape(DIMENSION),
  },
  {
    id: 'grid-line',
    name: 'Grid line',
    key: 'Shift+x',
    words: 'Draw a grid line of the building, with its name',
    take: shape(GRID_LINE),
  },
  {
    id: 'area',
    name: 'Area',
    key: 'Shift+h',
    words: 'Outline an area, with its figure, to be filled or hatched',
    take: (table) =>
      table.take(new PathTool(table, { id: 'area', noun: 'Area', label: 'Outline an area', area: true })),
  },
];

/** A tool that can be used in several ways. */
interface Ways extends Tool {
  nextVariant(): boolean;
}

/** Takes the next way in which the drawing tool in hand works; false where it has but one, or none is in hand. */
export function nextWay(table: Table): boolean {
  const tool = table.currentTool;
  const turned = 'nextVariant' in tool && (tool as Ways).nextVariant();
  if (turned) table.showTool();
  return turned;
}
