import { cutWalls, type CutWalls } from '@calque/core/building';
import type { Polygon } from '@calque/core/geometry';
import { ofType, type Line, type Model, type Wall } from '@calque/core/model';
import { traceSnapper, type Snapper } from '@calque/core/snapping';
import type { FromJoins, ToJoins } from '@/workers/protocol';

export interface TraceOfStorey {
  walls: Wall[];
  lines: Line[];
  cut: CutWalls;
  snapper: Snapper;
  /** The united outlines once the worker has them; until then the cut bodies are painted. */
  outlines: Polygon[] | null;
}

/** Walls are united only when nothing has changed for this long, milliseconds. */
const QUIET_MS = 200;

/** What has been traced on each storey, walls cut to one another; made again only when that storey's elements change. */
export class TraceCache {
  private readonly storeys = new Map<string, { key: number; members: (Wall | Line)[]; trace: TraceOfStorey }>();
  private worker: Worker | null = null;
  private next = 1;
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(private readonly onOutlines: () => void) {}

  of(model: Model, storeyId: string): TraceOfStorey {
    const walls = ofType(model, 'wall').filter((w) => w.storeyId === storeyId);
    const lines = ofType(model, 'line').filter((l) => l.storeyId === storeyId);
    const members = [...walls, ...lines];
    const known = this.storeys.get(storeyId);
    // Entities are never changed in place: the same objects mean the same trace.
    if (known && known.members.length === members.length && known.members.every((m, i) => m === members[i])) return known.trace;
    const cut = cutWalls(walls);
    const axes = members.map((m) => [m.from[0], m.from[1], m.to[0], m.to[1]] as const);
    const trace: TraceOfStorey = { walls, lines, cut, snapper: traceSnapper([...axes, ...cut.faces]), outlines: null };
    const key = this.next++;
    this.storeys.set(storeyId, { key, members, trace });
    this.unite(key, walls);
    return trace;
  }

  private unite(key: number, walls: Wall[]): void {
    if (this.timer) clearTimeout(this.timer);
    if (walls.length === 0) return;
    this.timer = setTimeout(() => {
      this.worker ??= this.start();
      this.worker.postMessage({ key, walls } satisfies ToJoins);
    }, QUIET_MS);
  }

  private start(): Worker {
    const worker = new Worker(new URL('../workers/joins.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromJoins>) => {
      for (const storey of this.storeys.values()) if (storey.key === data.key) storey.trace.outlines = data.outlines;
      this.onOutlines();
    };
    return worker;
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.worker?.terminate();
  }
}
