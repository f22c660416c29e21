import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  groundStorey,
  modelOf,
  parseChange,
  parseEntity,
  prepare,
  soundChange,
  soundEntity,
  type Change,
  type Entity,
  type TraceLayer,
  type Wall,
} from '@calque/core/model';
import { isSoundText, shortened, soundName, soundNote, soundValue } from '@calque/core/texts';
import { ENTITY_SCHEMAS } from '../src/model/schema/entity-schemas.ts';
import { anyEntity, wall } from './any-entity.ts';

/** Texts as files and people bring them: halves of pairs, zeros, spaces around, far too long. */
const nasty = fc.oneof(
  fc
    .array(fc.integer({ min: 0, max: 0xffff }), { maxLength: 260 })
    .map((codes) => String.fromCharCode(...codes)),
  fc.constantFrom(
    '',
    '   ',
    'Walls ',
    ' Plan .pdf',
    '\ud800',
    'a\udc00b',
    '\0',
    'x'.repeat(196),
    `${'y'.repeat(198)}😀`,
    'z'.repeat(5000),
    '\u2028',
    '__proto__',
  ),
);

describe('texts', () => {
  it('a name is never empty, on one line, trimmed, short, and every character of it can be kept', () => {
    fc.assert(
      fc.property(nasty, fc.integer({ min: 8, max: 220 }), (text, most) => {
        const name = soundName(text, most);
        expect(name).toBe(name.trim());
        expect(name.length).toBeGreaterThan(0);
        expect(name.length).toBeLessThanOrEqual(most);
        expect(isSoundText(name) && !/[\n\r\t]/.test(name)).toBe(true);
        expect(Buffer.from(name, 'utf8').toString('utf8')).toBe(name);
        expect(soundName(name, most)).toBe(name);
        expect(soundNote(soundNote(text, most), most)).toBe(soundNote(text, most));
      }),
    );
  });

  it('shortening shows that it did, and never cuts a pair in two', () => {
    expect(shortened('Boathouse', 9)).toBe('Boathouse');
    expect(shortened('Boathouse plan', 10)).toBe('Boathouse…');
    expect(shortened(`${'y'.repeat(8)}😀😀`, 10)).toBe(`${'y'.repeat(8)}…`);
  });

  it('values within values are made sound, keys too; what was sound is the same object', () => {
    const good = { a: [{ b: 'Plan' }], n: 3, none: null };
    expect(soundValue(good)).toBe(good);
    expect(soundValue({ 'k\ud800': ['\0', { deep: '\udfff' }] })).toEqual({
      'k\ufffd': ['\ufffd', { deep: '\ufffd' }],
    });
  });
});

const ground = groundStorey('ground');
const settings: Entity = { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 };
const model = modelOf([settings, ground, wall('w')]);

/** Puts texts in the place of all texts of an entity but those that are chosen from a list. */
function withTexts(e: unknown, text: () => string, key = ''): unknown {
  const fixed = [
    'type',
    'id',
    'planeId',
    'storeyId',
    'fileId',
    'underlayId',
    'layerId',
    'part',
    'assemblyId',
    'units',
    'ends',
    'end',
    'to',
    'of',
    'grade',
    'weldedTo',
    'way',
    'partId',
    'does',
    'curves',
    'centres',
    'axis',
    'between',
    'open',
    'grip',
    'face',
    'thickness',
    'alignment',
    'measures',
    'kind',
    'scaleState',
    'model',
    'wanted',
    'use',
    'origin',
    'lineType',
    'role',
    'mark',
    'form',
    'side',
    'at',
    'hung',
    'opens',
    'purpose',
    'firstLayer',
    'runsThrough',
    'shape',
    'wallType',
    'shelfId',
    'paper',
    'assumed',
    'kinds',
  ];
  if (typeof e === 'string') return fixed.includes(key) ? e : text();
  if (Array.isArray(e)) return e.map((v) => withTexts(v, text, key));
  if (typeof e !== 'object' || e === null) return e;
  return Object.fromEntries(Object.entries(e).map(([k, v]) => [k, withTexts(v, text, k)]));
}

