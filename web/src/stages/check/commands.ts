import { inStage, type Command, type Declared } from '@/commands/command';
import { takeMeasureTool } from './measure';
import { WAYS } from './measure-tool';

export const CHECK_COMMANDS: Declared = (hands) => {
  const { table } = hands;
  return [
    {
      id: 'measure',
      words: 'Measure a distance; by F an angle, a radius, an area, a thickness',
      group: 'Tools',
      key: 'm',
      run: inStage(hands, 'check', () => takeMeasureTool(table)),
    },
    ...WAYS.filter((w) => w.kind !== 'distance').map(({ kind, name }): Command => ({
      id: `measure-${kind}`,
      words: `Measure ${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name.toLowerCase()}`,
      group: 'Tools',
      run: inStage(hands, 'check', () => takeMeasureTool(table, kind)),
    })),
  ];
};
