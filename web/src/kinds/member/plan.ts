import { memberLine } from '@calque/core/conversion';
import type { Point } from '@calque/core/geometry';
import { get, isOnePoint, knownSection, USUAL_STOREY_HEIGHT } from '@calque/core/model';
import { pair } from '@/drawing/plan-points';
import type { Shape } from '@/drawing/drawn';
import type { ShapePlan } from '@/drawing/shape-tool';
import { memberAlong, memberAt, useNextMember } from './next-member';
import { linesOf } from '@/drawing/plan-lines';
import type { Table } from '@/table/table';

const NONE = 'It begins where it ends: pick another place.';

/** A line of the sheet is meant within this of the pointer, CSS pixels. */
const REACH_PIXELS = 14;

/** A member along a line that the sheet draws: between two edges that lie as far apart as its section is wide or high, in their middle. */
function alongSheet(table: Table, at: Point): Shape | string {
  const { model } = table.session.state,
    { planeId, underlayId } = table.state.getState(),
    u = get(model, 'underlay', underlayId);
  if (!u || u.planeId !== planeId) return 'Lay a sheet here first, and choose it in the stack.';
  const { lines, why } = linesOf(
    table.session.projectId,
    u,
    () => table.showTool(),
    table.sheets.runsHere?.(u),
  );
  if (!lines) return why ?? 'The lines of the sheet are being made ready: point again in a moment.';
  const near = lines.nearest(at, REACH_PIXELS / table.view.scale, true);
  if (near?.piece.kind !== 'segment') return 'Point at a straight line of the sheet.';
  const { section } = useNextMember.getState(),
    known = knownSection(section),
    found = memberLine(near.piece, known ? [known.b, known.h] : [], (box) =>
      lines.findSolid(box).map((i) => lines.pieces[i]),
    );
  if (isOnePoint(pair(found.from), pair(found.to))) return NONE;
  const member = memberAlong(model, planeId, pair(found.from), pair(found.to));
  // Between its edges lies its middle, whatever line is drawn by hand.
  return found.width === null ? member : { ...member, point: 5 };
}

/** The ways to draw members: by two points, in a chain, or standing at a place of a plan. */
export const MEMBER_PLAN: ShapePlan = {
  id: 'member',
  noun: 'Member',
  label: 'Put a member',
  variants: [
    {
      words: 'by its ends',
      steps: ['click where it begins', 'click where it ends'],
      shape: ([from, to], { table }) =>
        isOnePoint(pair(from), pair(to))
          ? NONE
          : memberAlong(table.session.state.model, table.state.getState().planeId, pair(from), pair(to)),
    },
    {
      words: 'in a chain',
      least: 2,
      steps: ['click where the first begins', 'click where it ends and the next begins'],
      shape: (points, { table }) => {
        const { model } = table.session.state,
          { planeId } = table.state.getState();
        const made = points
          .slice(1)
          .flatMap((to, i): Shape[] =>
            isOnePoint(pair(points[i]), pair(to))
              ? []
              : [memberAlong(model, planeId, pair(points[i]), pair(to))],
          );
        return made.length > 0 ? made : NONE;
      },
    },
    {
      words: 'along what the sheet draws',
      steps: ['point at an edge of the member, or at its line'],
      shape: ([at], { table }) => (at ? alongSheet(table, at) : 'Point at a line of the sheet.'),
    },
    {
      words: 'standing at a place',
      steps: ['click where it stands on the plan'],
      shape: ([at], { table }) => {
        const storey = get(table.session.state.model, 'storey', table.state.getState().planeId);
        return storey || !at
          ? memberAt(pair(at), storey?.height ?? USUAL_STOREY_HEIGHT)
          : 'One that stands is put on the plan of a storey: choose one at the head of the stack.';
      },
    },
  ],
};
