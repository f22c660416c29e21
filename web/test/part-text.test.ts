import { describe, expect, it } from 'vitest';
import { modelOf } from '@calque/core/model';
import { readPrinted } from '@calque/core/part';
import { readByDrawn } from '@/part/text-tool';
import type { Table } from '@/table/table';

/** As much of a table as is asked: a project in a unit. */
const tableIn = (units: 'mm' | 'ft-in') =>
  ({
    session: {
      state: { model: modelOf([{ type: 'settings', id: 'settings', name: 'A', units, precision: 0 }]) },
    },
  }) as unknown as Table;
const read = (units: 'mm' | 'ft-in', drawn: number, text: string) =>
  readByDrawn(
    tableIn(units),
    drawn,
    (unit) => readPrinted(text, unit),
    (found) => found.value,
  )?.value;

describe('a printed figure without a unit', () => {
  it('is read in the unit that fits what is drawn', () => {
    expect(read('ft-in', 79.6, '80')).toBe(80);
    expect(read('ft-in', 240, '9.500')).toBeCloseTo(241.3, 9);
    expect(read('mm', 240, '9.500')).toBeCloseTo(241.3, 9);
    expect(read('mm', 79.6, '80')).toBe(80);
  });
  it("is read in the project's own where neither fits", () => {
    expect(read('mm', 500, '80')).toBe(80);
    expect(read('ft-in', 500, '80')).toBeCloseTo(2032, 9);
    expect(read('mm', 80, 'SECTION A')).toBeUndefined();
  });
});
