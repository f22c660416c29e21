import { describe, expect, it } from 'vitest';
import { applyOrThrow, groundStorey, knownSection, modelOf, type Member } from '@calque/core/model';
import { isMemberThere, memberTaken, sectionWritten } from '@/stages/trace/seen/member-offer';

describe('members as they are offered', () => {
  it('have the section that is written beside them, however it is spelt, where a table or its sizes know it', () => {
    for (const name of ['IPE 200', 'IPE200', '2x IPE 200'])
      expect(sectionWritten(name)).toEqual({ form: 'table', name: 'IPE 200' });
    const timber = sectionWritten('60x200')!;
    expect(timber.form).toBe('sizes');
    const { b, h } = knownSection(timber)!;
    expect([b, h].sort((p, q) => p - q)).toEqual([60, 200]);
    for (const mark of ['B12', 'IPE 9999', '', 'door', 'C'.repeat(500)])
      expect(sectionWritten(mark)).toBeNull();
  });

  it('lie by their axes on the plane, named by their marks, and are there once they are taken, whichever way they run', () => {
    const model = modelOf([groundStorey('ground')]),
      own = memberTaken(
        model,
        'ground',
        { from: [10, 20], to: [110, 20], mark: 'B12', confidence: 0.75 },
        [2, 0, 0, 2, 5, 5],
      );
    expect(own).toMatchObject({ from: [25, 45], to: [225, 45], mark: 'B12', point: 5 });
    expect(isMemberThere(model, 'ground', own)).toBe(false);
    const member: Member = {
        ...own,
        id: 'm',
        planeId: 'ground',
        source: { underlayId: null, ends: 'snapped', thickness: 'measured' },
      },
      now = applyOrThrow(model, { type: 'add', entity: member });
    expect(isMemberThere(now, 'ground', own)).toBe(true);
    expect(isMemberThere(now, 'ground', { from: own.to, to: own.from })).toBe(true);
    expect(isMemberThere(now, 'elsewhere', own)).toBe(false);
    expect(isMemberThere(now, 'ground', { from: own.from, to: [225, 245] })).toBe(false);
  });
});
