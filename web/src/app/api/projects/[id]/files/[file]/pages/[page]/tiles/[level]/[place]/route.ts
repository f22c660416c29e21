import { findTile } from '@calque/store';
import { notFound } from '@/server/answers';
import { fileRoute, smallNumber } from '@/server/route';

/** A tile of a large picture: `place` is column_row. */
export const GET = fileRoute('look', async ({ database, file, params }) => {
  const [column, row] = params.place.split('_').map(smallNumber),
    page = smallNumber(params.page),
    level = smallNumber(params.level);
  const sound = page !== null && level !== null && typeof column === 'number' && typeof row === 'number';
  const tile = sound ? await findTile(database, file.id, page, level, column, row) : null;
  if (!tile) return notFound('tile');
  return new Response(new Uint8Array(tile), {
    headers: { 'Content-Type': 'image/jpeg', 'Cache-Control': 'private, max-age=31536000, immutable' },
  });
});
