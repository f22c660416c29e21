import { inStage } from '@/commands/command';
import { drawBy } from '@/drawing/take-shape';
import { PathTool } from '@/drawing/path-tool';
import { RECTANGLE, REGULAR, SLOT } from './plans';
import type { TracedPath } from '@calque/core/model';
import type { Face } from '../face';

export const PATH_FACE: Face<TracedPath> = {
  commands: (hands) => [
    {
      id: 'path',
      words: 'Draw a path of lines and arcs as one element',
      short: 'Path',
      also: 'polyline',
      group: 'Tools',
      key: 'Shift+i',
      tool: 'path',
      on: ['drawing'],
      picture: 'path',
      run: inStage(hands, 'trace', () =>
        hands.table.hold(
          new PathTool(hands.table, { id: 'path', noun: 'Path', label: 'Draw a path', area: false }),
        ),
      ),
    },
    drawBy(hands, RECTANGLE, {
      words: 'Draw a rectangle by two corners, or turned',
      key: 'Shift+r',
      picture: 'rectangle',
    }),
    drawBy(hands, SLOT, { words: 'Draw a slot', key: 'Shift+o', picture: 'slot' }),
    drawBy(hands, REGULAR, {
      words: 'Draw a regular shape (polygon) by its sides',
      key: 'Shift+p',
      picture: 'regular',
      short: 'Polygon',
    }),
  ],
  Fields: null,
};
