import { inStage, needsChosen, needsStorey } from '@/commands/command';
import { drawBy } from '@/drawing/take-shape';
import type { Column } from '@calque/core/model';
import type { Face } from '../face';
import { makeColumns } from './columns-of';
import { ColumnFields } from './fields';
import { COLUMN_PLAN } from './plan';

export const COLUMN_FACE: Face<Column> = {
  commands: (hands) => [
    {
      ...drawBy(hands, COLUMN_PLAN, {
        words: 'Put a column, rectangular or round, by typed sizes',
        short: 'Column',
        key: ', c',
        on: ['building'],
        picture: 'column',
        also: 'pillar post pier',
      }),
      ...needsStorey(hands, 'Columns stand'),
    },
    {
      id: 'make-columns',
      words: 'Make columns of the circles and closed outlines that are selected',
      short: 'To columns',
      on: ['change'],
      picture: 'make-columns',
      rank: 7,
      also: 'convert outline to column',
      group: 'Edit',
      why: () => needsStorey(hands, 'Columns stand').why!() ?? needsChosen(hands).why!(),
      run: inStage(hands, 'trace', () => makeColumns(hands.table)),
    },
  ],
  Fields: ColumnFields,
};
