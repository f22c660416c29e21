import { inStage, needsStorey } from '@/commands/command';
import { PathTool } from '@/drawing/path-tool';
import type { Slab } from '@calque/core/model';
import type { Face } from '../face';
import { SlabFields } from './fields';
import { holeIn, slabOf, slabUnderWalls } from './slabs';

export const SLAB_FACE: Face<Slab> = {
  commands: (hands) => {
    const { table } = hands;
    return [
      {
        id: 'slab',
        words: 'Outline a slab: a floor, a ceiling, a flat roof',
        short: 'Slab',
        key: ', f',
        on: ['building'],
        picture: 'slab',
        also: 'floor deck plate ceiling',
        group: 'Tools',
        tool: 'slab',
        ...needsStorey(hands, 'Slabs lie'),
        run: inStage(hands, 'trace', () =>
          table.hold(
            new PathTool(table, {
              id: 'slab',
              noun: 'Slab',
              label: 'Outline a slab',
              area: true,
              becomes: (ring) => slabOf([ring]),
            }),
          ),
        ),
      },
      {
        id: 'slab-walls',
        words: 'Make a slab of all that the walls of this storey enclose, to their outside faces',
        short: 'Slab of walls',
        on: ['building'],
        picture: 'slab-walls',
        also: 'floor from walls',
        group: 'Tools',
        ...needsStorey(hands, 'Slabs lie'),
        run: inStage(hands, 'trace', () => slabUnderWalls(table)),
      },
      {
        id: 'slab-hole',
        words: 'Cut a hole into a slab: for a stair, a shaft, a void',
        short: 'Hole in slab',
        on: ['building'],
        picture: 'slab-hole',
        also: 'opening void shaft',
        group: 'Tools',
        tool: 'slab-hole',
        ...needsStorey(hands, 'Slabs lie'),
        run: inStage(hands, 'trace', () =>
          table.hold(
            new PathTool(table, {
              id: 'slab-hole',
              noun: 'Hole',
              label: 'Cut a hole into a slab',
              area: true,
              change: (ring) => holeIn(table, ring),
            }),
          ),
        ),
      },
    ];
  },
  Fields: SlabFields,
};
