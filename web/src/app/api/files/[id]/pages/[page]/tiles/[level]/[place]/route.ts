import { findTile } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';

type Context = { params: Promise<{ id: string; page: string; level: string; place: string }> };
const SMALL = /^\d{1,6}$/;

/** A tile of a large picture: `place` is column_row. */
export const GET = (_: Request, { params }: Context): Promise<Response> => answering(async () => {
  const { id, page, level, place } = await params;
  const [column, row] = place.split('_');
  const sound = isUuid(id) && [page, level, column, row].every((n) => SMALL.test(n ?? ''));
  const tile = sound ? await findTile(database(), id, Number(page), Number(level), Number(column), Number(row)) : null;
  if (!tile) return notFound('tile');
  return new Response(new Uint8Array(tile), { headers: { 'Content-Type': 'image/jpeg', 'Cache-Control': 'private, max-age=31536000, immutable' } });
});
