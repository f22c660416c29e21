import { get, setFields, type WorkPlane } from '@calque/core/model';
import type { CommonEdge } from '@calque/core/part';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Brush } from '@/table/brush';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';
import { viewEdgesOf } from '@/table/view-edges';

/** An edge of another view is meant by a pick so near to it, CSS pixels. */
const REACH = 14;

/**
 * Lays a view against another by an edge that both have: a corner or edge of this view is clicked, then the dashed edge of the other view that it is. The
 * plane moves in the part along that one axis, with its sheet and all that is drawn on it.
 */
export class AlignViewTool implements Tool {
  readonly id = 'part-align-view';
  readonly cursor = 'crosshair';
  private from: [number, number] | null = null;
  private hover: CommonEdge | null = null;

  constructor(private readonly table: Table) {}

  get snaps(): boolean {
    return this.from === null;
  }
  words = (): string =>
    this.from === null
      ? 'Click a corner or an edge of this view · Esc leaves it'
      : 'Click the dashed edge of the other view that it is · Esc goes back';
  instead = (): string | null =>
    this.from === null ? null : this.hover ? `edge on ${this.nameOf(this.hover)}` : '';
  anchor = (): [number, number] | null => null;

  private nameOf({ planeId }: CommonEdge): string {
    return get(this.table.session.state.model, 'plane', planeId)?.name ?? 'another view';
  }
  private get planeId(): string {
    return this.table.state.getState().planeId;
  }

  private near({ bare }: Pick): CommonEdge | null {
    const { model } = this.table.session.state,
      { scale } = this.table.state.getState().view;
    let best: CommonEdge | null = null,
      least = REACH / scale;
    for (const e of viewEdgesOf(model, this.planeId)?.edges ?? []) {
      const far = Math.abs(e.at - bare[e.axis === 'x' ? 0 : 1]);
      if (far < least) [best, least] = [e, far];
    }
    return best;
  }

  move(pick: Pick): void {
    this.hover = this.from === null ? null : this.near(pick);
  }

  press(pick: Pick): void {
    const { session } = this.table;
    if (this.from === null) {
      this.from = pick.plane;
      this.table.showTool();
      return;
    }
    const edge = this.near(pick),
      plane = get(session.state.model, 'plane', this.planeId);
    if (!edge || !plane) {
      session.tell('No edge of another view lies there: click one of the dashed lines.', true);
      return;
    }
    const by = edge.at - this.from[edge.axis === 'x' ? 0 : 1],
      way = edge.axis === 'x' ? plane.across : plane.up,
      // Where this view is drawn is the edge of the other one: its plane lies so much farther.
      origin = plane.origin.map((v, k) => v + way[k] * by) as WorkPlane['origin'];
    const name = this.nameOf(edge);
    if (Math.abs(by) < 1e-9) session.tell(`It lies on that edge of ${name} already.`);
    else if (session.do(setFields<WorkPlane>(plane, { origin }), `Align ${plane.name} with ${name}`))
      session.tell(
        `${plane.name} lies by ${name}: moved by ${formatLengthWithUnit(Math.abs(by), lengthStyle(session.state.model))} ${edge.axis === 'x' ? 'across' : 'up'}.`,
      );
    this.table.layDown();
  }

  paint(brush: Brush): void {
    const { context, palette } = brush;
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    if (this.from) {
      const [x, y] = brush.at(this.from);
      context.beginPath();
      context.arc(x, y, 6, 0, 2 * Math.PI);
      context.stroke();
    }
    if (this.hover) {
      const [x, y] = brush.at([this.hover.at, this.hover.at]),
        { width, height } = this.table.state.getState().size;
      context.beginPath();
      if (this.hover.axis === 'x') {
        context.moveTo(x, 0);
        context.lineTo(x, height);
      } else {
        context.moveTo(0, y);
        context.lineTo(width, y);
      }
      context.stroke();
    }
    context.restore();
  }

  cancel(): boolean {
    if (this.from === null) return false;
    this.from = this.hover = null;
    return true;
  }
}
