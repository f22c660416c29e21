import { applyTransform, meanScale, turnOf, type Point, type Transform } from '../../geometry/index.ts';
import type { SceneText } from '../scene/scene.ts';
import { radians } from './bulges.ts';
import { number, numbers, text, type DxfRecord } from './records.ts';

/** Longest text that is read for its formatting. */
const LONGEST_WORDS = 5000;
/** Width of a letter, as a share of the height. */
const LETTER_WIDTH = 0.6;

/** The lines of a text, an attribute or a paragraph, each at its place: the base point of its first letter. */
export function wordsOf(r: DxfRecord, at: Transform): Omit<SceneText, 'type' | 'style'>[] {
  const multi = r.type === 'MTEXT',
    lines = (multi ? plainMtext(rawMtext(r)) : plainSigns(text(r, 1).slice(0, LONGEST_WORDS))).split('\n');
  const height = number(r, 40, 1);
  const turn =
    multi && numbers(r, 11).length > 0 ? Math.atan2(number(r, 21), number(r, 11)) : radians(number(r, 50));
  const justified = !multi && (number(r, 72) !== 0 || number(r, 73) !== 0) && numbers(r, 11).length > 0;
  const anchor: Point =
    justified && number(r, 72) !== 3 && number(r, 72) !== 5
      ? [number(r, 11), number(r, 21)]
      : [number(r, 10), number(r, 20)];
  const c = Math.cos(turn),
    s = Math.sin(turn);
  return lines.flatMap((line, k) => {
    if (line.trim() === '') return [];
    const width = LETTER_WIDTH * height * line.length * number(r, multi ? 44 : 41, 1);
    const [across, up] = multi
      ? mtextOffset(number(r, 71, 1), k, lines.length, height, width)
      : textOffset(justified ? number(r, 72) : 0, justified ? number(r, 73) : 0, height, width);
    const [x, y] = applyTransform(at, [anchor[0] + c * across - s * up, anchor[1] + s * across + c * up]);
    return [
      {
        text: line,
        x,
        y,
        height: height * meanScale(at),
        radians: turn + turnOf(at),
        width: width * meanScale(at),
      },
    ];
  });
}

/** The pieces of a paragraph, put together. */
const rawMtext = (r: DxfRecord): string =>
  r.pairs
    .filter(([code]) => code === 3 || code === 1)
    .map(([, value]) => value)
    .join('')
    .slice(0, LONGEST_WORDS);

/** Signs that the format writes by a code. */
const plainSigns = (raw: string): string =>
  raw
    .replace(/%%[cC]/g, 'Ø')
    .replace(/%%[dD]/g, '°')
    .replace(/%%[pP]/g, '±')
    .replace(/%%[uUoO]/g, '');

/** From the anchor to the base point, by horizontal (72) and vertical (73) justification. */
function textOffset(across: number, up: number, height: number, width: number): Point {
  const x = across === 1 || across === 4 ? -width / 2 : across === 2 ? -width : 0;
  const y = across === 4 || up === 2 ? -height / 2 : up === 3 ? -height : 0;
  return [x, y];
}

const LINE_SPACING = 1.66;

/** From the anchor to the base point of a line, by attachment (1 to 9, from top left to bottom right). */
function mtextOffset(attachment: number, line: number, lines: number, height: number, width: number): Point {
  const column = (attachment - 1) % 3,
    row = Math.floor((attachment - 1) / 3);
  const top =
    row === 0
      ? -height
      : row === 1
        ? ((lines - 1) * LINE_SPACING * height) / 2 - height / 2
        : (lines - 1) * LINE_SPACING * height;
  return [-(column * width) / 2, top - line * LINE_SPACING * height];
}

/** Text of MTEXT without its formatting codes. */
function plainMtext(raw: string): string {
  return plainSigns(raw)
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    .replace(/\\S([^;]*?)[\^/#]([^;]*);/g, '$1/$2')
    .replace(/\\[ACcFfHhQTWp][^;]*;/g, '')
    .replace(/\\P/g, '\n')
    .replace(/\\~/g, '\u00a0')
    .replace(/\\[LlOoKkN]/g, '')
    .replace(/(?<!\\)[{}]/g, '')
    .replace(/\\([\\{}])/g, '$1');
}
