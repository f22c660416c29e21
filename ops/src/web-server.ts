import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import next from 'next';
import { endWithParent } from '@calque/limits';
import { root } from './shell.ts';

/** The application behind a server of our own, for the limits that Next.js's has not: nobody may hold a connection and do nothing with it. */
const HEADERS_MS = 20000;
/** A connection over which nothing goes either way for so long is closed: an upload that stands still, an answer that nobody reads. */
const STANDING_MS = 60000;
const KEEP_ALIVE_MS = 10000;
const WORKING_MS = 20 * 60000;
const PACKAGES = /^\/api\/(packages|projects\/[^/]+\/package)$/;
const MOST_CONNECTIONS = 4000;
const LONGEST_ADDRESS = 8000;

const port = Number(process.env.PORT);
const hostname = '127.0.0.1';
const app = next({ dev: false, dir: join(root, 'web'), hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
const server = createServer((request, response) => {
  const refusal = addressFault(request.url ?? '');
  if (!refusal) {
    if (PACKAGES.test(request.url ?? '')) waitForWork(request, response);
    return void handle(request, response);
  }
  response.writeHead(refusal.status, { 'Content-Type': 'application/json', Connection: 'close' }).end(JSON.stringify({ code: 'invalid', message: refusal.message }));
});
server.headersTimeout = HEADERS_MS;
// Large files over slow lines take long; standing still is what ends them.
server.requestTimeout = 0;
server.timeout = STANDING_MS;
server.keepAliveTimeout = KEEP_ALIVE_MS;
server.maxConnections = MOST_CONNECTIONS;
server.listen(port, hostname);
server.on('error', (error) => {
  console.error(error.message);
  process.exit(1);
});

/** A package is worked on for longer than a connection may stand still; how long that takes is held elsewhere. */
function waitForWork(request: IncomingMessage, response: ServerResponse): void {
  request.once('end', () => request.socket.setTimeout(WORKING_MS));
  response.once('close', () => request.socket.setTimeout(STANDING_MS));
}

/** Why an address cannot be taken as it is; what stands behind this door takes it for granted that it can be read. */
function addressFault(url: string): { status: number; message: string } | null {
  if (url.length > LONGEST_ADDRESS) return { status: 414, message: 'This address is longer than any here.' };
  try {
    return decodeURIComponent(url).includes('\0') ? { status: 400, message: 'This address holds what is no character.' } : null;
  } catch {
    return { status: 400, message: 'This address is written with escapes that are none.' };
  }
}

const stop = () => {
  server.close(() => process.exit(0));
  server.closeAllConnections();
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
endWithParent(stop);
