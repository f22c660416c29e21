import { compose, mirrorIn, rotationAbout, scalingAbout, translation, type Point, type Transform } from '@calque/core/geometry';
import { group, movedBy, setFields, type Change, type Traced } from '@calque/core/model';
import { formatLength, formatNumber, parseAngle, parseLength } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import { EditTool, type EditPlan } from '@/table/tools/edit-tool';
import { angleOf, distance } from '@/table/tools/geometry';

type Edit = 'move' | 'copy' | 'turn' | 'mirror' | 'scale';

export const canEdit = (table: Table): boolean => chosenTraced(table).length > 0;

const LABELS: Record<Edit, string> = { move: 'Move', copy: 'Copy', turn: 'Turn', mirror: 'Mirror', scale: 'Scale' };

/** Takes the tool that moves, copies, turns, mirrors or scales what is selected. */
export function takeEditTool(table: Table, edit: Edit): void {
  const selection = [...table.state.getState().selection];
  if (!canEdit(table)) {
    table.session.tell('Select what is to be changed first: click it, or drag a box.', false);
    table.layDown();
    return;
  }
  const finish = (ids: readonly string[]) => {
    table.layDown();
    table.setSelection(ids);
  };
  let after = selection;
  table.take(new EditTool(planOf(table, edit), {
    chosen: () => chosenTraced(table),
    apply: (map, copies) => {
      const chosen = chosenTraced(table);
      const things = chosen.length === 1 ? 'an element' : `${chosen.length} elements`;
      if (copies === 0) return table.session.do(group(chosen.map((e) => moved(e, map))), `${LABELS[edit]} ${things}`);
      const added: Traced[] = [];
      let step: Transform = map;
      for (let i = 0; i < copies; i++, step = compose(map, step)) for (const e of chosen) added.push({ ...movedBy(e, step), id: crypto.randomUUID() });
      after = added.map((e) => e.id);
      return table.session.do(group(added.map((entity): Change => ({ type: 'add', entity }))), `${edit === 'mirror' ? 'Mirror a copy of' : edit === 'turn' ? 'Turn copies of' : 'Copy'} ${things}`);
    },
    done: () => finish(after),
  }, edit === 'copy'));
  // Taking a tool up lets go of nothing: what is selected stays lit.
  table.setSelection(selection);
}

function moved(e: Traced, map: Transform): Change | null {
  const { id: _, type: __, ...fields } = movedBy(e, map);
  return setFields(e, fields);
}

function planOf(table: Table, edit: Edit): EditPlan {
  const style = () => lengthStyle(table.session.state.model);
  const length = (text: string | undefined, live: number): number | string => {
    if (!text?.trim()) return live;
    const parsed = parseLength(text, style().units);
    return parsed.ok ? parsed.mm : `"${text}" is not a length. Type it as 5250, 5.25 m or 3*1200+50.`;
  };
  if (edit === 'move' || edit === 'copy') {
    return {
      id: edit, verb: 'Move', keeps: true, livesAfter: 1, steps: ['pick the point to move from', 'pick where it goes, or type how far'],
      map: ([a, b]) => translation(b[0] - a[0], b[1] - a[1]),
      fields: ([a], live) => [
        { id: 'right', label: 'right', unit: 'length', live: formatLength(live[0] - a[0], style()) },
        { id: 'up', label: 'up', unit: 'length', live: formatLength(live[1] - a[1], style()) },
      ],
      // One typed figure alone means along that axis.
      typed: ([a], values, live) => {
        const one = [values.right, values.up].filter((v) => v?.trim()).length === 1;
        const right = length(values.right, one ? 0 : live[0] - a[0]), up = length(values.up, one ? 0 : live[1] - a[1]);
        if (typeof right === 'string') return right;
        if (typeof up === 'string') return up;
        return translation(right, up);
      },
    };
  }
  if (edit === 'turn') {
    return {
      id: edit, verb: 'Turn', keeps: true, livesAfter: 2, steps: ['pick the point to turn about', 'pick a direction from it', 'pick where that direction goes, or type the angle'],
      map: ([c, from, to]) => rotationAbout(angleOf(c, to) - angleOf(c, from), c),
      fields: ([c, from], live) => [{ id: 'angle', label: 'angle', unit: 'angle', live: `${formatNumber(((angleOf(c, live) - angleOf(c, from)) * 180) / Math.PI, 1)}°` }],
      typed: ([c, from], values, live) => {
        const angle = values.angle?.trim() ? parseAngle(values.angle) : angleOf(c, live) - angleOf(c, from);
        return angle === null ? `"${values.angle}" is not an angle. Type degrees, such as 90 or 24.5.` : rotationAbout(angle, c);
      },
    };
  }
  if (edit === 'mirror') {
    return { id: edit, verb: 'Mirror', keeps: true, livesAfter: 1, steps: ['pick a point of the line to mirror in', 'pick another point of it'], map: ([a, b]) => mirrorIn(a, b) };
  }
  return {
    id: edit, verb: 'Scale', keeps: false, livesAfter: 2, steps: ['pick the point that stays', 'pick a point at a length that you know', 'pick where it goes, or type the factor or the length'],
    map: ([c, from, to]) => scaled(c, distance(c, to) / distance(c, from)),
    fields: ([c, from], live) => [
      { id: 'factor', label: 'factor', unit: 'number', live: formatNumber(distance(c, live) / distance(c, from), 3) },
      { id: 'length', label: 'length', unit: 'length', live: formatLength(distance(c, live), style()) },
    ],
    typed: ([c, from], values, live) => {
      if (values.factor?.trim()) {
        const factor = Number(values.factor.replace(',', '.'));
        return factor > 0 && factor < MOST_FACTOR ? scaled(c, factor)! : `"${values.factor}" is not a factor. Type a number above 0, such as 1.5.`;
      }
      const to = length(values.length, distance(c, live));
      if (typeof to === 'string') return to;
      return to > 0 ? scaled(c, to / distance(c, from))! : 'The length must be above 0.';
    },
  };
}

const MOST_FACTOR = 1e6;
const scaled = (c: Point, factor: number): Transform | null => (factor > 0 && Number.isFinite(factor) ? scalingAbout(factor, c) : null);
