import { groundStorey, setFields, storeysOf, type Change, type Model, type Storey } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { levelAt } from '@/drawing/printed-levels';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';
import { lengthField, typedLength } from '@/table/tools/geometry';
import { PicksTool } from '@/table/tools/picks-tool';

/** What is measured and what is printed differ where they are farther apart than this, millimetres. */
const AGREES = 10;

/** The storey that such a level is of: the nearest. */
function nearestStorey(model: Model, level: number): Storey {
  return storeysOf(model).reduce((a, b) =>
    Math.abs(b.elevation - level) < Math.abs(a.elevation - level) ? b : a,
  );
}

/** The level of a storey from a mark of an upright sheet: the printed figure counts, and what the drawing measures is told beside it. */
export function takeLevelTool(table: Table): void {
  const style = () => lengthStyle(table.session.state.model),
    words = (mm: number) => formatLengthWithUnit(mm, style());
  const seenAt = (pick: Pick) => levelAt(table, pick.plane);
  const offered = (pick: Pick) => {
    const seen = seenAt(pick),
      level = seen?.printed?.level ?? seen?.measured ?? 0;
    return { seen, level, storey: nearestStorey(table.session.state.model, level) };
  };
  const hint = (pick: Pick): string => {
    const { seen } = offered(pick);
    if (!seen?.printed) return 'No figure of a level stands near: this is what the drawing measures there.';
    return Math.abs(seen.printed.level - seen.measured) <= AGREES
      ? `The sheet prints "${seen.printed.text}", and measures as much.`
      : `≠ The sheet prints "${seen.printed.text}", the drawing measures ${words(seen.measured)}: the printed one counts unless you type another.`;
  };
  let change: { change: Change; label: string } | null = null;
  table.hold(
    new PicksTool({
      id: 'storey-level',
      steps: ['Level of a storey: click its level mark or line on the sheet · Esc ends'],
      repeats: true,
      refused: (message) => table.session.tell(message, true),
      ask: ([pick]) => {
        const { level, storey } = offered(pick);
        return {
          required: true,
          fields: [
            { id: 'name', label: 'storey', unit: 'text', live: storey.name },
            lengthField('level', 'level', level, style()),
          ],
          hint: `${hint(pick)} A name that no storey has makes a new one.`,
        };
      },
      submit: ([pick], values) => {
        const { level: live, storey } = offered(pick),
          name = (values.name ?? '').trim() || storey.name,
          level = typedLength(values.level, live, style());
        if (typeof level === 'string') return level;
        if (name.length > 80) return 'The name is too long: at most 80 letters.';
        change = levelChange(table.session.state.model, name, level);
        return null;
      },
      done: () => {
        if (change) table.session.do(change.change, change.label);
        change = null;
      },
    }),
  );
}

/** Sets the level of the storey of that name, or adds one there. */
function levelChange(
  model: Model,
  name: string,
  elevation: number,
): { change: Change; label: string } | null {
  const known = storeysOf(model).find((s) => s.name.toLowerCase() === name.toLowerCase());
  if (known) {
    const change = setFields(known, { elevation });
    return change && { change, label: `Set the level of ${known.name}` };
  }
  const storey: Storey = { ...groundStorey(crypto.randomUUID()), name, elevation };
  return { change: { type: 'add', entity: storey }, label: `Add ${name}` };
}
