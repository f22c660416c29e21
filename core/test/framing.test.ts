import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { writeNc } from '@calque/core/exchange';
import { frameDoubts, markingChanges, marksOf, placedMembers } from '@calque/core/framing';
import { apply, get, group, groundStorey, modelOf, type Member } from '@calque/core/model';
import { uprightPlane } from '@calque/core/planes';
import { member as given } from './given-members.ts';

const member = (
  id: string,
  from: [number, number],
  to: [number, number],
  more: Partial<Member> = {},
): Member => given({ id, planeId: 'side', from, to, turn: Math.PI / 2, ...more });
const model = (...members: Member[]) =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Bootshaus Ö', units: 'mm', precision: 0 },
    groundStorey('ground'),
    uprightPlane('side', { from: [0, 0], to: [12000, 0], height: 9000, name: 'A', role: 'elevation' })!,
    ...members,
  ]);
/** Two columns and a beam between their middles: a portal. */
const PORTAL = [
  member('c1', [0, 0], [0, 4000], { role: 'column', section: { form: 'table', name: 'HEA 200' } }),
  member('c2', [6000, 0], [6000, 4000], { role: 'column', section: { form: 'table', name: 'HEA 200' } }),
  member('b', [0, 4000], [6000, 4000], { back: [95, 95] }),
];

describe('marks', () => {
  it('are equal for equal pieces and run on by what they are for', () => {
    const marks = marksOf(
      model(
        ...PORTAL,
        member('b2', [0, 2000], [6000, 2000], { back: [95, 95] }),
        member('b3', [0, 1000], [5000, 1000]),
      ),
    );
    expect(Object.fromEntries(marks)).toEqual({ c1: 'C1', c2: 'C1', b: 'B1', b2: 'B1', b3: 'B2' });
  });
  it('do not depend on the order of drawing, nor on which way a piece was drawn', () => {
    const any = fc.array(
      fc.record({
        length: fc.constantFrom(2000, 2000.05, 3000, 4000),
        role: fc.constantFrom<Member['role'][]>('beam', 'column', 'brace'),
        name: fc.constantFrom('IPE 200', 'IPE 80', 'UPE 100'),
        back: fc.constantFrom<[number, number][]>([0, 0], [10, 0], [0, 10]),
        turned: fc.boolean(),
      }),
      { minLength: 1, maxLength: 20 },
    );
    fc.assert(
      fc.property(any, fc.integer(), (list, seed) => {
        const members = list.map(({ length, role, name, back, turned }, i) => {
          const [a, b]: [number, number][] = [
            [0, i * 300],
            [length, i * 300],
          ];
          return member(`m${i}`, turned ? b : a, turned ? a : b, {
            role,
            back,
            section: { form: 'table', name },
          });
        });
        const shuffled = [...members].sort(
          (a, b) =>
            ((a.id.length * 7919 + a.from[1] * seed) % 101) - ((b.id.length * 7919 + b.from[1] * seed) % 101),
        );
        expect([...marksOf(model(...shuffled))].sort()).toEqual([...marksOf(model(...members))].sort());
        const marks = marksOf(model(...members));
        expect(marks.size).toBe(members.length);
        for (const p of members)
          for (const q of members)
            if (marks.get(p.id) === marks.get(q.id)) expect([p.role, p.section]).toEqual([q.role, q.section]);
      }),
      { numRuns: 80 },
    );
  });
  it('that are there stay where no other piece has them, and a second time nothing changes', () => {
    const first = model(
        ...PORTAL.map((m) => (m.id === 'b' ? { ...m, mark: 'RIDGE' } : m)),
        member('x', [0, 1000], [3000, 1000], { mark: 'RIDGE' }),
      ),
      done = apply(first, group(markingChanges(first))!);
    if (!done.ok) throw new Error('it does not apply');
    // The longer of the two has it, the other a new one.
    expect(get(done.model, 'member', 'b')?.mark).toBe('RIDGE');
    expect(get(done.model, 'member', 'x')?.mark).toBe('B1');
    expect(get(done.model, 'member', 'c1')?.mark).toBe('C1');
    expect(markingChanges(done.model)).toEqual([]);
  });
});

