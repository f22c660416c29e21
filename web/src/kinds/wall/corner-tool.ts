import { cutWalls } from '@calque/core/building';
import type { Point } from '@calque/core/geometry';
import { get, group, setFields, type Wall, type WallEnd } from '@calque/core/model';
import type { Brush } from '@/table/brush';
import { traceHere } from '@/table/hit';
import { ringPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';

/** A corner is meant within this distance of where the drawn lines meet, CSS pixels. */
const REACH_PIXELS = 24;

interface Corner {
  node: Point;
  /** The walls that meet, the first drawn first, with the ends by which they do. */
  walls: readonly [Wall, Wall];
  ends: readonly [WallEnd, WallEnd];
  /** Which of them runs through; -1 where it is mitred. */
  through: -1 | 0 | 1;
}

const NEXT = { [-1]: 0, 0: 1, 1: -1 } as const;

/** With or without running through at one end. */
function running(wall: Wall, end: WallEnd, runs: boolean): Wall['runsThrough'] {
  const others = (wall.runsThrough ?? []).filter((e) => e !== end),
    all = runs ? [...others, end] : others;
  return all.length > 0 ? all : null;
}

/** Goes through the ways in which two walls part a corner: mitred, the one runs through, the other. */
class WallCornerTool implements Tool {
  readonly id = 'wall-corner';
  readonly snaps = false;
  readonly cursor = 'pointer';
  private at: Point | null = null;

  constructor(private readonly table: Table) {}

  words(): string {
    const corner = this.corner();
    if (!corner) return 'Wall corner: point where two straight walls meet in a corner · Esc ends';
    const now = corner.through < 0 ? 'mitred' : 'one wall runs through',
      next = { [-1]: 'mitred', 0: 'one wall run through', 1: 'the other wall run through' }[
        NEXT[corner.through]
      ];
    return `Wall corner: ${now}; click to have it ${next} · Esc ends`;
  }

  move({ bare }: Pick): void {
    this.at = bare;
  }

  private corner(): Corner | null {
    if (!this.at) return null;
    const { cut, locked } = traceHere(this.table),
      { model } = this.table.session.state;
    let nearest = REACH_PIXELS / this.table.view.scale,
      found: Corner | null = null;
    for (const [id, { start, end }] of cut.meets)
      for (const [meeting, own] of [
        [start, 'from'],
        [end, 'to'],
      ] as const) {
        if (meeting?.kind !== 'corner') continue;
        const away = Math.hypot(meeting.node[0] - this.at[0], meeting.node[1] - this.at[1]),
          wall = get(model, 'wall', id),
          other = get(model, 'wall', meeting.other);
        // Walls of a placed group are changed in their group.
        if (away >= nearest || !wall || !other) continue;
        if ([wall, other].some((w) => w.layerId && locked.has(w.layerId))) continue;
        nearest = away;
        found = {
          node: meeting.node,
          walls: [wall, other],
          ends: [own, meeting.otherAtStart ? 'from' : 'to'],
          through: meeting.through === null ? -1 : meeting.through === 'this' ? 0 : 1,
        };
      }
    return found;
  }

  /** The two walls as a click would have them. */
  private next({ walls, ends, through }: Corner): [Wall, Wall] {
    const now = NEXT[through];
    return [
      { ...walls[0], runsThrough: running(walls[0], ends[0], now === 0) },
      { ...walls[1], runsThrough: running(walls[1], ends[1], now === 1) },
    ];
  }

  press({ bare }: Pick): void {
    this.at = bare;
    const corner = this.corner();
    if (!corner) {
      this.table.session.tell('Point where two straight walls meet in a corner.', true);
      return;
    }
    this.table.session.do(
      group(this.next(corner).map((w, i) => setFields(corner.walls[i], { runsThrough: w.runsThrough }))),
      'Change a wall corner',
    );
  }

  paint(brush: Brush): void {
    const corner = this.corner();
    if (!corner) return;
    const { context, palette } = brush,
      { bodies } = cutWalls(this.next(corner));
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    for (const ring of bodies.values()) {
      context.beginPath();
      ringPath(brush, ring);
      context.stroke();
    }
    context.restore();
  }

  cancel(): boolean {
    return false;
  }
}

export const takeWallCornerTool = (table: Table): void => table.hold(new WallCornerTool(table));
