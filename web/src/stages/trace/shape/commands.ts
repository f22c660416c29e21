import { inStage, type Declared } from '@/commands/command';
import { takeCornerTool, takeOffsetTool, takeSplitTool, takeStretchTool, takeTrimTool } from '.';

export const SHAPE_COMMANDS: Declared = (hands) => {
  const { table } = hands;
  return [
    {
      id: 'trim',
      words: 'Trim elements to what crosses them, or extend them',
      short: 'Trim',
      on: ['change'],
      picture: 'trim',
      rank: 1,
      group: 'Edit',
      key: 'z',
      tool: 'trim',
      run: inStage(hands, 'trace', () => takeTrimTool(table)),
    },
    {
      id: 'corner',
      words: 'Bring two elements to a corner, or cut it back (chamfer)',
      short: 'Corner',
      on: ['change'],
      picture: 'corner',
      rank: 1,
      group: 'Edit',
      key: 'q',
      tool: 'corner',
      run: inStage(hands, 'trace', () => takeCornerTool(table)),
    },
    {
      id: 'offset',
      words: 'Offset: an element beside another',
      short: 'Offset',
      on: ['change'],
      picture: 'offset',
      rank: 1,
      group: 'Edit',
      key: 'p',
      tool: 'offset',
      run: inStage(hands, 'trace', () => takeOffsetTool(table)),
    },
    {
      id: 'split',
      words: 'Split an element in two',
      short: 'Split',
      on: ['change'],
      picture: 'split',
      rank: 1,
      group: 'Edit',
      key: 'b',
      tool: 'split',
      run: inStage(hands, 'trace', () => takeSplitTool(table)),
    },
    {
      id: 'stretch',
      words: 'Stretch: move all points in a box',
      short: 'Stretch',
      on: ['change'],
      picture: 'stretch',
      rank: 1,
      group: 'Edit',
      key: 'Shift+w',
      tool: 'stretch',
      run: inStage(hands, 'trace', () => takeStretchTool(table)),
    },
  ];
};