describe('entities at the door', () => {
  it('whatever texts an entity of any type brings, once made sound the schema takes it and the database can hold it', () => {
    fc.assert(
      fc.property(anyEntity, fc.array(nasty, { minLength: 1, maxLength: 6 }), (entity, texts) => {
        let n = 0;
        const brought = withTexts(entity, () => texts[n++ % texts.length] || 'x') as Entity;
        const sound = soundEntity(brought);
        expect(parseEntity(sound)).toBe(sound);
        expect(isSoundText(JSON.stringify(sound).replaceAll('\\\\', ''))).toBe(true);
        expect(JSON.stringify(sound)).not.toMatch(/\\u(0000|d[89a-f])/i);
        expect(soundEntity(sound)).toBe(sound);
      }),
      { numRuns: 400 },
    );
  });

  it('a change is mended where it adds and where it sets, also of what the same step added', () => {
    const layer: TraceLayer = {
      type: 'layer',
      id: 'l',
      name: 'Walls ',
      colour: 0,
      lineType: 'solid',
      weight: 0.25,
      visible: true,
      locked: false,
      fade: 0,
    };
    const change = soundChange(model, {
      type: 'group',
      changes: [
        { type: 'add', entity: layer },
        { type: 'set', id: 'l', before: { name: 'Walls' }, after: { name: ' Outer walls\0' } },
        { type: 'set', id: 'ground', before: { name: ground.name }, after: { name: '\ud83d' } },
      ],
    });
    expect(change).toMatchObject({
      changes: [
        { entity: { name: 'Walls' } },
        { after: { name: 'Outer walls\ufffd' } },
        { after: { name: '\ufffd' } },
      ],
    });
    const fine: Change = { type: 'add', entity: wall('v') };
    expect(soundChange(model, fine)).toBe(fine);
  });

  it('every number of every type is finite and bounded', () => {
    fc.assert(
      fc.property(
        anyEntity,
        fc.nat(),
        fc.constantFrom(Infinity, -Infinity, NaN, 1e308, -1e300),
        (entity, which, bad) => {
          const places: (() => void)[] = [];
          const copy = structuredClone(entity) as unknown;
          const visit = (v: unknown): void => {
            if (typeof v !== 'object' || v === null) return;
            for (const [key, value] of Object.entries(v)) {
              if (typeof value === 'number')
                places.push(() => {
                  (v as Record<string, unknown>)[key] = bad;
                });
              else visit(value);
            }
          };
          visit(copy);
          fc.pre(places.length > 0);
          places[which % places.length]();
          expect(() => parseEntity(copy)).toThrow();
        },
      ),
      { numRuns: 600 },
    );
  });

  it('the fast check and yup agree on sound entities and on broken ones, and the fast one answers', async () => {
    const { ENTITY_SCHEMAS } = await import('../src/model/schema/entity-schemas.ts');
    const { quickCheck } = await import('../src/model/quick-check.ts');
    const quick = new Map(Object.entries(ENTITY_SCHEMAS).map(([type, schema]) => [type, quickCheck(schema)]));
    let answered = 0;
    fc.assert(
      fc.property(anyEntity, fc.nat(), fc.anything(), (entity, which, odd) => {
        expect(quick.get(entity.type)!(entity)).toBe(true);
        const keys = Object.keys(entity),
          broken = { ...entity, [which % 7 === 0 ? 'more' : keys[which % keys.length]]: odd };
        const schema = ENTITY_SCHEMAS[entity.type];
        const slow = (() => {
          try {
            schema.validateSync(broken, { strict: true });
            return true;
          } catch (error) {
            // In words, whatever was brought: never a fault of the check itself.
            expect((error as Error).name).toBe('ValidationError');
            return false;
          }
        })();
        if (quick.get(entity.type)!(broken)) expect(slow).toBe(true);
        answered++;
      }),
      { numRuns: 3000 },
    );
    expect(answered).toBeGreaterThan(500);
  });
});

