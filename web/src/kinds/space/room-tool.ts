import { roomAt } from '@calque/core/building';
import { formatArea } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Brush } from '@/table/brush';
import { ringPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';
import { makeRoomAt, roomsHere, spaceIn } from './rooms';

/** Makes rooms by pointing into them. */
class RoomTool implements Tool {
  readonly id = 'room';
  readonly snaps = false;
  readonly cursor = 'crosshair';
  private hover: Pick | null = null;

  constructor(private readonly table: Table) {}

  private get room() {
    return this.hover && roomAt(roomsHere(this.table), this.hover.bare);
  }

  words(): string {
    const { room } = this;
    if (!this.hover) return 'Room: click where walls close around it · Esc ends';
    if (!room) return 'Room: no walls close around this point · Esc ends';
    const { units } = lengthStyle(this.table.session.state.model);
    return spaceIn(this.table, room)
      ? 'Room: this is one already, a click selects it · Esc ends'
      : `Room: click to make one of ${formatArea(room.area, units)} · Esc ends`;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    this.hover = pick;
    const why = makeRoomAt(this.table, pick.bare);
    if (why) this.table.session.tell(why);
  }

  paint(brush: Brush): void {
    const { room } = this;
    if (!room) return;
    const { context, palette } = brush;
    context.save();
    context.strokeStyle = palette.now;
    context.fillStyle = 'rgba(212,69,31,0.14)';
    context.lineWidth = 1.5;
    context.beginPath();
    for (const ring of [room.outline, ...room.islands]) ringPath(brush, ring);
    context.fill('evenodd');
    context.stroke();
    context.restore();
  }

  cancel(): boolean {
    return false;
  }
}

export const takeRoomTool = (table: Table): void => table.hold(new RoomTool(table));
