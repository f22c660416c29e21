import { fork } from 'node:child_process';
import { chmodSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { migrateDatabase } from '@calque/store';
import { buildWeb } from './build-web.ts';
import { mustBeFree } from './claim.ts';
import { placedFor } from './confined.ts';
import { APP } from './database/roles.ts';
import { startPostgres } from './database/postgres.ts';
import { atEnd, endAll } from './ending.ts';
import { dataFolder, makeFolder, serviceUser } from './identity.ts';
import { endsWithUs, root, signalGroup } from './shell.ts';
import { supervise, type Supervised } from './supervise.ts';

const NAME = 'several',
  FIRST_PORT = 4480,
  WEB_SERVERS = 3,
  READERS = 2;

/** As docs/operating.md says it, but without TLS and for one machine. */
const proxyOf = (folder: string, port: number, ports: readonly number[]): string => `
daemon off; pid ${folder}/nginx.pid; error_log ${folder}/error.log; worker_processes 1;
events { worker_connections 1024; }
http {
  access_log off; client_body_temp_path ${folder}/body; proxy_temp_path ${folder}/proxy; fastcgi_temp_path ${folder}/f; uwsgi_temp_path ${folder}/u; scgi_temp_path ${folder}/s;
  upstream calque { least_conn; ${ports.map((p) => `server 127.0.0.1:${p} max_fails=1 fail_timeout=2s;`).join(' ')} }
  server {
    listen 127.0.0.1:${port};
    client_max_body_size 0;
    location / {
      proxy_pass http://calque; proxy_http_version 1.1; proxy_set_header Host $http_host; proxy_set_header Connection "";
      proxy_request_buffering off; proxy_buffering off; proxy_read_timeout 1200s; proxy_connect_timeout 2s;
    }
  }
}
`;

/** Several web servers and readers behind a proxy, as on several machines, under sessions that lose one or another of them. */
export async function several(): Promise<void> {
  const folder = dataFolder(NAME),
    proxy = join(folder, 'nginx');
  rmSync(folder, { recursive: true, force: true });
  const ports = Array.from({ length: WEB_SERVERS }, (_, i) => FIRST_PORT + 1 + i);
  for (const port of [FIRST_PORT, ...ports]) await mustBeFree(port);
  const parts = new Map<string, Supervised>();
  const database = await startPostgres(NAME);
  atEnd(async () => {
    await Promise.all([...parts.values()].map((p) => p.stop()));
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  });
  await migrateDatabase(database.ownerUrl, { root, app: APP });
  await buildWeb();
  const user = serviceUser(),
    placed = placedFor(user),
    temporary = join(folder, 'tmp');
  makeFolder(temporary, 0o700, user);
  mkdirSync(proxy);
  chmodSync(proxy, 0o755);
  writeFileSync(join(proxy, 'nginx.conf'), proxyOf(proxy, FIRST_PORT, ports));
  const env = {
    PATH: process.env.PATH,
    DATABASE_URL: database.url,
    CALQUE_SECRET: database.keys.secret,
    NODE_ENV: 'production' as const,
    CALQUE_ROOT: placed.root,
    TMPDIR: temporary,
    CALQUE_HOSTS: `127.0.0.1:${FIRST_PORT}`,
  };
  const begin = (name: string, command: readonly string[], more: Record<string, string> = {}) =>
    parts.set(
      name,
      supervise(name, { command, env: { ...env, ...more }, cwd: '/', onState: () => {}, say: () => {} }),
    );
  const program = (file: string) => [...placed.before(), process.execPath, join(placed.root, '.build', file)];
  ports.forEach((port, i) => begin(`web server ${i + 1}`, program('web-server.mjs'), { PORT: String(port) }));
  for (let i = 1; i <= READERS; i++) begin(`reader ${i}`, program('reader-service.mjs'));
  begin('nginx', ['/usr/sbin/nginx', '-e', join(proxy, 'error.log'), '-c', join(proxy, 'nginx.conf')]);
  const url = `http://127.0.0.1:${FIRST_PORT}`;
  for (
    let i = 0;
    i < 200 &&
    !(await fetch(`${url}/api/health`).then(
      (r) => r.ok,
      () => false,
    ));
    i++
  )
    await new Promise((resolve) => setTimeout(resolve, 200));
  const child = fork(join(root, `.build/${NAME}.mjs`), process.argv.slice(3), {
    env: { ...process.env, SEVERAL_URL: url, SEVERAL_PARTS: [...parts.keys(), 'database'].join(',') },
    detached: true,
  });
  endsWithUs(child);
  child.on('message', ({ kill }: { kill: string }) => {
    const part = parts.get(kill)?.process;
    if (kill === 'database') database.kill();
    else if (part) signalGroup(part, 'SIGKILL');
  });
  await endAll(await new Promise<number>((resolve) => child.on('exit', (code) => resolve(code ?? 1))));
}
