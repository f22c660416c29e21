import { inStage } from '@/commands/command';
import { TextFields } from './fields';
import { NoteTool } from './note-tool';
import type { Note } from '@calque/core/model';
import type { Face } from '../face';

export const TEXT_FACE: Face<Note> = {
  commands: (hands) => [
    {
      id: 'text',
      words: 'Write a text',
      short: 'Text',
      group: 'Tools',
      key: 'Shift+t',
      tool: 'text',
      on: ['drawing'],
      picture: 'text',
      run: inStage(hands, 'trace', () => hands.table.hold(new NoteTool(hands.table))),
    },
  ],
  Fields: TextFields,
};
