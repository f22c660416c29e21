import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { isRoute } from './door.ts';

/** Everything comes from this server; WebAssembly may be compiled, nothing else may be evaluated, and no script runs that this answer does not name. */
const contentPolicy = (scripts: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' ${scripts}'wasm-unsafe-eval'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'self'",
    "frame-ancestors 'none'",
    "form-action 'self'",
  ].join('; ');

/** Files: workers among them, which keep to the policy that they come with. */
const FILES = contentPolicy('');
/** The kernel of solids makes functions from text of its own: the worker that holds it may, and nothing else. */
const PART_WORKER = '/engine/part-worker.js';
const PART_POLICY = contentPolicy("'unsafe-eval' ");
const NONCE_BYTES = 18;

const ALWAYS = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'same-origin',
  'X-Frame-Options': 'DENY',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Permissions-Policy': 'camera=(), geolocation=(), microphone=(), payment=(), usb=()',
};

/** Headers that mean something between the parts of the framework: nobody outside speaks for them. */
const INNER =
  /^(x-forwarded-|x-middleware|x-next|x-matched-path|x-invoke|x-now-|x-nonce|next-action|next-resume|forwarded|content-security-policy|purpose$|x-prerender|x-calque-|x-request-id|traceparent|tracestate)/;

/** Takes off what only the inside may say, and says under which policy the answer is shown. */
export function underPolicy(request: IncomingMessage, response: ServerResponse, id: string): void {
  for (const name of Object.keys(request.headers)) if (INNER.test(name)) delete request.headers[name];
  request.headers['x-request-id'] = id;
  response.setHeader('X-Request-Id', id);
  for (const [name, value] of Object.entries(ALWAYS)) response.setHeader(name, value);
  const url = request.url ?? '/';
  // Routes say their own (web/src/server/route.ts).
  if (isRoute(url)) return;
  if (url.startsWith('/_next/') || url.startsWith('/engine/')) {
    response.setHeader('Content-Security-Policy', url === PART_WORKER ? PART_POLICY : FILES);
    return;
  }
  const nonce = randomBytes(NONCE_BYTES).toString('base64url'),
    policy = contentPolicy(`'nonce-${nonce}' `);
  // The framework takes the nonce for its own scripts from the policy; ours from the header beside it.
  request.headers['content-security-policy'] = policy;
  request.headers['x-nonce'] = nonce;
  response.setHeader('Content-Security-Policy', policy);
}
