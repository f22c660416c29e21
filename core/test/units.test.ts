import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  describeScale,
  exactStyle,
  formatLength,
  formatLengthWithUnit,
  formatNumber,
  parseAngle,
  parseLength,
  parsePlainLength,
  parseScale,
  readFigure,
  scaleNote,
  typeableLength,
  UNIT_SYSTEMS,
  type UnitSystem,
} from '@calque/core/units';

const mm = (text: string, bare: UnitSystem = 'mm') => {
  const parsed = parseLength(text, bare);
  return parsed.ok ? parsed.mm : parsed.reason;
};

describe('typed lengths', () => {
  it.each([
    ['5250', 5250],
    ['5.25 m', 5250],
    ['5,25 m', 5250],
    ['525cm', 5250],
    ['11\'-4"', 136 * 25.4],
    ['3\' 6 1/2"', 42.5 * 25.4],
    ['136 in', 136 * 25.4],
    ['11′-4½″', 136.5 * 25.4],
    ['3\'-6"', 42 * 25.4],
    ["12'", 144 * 25.4],
    ['6 1/2"', 6.5 * 25.4],
    ['1/4"', 6.35],
    ['5 250', 5250],
    ['5,250', 5250],
    ['1.250,5', 1250.5],
    ['24 600 mm', 24600],
    ['4 ft 3 in', 51 * 25.4],
    ['0\'-3 3/4"', 3.75 * 25.4],
    ['-250', -250],
    ['12 feet', 144 * 25.4],
  ])('%s', (text, want) => expect(mm(text)).toBeCloseTo(want, 9));

  it('takes a bare number in the unit of the project', () => {
    expect(mm('2', 'm')).toBe(2000);
    expect(mm('2', 'ft-in')).toBeCloseTo(609.6, 9);
    expect(mm('2', 'in')).toBeCloseTo(50.8, 9);
  });

  it.each([
    ['', 'empty'],
    ['abc', 'unreadable'],
    ['12 parsecs', 'unreadable'],
    ['1/0"', 'unreadable'],
    ["4' x", 'unreadable'],
    ['1.2.3', 'unreadable'],
    ['1e400', 'unreadable'],
    ['9999999999 m', 'too-large'],
  ])('refuses %j', (text, why) => expect(mm(text)).toBe(why));

  it('reads back what it writes for typing, in every system', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 1e6, noNaN: true }),
        fc.constantFrom(...UNIT_SYSTEMS),
        (length, units) => {
          expect(mm(typeableLength(length, units), units)).toBeCloseTo(length, 3);
        },
      ),
    );
  });

  it('reads back feet and inches as shown, to half of the smallest fraction', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e5, max: 1e5, noNaN: true }),
        fc.constantFrom(1, 2, 8, 16, 64),
        (length, precision) => {
          const shown = formatLength(length, { units: 'ft-in', precision }).replace('\u2212', '-');
          expect(Math.abs((mm(shown, 'ft-in') as number) - length)).toBeLessThanOrEqual(
            25.4 / precision / 2 + 1e-9,
          );
        },
      ),
    );
  });
});

describe('shown lengths', () => {
  it('groups digits, uses a true minus and never shows minus nothing', () => {
    expect(formatLength(24600, { units: 'mm', precision: 0 })).toBe('24\u2009600');
    expect(formatNumber(-0.0001, 2)).toBe('0.00');
    expect(formatNumber(-1234.5, 1)).toBe('\u22121\u2009234.5');
    expect(formatLengthWithUnit(1500, { units: 'm', precision: 2 })).toBe('1.50\u2009m');
  });
  it('carries fractions into inches and feet', () => {
    expect(formatLength(304.8 - 0.1, { units: 'ft-in', precision: 16 })).toBe('1′-0″');
    expect(formatLength(42.5 * 25.4, { units: 'ft-in', precision: 16 })).toBe('3′-6 1/2″');
    expect(formatLength(-25.4, { units: 'ft-in', precision: 8 })).toBe('\u22120′-1″');
  });
});

