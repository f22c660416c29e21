import {
  placeInRoom,
  regionOfRoom,
  roomAt,
  roomsWithin,
  roomWords,
  type Room,
  type RoomWords,
} from '@calque/core/building';
import { regionContains, type Point } from '@calque/core/geometry';
import { group, ofType, type Change, type Space } from '@calque/core/model';
import { elementOf, sourceOf } from '@/drawing/drawn';
import { textsWithin } from '@/drawing/sheet-texts';
import { useTraceState } from '@/drawing/state';
import { traceHere } from '@/table/hit';
import { kept } from '@/table/painters/kept';
import type { Table } from '@/table/table';
import type { TraceOfPlane } from '@/table/trace-cache';

const found = kept(({ walls, open }: TraceOfPlane): readonly Room[] => roomsWithin(walls, open).rooms);

/** What the walls of the plane in hand enclose now; found at once where the worker has not come to it yet. */
export function roomsHere(table: Table): readonly Room[] {
  const trace = traceHere(table);
  return trace.rooms ?? found(trace);
}

/** What the visible sheets of the plane write in a room. */
function wordsIn(table: Table, room: Room): RoomWords {
  const region = regionOfRoom(room),
    texts = textsWithin(table, table.state.getState().planeId, room.outline);
  return roomWords(texts.filter(({ at }) => regionContains(region, at[0], at[1])));
}

/** The room as an element, named by what the sheets write in it. */
function spaceOf(table: Table, room: Room, at: Point = placeInRoom(room)): Space {
  return elementOf(
    table,
    {
      type: 'space',
      at: [at[0], at[1]],
      letters: useTraceState.getState().textHeight,
      ...wordsIn(table, room),
    },
    sourceOf(table, []),
  ) as Space;
}

/** The rooms of the plane that are elements already. */
const spacesHere = (table: Table): Space[] =>
  ofType(table.session.state.model, 'space').filter((s) => s.planeId === table.state.getState().planeId);

/** Is a room one already? */
export const spaceIn = (table: Table, room: Room): Space | null => {
  const region = regionOfRoom(room);
  return spacesHere(table).find((s) => regionContains(region, s.at[0], s.at[1])) ?? null;
};

/** Makes a room of what walls enclose around a point; says why where there is none, or it is one already. */
export function makeRoomAt(table: Table, at: Point): string | null {
  const room = roomAt(roomsHere(table), at);
  if (!room)
    return 'No walls close around this point. Where a wall is missing draw it; where rooms run into one another, an open boundary.';
  const known = spaceIn(table, room);
  if (known) {
    table.setSelection([known.id]);
    return `This is a room already${known.name ? `: ${known.name}` : ''}. It is selected.`;
  }
  const entity = spaceOf(table, room);
  table.session.do(
    { type: 'add', entity },
    `Make a room${entity.name ? `: ${entity.name}` : ''}`.slice(0, 190),
  );
  return null;
}

/** Makes rooms of all that walls enclose on the plane and that is none yet, as one step. */
export function makeAllRooms(table: Table): void {
  const rooms = roomsHere(table),
    fresh = rooms.filter((r) => !spaceIn(table, r));
  if (fresh.length === 0) {
    table.session.tell(
      rooms.length === 0
        ? 'The walls of this storey enclose nothing yet: rooms are made where they close.'
        : 'All that the walls enclose are rooms already.',
      rooms.length === 0,
    );
    return;
  }
  const spaces = fresh.map((r) => spaceOf(table, r)),
    named = spaces.filter((s) => s.name !== '').length;
  const added = spaces.map((entity): Change => ({ type: 'add', entity }));
  if (!table.session.do(group(added), spaces.length === 1 ? 'Make a room' : `Make ${spaces.length} rooms`))
    return;
  table.setSelection(spaces.map((s) => s.id));
  table.session.tell(
    `${spaces.length === 1 ? 'One room was' : `${spaces.length} rooms were`} made, ${named} of them named by the sheet.`,
  );
}
