import { parseShelfThing } from '@calque/core/model';
import { putOnShelf, takeOffShelf } from '@calque/store';
import { json, problem } from '@/server/answers';
import { jsonBytes } from '@/server/bodies';
import { installationRoute, smallNumber } from '@/server/route';

export const dynamic = 'force-dynamic';

/** A group of many elements. */
const LARGEST = 8 << 20;

const CHANGED = 'Somebody has changed the shelf meanwhile: look at it again.';

/** Puts a thing at its place; `seen` says which version of it was there, 0 for none. */
export const PUT = installationRoute('change', async ({ request, database, params, query }) => {
  const seen = smallNumber(query.get('seen') ?? '0'),
    bytes = await jsonBytes(request, LARGEST),
    thing = parseShelfThing(JSON.parse(new TextDecoder().decode(bytes)));
  if (seen === null || thing.id !== params.thing)
    return problem(400, 'invalid', 'The thing has another place than the address names.');
  const put = await putOnShelf(database, thing, seen);
  if (put === 'changed') return problem(409, 'changed', CHANGED);
  if (put === 'full')
    return problem(507, 'full', 'The shelf is full: take something off it that nobody needs.');
  return json({ version: put });
});

export const DELETE = installationRoute('change', async ({ database, params, query }) => {
  const seen = smallNumber(query.get('seen') ?? undefined);
  if (seen === null) return problem(400, 'invalid', 'Say which version you saw.');
  return (await takeOffShelf(database, params.thing, seen)) ? json({}) : problem(409, 'changed', CHANGED);
});
