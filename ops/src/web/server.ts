import { randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import next from 'next';
import { journal } from '@calque/journal';
import { endWithParent } from '@calque/limits';
import { root } from '../shell.ts';
import { allowedHosts, refusalOf } from './door.ts';
import { underPolicy } from './policy.ts';

/** The application behind a server of our own: the door, the policy, a journal, and limits that Next.js's has not. Nobody may hold a connection and do nothing with it. */
const HEADERS_MS = 20000;
/** A connection over which nothing goes either way for so long is closed: an upload that stands still, an answer that nobody reads. */
const STANDING_MS = 60000;
const KEEP_ALIVE_MS = 10000;
const WORKING_MS = 20 * 60000;
const PACKAGES = /^\/api\/(packages|projects\/[^/]+\/package)$/;
const MOST_CONNECTIONS = 4000;

const log = journal('web');
const port = Number(process.env.PORT);
const hostname = process.env.CALQUE_LISTEN || '127.0.0.1';
const hosts = allowedHosts(process.env.CALQUE_HOSTS);
const app = next({ dev: false, dir: join(root, 'web'), hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
const server = createServer((request, response) => {
  const id = randomUUID(),
    began = performance.now();
  const { method = '', url = '' } = request;
  response.once('close', () => {
    const ms = Math.round(performance.now() - began);
    // Words that were looked for are nobody's business.
    log[levelOf(response.statusCode)](
      {
        request: id,
        method,
        path: url.split('?')[0].slice(0, 300),
        status: response.statusCode,
        ms,
        ...(!response.writableFinished && { broken: true }),
      },
      'request',
    );
  });
  const refusal = refusalOf({ method, url, headers: request.headers, rawHeaders: request.rawHeaders }, hosts);
  underPolicy(request, response, id);
  if (refusal) {
    response
      .writeHead(refusal.status, {
        'Content-Type': 'application/json',
        'Cache-Control': 'no-store',
        Connection: 'close',
      })
      .end(JSON.stringify({ code: refusal.code, message: refusal.message }));
    return;
  }
  if (PACKAGES.test(url)) waitForWork(request, response);
  void handle(request, response);
});
server.headersTimeout = HEADERS_MS;
// Large files over slow lines take long; standing still is what ends them.
server.requestTimeout = 0;
server.timeout = STANDING_MS;
server.keepAliveTimeout = KEEP_ALIVE_MS;
server.maxConnections = MOST_CONNECTIONS;
server.listen(port, hostname, () => log.info({ port, hostname, hosts: [...hosts] }, 'serving'));
server.on('error', (error) => {
  console.error(error.message);
  process.exit(1);
});

/** What is asked all the time is said only when somebody wants to know. */
const levelOf = (status: number): 'debug' | 'warn' | 'error' =>
  status >= 500 && status !== 503 ? 'error' : status >= 400 ? 'warn' : 'debug';

/** A package is worked on for longer than a connection may stand still; how long that takes is held elsewhere. */
function waitForWork(request: IncomingMessage, response: ServerResponse): void {
  request.once('end', () => request.socket.setTimeout(WORKING_MS));
  response.once('close', () => request.socket.setTimeout(STANDING_MS));
}

const stop = () => {
  server.close(() => process.exit(0));
  server.closeAllConnections();
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
endWithParent(stop);