describe('references', () => {
  const refused = (change: Change) => {
    const prepared = prepare(model, change);
    return prepared.ok ? null : 'invalid' in prepared ? prepared.invalid : prepared.refusal.code;
  };

  it('what would stand on nothing is refused: a storey, a layer, a group, a sheet', () => {
    expect(refused({ type: 'add', entity: { ...wall('a'), planeId: 'attic' } })).toMatch(/storey/);
    expect(refused({ type: 'add', entity: { ...wall('a'), layerId: 'none' } })).toMatch(/layer/);
    expect(refused({ type: 'set', id: 'w', before: { planeId: 'ground' }, after: { planeId: 'w' } })).toMatch(
      /storey/,
    );
    const {
      thickness: _,
      alignment: __,
      height: ___,
      heightAssumed: ____,
      from: _____,
      to: ______,
      ...drawn
    } = wall('p');
    expect(
      refused({
        type: 'add',
        entity: { ...drawn, type: 'placed', assemblyId: 'none', placement: [1, 0, 0, 1, 0, 0] },
      }),
    ).toMatch(/group/);
    expect(
      refused({
        type: 'add',
        entity: {
          type: 'check',
          id: 'c',
          underlayId: 'none',
          from: [0, 0],
          to: [1, 0],
          printed: 100,
          typed: '100',
        },
      }),
    ).toMatch(/sheet/);
  });

  it('a project keeps its settings and a storey, and nothing goes from under what stands on it', () => {
    expect(refused({ type: 'remove', entity: settings })).toMatch(/settings/);
    expect(refused({ type: 'remove', entity: ground })).toMatch(/one storey/);
    const attic = groundStorey('attic');
    const two = modelOf([settings, ground, attic, wall('w')]);
    expect(prepare(two, { type: 'remove', entity: ground })).toMatchObject({
      ok: false,
      invalid: expect.stringContaining('still needs the storey'),
    });
    expect(prepare(two, { type: 'remove', entity: attic }).ok).toBe(true);
    expect(
      prepare(two, {
        type: 'group',
        changes: [
          { type: 'remove', entity: wall('w') },
          { type: 'remove', entity: ground },
        ],
      }).ok,
    ).toBe(true);
    expect(() => parseEntity({ ...settings, id: 'other' })).toThrow(/settings/);
    expect(() => parseEntity({ ...wall('settings') })).toThrow(/settings/);
  });

  it('what was broken before can still be changed otherwise, and removed', () => {
    const stray: Wall = { ...wall('s'), planeId: 'gone' };
    const old = modelOf([settings, ground, stray]);
    expect(
      prepare(old, { type: 'set', id: 's', before: { thickness: 100 }, after: { thickness: 120 } }).ok,
    ).toBe(true);
    expect(prepare(old, { type: 'remove', entity: stray }).ok).toBe(true);
    expect(parseChange({ type: 'remove', entity: { ...stray, thickness: -1 } })).toMatchObject({
      type: 'remove',
    });
  });
});

describe('an entity that lacks what every one of its type has', () => {
  it('is refused, whichever field it is: nothing is filled in by itself', () => {
    fc.assert(
      fc.property(anyEntity, fc.nat(), (e, n) => {
        const { fields } = ENTITY_SCHEMAS[e.type] as unknown as {
          fields: Record<string, { spec: { optional: boolean } }>;
        };
        const needed = Object.keys(fields).filter((name) => !fields[name].spec.optional),
          { [needed[n % needed.length]]: _, ...without } = e as unknown as Record<string, unknown>;
        expect(() => parseEntity(without)).toThrow();
      }),
    );
    const { source: _, ...bare } = wall('a');
    expect(() => parseEntity(bare)).toThrow(/source/);
  });
});
