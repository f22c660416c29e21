import 'server-only';
import { Refused } from './answers';

/** A usual request in JSON is short. */
const SHORT = 64 << 10;
/** All of a request that is read as a whole must come within this time. */
const BODY_MS = 120000;

/** The bytes of a request, no more than so many, whatever it says of their number. */
export async function bodyBytes(request: Request, limit: number): Promise<Uint8Array> {
  const tooLarge = () =>
    new Refused(
      413,
      'too-large',
      `The request is larger than the ${Math.round(limit / 1e6)} MB that are taken at once.`,
    );
  if (statedLength(request) > limit) throw tooLarge();
  if (!request.body) return new Uint8Array();
  const reader = request.body.getReader();
  const late = setTimeout(() => void reader.cancel().catch(() => {}), BODY_MS);
  const parts: Uint8Array[] = [];
  let size = 0;
  try {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      if ((size += value.length) > limit) {
        void reader.cancel().catch(() => {});
        throw tooLarge();
      }
      parts.push(value);
    }
  } finally {
    clearTimeout(late);
  }
  return Buffer.concat(parts, size);
}

/** Bytes that a request says it has; 0 where it does not say. */
export function statedLength(request: Request): number {
  const stated = Number(request.headers.get('content-length') ?? 0);
  return Number.isFinite(stated) && stated > 0 ? stated : 0;
}

/** The bytes of a request that says that it is JSON: forms of other sites cannot. */
export function jsonBytes(request: Request, limit: number): Promise<Uint8Array> {
  const type = (request.headers.get('content-type') ?? '').split(';')[0].trim().toLowerCase();
  if (type !== 'application/json')
    throw new Refused(415, 'type', 'This is taken as application/json alone: say so in the Content-Type.');
  return bodyBytes(request, limit);
}

/** A short request in JSON as a value; throws SyntaxError where it is none. */
export const bodyJson = async (request: Request): Promise<unknown> =>
  JSON.parse(new TextDecoder().decode(await jsonBytes(request, SHORT))) as unknown;
