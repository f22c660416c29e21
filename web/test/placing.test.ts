import { expect, it } from 'vitest';
import { placingWords } from '@/kinds/member/placing-picture';

const QUARTER = Math.PI / 2;

it('the line that is drawn is called what it is, however the section is turned', () => {
  expect(placingWords(8, 0, false)).toBe('the line is the top of the member');
  expect(placingWords(2, 0, false)).toBe('the line is the bottom of the member');
  expect(placingWords(5, 1.1, false)).toBe('the line is the centre of its section');
  expect(placingWords(1, 0, false)).toBe('the line is the bottom left edge of the member');
  // Counter-clockwise by a quarter the top of the section lies at the left, its right at the top.
  expect(placingWords(8, QUARTER, false)).toBe('the line is the left of the member');
  expect(placingWords(6, QUARTER, false)).toBe('the line is the top of the member');
  expect(placingWords(8, 2 * QUARTER, false)).toBe('the line is the bottom of the member');
  expect(placingWords(8, -QUARTER, false)).toBe('the line is the right of the member');
  // What stands has no top line, and what is turned by less than a quarter neither.
  expect(placingWords(8, 0, true)).toBe('the line is the top of its section');
  expect(placingWords(8, 0.3, false)).toBe('the line is the top of its section');
});
