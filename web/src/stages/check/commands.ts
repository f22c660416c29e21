import { inStage, type Command, type Declared } from '@/commands/command';
import { takeGradeTool } from './grade/grade-tool';
import { takeMeasureTool } from './measure';
import { MeasureTool, WAYS, type Measured } from './measure-tool';

/** The second strokes of the ways that have no key of their own. */
const STROKE = { distance: 'd', angle: 'a', radius: 'r', area: 'e', thickness: 't' } as const;

export const CHECK_COMMANDS: Declared = (hands) => {
  const { table } = hands;
  const lies = (kind: Measured['kind']): Partial<Command> => ({
    tool: 'measure',
    inHand: () => table.currentTool instanceof MeasureTool && table.currentTool.kind === kind,
    on: ['check'],
    picture: kind === 'area' ? 'measured-area' : kind,
  });
  return [
    {
      id: 'measure',
      words: 'Measure a distance; by F an angle, a radius, an area, a thickness',
      short: 'Distance',
      group: 'Tools',
      key: 'm',
      ...lies('distance'),
      on: ['check', 'building', 'drawing'],
      run: inStage(hands, 'check', () => takeMeasureTool(table)),
    },
    ...WAYS.filter((w) => w.kind !== 'distance').map(({ kind, name }): Command => ({
      id: `measure-${kind}`,
      words: `Measure ${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name.toLowerCase()}`,
      short: name,
      group: 'Tools',
      key: `, ${STROKE[kind]}`,
      ...lies(kind),
      run: inStage(hands, 'check', () => takeMeasureTool(table, kind)),
    })),
    {
      id: 'grade',
      words: 'Grade the trace: how far its edges lie from the ink of the sheet, and what it lacks',
      also: 'accuracy, deviation, compare with the sheet, distance of edges, missed walls, quality',
      short: 'Grade trace',
      group: 'Tools',
      key: ', y',
      tool: 'grade',
      on: ['check'],
      picture: 'grade',
      run: inStage(hands, 'check', () => takeGradeTool(table)),
    },
  ];
};