describe('scales', () => {
  it.each([
    ['1:50', 50],
    ['1 : 1250', 1250],
    ['2:1', 0.5],
    ['1/4" = 1\'-0"', 48],
    ['1" = 20\'', 240],
    ['1 1/2" = 1\'-0"', 8],
    ['3/16" = 1\'', 64],
    ['100', 100],
    ['1 in = 8 ft', 96],
    ['¼″ = 1′-0″', 48],
  ])('reads %s', (text, want) => {
    expect(parseScale(text)).toEqual({ ok: true, factor: want });
  });
  it.each(['', 'none', '1:0', '0:5', 'a:b'])('refuses %j', (text) => expect(parseScale(text).ok).toBe(false));
  it('finds notes on sheets and leaves times and other ratios alone', () => {
    expect(scaleNote('Scale 1:100 @ A3')).toBe(100);
    expect(scaleNote('M 1:50')).toBe(50);
    expect(scaleNote('SCALE: 1/4" = 1\'-0"')).toBe(48);
    expect(scaleNote('Detail A (1:5)')).toBe(5);
    expect(scaleNote('printed 12:30')).toBeNull();
    expect(scaleNote('mix 3:2')).toBeNull();
    expect(scaleNote('room 101')).toBeNull();
  });
  it("says a factor in the trade's form, with a remark where it is unusual", () => {
    expect(describeScale(100.02, false)).toEqual({ text: '1:100', usual: true, remark: null });
    expect(describeScale(48, true).text).toBe('1/4″ = 1′-0″');
    const odd = describeScale(102.775, false);
    expect(odd.text).toBe('1:102.8');
    expect(odd.remark).toContain('97.3 % of 1:100');
  });
});

it('reads angles in degrees', () => {
  expect(parseAngle('90')).toBeCloseTo(Math.PI / 2, 12);
  expect(parseAngle('24.5°')).toBeCloseTo((24.5 * Math.PI) / 180, 12);
  expect(parseAngle('north')).toBeNull();
});

describe('arithmetic in typed lengths', () => {
  it.each([
    ['3*1200+50', 3650],
    ['3 * 1200 + 50', 3650],
    ['(5250-300)/2', 2475],
    ['2*(1 m + 150 mm)', 2300],
    ['5.25 m - 30 cm', 4950],
    ['11\'-4" + 6"', 142 * 25.4],
    ['3*2\'-6"', 90 * 25.4],
    ['1 m/3', 1000 / 3],
    ['-(200+50)', -250],
    ['-200+50', -150],
    ['100--50', 150],
    ['7×120', 840],
    ['1/2"+1/4"', 19.05],
    ['2*3*4', 24],
    ['1000/2/5', 100],
    ['1 1/2 in * 2', 76.2],
  ])('%s is %f mm', (text, expected) => {
    expect(mm(text)).toBeCloseTo(expected as number, 9);
  });
  it("bare numbers are in the project's unit only where they end up lengths", () => {
    expect(mm('3*2', 'm')).toBe(6000);
    expect(mm('3*2+50 cm', 'm')).toBe(6500);
    expect(mm('2*150 mm', 'm')).toBe(300);
    expect(mm('4+1/2', 'ft')).toBeCloseTo(4.5 * 304.8, 9);
  });
  it.each([
    '2 m * 3 m',
    '1 m / 2 m',
    '5/0',
    '3*',
    '(2+3',
    '2+3)',
    '2**3',
    '3 4 5 6',
    '1200 x',
    '()',
    '+',
    '((((((((((((((((((((((((1))))))))))))))))))))))))',
  ])('%s is none', (text) => {
    expect(mm(text)).toBe('unreadable');
  });
  it('is not read into what a sheet prints', () => {
    expect(readFigure('2\'-6" - 1\'-0"')).toBeNull();
    expect(parsePlainLength('3*1200', 'mm').ok).toBe(false);
  });
  it('gives what plain arithmetic gives', () => {
    const n = fc.integer({ min: 1, max: 5000 });
    fc.assert(
      fc.property(n, n, n, fc.constantFrom('+', '-', '*'), fc.constantFrom('+', '-'), (a, b, c, p, q) => {
        const [x, y] = p === '*' ? [a * b, 0] : [a, p === '+' ? b : -b];
        expect(mm(`${a}${p}${b}${q}${c}`)).toBeCloseTo(x + y + (q === '+' ? c : -c), 6);
      }),
    );
  });
});
describe('a length as it is', () => {
  it('is said with as many decimals as it takes, and in the own style where that says it', () => {
    const said = (mm: number, units: 'mm' | 'in' | 'ft-in', precision: number) =>
      formatLength(mm, exactStyle(mm, { units, precision }));
    expect([said(8, 'mm', 0), said(8.5, 'mm', 0), said(149.62, 'mm', 0), said(0.35, 'mm', 1)]).toEqual([
      '8',
      '8.5',
      '149.62',
      '0.35',
    ]);
    expect(said(1 / 3, 'mm', 0)).toBe('0.333');
    expect([said(19.05, 'in', 2), said(7.1374, 'in', 2)]).toEqual(['0.75', '0.281']);
    expect(said(304.8 + 12.7, 'ft-in', 1)).toBe('1′-0 1/2″');
    expect(said(7.1374, 'ft-in', 16)).toBe('0.281');
  });
});
