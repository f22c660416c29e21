import { inStage, needsChosen, type Declared } from '@/commands/command';
import { editGroup, takeApart, takeGroupTool, takePlaceTool } from './groups';

export const GROUP_COMMANDS: Declared = (hands) => {
  const { table } = hands;
  return [
    {
      id: 'group',
      words: 'Make a group of what is selected, to be placed many times',
      short: 'Group',
      on: ['change'],
      picture: 'group',
      rank: 3,
      group: 'Edit',
      ...needsChosen(hands, 'Shift+f'),
      run: inStage(hands, 'trace', () => takeGroupTool(table)),
    },
    {
      id: 'place',
      words: 'Place a group',
      short: 'Place',
      tool: 'place',
      on: ['drawing'],
      picture: 'place',
      group: 'Tools',
      key: 'Shift+y',
      run: inStage(hands, 'trace', () => takePlaceTool(table)),
    },
    {
      id: 'edit-group',
      words: 'Edit the selected group: all that are placed follow; or finish editing it',
      short: 'Edit group',
      on: ['change'],
      picture: 'edit-group',
      rank: 6,
      group: 'Edit',
      key: 'Shift+z',
      run: inStage(hands, 'trace', () => editGroup(table)),
    },
    {
      id: 'apart',
      words: 'Take apart: a group into its elements, a path or an outline into its lines and arcs',
      short: 'Apart',
      on: ['change'],
      picture: 'apart',
      rank: 3,
      also: 'explode ungroup break up split into pieces segments dissolve disjoin polyline',
      group: 'Edit',
      ...needsChosen(hands),
      run: () => takeApart(table),
    },
  ];
};
