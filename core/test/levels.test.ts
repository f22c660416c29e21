import { describe, expect, it } from 'vitest';
import { parseLevel } from '@calque/core/units';

describe('the figure of a level mark', () => {
  it.each([
    ['+3,450', 3450],
    ['+3.45', 3450],
    ['±0.00', 0],
    ['+/-0,00', 0],
    ['−0,150', -150],
    ['-1.20', -1200],
    ['RL 18.450', 18450],
    ['FFL +2.70', 2700],
    ['F.F.L. +2.700', 2700],
    ['SSL: 5.925', 5925],
    ['OK FFB +3,00', 3000],
    ['+2700', 2700],
    ['EL. 103.50', 103500],
    ['+11\'-4 1/2"', 11 * 304.8 + 4.5 * 25.4],
    ['T.O.S. 12\'-0"', 12 * 304.8],
    ['+ 3,450', 3450],
    ['+3.45 m', 3450],
    ['+1 250', 1250],
  ])('%s', (text, mm) => expect(parseLevel(text)).toBeCloseTo(mm, 9));
  it.each([
    '',
    'Boat bay',
    '900',
    '900 x 2100',
    '3.4567',
    '3.450',
    'A-101',
    '+',
    'FFL',
    '1:100',
    '12.5',
    'RL x',
    '24.11.2026',
    '2.5 kN',
  ])('is none: "%s"', (text) => expect(parseLevel(text)).toBeNull());
});
