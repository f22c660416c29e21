import { inStage, needsStorey } from '@/commands/command';
import type { Space } from '@calque/core/model';
import type { Face } from '../face';
import { SpaceFields } from './fields';
import { takeRoomTool } from './room-tool';
import { makeAllRooms } from './rooms';

export const SPACE_FACE: Face<Space> = {
  commands: (hands) => {
    const { table } = hands;
    return [
      {
        id: 'room',
        words: 'Make a room of what walls enclose around a point, named by the words of the sheet',
        short: 'Room',
        key: 'Shift+o',
        on: ['building'],
        picture: 'room',
        also: 'space zone',
        group: 'Tools',
        tool: 'room',
        ...needsStorey(hands, 'Rooms lie'),
        run: inStage(hands, 'trace', () => takeRoomTool(table)),
      },
      {
        id: 'rooms',
        words: 'Make rooms of all that the walls of this storey enclose',
        short: 'All rooms',
        on: ['building'],
        picture: 'rooms',
        also: 'spaces zones',
        group: 'Tools',
        ...needsStorey(hands, 'Rooms lie'),
        run: inStage(hands, 'trace', () => makeAllRooms(table)),
      },
    ];
  },
  Fields: SpaceFields,
};
