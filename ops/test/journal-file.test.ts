import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { afterAll, expect, it } from 'vitest';
import { JournalFile } from '../src/journal-file.ts';

const folder = mkdtempSync(join(tmpdir(), 'calque-journal-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('keeps lines whole however they arrive, words as JSON too, and begins anew when it is large', async () => {
  const journal = new JournalFile(folder),
    lines = journal.lines('web');
  lines(Buffer.from('{"level":"info","msg":"first"}\n{"level":"in'));
  lines(Buffer.from('fo","msg":"second"}\nplain "words"\n\n'));
  journal.say('error', 'the supervisor');
  await journal.close();
  const said = readFileSync(join(folder, 'calque.log'), 'utf8')
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Record<string, unknown>);
  expect(said.map((s) => s.msg)).toEqual(['first', 'second', 'plain "words"', 'the supervisor']);
  expect(said[2]).toMatchObject({ level: 'warn', part: 'web' });
  expect(statSync(join(folder, 'calque.log')).mode & 0o007).toBe(0);

  const large = new JournalFile(folder),
    more = large.lines('web'),
    line = `${JSON.stringify({ msg: 'x'.repeat(1000) })}\n`;
  for (let i = 0; i < 110; i++) {
    more(Buffer.from(line.repeat(100)));
    await new Promise((resolve) => setImmediate(resolve));
  }
  await large.close();
  await expect
    .poll(() => readdirSync(folder).filter((f) => f.endsWith('.log.gz')).length, { timeout: 10000 })
    .toBeGreaterThan(0);
  expect(statSync(join(folder, 'calque.log')).size).toBeLessThan(10.2 * 2 ** 20);
  const [older] = readdirSync(folder).filter((f) => f.endsWith('.log.gz'));
  await expect
    .poll(
      () => {
        try {
          return gunzipSync(readFileSync(join(folder, older)))
            .toString()
            .split('\n').length;
        } catch {
          return 0;
        }
      },
      { timeout: 10000 },
    )
    .toBeGreaterThan(9000);
});
