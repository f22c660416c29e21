import { chainRuns, joinInLine } from '@calque/core/conversion';
import { segmentPiece, type Piece } from '@calque/core/geometry';
import {
  group,
  isRun,
  piecesOf,
  plainestFor,
  removeElements,
  type Change,
  type Runs,
} from '@calque/core/model';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';

/** Ends that lie this near to one another are joined, millimetres. */
const MEETS = 1;

/** Joins what is selected where it meets end on end; lines in line become one. The first of them gives layer and source. */
export function joinChosen(table: Table): void {
  const chosen = chosenTraced(table).filter(
    (e): e is Exclude<Runs, { type: 'wall' | 'gridLine' }> =>
      isRun(e) && e.type !== 'wall' && e.type !== 'gridLine',
  );
  const runs = runsOf(chosen);
  if (runs.length === 0 || runs.length >= chosen.length) {
    table.session.tell(
      chosen.length < 2
        ? 'Select lines, arcs or paths that meet: at least two of them.'
        : 'None of these meet end on end: trim or extend them to one another first.',
      true,
    );
    return;
  }
  const joined = runs.map((r) =>
    plainestFor(r.pieces, { ...like(chosen[0]), id: crypto.randomUUID() }, r.closed),
  );
  if (joined.some((e) => e === null)) {
    table.session.tell('Free curves cannot be one path with lines and arcs: join those alone.', true);
    return;
  }
  const added = joined.filter((e) => e !== null);
  if (
    table.session.do(
      group([
        removeElements(table.session.state.model, chosen),
        ...added.map((entity): Change => ({ type: 'add', entity })),
      ]),
      `Join ${chosen.length} elements`,
    )
  )
    table.setSelection(added.map((e) => e.id));
}

const like = (e: Exclude<Runs, { type: 'wall' | 'gridLine' }>) => ({
  planeId: e.planeId,
  source: e.source,
  ...(e.layerId && { layerId: e.layerId }),
  ...(e.dash && { dash: e.dash }),
});

function runsOf(chosen: readonly Runs[]): { pieces: Piece[]; closed: boolean }[] {
  const pieces = chosen.flatMap((e) => piecesOf(e));
  const lines = joinInLine(
    Float64Array.from(
      pieces.flatMap((p) => (p.kind === 'segment' ? [p.from[0], p.from[1], p.to[0], p.to[1]] : [])),
    ),
  );
  const straight = Array.from({ length: lines.length / 4 }, (_, i): Piece =>
    segmentPiece([lines[4 * i], lines[4 * i + 1]], [lines[4 * i + 2], lines[4 * i + 3]]),
  );
  return chainRuns([...straight, ...pieces.filter((p) => p.kind !== 'segment')], MEETS);
}
