import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from '@playwright/test';

/** The two commands as they are given in houses unlike ours. Each works, or says in a sentence what to do. */
const root = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
const folder = mkdtempSync(join(tmpdir(), 'calque-house-'));
chmodSync(folder, 0o755);
const PORT = 45930;
const isRoot = process.getuid?.() === 0;

const surroundings = (more: Record<string, string> = {}): NodeJS.ProcessEnv => {
  const { CALQUE_ROOT: _, CALQUE_CWD: __, ...rest } = process.env;
  return { ...rest, PORT: String(PORT), ...more };
};
function calque(
  args: string[],
  more: Record<string, string> = {},
  program = join(root, 'calque'),
  cwd = folder,
): { status: number | null; text: string } {
  const done = spawnSync(program, args, { cwd, env: surroundings(more), encoding: 'utf8', timeout: 60000 });
  return { status: done.status, text: done.stdout + done.stderr };
}

interface Started {
  child: ChildProcess;
  words(): string;
  ready: Promise<void>;
  ended: Promise<number | null>;
}
const running = new Set<ChildProcess>();
function start(
  data: string,
  more: Record<string, string> = {},
  program = join(root, 'calque'),
  cwd = folder,
): Started {
  // It goes with this test, however that ends.
  const child = spawn('setpriv', ['--pdeathsig', 'TERM', '--', program, 'start'], {
    cwd,
    env: surroundings({ CALQUE_DATA: data, ...more }),
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  });
  running.add(child);
  let words = '';
  const ended = new Promise<number | null>((resolve) =>
    child.once('exit', (code) => {
      running.delete(child);
      resolve(code);
    }),
  );
  const ready = new Promise<void>((resolve, reject) => {
    const take = (d: Buffer) => {
      words += d.toString();
      if (words.includes('Calque is ready')) resolve();
    };
    child.stdout!.on('data', take);
    child.stderr!.on('data', take);
    void ended.then(() => reject(new Error(`It ended: ${words}`)));
  });
  ready.catch(() => {});
  return { child, words: () => words, ready, ended };
}

/** Whatever still runs of an installation: its processes name its data or its program. */
const left = (data: string) =>
  readdirSync('/proc')
    .filter((f) => /^\d+$/.test(f))
    .flatMap((f) => {
      try {
        const line = readFileSync(`/proc/${f}/cmdline`, 'utf8').replaceAll('\0', ' '),
          environment = readFileSync(`/proc/${f}/environ`, 'utf8');
        return line !== '' &&
          Number(f) !== process.pid &&
          (line.includes(data) || environment.includes(`CALQUE_DATA=${data}`))
          ? [`${f} ${line.slice(0, 100)}`]
          : [];
      } catch {
        return [];
      }
    });
const isFree = (port: number) =>
  new Promise<boolean>((resolve) => {
    const probe = createServer();
    probe
      .once('error', () => resolve(false))
      .listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });

