import fc from 'fast-check';
import { eq } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import { attachFile, oneChunk, passwordOf, schema, storeBlob } from '@calque/store';
import { NoSecret, seal, sealOldPasswords, unseal } from '../src/secrets.ts';
import { newProject, testDatabase } from './given.ts';

const database = testDatabase();
const usual = process.env.CALQUE_SECRET;
afterEach(() => {
  process.env.CALQUE_SECRET = usual;
});

describe('a password that is kept', () => {
  it('comes back for its own file alone, and never twice in the same form', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', maxLength: 60 }),
        fc.uuid(),
        fc.uuid(),
        (password, file, other) => {
          const kept = seal(file, password);
          expect(unseal(file, kept)).toBe(password);
          expect(kept).not.toBe(seal(file, password));
          if (password.length > 3)
            expect(Buffer.from(kept.split(':')[2], 'base64').toString()).not.toContain(password);
          if (other !== file) expect(unseal(other, kept)).toBeNull();
        },
      ),
    );
  });

  it('is not given where a byte is changed, by another key, or where it is no sealed one', () => {
    const kept = seal('f', 'opensesame'),
      bytes = Buffer.from(kept.split(':')[2], 'base64');
    for (let i = 0; i < bytes.length; i++) {
      const changed = Buffer.from(bytes);
      changed[i] ^= 1;
      expect(unseal('f', `sealed:1:${changed.toString('base64')}`)).toBeNull();
    }
    expect([unseal('f', 'opensesame'), unseal('f', null), unseal('f', 'sealed:1:')]).toEqual([
      null,
      null,
      null,
    ]);
    process.env.CALQUE_SECRET = 'another secret that is long enough for one';
    expect(unseal('f', kept)).toBeNull();
    process.env.CALQUE_SECRET = 'short';
    expect(() => seal('f', 'x')).toThrow(NoSecret);
  });

  it('stands nowhere in clear, also where an earlier version kept it so, and is told for its own project alone', async () => {
    const [project, other] = [await newProject(database), await newProject(database)];
    const id = await attachFile(
      database,
      project,
      (await storeBlob(database, oneChunk(new Uint8Array([1])))).id,
      'plan.pdf',
    );
    await database.update(schema.files).set({ password: 'opensesame' }).where(eq(schema.files.id, id));
    await sealOldPasswords(database);
    await sealOldPasswords(database);
    const [{ password }] = await database
      .select({ password: schema.files.password })
      .from(schema.files)
      .where(eq(schema.files.id, id));
    expect(password).toMatch(/^sealed:1:/);
    expect([await passwordOf(database, project, id), await passwordOf(database, other, id)]).toEqual([
      'opensesame',
      null,
    ]);
  });
});
