import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { ensureDebian } from '../src/debian.ts';

/** A machine whose apt-get and sudo do what a test says. */
const bin = mkdtempSync(join(tmpdir(), 'calque-apt-'));
const log = join(bin, 'log'),
  usual = process.env.PATH;
const program = (name: string, text: string) =>
  writeFileSync(join(bin, name), `#!/bin/bash\n${text}\n`, { mode: 0o755 });
const calls = () =>
  readFileSync(log, 'utf8')
    .trim()
    .split('\n')
    .map((l) => /(?:^| )(update|install.*)$/.exec(l)?.[1])
    .filter(Boolean);
const said: string[] = [];
vi.spyOn(console, 'log').mockImplementation((text: string) => void said.push(text));
const asRoot = vi.hoisted(() => ({ value: true }));
vi.mock('../src/identity.ts', () => ({ isRoot: () => asRoot.value }));

beforeEach(() => {
  process.env.PATH = `${bin}:${usual}`;
  writeFileSync(log, '');
  said.length = 0;
  asRoot.value = true;
  rmSync(join(bin, 'installed'), { force: true });
  program('sudo', 'shift; exec "$@"');
});
afterAll(() => {
  process.env.PATH = usual;
  vi.restoreAllMocks();
  rmSync(bin, { recursive: true, force: true });
});
const missing = { boats: () => existsSync(join(bin, 'installed')) };
const APT = `[ "$1" = --version ] && exit 0\necho "$@" >> ${JSON.stringify(log)}`;
const DOES = `case "$*" in *install*) touch ${JSON.stringify(join(bin, 'installed'))};; esac`;

describe('installing what is missing', () => {
  it('fetches the list first, and does nothing where nothing is missing', async () => {
    program('apt-get', `${APT}\n${DOES}`);
    await ensureDebian(missing);
    expect(calls()).toEqual(['update', 'install -y --no-install-recommends boats']);
    writeFileSync(log, '');
    await ensureDebian(missing);
    expect(calls()).toEqual([]);
  });

  it('waits while another installs', async () => {
    program(
      'apt-get',
      `${APT}\nif [ ! -e ${JSON.stringify(join(bin, 'waited'))} ]; then touch ${JSON.stringify(join(bin, 'waited'))}; echo 'E: Could not get lock /var/lib/apt/lists/lock. It is held by process 1 (apt-get)' >&2; exit 100; fi\n${DOES}`,
    );
    await ensureDebian(missing);
    expect([calls(), said.some((s) => s.includes('waiting for it'))]).toEqual([
      ['update', 'update', 'install -y --no-install-recommends boats'],
      true,
    ]);
  });

  it("goes on with the list that is there when the mirror is away; where that does not do, both are told in apt-get's words", async () => {
    program(
      'apt-get',
      `${APT}\ncase "$*" in *update*) echo 'E: Failed to fetch http://mirror.example/x' >&2; exit 100;; esac\n${DOES}`,
    );
    await ensureDebian(missing);
    rmSync(join(bin, 'installed'));
    program(
      'apt-get',
      `${APT}\necho 'Reading package lists...'\ncase "$*" in *update*) echo 'E: Failed to fetch http://mirror.example/x' >&2;; *) echo 'E: Unable to locate package boats' >&2;; esac\nexit 100`,
    );
    const failure = await ensureDebian(missing).catch((error: Error) => error.message);
    expect(failure).toMatch(
      /^Debian's packages boats could not be installed\. What apt-get said:\n {2}E: Unable to locate package boats\nBefore that, .*\n {2}E: Failed to fetch/,
    );
    expect(failure).not.toContain('Reading package lists');
    program('apt-get', `${APT}\nexit 0`);
    await expect(ensureDebian(missing)).rejects.toThrow('boats was installed, but is not found');
  });

  it('who may not install is told what to do, in words that fit the machine', async () => {
    asRoot.value = false;
    program('sudo', 'exit 1');
    await expect(ensureDebian(missing)).rejects.toThrow(
      'Missing from this machine: boats. Run: sudo apt-get update && sudo apt-get install boats',
    );
    rmSync(join(bin, 'sudo'));
    process.env.PATH = bin;
    await expect(ensureDebian(missing)).rejects.toThrow(
      'As root, run: apt-get update && apt-get install boats',
    );
    asRoot.value = true;
    rmSync(join(bin, 'apt-get'));
    await expect(ensureDebian(missing)).rejects.toThrow('there is no apt-get to install it with');
  });
});
