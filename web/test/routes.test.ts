import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { expect, it } from 'vitest';

const METHODS = 'GET|HEAD|POST|PUT|DELETE|PATCH|OPTIONS';
const sources = readdirSync('web/src', { recursive: true, encoding: 'utf8' })
  .filter((f) => /\.tsx?$/.test(f))
  .map((f) => `web/src/${f}`);
const routes = sources.filter((f) => f.endsWith('/route.ts') && f.startsWith('web/src/app/'));

it('every route is made by the one wrapper, and finds nothing but through what the wrapper gives it', () => {
  expect(routes.length).toBeGreaterThan(12);
  for (const path of routes) {
    // As one line each, however they are laid out.
    const text = readFileSync(path, 'utf8').replace(/\(\s+/g, '(').replace(/,\s+/g, ', ');
    const handlers = [
      ...text.matchAll(new RegExp(`export (?:const|async function|function) (?:${METHODS})\\b[^\\n]*`, 'g')),
    ].map(([line]) => line);
    expect(handlers.length, path).toBeGreaterThan(0);
    for (const line of handlers)
      expect(line, path).toMatch(/ = (installationRoute|projectRoute|fileRoute)\('(look|change|oversee)', /);
    // What an address names stands in `project` and `file`, found by the wrapper.
    expect(text, path).not.toMatch(
      /server\/database|findProject\(|findFile\(|fileToRead|params\.(id|file)\b/,
    );
    if (path.includes('[id]')) expect(text, path).not.toContain('installationRoute');
    if (path.includes('[file]')) expect(text, path).not.toContain('projectRoute');
  }
});

it('nothing is served beside routes and pages', () => {
  for (const name of ['middleware', 'proxy', 'instrumentation'])
    for (const folder of ['web', 'web/src'])
      for (const end of ['ts', 'js']) expect(existsSync(`${folder}/${name}.${end}`)).toBe(false);
  for (const path of sources) expect(readFileSync(path, 'utf8'), path).not.toMatch(/^['"]use server['"]/m);
});
