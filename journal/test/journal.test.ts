import { describe, expect, it } from 'vitest';
import { journal, loggable } from '../src/index.ts';

describe('an error as it is written down', () => {
  const SECRET = 'opensesame';

  it('of a failed query there is the code and the query, but no value, wherever it stands', () => {
    const inner = Object.assign(new Error(`invalid input syntax for type uuid: "${SECRET}"`), {
      code: '22P02',
      detail: `Key (password)=(${SECRET})`,
      table: 'files',
      where: `parameter $1 = '${SECRET}'`,
    });
    const outer = Object.assign(
      new Error(`Failed query: update files set password = $1\nparams: ${SECRET}`, { cause: inner }),
      { query: 'update files set password = $1', params: [SECRET] },
    );
    const said = loggable(outer);
    expect(JSON.stringify(said)).not.toContain(SECRET);
    expect(said).toMatchObject({ code: '22P02', table: 'files', query: 'update files set password = $1' });
    expect((said.where as string[]).length).toBeGreaterThan(0);
  });

  it('any other keeps its words, bounded; what is no error is told as text', () => {
    expect(loggable(new TypeError('x'.repeat(5000)))).toMatchObject({
      name: 'TypeError',
      words: 'x'.repeat(600),
    });
    expect(loggable('away')).toEqual({ words: 'away' });
    expect(loggable(null)).toEqual({ words: '' });
  });
});

it('each line is JSON with its part, level and time; passwords are kept back', () => {
  const lines: string[] = [];
  const said = journal('reader', { write: (line) => void lines.push(line) });
  said.info({ file: 'f', password: 'opensesame', inner: { password: 'opensesame' } }, 'read');
  said.debug('not said');
  said.error({ err: new Error('broken') }, 'failed');
  const [first, second] = lines.map((l) => JSON.parse(l) as Record<string, unknown>);
  expect(lines).toHaveLength(2);
  expect(first).toMatchObject({
    level: 'info',
    part: 'reader',
    file: 'f',
    msg: 'read',
    password: 'kept back',
  });
  expect(new Date(first.time as string).getTime()).toBeGreaterThan(Date.now() - 60000);
  expect(lines.join('')).not.toContain('opensesame');
  expect(second).toMatchObject({ level: 'error', err: { name: 'Error', words: 'broken' } });
});
