import type { Declared } from '@/commands/command';

/** The command that opens the tables of the takeoff. */
export const takeoffCommands =
  (open: () => void): Declared =>
  () => [
    {
      id: 'takeoff',
      words: 'Tables of the takeoff: rooms, walls, openings, slabs, roofs, members',
      short: 'Takeoff',
      key: ', o',
      on: ['check'],
      picture: 'takeoff',
      also: 'schedule quantities counts areas volumes chart',
      group: 'View',
      opensList: true,
      run: open,
    },
  ];
