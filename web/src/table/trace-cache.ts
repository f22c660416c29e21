import { cutWalls, type CutWalls } from '@calque/core/building';
import { ofType, type Line, type Model, type Wall } from '@calque/core/model';
import { traceSnapper, type Snapper } from '@calque/core/snapping';

export interface TraceOfStorey { walls: Wall[]; lines: Line[]; cut: CutWalls; snapper: Snapper }

/** What has been traced on each storey, walls cut to one another; made again only when that storey's elements change. */
export class TraceCache {
  private readonly storeys = new Map<string, { members: (Wall | Line)[]; trace: TraceOfStorey }>();

  of(model: Model, storeyId: string): TraceOfStorey {
    const walls = ofType(model, 'wall').filter((w) => w.storeyId === storeyId);
    const lines = ofType(model, 'line').filter((l) => l.storeyId === storeyId);
    const members = [...walls, ...lines];
    const known = this.storeys.get(storeyId);
    // Entities are never changed in place: the same objects mean the same trace.
    if (known && known.members.length === members.length && known.members.every((m, i) => m === members[i])) return known.trace;
    const cut = cutWalls(walls);
    const axes = members.map((m) => [m.from[0], m.from[1], m.to[0], m.to[1]] as const);
    const trace = { walls, lines, cut, snapper: traceSnapper([...axes, ...cut.faces]) };
    this.storeys.set(storeyId, { members, trace });
    return trace;
  }
}
