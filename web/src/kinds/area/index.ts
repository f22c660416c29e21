import { inStage } from '@/commands/command';
import { PathTool } from '@/drawing/path-tool';
import { AreaFields } from './fields';
import type { Area } from '@calque/core/model';
import type { Face } from '../face';

export const AREA_FACE: Face<Area> = {
  commands: (hands) => [
    {
      id: 'area',
      words: 'Outline an area, with its figure, to be filled or hatched',
      short: 'Area',
      group: 'Tools',
      key: 'Shift+h',
      tool: 'area',
      on: ['drawing'],
      picture: 'area',
      run: inStage(hands, 'trace', () =>
        hands.table.hold(
          new PathTool(hands.table, { id: 'area', noun: 'Area', label: 'Outline an area', area: true }),
        ),
      ),
    },
  ],
  Fields: AreaFields,
};
