import { openingWords, wordsOutline, type OpeningPrinted, type WallBand } from '@calque/core/building';
import type { OpeningKind } from '@calque/core/model';
import { textsWithin } from '@/drawing/sheet-texts';
import type { Table } from '@/table/table';

/** What the visible sheets of the plane in hand write beside an opening of a wall. */
export const printedBeside = (
  table: Table,
  kind: OpeningKind,
  band: WallBand,
  from: number,
  to: number,
): OpeningPrinted =>
  openingWords(
    textsWithin(table, table.state.getState().planeId, wordsOutline(band, from, to)),
    kind,
    band,
    from,
    to,
  );