test.afterAll(() => {
  for (const child of running) child.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

test('a signal at any moment ends all that was started, within two seconds, and lets the data go', async () => {
  test.setTimeout(240000);
  const data = join(folder, 'ends');
  const moments: [NodeJS.Signals, number | 'ready'][] = [
    ['SIGINT', 60],
    ['SIGTERM', 400],
    ['SIGINT', 900],
    ['SIGHUP', 1500],
    ['SIGTERM', 2500],
    ['SIGINT', 3000],
    ['SIGTERM', 3500],
    ['SIGHUP', 'ready'],
    ['SIGINT', 'ready'],
    ['SIGTERM', 'ready'],
  ];
  for (const [signal, moment] of moments) {
    const one = start(data),
      name = `${signal} at ${moment}`;
    await (moment === 'ready' ? one.ready : new Promise((resolve) => setTimeout(resolve, moment)));
    const began = Date.now();
    one.child.kill(signal);
    await one.ended;
    // A little for a machine that others use too.
    expect(Date.now() - began, name).toBeLessThan(2600);
    await expect.poll(() => left(data), { message: name, timeout: 2500 }).toEqual([]);
    expect(await isFree(PORT), name).toBe(true);
    expect(existsSync(join(data, 'main', 'calque.pid')), name).toBe(false);
    expect(one.words(), name).not.toMatch(/failed|rror/);
  }
  // And what was begun so often is whole.
  const last = start(data);
  await last.ready;
  expect(
    ((await (await fetch(`http://127.0.0.1:${PORT}/api/projects`)).json()) as { open: unknown[] }).open,
  ).toHaveLength(1);
  last.child.kill('SIGINT');
  await last.ended;
});

test('what a killed one left is taken over; a second beside it is refused; a start that fails lets the data go', async () => {
  test.setTimeout(120000);
  const data = join(folder, 'killed');
  const first = start(data);
  await first.ready;
  expect(calque(['start'], { CALQUE_DATA: data })).toMatchObject({
    status: 1,
    text: expect.stringMatching(/already runs on this data \(process \d+\)\. Stop that one first/),
  });
  first.child.kill('SIGKILL');
  await first.ended;
  const second = start(data);
  await second.ready;
  second.child.kill('SIGTERM');
  await second.ended;
  await expect.poll(() => left(data), { timeout: 2500 }).toEqual([]);
  // The port is another's.
  const other = createServer();
  await new Promise<void>((resolve) => other.listen(PORT, '127.0.0.1', resolve));
  const taken = calque(['start'], { CALQUE_DATA: data });
  other.close();
  expect(taken).toMatchObject({
    status: 1,
    text: expect.stringContaining(`Port ${PORT} is taken. PORT=${PORT + 100} ./calque start uses another.`),
  });
  expect([existsSync(join(data, 'main', 'calque.pid')), left(data)]).toEqual([false, []]);
});

test('data lies where it is said, and where that cannot be the reason is told', () => {
  writeFileSync(join(folder, 'a file'), '');
  expect(calque(['start'], { CALQUE_DATA: join(folder, 'a file') })).toMatchObject({
    status: 1,
    text: expect.stringMatching(/Data cannot be kept in .*a file/),
  });
  expect(calque(['backup', 'x.backup'], { CALQUE_DATA: 'nothing here' })).toMatchObject({
    status: 1,
    text: expect.stringContaining(`There is no installation in ${join(folder, 'nothing here', 'main')} yet`),
  });
  for (const port of ['0', '70000', 'x', '1.5'])
    expect(calque(['start'], { PORT: port, CALQUE_DATA: 'never' })).toMatchObject({
      status: 1,
      text: expect.stringContaining('it must be a number from 1 to 65535'),
    });
  expect(calque(['start'], { CALQUE_HOSTS: 'a b', CALQUE_DATA: 'never' })).toMatchObject({
    status: 1,
    text: expect.stringContaining('CALQUE_HOSTS names'),
  });
  expect(existsSync(join(folder, 'never'))).toBe(false);
  if (isRoot) {
    const closed = join(folder, 'closed');
    mkdirSync(closed, { mode: 0o700 });
    expect(calque(['start'], { CALQUE_DATA: join(closed, 'data') })).toMatchObject({
      status: 1,
      text: expect.stringMatching(/is closed to others.*chmod o\+x/s),
    });
    expect(readdirSync(closed)).toEqual([]);
  }
});

test('an older Node.js, one without npm, and none are told before anything is done', () => {
  const bin = join(folder, 'bin'),
    clone = join(folder, 'clone');
  mkdirSync(bin);
  mkdirSync(join(clone, 'ops'), { recursive: true });
  for (const f of ['calque', 'ops/prepare.cjs', 'package-lock.json', 'package.json'])
    cpSync(join(root, f), join(clone, f));
  const tools = ['bash', 'readlink', 'dirname', 'id', 'stat', 'env', 'sleep', 'kill'].flatMap((t) =>
    ['/usr/bin', '/bin']
      .map((b) => join(b, t))
      .filter(existsSync)
      .slice(0, 1),
  );
  for (const t of tools) symlinkSync(t, join(bin, t.split('/').pop()!));
  const at = (more: Record<string, string> = {}) =>
    calque(['start'], { PATH: bin, ...more }, join(clone, 'calque'));
  expect(at()).toMatchObject({
    status: 1,
    text: expect.stringContaining('Calque needs Node.js 20.9 or later, and there is none here.'),
  });
  // Says of itself that it is an older one.
  writeFileSync(
    join(bin, 'node'),
    `#!/usr/bin/env bash\nexec ${JSON.stringify(process.execPath)} -r ${JSON.stringify(join(folder, 'older.cjs'))} "$@"\n`,
    { mode: 0o755 },
  );
  writeFileSync(
    join(folder, 'older.cjs'),
    "Object.defineProperty(process, 'versions', { value: { ...process.versions, node: '18.19.0' } }); Object.defineProperty(process, 'version', { value: 'v18.19.0' });",
  );
  expect(at()).toMatchObject({
    status: 1,
    text: expect.stringMatching(
      /^Calque needs Node\.js 20\.9 or later; the node found first here is v18\.19\.0 \(.*\)\. Install a newer one.*\n$/,
    ),
  });
  rmSync(join(bin, 'node'));
  symlinkSync(process.execPath, join(bin, 'node'));
  expect(at()).toMatchObject({
    status: 1,
    text: expect.stringContaining('Node.js is here, but npm, which comes with it or beside it, is not.'),
  });
  expect(existsSync(join(clone, 'node_modules'))).toBe(false);
});

/** A clone of what is built here, at another path. */
function cloneTo(at: string): void {
  mkdirSync(join(at, 'web'), { recursive: true });
  for (const f of [
    'calque',
    'ops',
    'store',
    'limits',
    'journal',
    'core',
    'reader',
    'cli',
    'demo',
    'bench',
    'attacks',
    'package.json',
    'package-lock.json',
    '.build',
    'web/.next',
    'web/src',
    'web/public',
    'web/package.json',
    'web/next.config.ts',
  ]) {
    cpSync(join(root, f), join(at, f), {
      recursive: true,
      preserveTimestamps: true,
      filter: (path) => !path.includes('/.next/cache'),
    });
  }
  // Too large to be copied.
  symlinkSync(join(root, 'node_modules'), join(at, 'node_modules'));
}

test('a clone at a path with spaces and accents, called through a link from elsewhere, by root for whom it belongs to', async () => {
  test.setTimeout(180000);
  const clone = join(folder, 'Büro Zeichnungen (neu) & co', 'calque');
  cloneTo(clone);
  const link = join(folder, 'a link');
  symlinkSync(join(clone, 'calque'), link);
  cpSync(join(root, 'reader/test/sheets/01_cairo_plan_100.pdf'), join(folder, 'plan é.pdf'));
  expect(calque(['read', 'plan é.pdf'], {}, link)).toMatchObject({
    status: 0,
    text: expect.stringContaining('segments'),
  });
  const owner = isRoot ? 'nobody' : null;
  if (owner)
    spawnSync('chown', ['-R', '-h', `${owner}:nogroup`, join(folder, 'Büro Zeichnungen (neu) & co')]);
  // Relative to where one stands.
  mkdirSync(join(folder, 'Daten ö'));
  if (owner) spawnSync('chown', [`${owner}:nogroup`, join(folder, 'Daten ö')]);
  const one = start('Daten ö', {}, link);
  await one.ready;
  expect(one.words()).toContain(`Data lies in ${join(folder, 'Daten ö')}.`);
  if (owner) expect(one.words()).toContain('This folder belongs to nobody, as whom it is run.');
  one.child.kill('SIGINT');
  await one.ended;
  if (owner)
    expect([
      statSync(join(clone, '.build')).uid,
      statSync(join(folder, 'Daten ö', 'main', 'postgres')).uid,
    ]).toEqual([65534, 65534]);
});

test('a clone that may not be written to runs when it is built and its data lies elsewhere', async () => {
  test.skip(!isRoot, 'Only root can be somebody else.');
  test.setTimeout(120000);
  const as = (args: string[]) => ['--reuid=65534', '--regid=65534', '--clear-groups', '--', ...args];
  const data = join(folder, 'of nobody');
  mkdirSync(data);
  spawnSync('chown', ['65534:65534', data]);
  const without = spawnSync('setpriv', as([join(root, 'calque'), 'start']), {
    cwd: folder,
    env: surroundings(),
    encoding: 'utf8',
    timeout: 60000,
  });
  expect([without.status, without.stderr + without.stdout]).toEqual([
    1,
    expect.stringMatching(/Data cannot be kept in .*\.data.*CALQUE_DATA=FOLDER names another place/s),
  ]);
  const child = spawn('setpriv', ['--pdeathsig', 'TERM', ...as([join(root, 'calque'), 'start'])], {
    cwd: folder,
    env: surroundings({ CALQUE_DATA: data }),
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  });
  running.add(child);
  let words = '';
  for (const s of [child.stdout, child.stderr])
    s.on('data', (d: Buffer) => {
      words += d.toString();
    });
  await expect.poll(() => words, { timeout: 60000 }).toContain('Calque is ready');
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await ended;
  running.delete(child);
  await expect.poll(() => left(data), { timeout: 2500 }).toEqual([]);
});

test("a port below 1024 is opened where that may be, or said to be root's", async () => {
  test.setTimeout(90000);
  const port = 890,
    free = Number(readFileSync('/proc/sys/net/ipv4/ip_unprivileged_port_start', 'utf8')) <= port;
  if (!isRoot && !free) {
    expect(calque(['start'], { PORT: String(port), CALQUE_DATA: 'low' })).toMatchObject({
      status: 1,
      text: expect.stringContaining(`Port ${port} may be opened by root alone`),
    });
    return;
  }
  const one = start(join(folder, 'low'), { PORT: String(port) });
  await one.ready;
  expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200);
  one.child.kill('SIGINT');
  await one.ended;
  if (isRoot && !free) {
    const refused = spawnSync(
      'setpriv',
      ['--reuid=65534', '--regid=65534', '--clear-groups', '--', join(root, 'calque'), 'start'],
      {
        cwd: folder,
        env: surroundings({ PORT: String(port), CALQUE_DATA: join(folder, 'of nobody') }),
        encoding: 'utf8',
        timeout: 60000,
      },
    );
    expect([refused.status, refused.stdout + refused.stderr]).toEqual([
      1,
      expect.stringContaining(`Port ${port} may be opened by root alone`),
    ]);
  }
});
