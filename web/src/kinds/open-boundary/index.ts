import { inStage, needsStorey } from '@/commands/command';
import type { OpenBoundary } from '@calque/core/model';
import type { Face } from '../face';
import { takeChainOf } from '../line/line-tool';

export const OPEN_BOUNDARY_FACE: Face<OpenBoundary> = {
  commands: (hands) => [
    {
      id: 'open-boundary',
      words: 'Draw where one room ends and the next begins without a wall',
      short: 'Boundary',
      also: 'part rooms in two open plan kitchen hall',
      group: 'Tools',
      tool: 'open-boundary',
      on: ['building'],
      picture: 'open-boundary',
      ...needsStorey(hands, 'Rooms lie'),
      run: inStage(hands, 'trace', () =>
        takeChainOf(hands.table, {
          id: 'open-boundary',
          type: 'openBoundary',
          word: 'Open boundary',
          label: 'Draw an open boundary',
        }),
      ),
    },
  ],
  Fields: null,
};