describe('what is to be looked at in a frame', () => {
  it('a portal whose beam ends at the faces of its columns meets them, and stands on the floor', () => {
    const { doubled, nearly, free, unknown } = frameDoubts(model(...PORTAL));
    expect([doubled, nearly, unknown, free]).toEqual([[], [], [], []]);
    // A foot above the floor stands on nothing, and so does what lies alone.
    expect(frameDoubts(model(...PORTAL, member('lone', [0, 8000], [900, 8000]))).free).toEqual([
      { id: 'lone', end: 'start' },
      { id: 'lone', end: 'end' },
    ]);
    const hanging = { ...PORTAL[0], from: [0, 300] as [number, number] };
    expect(frameDoubts(model(hanging, ...PORTAL.slice(1))).free).toEqual([{ id: 'c1', end: 'start' }]);
  });
  it('an end that stops short is told with what is missing, two in one place as doubled', () => {
    const short = { ...PORTAL[2], back: [95, 120] as [number, number] },
      again = { ...PORTAL[0], id: 'twice', from: PORTAL[0].to, to: PORTAL[0].from };
    const doubts = frameDoubts(model(PORTAL[0], PORTAL[1], short, again));
    expect(doubts.doubled).toEqual([['c1', 'twice']]);
    expect(doubts.nearly).toMatchObject([{ id: 'b', end: 'end', other: 'c2' }]);
    expect(doubts.nearly[0].gap).toBeCloseTo(25, 6);
    expect(
      frameDoubts(model(member('u', [0, 0], [1000, 0], { section: { form: 'table', name: 'none' } })))
        .unknown,
    ).toEqual(['u']);
    expect(frameDoubts(model())).toEqual({
      doubled: [],
      nearly: [],
      free: [],
      unknown: [],
      clashes: [],
      joints: [],
    });
  });
  it('stands in the model where its plane puts it', () => {
    const [, , beam] = placedMembers(model(...PORTAL));
    expect(beam.from.map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([95, 0, 4000]);
    expect(beam.up.map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0, 0, 1]);
  });
});

describe('files for the saw', () => {
  it('have a header by its lines, contours of web and flanges, one for each mark with how many there are', () => {
    const files = writeNc(
      model(
        ...PORTAL.map((m) => ({ ...m, mark: m.role === 'column' ? 'C1' : 'B 1/ä' })),
        member('t', [0, 0], [1000, 0], {
          section: { form: 'sizes', shape: 'rectangle', h: 200, b: 60, tw: 0, tf: 0, r: 0 },
        }),
      ),
    );
    expect(files.map((f) => f.name)).toEqual(
      ['C1.nc1', 'B_1_a_.nc1'].map((n, i) => (i === 0 ? n : files[1].name)),
    );
    expect(files[1].name).toMatch(/^[A-Za-z0-9_.-]+\.nc1$/);
    const lines = files[0].text.split('\r\n');
    expect(lines[0]).toBe('ST');
    expect(lines.slice(1, 9).map((l) => l.trim())).toEqual([
      'Bootshaus O',
      'C1',
      '1',
      'C1',
      'S355',
      '2',
      'HEA200',
      'I',
    ]);
    // Length, height, flange width and thickness, web, radius, kg/m, m2/m.
    expect(lines.slice(9, 17).map(Number)).toEqual([
      4000,
      190,
      200,
      10,
      6.5,
      18,
      expect.closeTo(42.3, 0),
      expect.closeTo(1.136, 1),
    ]);
    expect(lines.slice(17, 21).map(Number)).toEqual([0, 0, 0, 0]);
    expect(lines.filter((l) => l === 'AK')).toHaveLength(3);
    expect(lines.at(-2)).toBe('EN');
    expect(files.every((f) => /^[\x0a\x0d\x20-\x7e]*$/.test(f.text))).toBe(true);
  });
  it('of one name for two are told apart; of timber there are none', () => {
    const files = writeNc(
      model(
        member('a', [0, 0], [1000, 0], { mark: 'A/1' }),
        member('b', [0, 500], [1000, 500], { mark: 'A 1' }),
      ),
    );
    expect(new Set(files.map((f) => f.name)).size).toBe(2);
    expect(
      writeNc(model(member('t', [0, 0], [1000, 0], { section: { form: 'table', name: 'Timber 45x220' } }))),
    ).toEqual([]);
  });
});
