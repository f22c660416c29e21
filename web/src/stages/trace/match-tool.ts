import { group, setFields, type Traced } from '@calque/core/model';
import { chosenTraced, tracedAt } from '@/table/hit';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';

/** What an element can hand on to others of its kind, beside its layer. */
function properties(from: Traced, to: Traced): Partial<Traced> {
  const layerId = from.layerId ?? null;
  if (from.type === 'wall' && to.type === 'wall')
    return {
      layerId,
      thickness: from.thickness,
      base: from.base ?? null,
      top: from.top ?? null,
      underRoof: from.underRoof ?? null,
      height: from.height,
      heightAssumed: from.heightAssumed,
      alignment: from.alignment,
      wallType: from.wallType ?? null,
      firstLayer: from.firstLayer ?? null,
      inset: from.inset ?? null,
    };
  if ((from.type === 'text' && to.type === 'text') || (from.type === 'dimension' && to.type === 'dimension'))
    return { layerId, height: from.height };
  if (from.type === 'area' && to.type === 'area') return { layerId, fill: from.fill, figure: from.figure };
  const dashes = (e: Traced) =>
    e.type === 'line' || e.type === 'arc' || e.type === 'path' || e.type === 'spline';
  return dashes(from) && dashes(to)
    ? ({ layerId, dash: 'dash' in from ? (from.dash ?? null) : null } as Partial<Traced>)
    : { layerId };
}

/** Gives what is selected the properties of an element that is clicked. */
class MatchTool implements Tool {
  readonly id = 'match';
  readonly snaps = false;
  readonly cursor = 'crosshair';

  constructor(
    private readonly table: Table,
    private readonly chosen: readonly string[],
  ) {}

  words(): string {
    return 'Match: click the element whose layer, thickness, dashes and the like they are to take · Esc ends';
  }

  press(pick: Pick): void {
    const from = tracedAt(this.table, pick.bare);
    if (!from) return;
    this.table.setSelection(this.chosen);
    const targets = chosenTraced(this.table).filter((e) => e.id !== from.id);
    this.table.session.do(
      group(targets.map((e) => setFields<Traced>(e, properties(from, e)))),
      targets.length === 1 ? 'Match an element' : `Match ${targets.length} elements`,
    );
    this.table.layDown();
    this.table.setSelection(this.chosen);
  }

  cancel(): boolean {
    return false;
  }
}

export function takeMatchTool(table: Table): void {
  const chosen = [...table.state.getState().selection];
  if (chosen.length === 0) {
    table.session.tell('Select what is to be changed first: click it, or drag a box.');
    return;
  }
  table.hold(new MatchTool(table, chosen));
  table.setSelection(chosen);
}
