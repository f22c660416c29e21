import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { chromium, expect, test, type Page } from '@playwright/test';
import pg from 'pg';
import { allSaved, attach, newProject, OURS, sheetFile, snapReady } from './bench.ts';

const base = process.env.CALQUE_URL ?? 'http://127.0.0.1:4400';
const { port } = new URL(base);
const projectOf = (page: Page) => page.url().split('/').pop()!;

test('a page elsewhere whose name is led here reads nothing and writes nothing', async ({ page }) => {
  await newProject(page, 'Rebound');
  const id = projectOf(page);
  // A name of somebody else's that leads to this machine, as after its answer has been changed.
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--host-resolver-rules=MAP evil.example 127.0.0.1'],
  });
  const elsewhere = createServer((_, response) =>
    response.writeHead(200, { 'Content-Type': 'text/html' }).end('<p>elsewhere</p>'),
  );
  await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve));
  try {
    const rebound = await browser.newPage();
    // The very origin: what the page asks for goes out as of its own site.
    const answer = await rebound.goto(`http://evil.example:${port}/`);
    expect([answer!.status(), await rebound.locator('body').innerText()]).toEqual([
      421,
      expect.stringContaining('not reached as evil.example'),
    ]);
    const tried = await rebound.evaluate(
      async (project) =>
        Promise.all(
          [
            ['GET', '/api/projects'],
            ['GET', `/api/projects/${project}`],
            ['GET', `/api/events?projects=${project}`],
            ['POST', `/api/projects/${project}/bin`],
            ['DELETE', `/api/projects/${project}/bin`],
          ].map(([method, url]) => fetch(url, { method }).then((r) => r.status)),
        ),
      id,
    );
    expect(tried).toEqual([421, 421, 421, 421, 421]);
    // And from another port of this machine, as any program's page is.
    await rebound.goto(`http://127.0.0.1:${(elsewhere.address() as { port: number }).port}/`);
    const across = await rebound.evaluate(
      async ([at, project]) => {
        const shown = await new Promise((resolve) => {
          const i = new Image();
          i.onload = () => resolve('shown');
          i.onerror = () => resolve('refused');
          i.src = `${at}/api/projects/${project}/picture`;
        });
        const read = await fetch(`${at}/api/projects`).then(
          (r) => r.text(),
          () => 'refused',
        );
        await fetch(`${at}/api/projects/${project}/bin`, {
          method: 'POST',
          mode: 'no-cors',
          body: 'a=b',
          headers: { 'content-type': 'application/x-www-form-urlencoded' },
        }).catch(() => {});
        return [shown, read];
      },
      [base, id],
    );
    expect(across).toEqual(['refused', 'refused']);
  } finally {
    await browser.close();
    elsewhere.close();
  }
  const { open } = (await (await page.request.get('/api/projects')).json()) as { open: { id: string }[] };
  expect(open.some((p) => p.id === id)).toBe(true);
});

test('no script runs that the answer does not name, and none of ours is held back', async ({ page }) => {
  const violations: string[] = [];
  page.on('console', (message) => {
    if (/Content Security Policy/i.test(message.text())) violations.push(message.text());
  });
  await page.goto('/', { waitUntil: 'networkidle' });
  await newProject(page, 'Policy');
  await attach(page, sheetFile('13g_nested_q_5000.pdf'));
  expect(violations).toEqual([]);
  const nonces = await Promise.all(
    ['/', '/', `/project/${projectOf(page)}`].map(async (url) => {
      const policy = (await page.request.get(url)).headers()['content-security-policy'];
      expect(/script-src [^;]*/.exec(policy)![0]).not.toMatch(/'unsafe-inline'|'unsafe-eval'|https?:|\*/);
      return /'nonce-([^']+)'/.exec(policy)![1];
    }),
  );
  expect(new Set(nonces).size).toBe(3);
  const ran = await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.ran = true';
    document.body.append(script);
    const holder = document.createElement('div');
    holder.innerHTML = '<img src="data:," onerror="window.ran = true">';
    document.body.append(holder);
    return new Promise((resolve) =>
      setTimeout(() => resolve((window as unknown as { ran?: boolean }).ran ?? false), 300),
    );
  });
  expect(ran).toBe(false);
  expect(violations.length).toBeGreaterThan(0);
});

