import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { limitedChild } from '../src/index.ts';
import { callFilter } from '../src/system-calls.ts';
import { wallsHere } from '../src/walls.ts';

const base = mkdtempSync(join(tmpdir(), 'calque-walls-'));
afterAll(() => rmSync(base, { recursive: true, force: true }));
mkdirSync(join(base, 'program'));
mkdirSync(join(base, 'own'));
writeFileSync(join(base, 'secret'), 'the secret');
writeFileSync(join(base, 'shown'), 'to be read');
const LIMITS = { heapMegabytes: 128, megabytes: 800, seconds: 20 };

/** What a child within walls finds when it tries. */
function tried<T>(body: string): Promise<T> {
  const program = join(base, 'program', `${Math.random().toString(36).slice(2)}.mjs`);
  writeFileSync(
    program,
    `import * as fs from 'node:fs'; import net from 'node:net'; import { spawnSync } from 'node:child_process'; 
    const attempt = (act) => { try { return act(); } catch (error) { return 'refused: ' + (error.code ?? error.message); } };
    const said = await (async () => { ${body} })();
    process.send(said, undefined, undefined, () => process.exit(0));`,
  );
  const child = limitedChild(program, LIMITS, {
    walls: { readable: [join(base, 'shown')], writable: [join(base, 'own')] },
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  return new Promise((resolve, reject) => {
    child.process.once('message', (message) => resolve(message as T));
    child.process.once('exit', (code) => reject(new Error(`It ended with ${code} and said nothing.`)));
  });
}

describe.skipIf(wallsHere() !== 'walls')('a child within walls', () => {
  it('reads its own and what it is shown, and nothing else of this machine', async () => {
    const said = await tried<unknown>(`return [
      attempt(() => fs.readFileSync(${JSON.stringify(join(base, 'shown'))}, 'utf8')), attempt(() => fs.readFileSync(${JSON.stringify(join(base, 'secret'))}, 'utf8')),
      attempt(() => fs.readFileSync('/etc/passwd', 'utf8')), attempt(() => fs.readFileSync('/etc/shadow', 'utf8')), attempt(() => fs.readdirSync('/root')), attempt(() => fs.readdirSync('/home')), attempt(() => fs.readdirSync('/var')),
      attempt(() => fs.writeFileSync(${JSON.stringify(join(base, 'shown'))}, 'x')), attempt(() => fs.writeFileSync('/usr/bin/x', 'x')), attempt(() => fs.writeFileSync(${JSON.stringify(join(base, 'program', 'x'))}, 'x')),
      attempt(() => { fs.writeFileSync(${JSON.stringify(join(base, 'own', 'result'))}, 'done'); return 'written'; })];`);
    expect(said).toEqual([
      'to be read',
      ...Array(6).fill('refused: ENOENT'),
      'refused: EROFS',
      'refused: EROFS',
      'refused: EROFS',
      'written',
    ]);
    expect(readFileSync(join(base, 'own', 'result'), 'utf8')).toBe('done');
    expect(existsSync(join(base, 'program', 'x'))).toBe(false);
  });

  it('sees no other process, no network and no secret, and reaches no server of this machine', async () => {
    process.env.CALQUE_TEST_SECRET = 'oar';
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as { port: number };
    try {
      const said = await tried<{
        processes: number;
        interfaces: string[];
        connected: string;
        environment: string[];
        seccomp: string;
        capabilities: string;
      }>(`
        const status = fs.readFileSync('/proc/self/status', 'utf8'), field = (n) => new RegExp('^' + n + ':\\\\s*(.*)$', 'm').exec(status)[1];
        const connected = await new Promise((resolve) => { const s = attempt(() => net.connect(${port}, '127.0.0.1')); if (typeof s === 'string') return resolve(s); s.on('connect', () => resolve('connected')).on('error', (e) => resolve(e.code)); });
        return { processes: fs.readdirSync('/proc').filter((f) => /^\\d+$/.test(f)).length, interfaces: fs.readFileSync('/proc/self/net/dev', 'utf8').split('\\n').filter((l) => l.includes(':')).map((l) => l.split(':')[0].trim()), connected, environment: Object.keys(process.env), seccomp: field('Seccomp'), capabilities: field('CapEff') };`);
      expect(said.processes).toBeLessThan(4);
      expect(said.interfaces).toEqual(['lo']);
      expect(said.connected).toMatch(/EPERM|EACCES|ENETUNREACH|ECONNREFUSED/);
      expect(said.environment).not.toContain('CALQUE_TEST_SECRET');
      expect([said.seccomp, /^0+$/.test(said.capabilities)]).toEqual([callFilter() ? '2' : '0', true]);
    } finally {
      server.close();
      delete process.env.CALQUE_TEST_SECRET;
    }
  });

  it.skipIf(!existsSync('/usr/bin/unshare'))(
    'can make no namespace of its own and mount nothing',
    async () => {
      const said = await tried<(number | null)[]>(
        `return [['unshare', '-U', 'true'], ['unshare', '-n', 'true'], ['mount', '-t', 'tmpfs', 'x', '/tmp'], ['true']].map(([p, ...a]) => spawnSync('/usr/bin/' + p, a).status);`,
      );
      expect(said.slice(0, 3).every((status) => status !== 0)).toBe(true);
      expect(said[3]).toBe(0);
    },
  );

  it('is ended by its time and its memory as any other, with whatever stands around it', async () => {
    const program = join(base, 'program', 'long.mjs');
    writeFileSync(program, 'for (;;);');
    const slow = limitedChild(
      program,
      { ...LIMITS, seconds: 0.6 },
      { walls: { writable: [join(base, 'own')] } },
    );
    await new Promise((resolve) => slow.process.once('exit', resolve));
    expect(slow.overrun()).toBe('too-long');
    writeFileSync(join(base, 'program', 'large.mjs'), 'const h = []; for (;;) h.push(Buffer.alloc(6e7, 1));');
    const large = limitedChild(
      join(base, 'program', 'large.mjs'),
      { ...LIMITS, megabytes: 300 },
      { walls: { writable: [join(base, 'own')] }, stdio: ['ignore', 'ignore', 'ignore', 'ipc'] },
    );
    const code = await new Promise<number | null>((resolve) => large.process.once('exit', (c) => resolve(c)));
    expect(large.overrun() === 'too-large' || code !== 0).toBe(true);
  });
});

it('the filter has a table for the processors that Debian runs on most, and jumps within itself', () => {
  expect(callFilter('mips')).toBeNull();
  for (const architecture of ['x64', 'arm64']) {
    const filter = Buffer.from(callFilter(architecture)!),
      steps = filter.length / 8;
    expect([filter.length % 8, steps < 4096]).toEqual([0, true]);
    for (let i = 0; i < steps; i++) {
      const code = filter.readUInt16LE(i * 8);
      // BPF_JMP: both ways lie within; the last is a return.
      if ((code & 7) === 5)
        expect(Math.max(filter.readUInt8(i * 8 + 2), filter.readUInt8(i * 8 + 3)) + i + 1).toBeLessThan(
          steps,
        );
    }
    expect(filter.readUInt16LE((steps - 1) * 8)).toBe(6);
  }
});
