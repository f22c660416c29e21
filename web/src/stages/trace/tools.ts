import { bandOf, plainBody } from '@calque/core/building';
import {
  applyTransform,
  betweenParallels,
  footOnLine,
  invertTransform,
  type Point,
} from '@calque/core/geometry';
import { get, setFields, USUAL_STOREY_HEIGHT, type Wall, type WallAlignment } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';
import { ChainTool, type Link } from '@/table/tools/chain-tool';
import { distance } from '@/table/tools/geometry';
import { PicksTool } from '@/table/tools/picks-tool';
import { ringPath, segmentPath } from '@/table/painters/trace';
import { elementOf, sourceOf, type Found } from './draw/drawn';
import { nextWay } from './draw';
import { useTraceState } from './state';

const NEXT: Record<WallAlignment, WallAlignment> = { centre: 'left', left: 'right', right: 'centre' };
export const ALIGNMENT_WORDS: Record<WallAlignment, string> = {
  centre: 'centre',
  left: 'left face',
  right: 'right face',
};

const endsOfLink = (link: Link): Found[] =>
  [link.snappedFrom, link.snappedTo].map((snapped) => ({ snapped, typed: link.typed, ink: link.ink }));

const style = (table: Table) => lengthStyle(table.session.state.model);

/** Walls by a chain of clicks. */
export function takeWallTool(table: Table): void {
  const put = (link: Link): boolean => {
    const { planeId } = table.state.getState();
    const storey = get(table.session.state.model, 'storey', planeId);
    const { thickness, thicknessFrom, alignment } = useTraceState.getState();
    const entity = elementOf(
      table,
      {
        type: 'wall',
        from: link.from,
        to: link.to,
        thickness,
        alignment,
        height: storey?.height ?? USUAL_STOREY_HEIGHT,
        heightAssumed: storey?.heightAssumed ?? true,
      },
      sourceOf(table, endsOfLink(link), thicknessFrom),
    );
    return table.session.do({ type: 'add', entity }, 'Draw a wall');
  };
  table.take(
    new ChainTool('wall', 'Wall', {
      style: () => style(table),
      put,
      takeBack: () => table.session.undo(),
      detail: () => {
        const { thickness, alignment } = useTraceState.getState();
        return `${formatLengthWithUnit(thickness, style(table))} thick, drawn on the ${ALIGNMENT_WORDS[alignment]} (F flips)`;
      },
      paintLink: (brush, from, to) => {
        if (distance(from, to) < 1e-6) return;
        const { thickness, alignment } = useTraceState.getState();
        const band = bandOf({ id: '', from, to, thickness, alignment });
        const { context, ink } = brush;
        context.save();
        context.fillStyle = 'rgba(212,69,31,0.20)';
        context.strokeStyle = ink.now;
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

export function takeLineTool(table: Table): void {
  table.take(
    new ChainTool('line', 'Line', {
      style: () => style(table),
      put: (link) =>
        table.session.do(
          {
            type: 'add',
            entity: elementOf(
              table,
              { type: 'line', from: link.from, to: link.to },
              sourceOf(table, endsOfLink(link)),
            ),
          },
          'Draw a line',
        ),
      takeBack: () => table.session.undo(),
      detail: () => '',
      paintLink: (brush, from, to) => {
        const { context, ink } = brush;
        context.save();
        context.strokeStyle = ink.now;
        context.lineWidth = 2;
        context.beginPath();
        segmentPath(brush, from, to);
        context.stroke();
        context.restore();
      },
    }),
  );
}

/** Reads the lines of the current scan; once read, shows them or hides them. */
export function readInk(table: Table): void {
  const { model, files } = table.session.state;
  const u = get(model, 'underlay', table.state.getState().underlayId);
  const file = files.find((f) => f.id === u?.fileId),
    sheet = file?.sheets.find((s) => s.page === u?.page);
  if (!u || !file || !sheet) return;
  const ink = table.inks.of(u);
  if (ink?.state === 'read') table.inks.show(u, !ink.shown);
  else if (ink?.state !== 'reading') void table.inks.read(file, sheet);
}

/** Fits a line, a corner or an arc to the ink of the current scan under the cursor; picks find it from then on. */
export async function fitInk(table: Table): Promise<void> {
  const { model, files } = table.session.state,
    { pointer, underlayId } = table.state.getState();
  const u = get(model, 'underlay', underlayId),
    file = files.find((f) => f.id === u?.fileId),
    sheet = file?.sheets.find((s) => s.page === u?.page);
  if (!u || !file || !sheet || !pointer || !table.lastPick) return;
  if (sheet.content === 'vector') {
    table.session.tell(`${u.name} has lines of its own: picks find those.`);
    return;
  }
  try {
    const fits = await table.inks.fit(
      file,
      sheet,
      applyTransform(invertTransform(u.placement), table.lastPick.bare),
    );
    if (fits === 0) table.session.tell('There is no line or arc in the ink under the cursor.');
    table.look();
  } catch (error) {
    table.session.tell(error instanceof Error ? error.message : String(error), true);
  }
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
      { type: 'group', changes: walls.map((w) => setFields(w, { alignment })).filter((c) => c !== null) },
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
  table.take(
    new PicksTool({
      id: 'thickness',
      steps: [
        'Thickness: pick one face of a wall on the plan',
        'Pick its other face, square across · Shift holds the axis',
      ],
      measure: (a, b) => formatLengthWithUnit(squareAcross(a, b), style(table)),
      done: ([a, b]) => {
        const thickness = squareAcross(a, b);
        if (thickness < 1e-6) return;
        useTraceState.getState().setThickness(thickness, 'measured');
        const walls = [...selection]
          .map((id) => get(table.session.state.model, 'wall', id))
          .filter((w): w is Wall => w !== null);
        if (walls.length > 0) {
          const changes = walls
            .map((w) => setFields(w, { thickness, source: { ...w.source, thickness: 'measured' } }))
            .filter((c) => c !== null);
          table.session.do({ type: 'group', changes }, 'Measure a thickness');
          table.layDown();
          table.setSelection(selection);
        } else takeWallTool(table);
      },
    }),
  );
}
