import {
  compose,
  mirrorIn,
  rotationAbout,
  scalingAbout,
  translation,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { copiesOf, toldApart, group, movedBy, replaced, type Change, type Traced } from '@calque/core/model';
import { formatNumber, parseAngle, type LengthStyle } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import { EditTool, type EditPlan } from '@/table/tools/edit-tool';
import { rowPlans } from './row-plans';
import { angleField, angleOf, distance, lengthField, typedLength, typedPoint } from '@/table/tools/geometry';

type Edit = 'move' | 'copy' | 'row' | 'turn' | 'mirror' | 'scale' | 'align';

export const canEdit = (table: Table): boolean => chosenTraced(table).length > 0;

const LABELS: Record<Edit, string> = {
  move: 'Move',
  copy: 'Copy',
  row: 'Copy',
  turn: 'Turn',
  mirror: 'Mirror',
  scale: 'Scale',
  align: 'Align',
};

/** Takes the tool that moves, copies, turns, mirrors or scales what is selected. */
export function takeEditTool(table: Table, edit: Edit, scaling = false): void {
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
  table.hold(
    new EditTool(
      planOf(table, edit, scaling),
      {
        chosen: () => chosenTraced(table),
        apply: (map, copies) => {
          const chosen = chosenTraced(table);
          const things = chosen.length === 1 ? 'an element' : `${chosen.length} elements`;
          if (copies === 0)
            return table.session.do(
              group(chosen.map((e) => replaced(e, movedBy(e, map)))),
              `${LABELS[edit]} ${things}`,
            );
          const added: Traced[] = [];
          let step: Transform = map;
          for (let i = 0; i < copies; i++, step = compose(map, step))
            added.push(
              ...copiesOf(chosen, () => crypto.randomUUID(), table.session.state.model).map((e) =>
                movedBy(e, step),
              ),
            );
          after = added.map((e) => e.id);
          return table.session.do(
            group(
              toldApart(table.session.state.model, added).map((entity): Change => ({
                type: 'add',
                entity,
              })),
            ),
            `${edit === 'mirror' ? 'Mirror a copy of' : edit === 'turn' ? 'Turn copies of' : 'Copy'} ${things}`,
          );
        },
        done: () => finish(after),
      },
      edit === 'copy',
    ),
  );
  // Taking a tool up lets go of nothing: what is selected stays lit.
  table.setSelection(selection);
}

function planOf(table: Table, edit: Edit, scaling: boolean): EditPlan {
  const style = () => lengthStyle(table.session.state.model);
  if (edit === 'move' || edit === 'copy') {
    return {
      id: edit,
      verb: 'Move',
      keeps: true,
      livesAfter: 1,
      steps: ['pick the point to move from', 'pick where it goes, or type how far'],
      map: ([a, b]) => translation(b[0] - a[0], b[1] - a[1]),
      fields: ([a], live) => [
        lengthField('right', 'right', live[0] - a[0], style()),
        lengthField('up', 'up', live[1] - a[1], style()),
      ],
      typed: ([a], values, live) => {
        const to = typedPoint(values, a, live, style());
        return typeof to === 'string' ? to : translation(to[0] - a[0], to[1] - a[1]);
      },
    };
  }
  if (edit === 'turn') {
    return {
      id: edit,
      verb: 'Turn',
      keeps: true,
      livesAfter: 2,
      steps: [
        'pick the point to turn about',
        'pick a direction from it',
        'pick where that direction goes, or type the angle',
      ],
      map: ([c, from, to]) => rotationAbout(angleOf(c, to) - angleOf(c, from), c),
      fields: ([c, from], live) => [angleField('angle', 'angle', angleOf(c, live) - angleOf(c, from))],
      typed: ([c, from], values, live) => {
        const angle = values.angle?.trim() ? parseAngle(values.angle) : angleOf(c, live) - angleOf(c, from);
        return angle === null
          ? `"${values.angle}" is not an angle. Type degrees, such as 90 or 24.5.`
          : rotationAbout(angle, c);
      },
    };
  }
  if (edit === 'mirror') {
    return {
      id: edit,
      verb: 'Mirror',
      keeps: true,
      livesAfter: 1,
      steps: ['pick a point of the line to mirror in', 'pick another point of it'],
      map: ([a, b]) => mirrorIn(a, b),
    };
  }
  if (edit === 'align') return alignPlans(style, scaling);
  if (edit === 'row') return rowPlans(style);
  return {
    id: edit,
    verb: 'Scale',
    keeps: false,
    livesAfter: 2,
    steps: [
      'pick the point that stays',
      'pick a point at a length that you know',
      'pick where it goes, or type the factor or the length',
    ],
    map: ([c, from, to]) => scaled(c, distance(c, to) / distance(c, from)),
    fields: ([c, from], live) => [
      {
        id: 'factor',
        label: 'factor',
        unit: 'number',
        live: formatNumber(distance(c, live) / distance(c, from), 3),
      },
      lengthField('length', 'length', distance(c, live), style()),
    ],
    typed: ([c, from], values, live) => {
      if (values.factor?.trim()) {
        const factor = Number(values.factor.replace(',', '.'));
        return factor > 0 && factor < MOST_FACTOR
          ? scaled(c, factor)!
          : `"${values.factor}" is not a factor. Type a number above 0, such as 1.5.`;
      }
      const to = typedLength(values.length, distance(c, live), style());
      if (typeof to === 'string') return to;
      return to > 0 ? scaled(c, to / distance(c, from))! : 'The length must be above 0.';
    },
  };
}

/** Two points onto two others: turned to lie along them, or scaled to reach them as well. */
function alignPlans(style: () => LengthStyle, scaling: boolean): EditPlan {
  const plan = (scaled: boolean): EditPlan => ({
    id: 'align',
    verb: scaled ? 'Align and scale' : 'Align',
    keeps: true,
    livesAfter: 1,
    steps: [
      'pick a first point',
      'pick where it goes',
      'pick a second point',
      scaled
        ? 'pick where it goes, such as the other end of a line of true length, or type the true length between the two'
        : 'pick where it goes, or lies along',
    ],
    ...(scaled && {
      fields: ([, to, b]: readonly Point[], live: Point) =>
        b ? [lengthField('length', 'true length', distance(to, live), style())] : [],
      typed: ([a, to, b]: readonly Point[], values: Record<string, string>, live: Point) => {
        const length = typedLength(values.length, distance(to, live), style());
        if (typeof length === 'string') return length;
        if (length <= 0 || distance(to, live) === 0)
          return 'The length must be above 0, and the cursor beside the first point, in the direction that is meant.';
        const k = length / distance(to, live);
        return onto(a, to, b, [to[0] + k * (live[0] - to[0]), to[1] + k * (live[1] - to[1])], true);
      },
    }),
    map: ([a, to, b, along]) => {
      if (!along) return translation(to[0] - a[0], to[1] - a[1]);
      return onto(a, to, b, along, scaled);
    },
  });
  const [plain, scaled] = [plan(false), plan(true)];
  plain.other = scaled;
  scaled.other = plain;
  return scaling ? scaled : plain;
}

function onto(a: Point, to: Point, b: Point, along: Point, scaled: boolean): Transform | null {
  if (distance(a, b) === 0 || distance(to, along) === 0) return null;
  return compose(
    scalingAbout(scaled ? distance(to, along) / distance(a, b) : 1, to),
    compose(rotationAbout(angleOf(to, along) - angleOf(a, b), to), translation(to[0] - a[0], to[1] - a[1])),
  );
}

const MOST_FACTOR = 1e6;
const scaled = (c: Point, factor: number): Transform | null =>
  factor > 0 && Number.isFinite(factor) ? scalingAbout(factor, c) : null;
