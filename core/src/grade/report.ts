import { kindOf, type Model } from '../model/index.ts';
import type { CountedTable } from '../takeoff/index.ts';
import type { LengthStyle } from '../units/index.ts';
import { elementsGraded, figuresOf, type GradeFigures } from './figures.ts';
import type { TraceGrade } from './types.ts';
import { gradeWords, percent, STRAYS } from './words.ts';

type Table = Pick<CountedTable, 'name' | 'columns' | 'rows'>;

/** What is reported. */
export interface Reported {
  grade: TraceGrade;
  tolerance: number;
  model: Model;
  /** Its name. */
  sheet: string;
  style: LengthStyle;
}

/** Tables of a grade: what it says in sentences and figures, every element by itself, and walls of the sheet that are not traced. */
export function gradeTables({ grade, tolerance, model, sheet, style }: Reported): Table[] {
  const length = (head: string) => ({ head, kind: 'length' as const }),
    text = (head: string) => ({ head, kind: 'text' as const }),
    row = (cells: Table['rows'][number]['cells'], ids: readonly string[] = []) => ({
      cells,
      ids,
      storey: '',
    });
  const own = figuresOf(grade.traced, tolerance),
    faces = figuresOf(grade.faces, tolerance),
    share = ({ within, length: all }: GradeFigures) => (all > 0 ? percent(within, all) : null);
  const isWall = (id: string) => model.get(id)?.type === 'wall';
  return [
    {
      name: 'Grade',
      columns: [
        text('What is held'),
        length('Length'),
        length('Within the tolerance'),
        { head: 'Share, %', kind: 'count' },
        length('Mean distance'),
        length('Worst distance'),
        length('Nothing beside it'),
      ],
      rows: [
        row([`${sheet}: ${gradeWords(grade, tolerance, style, isWall)}`, ...Array(6).fill(null)]),
        row(['Tolerance', null, tolerance, ...Array(4).fill(null)]),
        row(['A trace strays from', null, STRAYS * tolerance, ...Array(4).fill(null)]),
        row(['Looked for up to', null, grade.reach, ...Array(4).fill(null)]),
        row([
          'Traced lines against the sheet',
          own.length,
          own.within,
          share(own),
          own.mean,
          own.worst,
          own.free,
        ]),
        row([
          "The sheet's wall faces against the trace",
          faces.length,
          faces.within,
          share(faces),
          faces.mean,
          faces.worst,
          faces.free,
        ]),
      ],
    },
    {
      name: 'Elements',
      columns: [
        text('Element'),
        length('Length'),
        { head: 'Within, %', kind: 'count' },
        length('Mean distance'),
        length('Worst distance'),
        length('Worst at x'),
        length('Worst at y'),
        length('Nothing beside it'),
      ],
      rows: elementsGraded(grade, tolerance).map((e) => {
        const of = model.get(e.id);
        return row(
          [
            of && 'planeId' in of ? elementWords(of as never, style) : e.id,
            e.length,
            share(e),
            e.mean,
            e.worst,
            e.at?.[0] ?? null,
            e.at?.[1] ?? null,
            e.free,
          ],
          [e.id],
        );
      }),
    },
    {
      name: 'Not traced',
      columns: [
        text('On the sheet'),
        length('Thickness'),
        length('From x'),
        length('From y'),
        length('To x'),
        length('To y'),
      ],
      rows: grade.untraced.map((w) =>
        row([w.isSure ? 'wall' : 'perhaps a wall', w.thickness, ...w.from, ...w.to]),
      ),
    },
  ];
}

/** "wall, 3 200 mm". */
const elementWords = (e: Parameters<typeof kindOf>[0], style: LengthStyle): string =>
  [kindOf(e).word(e), kindOf(e).summary(e, style)].filter(Boolean).join(', ');
