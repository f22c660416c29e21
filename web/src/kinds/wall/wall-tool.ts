import { bandOf, plainBody } from '@calque/core/building';
import { betweenParallels, footOnLine, type Point } from '@calque/core/geometry';
import {
  faceOfWall,
  get,
  setFields,
  untyped,
  USUAL_STOREY_HEIGHT,
  type Wall,
  type WallAlignment,
  type WallFace,
} from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';
import { ChainTool, type Link } from '@/table/tools/chain-tool';
import { distance } from '@/table/tools/geometry';
import { PicksTool } from '@/table/tools/picks-tool';
import { ringPath, segmentPath } from '@/table/painters/trace';
import { elementOf, sourceOf } from '@/drawing/drawn';
import { endsOfLink, styleOf } from '@/drawing/chain';
import { nextWay } from '@/drawing/next-way';
import { useTraceState } from '@/drawing/state';
import { nextThicknessFrom, nextWall, nextWallType } from './next-wall';

const NEXT: Record<WallAlignment, WallAlignment> = { centre: 'left', left: 'right', right: 'centre' };
const ALIGNMENT_WORDS: Record<WallAlignment, string> = {
  centre: 'centre',
  left: 'left face',
  right: 'right face',
};
export const faceWords = ({ alignment, core }: WallFace): string =>
  core ? `core, ${alignment}` : ALIGNMENT_WORDS[alignment];

/** Walls by a chain of clicks. */
export function takeWallTool(table: Table): void {
  const put = (link: Link): boolean => {
    const { planeId } = table.state.getState();
    const storey = get(table.session.state.model, 'storey', planeId);
    const { model } = table.session.state;
    const entity = elementOf(
      table,
      {
        type: 'wall',
        from: link.from,
        to: link.to,
        ...nextWall(model),
        height: storey?.height ?? USUAL_STOREY_HEIGHT,
        heightAssumed: storey?.heightAssumed ?? true,
      },
      sourceOf(table, endsOfLink(link), nextThicknessFrom(model)),
    );
    return table.session.do({ type: 'add', entity }, 'Draw a wall');
  };
  table.hold(
    new ChainTool('wall', 'Wall', {
      style: () => styleOf(table),
      put,
      takeBack: () => table.session.undo(),
      detail: () => {
        const { model } = table.session.state,
          next = nextWall(model),
          type = nextWallType(model),
          words = formatLengthWithUnit(next.thickness, styleOf(table));
        return `${type ? `${type.name}, ${words}` : `${words} thick`}, drawn on the ${faceWords(faceOfWall(next))} (F flips)`;
      },
      paintLink: (brush, from, to) => {
        if (distance(from, to) < 1e-6) return;
        const band = bandOf({ id: '', from, to, ...nextWall(table.session.state.model) });
        const { context, palette } = brush;
        context.save();
        context.fillStyle = 'rgba(212,69,31,0.20)';
        context.strokeStyle = palette.now;
        context.lineWidth = 1.5;
        context.beginPath();
        ringPath(brush, plainBody(band));
        context.fill();
        context.stroke();
        context.beginPath();
        context.setLineDash([5, 4]);
        segmentPath(brush, from, to);
        context.stroke();
        context.restore();
      },
    }),
  );
}

/** Takes the next way of the tool in hand; with none in hand that has several, flips the alignment of the walls selected or of the next wall. */
export function flipAlignment(table: Table): void {
  if (nextWay(table)) return;
  const { selection } = table.state.getState();
  const walls = [...selection]
    .map((id) => get(table.session.state.model, 'wall', id))
    .filter((w): w is Wall => w !== null);
  if (table.currentTool.id === 'select' && walls.length > 0) {
    const alignment = NEXT[walls[0].alignment];
    table.session.do(
      {
        type: 'group',
        changes: walls.map((w) => setFields(w, { alignment, inset: null })).filter((c) => c !== null),
      },
      'Flip alignment',
    );
    return;
  }
  const { alignment, setAlignment } = useTraceState.getState();
  setAlignment(NEXT[alignment]);
  table.showTool();
}

/** Lines that a pick was made on: a corner lies on several. */
const linesOf = (p: Pick): [Point, Point][] =>
  (p.found?.lit ?? []).flatMap((line) => line.slice(1).map((q, i): [Point, Point] => [line[i], q]));

/**
 * How far apart two picked faces are, square across them, whatever ends or crossings the picks snapped to: between two parallel lines
 * that were picked, or from a picked line to the other pick; of several the one that lies most square to the picks. Without a line, between the picks.
 */
function squareAcross(a: Pick, b: Pick): number {
  const apart = distance(a.plane, b.plane),
    own = linesOf(a),
    other = linesOf(b);
  const pairs = own.flatMap((p) =>
    other.flatMap((q) => {
      const between = betweenParallels(p, q, a.plane);
      return between && between.distance > SAME_LINE ? [between.distance] : [];
    }),
  );
  const feet = [
    ...own.map((line) => [line, b.plane] as const),
    ...other.map((line) => [line, a.plane] as const),
  ].map(([[p, q], at]) => distance(at, footOnLine(at, p, q)));
  // The faces lie about as far apart as the picks do: a line along the way between them is no face.
  const longest = Math.max(0, ...(pairs.length > 0 ? pairs : feet).filter((d) => d <= apart + SAME_LINE));
  return longest > MOSTLY_ACROSS * apart ? longest : apart;
}
/** Lines nearer than this are one, millimetres; picks may lie so askew that no less of their distance is across. */
const SAME_LINE = 1e-3,
  MOSTLY_ACROSS = 0.4;

/** Two picks on the plan give the thickness of the next wall, and of the walls selected. */
export function takeThicknessTool(table: Table): void {
  const { selection } = table.state.getState();
  table.hold(
    new PicksTool({
      id: 'thickness',
      steps: [
        'Thickness: pick one face of a wall on the plan',
        'Pick its other face, square across · Shift holds the axis',
      ],
      measure: (a, b) => formatLengthWithUnit(squareAcross(a, b), styleOf(table)),
      done: ([a, b]) => {
        const thickness = squareAcross(a, b);
        if (thickness < 1e-6) return;
        useTraceState.getState().setThickness(thickness, 'measured');
        const walls = [...selection]
          .map((id) => get(table.session.state.model, 'wall', id))
          .filter((w): w is Wall => w !== null);
        if (walls.length > 0) {
          const changes = walls
            .map((w) =>
              setFields(w, { ...untyped(w, thickness), source: { ...w.source, thickness: 'measured' } }),
            )
            .filter((c) => c !== null);
          table.session.do({ type: 'group', changes }, 'Measure a thickness');
          table.layDown();
          table.setSelection(selection);
        } else if (get(table.session.state.model, 'storey', table.state.getState().planeId))
          takeWallTool(table);
        else table.layDown();
      },
    }),
  );
}
