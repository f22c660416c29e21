import { regionOfRoom, roomAt, type Room } from '@calque/core/building';
import { regionContains } from '@calque/core/geometry';
import { spaceLines, type Space } from '@calque/core/model';
import { formatArea } from '@calque/core/units';
import { kept } from '@/table/painters/kept';
import { writeWhereFree } from '@/table/painters/letters';
import type { Painter } from '@/table/painters/painter';
import { PlanePath } from '@/table/painters/plane-path';
import type { ScreenBox } from '@/table/painters/word-room';
import { toPlane } from '@/table/viewport';

const TINT_ALPHA = 0.1;

const fillOf = kept((room: Room) => {
  const path = new PlanePath();
  for (const ring of [room.outline, ...room.islands]) path.ring(ring);
  return path;
});
const regionOf = kept(regionOfRoom);
/** The rooms of elements, found once: by their places. */
const placesIn = kept((_rooms: readonly Room[]) => new Map<string, Room | null>());

function roomOf(rooms: readonly Room[] | null, { at }: Space): Room | null {
  if (!rooms) return null;
  const known = placesIn(rooms),
    key = at.join();
  let room = known.get(key);
  if (room === undefined) known.set(key, (room = roomAt(rooms, at)));
  return room;
}

export const SPACE_PAINTER: Painter<Space> = {
  strokes: false,
  seeksRoom: true,
  below({ brush, alpha, rooms }, e) {
    const room = roomOf(rooms, e);
    if (!room) return;
    brush.context.globalAlpha = alpha * TINT_ALPHA;
    fillOf(room).fill(brush, 'evenodd');
  },
  above({ brush, style, rooms }, e) {
    const room = roomOf(rooms, e),
      { view } = brush;
    const area = room ? formatArea(room.area, style.units) : rooms ? 'walls in sight do not close' : '…';
    const region = room && regionOf(room);
    const within = ([x0, y0, x1, y1]: ScreenBox) =>
      !region ||
      [x0, x1].every((x) => [y0, y1].every((y) => regionContains(region, ...toPlane(view, [x, y]))));
    writeWhereFree(brush, [...spaceLines(e), area], e.at, { reach: 6, fits: within });
  },
};