test('the picture of a project keeps its own policy; pictures are resized for nobody', async ({ page }) => {
  await newProject(page, 'Picture');
  const picture = await page.request.get(`/api/projects/${projectOf(page)}/picture`);
  expect(picture.headers()['content-security-policy']).toMatch(/^default-src 'none'; img-src data:/);
  expect((await page.request.get('/_next/image?url=%2Ficon.svg&w=64&q=75')).status()).toBe(404);
  const plain = await page.request.get('/api/projects');
  expect(plain.headers()).toMatchObject({
    'content-security-policy': expect.stringContaining("default-src 'none'") as unknown,
    'x-content-type-options': 'nosniff',
    'cache-control': 'no-store',
  });
});

test('the password of a file goes to what draws it, and is found nowhere else', async ({ page }) => {
  const PASSWORD = 'letmein-13';
  await newProject(page, 'Locked');
  const id = projectOf(page),
    asked: string[] = [];
  page.on('request', (r) => {
    if (r.url().includes('/password')) asked.push(new URL(r.url()).pathname);
  });
  const answers: string[] = [];
  page.on('response', (r) => {
    if (/api\/projects\/[^/]+(\/files)?$/.test(r.url()))
      void r.text().then(
        (t) => answers.push(t),
        () => {},
      );
  });
  await page.getByTestId('file-input').setInputFiles(sheetFile('13e_password.pdf'));
  await page.locator('input[type=password]').fill(PASSWORD);
  // While the file is read, nobody sees its password among the processes.
  const seen: string[] = [];
  const watching = setInterval(() => seen.push(...commandLines()), 15);
  await page.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByText(/PDF, 1 page, encrypted/)).toBeVisible({ timeout: 30000 });
  clearInterval(watching);
  expect(seen.length).toBeGreaterThan(0);
  expect(seen.filter((line) => line.includes(PASSWORD))).toEqual([]);
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await expect.poll(() => asked.length).toBe(1);
  expect(asked[0]).toMatch(new RegExp(`^/api/projects/${id}/files/[0-9a-f-]+/password$`));
  expect(answers.length).toBeGreaterThan(0);
  for (const text of answers) expect(text).not.toMatch(new RegExp(`"password":|${PASSWORD}`));
  await allSaved(page);
  if (process.env.DATABASE_URL) {
    const client = new pg.Client(process.env.DATABASE_URL);
    await client.connect();
    const { rows } = await client.query<{ password: string }>(
      'select password from files where project_id = $1',
      [id],
    );
    await client.end();
    expect(rows.map((r) => r.password.startsWith('sealed:1:'))).toEqual([true]);
  }
});

const commandLines = () =>
  readdirSync('/proc')
    .filter((f) => /^\d+$/.test(f))
    .flatMap((f) => {
      try {
        return [readFileSync(`/proc/${f}/cmdline`, 'utf8')];
      } catch {
        return [];
      }
    });

test('another user of this machine is no user of the database, and the application is no superuser of it', async () => {
  test.skip(!process.env.DATABASE_URL, 'The database of the installation under test is not known.');
  const url = new URL(process.env.DATABASE_URL!);
  for (const [user, password] of [
    ['calque', ''],
    ['calque', 'calque'],
    ['postgres', ''],
    ['calque_owner', ''],
    ['calque_app', ''],
    ['nobody', ''],
  ]) {
    const client = new pg.Client({
      host: url.hostname,
      port: Number(url.port),
      user,
      password,
      database: 'calque',
    });
    await expect(client.connect(), user).rejects.toThrow(/authentication failed|password/i);
  }
  if (process.getuid?.() === 0 && existsSync('/usr/bin/psql')) {
    const asNobody = spawnSync(
      'setpriv',
      [
        '--reuid=65534',
        '--regid=65534',
        '--clear-groups',
        '--',
        'psql',
        '-w',
        '-h',
        url.hostname,
        '-p',
        url.port,
        '-U',
        'calque',
        '-d',
        'postgres',
        '-c',
        "copy (select 1) to program 'id'",
      ],
      { encoding: 'utf8', env: { PATH: process.env.PATH } as never },
    );
    expect([asNobody.status, asNobody.stderr]).toEqual([
      2,
      expect.stringMatching(/no password supplied|fe_sendauth/),
    ]);
  }
  const client = new pg.Client(process.env.DATABASE_URL);
  await client.connect();
  const {
    rows: [me],
  } = await client.query<Record<string, boolean>>(
    'select rolsuper, rolcreaterole, rolcreatedb, rolreplication, rolbypassrls from pg_roles where rolname = current_user',
  );
  expect(Object.values(me)).toEqual([false, false, false, false, false]);
  for (const forbidden of [
    "copy (select 1) to program 'id'",
    "select pg_read_file('/etc/passwd')",
    'drop table projects',
    'create table spy (a int)',
    'alter table files add column x int',
    'set role calque_owner',
    'alter role calque_app superuser',
  ]) {
    await expect(client.query(forbidden), forbidden).rejects.toThrow(
      /permission denied|must be owner|must be superuser|not permitted/i,
    );
  }
  const {
    rows: [{ data_checksums: checksums }],
  } = await client.query<{ data_checksums: string }>('show data_checksums');
  expect(checksums).toBe('on');
  await client.end();
});

