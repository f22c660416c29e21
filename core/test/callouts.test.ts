import { describe, expect, it } from 'vitest';
import { readCallout, readPrinted, threadNamed, type SheetUnit } from '@calque/core/part';

const DEGREE = Math.PI / 180;
const read = (text: string, unit: SheetUnit = 'mm') => {
  const c = readCallout(text, unit);
  return c && { ...c, text: undefined, thread: c.thread && { name: c.thread.name, depth: c.thread.depth } };
};

describe('notes at holes', () => {
  it('reads them as offices write them', () => {
    expect(read('4x Ø9 THRU ⌴ Ø15 ↧ 8')).toMatchObject({
      count: 4,
      diameter: 9,
      through: true,
      depth: null,
      head: { kind: 'counterbore', diameter: 15, depth: 8 },
    });
    expect(read('4 × ⌀9')).toMatchObject({ count: 4, diameter: 9, through: false, head: null });
    expect(read('Ø5 ↧10')).toMatchObject({ count: 1, diameter: 5, depth: 10 });
    expect(read('Ø 8,5 tief 22')).toMatchObject({ diameter: 8.5, depth: 22 });
    expect(read('2 PL Ø6.6 CSK Ø12.6 X 90°')).toMatchObject({
      count: 2,
      diameter: 6.6,
      head: { kind: 'countersink', diameter: 12.6, angle: 90 * DEGREE },
    });
    expect(read('Ø10 H7')).toMatchObject({ diameter: 10, fit: 'H7' });
    expect(read('Ø12 ±0.1 TYP')).toMatchObject({
      diameter: 12,
      typical: true,
      tolerance: { plus: 0.1, minus: 0.1 },
    });
    expect(read('Ø12 +0.2/-0.1')).toMatchObject({ tolerance: { plus: 0.2, minus: 0.1 } });
    expect(read('8 HOLES Ø4.5 THRU ALL')).toMatchObject({ count: 8, diameter: 4.5, through: true });
  });

  it('knows threads, and says which it does not know', () => {
    expect(read('M8')).toMatchObject({ diameter: 6.8, thread: { name: 'M8', depth: null } });
    expect(read('4x M8x1 - 6H ↧ 16')).toMatchObject({
      count: 4,
      diameter: 7,
      thread: { name: 'M8x1', depth: 16 },
    });
    expect(read('Ø6.8 ↧ 22 M8 ↧ 16')).toMatchObject({
      diameter: 6.8,
      depth: 22,
      thread: { name: 'M8', depth: 16 },
    });
    expect(read('M10 20 deep')).toMatchObject({ thread: { name: 'M10', depth: 20 } });
    const odd = readCallout('M9x0.6', 'mm')!;
    expect(odd.thread).toMatchObject({ name: 'M9x0.6', known: null });
  });

  it('reads inches by the unit of the sheet', () => {
    expect(read('4X Ø.257 THRU', 'in')!.diameter).toBeCloseTo(6.5278, 9);
    const tapped = read('2X 1/4-20 UNC-2B ↧ .75', 'in')!;
    expect(tapped).toMatchObject({ count: 2, thread: { name: '1/4-20 UNC' } });
    expect(tapped.thread!.depth).toBeCloseTo(19.05, 9);
    expect(tapped.diameter).toBeCloseTo(0.201 * 25.4, 9);
    expect(read('Ø17/64 CBORE Ø7/16 ↧ 1/4', 'in')!.head).toEqual({
      kind: 'counterbore',
      diameter: (7 / 16) * 25.4,
      depth: 6.35,
    });
    expect(read('.281 DIA CSK .531 X 82°', 'in')!.head).toMatchObject({
      kind: 'countersink',
      diameter: 0.531 * 25.4,
    });
  });

  it('takes nothing for a hole that is none', () => {
    for (const text of [
      '',
      '120',
      'R12',
      '9.500',
      'SCALE 1:2',
      'DETAIL A',
      '45°',
      '2 x 120',
      '4x',
      'Ø',
      'THRU',
      'Ø9 ⌴',
      'HOLE',
      'x'.repeat(500),
    ])
      expect(read(text), text).toBeNull();
  });

  it('finds threads however they are spelt', () => {
    for (const [words, name] of [
      ['M8', 'M8'],
      ['m8 x 1,25', 'M8'],
      ['M8×1', 'M8x1'],
      ['M12 x 1.5-6g', 'M12x1.5'],
      ['1/4-20', '1/4-20 UNC'],
      ['1/4"-28 UNF-2A', '1/4-28 UNF'],
      ['10-32', '#10-32 UNF'],
      ['#10-24 UNC', '#10-24 UNC'],
    ])
      expect(threadNamed(words)?.name, words).toBe(name);
    for (const words of ['M9', 'M8x3', '1/4-21', 'M', '', 'M-8', '1/4-20 UNF'])
      expect(threadNamed(words), words).toBeNull();
  });
});

describe('printed figures that can drive', () => {
  it('reads lengths, rounds and angles with their tolerances and counts', () => {
    const close = (text: string, unit: SheetUnit, value: number, more: object) => {
      const read = readPrinted(text, unit)!;
      expect(read.value, text).toBeCloseTo(value, 9);
      expect(read, text).toMatchObject(more);
    };
    close('150', 'mm', 150, { kind: 'length', tolerance: null, count: 1 });
    close('12,5', 'mm', 12.5, { kind: 'length' });
    close('150 ±0.2', 'mm', 150, { tolerance: { plus: 0.2, minus: 0.2 } });
    close('4.000±.005', 'in', 101.6, { kind: 'length' });
    expect(readPrinted('4.000±.005', 'in')!.tolerance!.plus).toBeCloseTo(0.127, 9);
    close('20 +0.1/-0.3', 'mm', 20, { tolerance: { plus: 0.1, minus: 0.3 } });
    close('R12', 'mm', 12, { kind: 'radius' });
    close('4x R12', 'mm', 12, { kind: 'radius', count: 4 });
    close('2 PL R6', 'mm', 6, { kind: 'radius', count: 2 });
    close('R12 2 PL', 'mm', 12, { kind: 'radius', count: 2 });
    close('Ø2.250', 'in', 57.15, { kind: 'diameter' });
    close('⌀32 TYP', 'mm', 32, { kind: 'diameter' });
    close('45°', 'mm', Math.PI / 4, { kind: 'angle' });
    close('9 1/2"', 'mm', 241.3, { kind: 'length' });
  });
  it('takes nothing else for a figure', () => {
    for (const text of ['', 'SECTION A', 'P-401', '±0.2', '4x', '0', 'R', '1:50'])
      expect(readPrinted(text, 'mm'), text).toBeNull();
  });
});
