import type { Point } from '../geometry/index.ts';
import { settingsOf, type Model, type PaperDrawing } from '../model/index.ts';
import { MARGIN, TITLE_STRIP } from '../papers/index.ts';
import type { LaidPaper, LaidView } from './laid-paper.ts';

/** A text of the paper: where it begins, how high its capitals are, how wide it may be; millimetres of paper. */
export interface PaperText {
  text: string;
  at: Point;
  height: number;
  width: number;
}

/** What stands on the paper beside the views: lines and texts, millimetres from its lower left corner. */
export interface PaperMarks {
  lines: [Point, Point][];
  texts: PaperText[];
}

/** Below a view its caption takes this much, millimetres. */
export const CAPTION = 8;
const GAUGE = 50;
/** How wide a letter is to its height, at most as a text usually has it. */
const LETTER = 0.86;

/** Texts that are too long for their place end in an ellipsis. */
export function fitted({ text, height, width }: PaperText): string {
  const most = Math.max(1, Math.floor(width / (height * LETTER)));
  return text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text;
}

/** The frame, the title block with a length to measure by, and what stands below each view. `date` as it is printed. */
export function marksOf(model: Model, drawing: PaperDrawing, laid: LaidPaper, date: string): PaperMarks {
  const { width, height } = laid,
    top = MARGIN + TITLE_STRIP - 3,
    right = width - MARGIN,
    lines: [Point, Point][] = [
      ...frame(MARGIN, MARGIN, right, height - MARGIN),
      [
        [MARGIN, top],
        [right, top],
      ],
    ],
    texts: PaperText[] = [];
  const scales = [...new Set(laid.views.map((v) => v.scaleText).filter((t) => t !== ''))],
    cells: [word: string, value: string, share: number][] = [
      ['Project', settingsOf(model).name, 3],
      ['Drawing', drawing.name, 3],
      ['Number', drawing.number, 1.3],
      ['Revision', drawing.revision, 0.9],
      ['Scale', scales.length > 2 ? 'as shown' : scales.join(', '), 1.8],
      ['Date', date, 1.4],
      ['Drawn by', drawing.drawnBy, 1.6],
    ],
    shares = cells.reduce((sum, [, , share]) => sum + share, 0),
    free = right - MARGIN - GAUGE - 8;
  let x = MARGIN;
  for (const [word, value, share] of cells) {
    const wide = (free * share) / shares;
    texts.push({ text: word, at: [x + 1.2, top - 3], height: 1.4, width: wide - 2 });
    texts.push({ text: value, at: [x + 1.2, MARGIN + 2.6], height: 2.2, width: wide - 2 });
    x += wide;
    lines.push([
      [x, MARGIN],
      [x, top],
    ]);
  }
  const from = right - GAUGE - 4;
  lines.push([
    [from, MARGIN + 2.5],
    [from + GAUGE, MARGIN + 2.5],
  ]);
  for (let d = 0; d <= GAUGE; d += 10)
    lines.push([
      [from + d, MARGIN + 2.5],
      [from + d, MARGIN + (d % GAUGE === 0 ? 5 : 4)],
    ]);
  texts.push({ text: `50 mm on ${drawing.paper}`, at: [from, top - 3], height: 1.4, width: GAUGE });
  for (const view of laid.views) addCaption(view, lines, texts);
  return { lines, texts };
}

const frame = (x0: number, y0: number, x1: number, y1: number): [Point, Point][] => [
  [
    [x0, y0],
    [x1, y0],
  ],
  [
    [x1, y0],
    [x1, y1],
  ],
  [
    [x1, y1],
    [x0, y1],
  ],
  [
    [x0, y1],
    [x0, y0],
  ],
];

function addCaption(
  { box, caption, scaleText }: LaidView,
  lines: [Point, Point][],
  texts: PaperText[],
): void {
  const words = [caption, scaleText].filter((t) => t !== '').join('   ');
  if (words === '') return;
  const y = box[1] - 4.5,
    width = Math.max(box[2] - box[0], 40);
  texts.push({ text: words, at: [box[0], y], height: 2.5, width });
  lines.push([
    [box[0], y - 1.4],
    [box[0] + Math.min(width, words.length * 2.5 * LETTER), y - 1.4],
  ]);
}
