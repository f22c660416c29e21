import 'server-only';
import { Refused } from './answers';

/** A usual request in JSON is short. */
const SHORT = 64 << 10;
/** All of a request that is read as a whole must come within this time. */
const BODY_MS = 120000;

/** The bytes of a request, no more than so many, whatever it says of their number. */
export async function bodyBytes(request: Request, limit: number): Promise<Uint8Array> {
  const tooLarge = () => new Refused(413, 'too-large', `The request is larger than the ${Math.round(limit / 1e6)} MB that are taken at once.`);
  if (Number(request.headers.get('content-length') ?? 0) > limit) throw tooLarge();
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

/** A short request in JSON as a value; throws SyntaxError where it is none. */
export const bodyJson = async (request: Request): Promise<unknown> => JSON.parse(new TextDecoder().decode(await bodyBytes(request, SHORT))) as unknown;
