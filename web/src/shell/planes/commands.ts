import type { Command, Declared, Hands } from '@/commands/command';
import { needsStorey } from '@/commands/command';
import { get, tracedOn } from '@calque/core/model';
import { hasDepth, useSeen } from '@/project/seen';
import { takeLevelTool } from './level-tool';
import {
  addStorey,
  chosenGridLine,
  copyToNext,
  nextStorey,
  takeGridPlaneTool,
  takePlaneTool,
} from './plane-tools';

/** What opens over the drawing. */
export interface PlaneViews {
  openList(): void;
  openSpace(): void;
}

const uprightInHand = ({ session, table }: Hands) =>
  get(session.state.model, 'plane', table.state.getState().planeId);

const byPoints = (hands: Hands, role: 'elevation' | 'section', words: string, also: string): Command => ({
  id: `plane-${role}`,
  words,
  also,
  short: role === 'elevation' ? 'Elevation' : 'Section',
  key: role === 'elevation' ? ', e' : ', c',
  on: ['levels'],
  picture: role,
  group: 'Tools',
  tool: `plane-${role}`,
  ...needsStorey(hands, 'Upright planes are stood'),
  run: () => takePlaneTool(hands.table, role),
});

export const planeCommands =
  ({ openList, openSpace }: PlaneViews): Declared =>
  (hands) => [
    byPoints(
      hands,
      'elevation',
      'Stand an elevation up: an upright plane through two points of the plan',
      'work plane facade side view front view upright vertical',
    ),
    byPoints(
      hands,
      'section',
      'Stand a section up: an upright plane through two points of the plan',
      'work plane cut upright vertical',
    ),
    {
      id: 'plane-grid-line',
      words: 'Stand a section up on the grid line that is selected',
      short: 'On grid line',
      key: ', g',
      on: ['levels'],
      picture: 'plane-on-grid',
      also: 'work plane frame elevation grid upright vertical',
      group: 'Tools',
      why: () =>
        needsStorey(hands, 'Upright planes are stood').why!() ??
        (chosenGridLine(hands.table) ? null : 'Select one grid line first: the plane stands on it.'),
      run: () => takeGridPlaneTool(hands.table),
    },
    {
      id: 'add-storey',
      words: 'Add a storey above the others',
      short: 'Add storey',
      key: ', a',
      on: ['levels'],
      picture: 'storey',
      also: 'floor level',
      group: 'Edit',
      repeats: false,
      run: () => addStorey(hands.table),
    },
    {
      id: 'copy-storey',
      words: 'Copy all that is traced on this storey to the next one above',
      short: 'Copy storey',
      on: ['levels'],
      picture: 'copy-storey',
      also: 'duplicate floor repeat typical',
      group: 'Edit',
      repeats: false,
      why: () => {
        const none = needsStorey(hands, 'What is copied lies').why!();
        if (none) return none;
        if (tracedOn(hands.session.state.model, hands.table.state.getState().planeId).length === 0)
          return 'Nothing has been traced on this storey yet.';
        return nextStorey(hands.table) ? null : 'There is no storey above this one: add one first.';
      },
      run: () => copyToNext(hands.table),
    },
    {
      id: 'storey-level',
      words: 'Take the level of a storey from an elevation or a section: its printed figure',
      short: 'Storey level',
      key: ', k',
      on: ['levels'],
      picture: 'storey-level',
      also: 'floor height datum ffl elevation figure',
      group: 'Tools',
      tool: 'storey-level',
      why: () =>
        uprightInHand(hands)
          ? null
          : 'Go to an upright plane first, with an elevation or a section laid on it: levels stand there.',
      run: () => takeLevelTool(hands.table),
    },
    {
      id: 'planes',
      opensList: true,
      words: 'Storeys and planes: names, levels, heights',
      short: 'Levels',
      key: ', v',
      on: ['levels'],
      picture: 'levels',
      also: 'floors levels list work planes elevation section height',
      group: 'View',
      run: openList,
    },
    {
      id: 'seen-from-here',
      words: 'Show or hide the building as it is seen from the upright plane in hand',
      also: 'ghost elevation hidden lines check by edges',
      group: 'View',
      why: () => (uprightInHand(hands) ? null : 'Go to an upright plane first: it is seen from there.'),
      run: () => useSeen.setState(({ isWanted }) => ({ isWanted: !isWanted })),
    },
    {
      id: 'slab-alone',
      words: 'Show the slab of space of the upright plane in hand alone, everywhere; or all of it again',
      also: 'depth clip isolate slice range',
      group: 'View',
      why: () => {
        if (useSeen.getState().slabId !== null) return null;
        const plane = uprightInHand(hands);
        if (!plane) return 'Go to an upright plane first: its depth is shown.';
        return hasDepth(plane)
          ? null
          : `${plane.name} has no end before or behind it: give it one under Storeys and planes.`;
      },
      run: () => {
        const plane = uprightInHand(hands),
          { slabId } = useSeen.getState();
        useSeen.setState({ slabId: slabId === null && plane ? plane.id : null });
      },
    },
    {
      id: 'space',
      words: 'See the model in space: solids, and sheets in their places',
      short: 'Model',
      key: ', m',
      also: '3d axonometric isometric perspective view three dimensions',
      group: 'View',
      run: openSpace,
    },
  ];