test('what serves and what reads runs without rights, and what reads a file sees neither secrets nor network', async ({
  page,
}) => {
  test.skip(!process.env.DATABASE_URL, 'The processes of the installation under test are not known.');
  const running = (name: string) =>
    readdirSync('/proc')
      .filter((f) => /^\d+$/.test(f))
      .flatMap((f) => {
        try {
          const line = readFileSync(`/proc/${f}/cmdline`, 'utf8');
          return /^[^\0]*node\0/.test(line) && line.includes(name) ? [f] : [];
        } catch {
          return [];
        }
      });
  const status = (pid: string, field: string) =>
    new RegExp(`^${field}:\\s*(.*)$`, 'm').exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1];
  for (const name of ['web-server.mjs', 'reader-service.mjs']) {
    const pids = running(name);
    expect(pids.length).toBeGreaterThan(0);
    for (const pid of pids) {
      expect(status(pid, 'Uid').split('\t')).not.toContain('0');
      expect([status(pid, 'CapEff'), status(pid, 'CapBnd'), status(pid, 'NoNewPrivs')]).toEqual([
        expect.stringMatching(/^0+$/),
        process.getuid?.() === 0 ? expect.stringMatching(/^0+$/) : expect.anything(),
        '1',
      ]);
    }
  }
  // One that reads for long is looked at meanwhile.
  await newProject(page, 'Walls');
  let found: { environment: string; network: string; own: string; seccomp: string } | null = null;
  const looking = setInterval(() => {
    for (const pid of running('reader-child.mjs')) {
      try {
        found ??= {
          environment: readFileSync(`/proc/${pid}/environ`, 'utf8'),
          network: readFileSync(`/proc/${pid}/net/dev`, 'utf8'),
          own: readFileSync('/proc/self/net/dev', 'utf8'),
          seccomp: status(pid, 'Seccomp'),
        };
      } catch {
        // It has ended.
      }
    }
  }, 5);
  await page.getByTestId('file-input').setInputFiles(sheetFile('13g_nested_q_5000.pdf'));
  await expect.poll(() => found, { timeout: 30000 }).not.toBeNull();
  clearInterval(looking);
  expect(found!.environment).not.toMatch(/DATABASE_URL|CALQUE_SECRET|postgres:|HOME=/);
  if (existsSync('/usr/bin/bwrap')) {
    expect(
      found!.network
        .split('\n')
        .filter((l) => /^\s*\w+:/.test(l))
        .map((l) => l.trim().split(':')[0]),
    ).toEqual(['lo']);
    expect(found!.seccomp).toBe('2');
  }
});

test("metrics and health tell how it is, and of nobody's work", async ({ page }) => {
  await newProject(page, 'Secret project name');
  const id = projectOf(page);
  await page.request.get(`/api/projects/${id}/find?words=hidden`);
  const answer = await page.request.get('/api/metrics'),
    text = await answer.text();
  expect(answer.headers()['content-type']).toMatch(/^text\/plain/);
  for (const name of [
    'calque_request_seconds_count',
    'calque_event_streams',
    'calque_files_waiting',
    'calque_database_bytes',
    'process_resident_memory_bytes',
  ])
    expect(text).toContain(name);
  expect(text).toContain('route="/api/projects/:/find"');
  for (const secret of [id, 'Secret', 'hidden']) expect(text).not.toContain(secret);
  expect(await (await page.request.get('/api/health')).json()).toMatchObject({
    ok: true,
    parts: expect.arrayContaining([{ name: 'reader', state: 'running', why: null }]) as unknown,
  });
  expect((await page.request.post('/api/metrics', { headers: OURS })).status()).toBe(405);
});
