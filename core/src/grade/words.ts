import { exactStyle, formatLengthWithUnit, type LengthStyle } from '../units/index.ts';
import { elementsGraded, figuresOf } from './figures.ts';
import type { TraceGrade } from './types.ts';

/** A trace strays where it lies so many times the tolerance off. */
export const STRAYS = 2.5;

/** Whole per cent of a part, never 100 of less than all, nor 0 of something. */
export function percent(part: number, of: number): number {
  if (!(of > 0)) return 0;
  const share = (100 * part) / of;
  if (share >= 100 - 1e-6) return 100;
  return share <= 0 ? 0 : Math.min(99, Math.max(1, Math.floor(share)));
}

/**
 * What a grade says, in a sentence of two parts: "96 % of the sheet's wall faces are traced within 2 mm; 3 walls stray by more than
 * 5 mm." `isWall`: is an element one?
 */
export function gradeWords(
  grade: TraceGrade,
  tolerance: number,
  style: LengthStyle,
  isWall: (id: string) => boolean,
): string {
  const faces = figuresOf(grade.faces, tolerance),
    length = (mm: number) => formatLengthWithUnit(mm, exactStyle(mm, style)),
    strays = elementsGraded(grade, tolerance).filter((e) => (e.worst ?? 0) > STRAYS * tolerance),
    walls = strays.filter((e) => isWall(e.id)).length,
    others = strays.length - walls;
  const said = [
    faces.length > 0
      ? `${percent(faces.within, faces.length)} % of the sheet's wall faces are traced within ${length(tolerance)}`
      : 'No wall is seen on the sheet',
  ];
  const some = (n: number, one: string, many: string) => [['', `one ${one}`][n] ?? `${n} ${many}`],
    who = [...some(walls, 'wall', 'walls'), ...some(others, 'other element', 'other elements')].filter(
      Boolean,
    );
  const limit = length(STRAYS * tolerance);
  said.push(
    who.length > 0
      ? `${who.join(' and ')} ${strays.length === 1 ? 'strays' : 'stray'} by more than ${limit}`
      : `nothing strays by more than ${limit}`,
  );
  return `${said.join('; ')}.`;
}
