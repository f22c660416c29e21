import { inStage } from '@/commands/command';
import { takeLineTool } from './line-tool';
import type { Line } from '@calque/core/model';
import type { Face } from '../face';

export const LINE_FACE: Face<Line> = {
  commands: (hands) => [
    {
      id: 'line',
      words: 'Draw plain lines',
      short: 'Line',
      group: 'Tools',
      key: 'i',
      tool: 'line',
      on: ['drawing'],
      picture: 'line',
      run: inStage(hands, 'trace', () => takeLineTool(hands.table)),
    },
  ],
  Fields: null,
};
