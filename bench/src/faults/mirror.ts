import {
  apply,
  EMPTY_HISTORY,
  gripsOf,
  group,
  isTraced,
  movedBy,
  remember,
  removeElements,
  replaced,
  withGrip,
  type Change,
  type Entity,
  type History,
  type Line,
  type Model,
  type Traced,
} from '@calque/core/model';
import { translation } from '@calque/core/geometry';
import { chance, pickOne } from './chance.ts';

/** The second bookkeeping. */
export class Mirror {
  history: History = EMPTY_HISTORY;
  private n = 0;
  /** `own`: ids of its elements begin so; only those are changed. `undoes`: steps are taken back too. */
  constructor(
    public model: Model,
    private readonly own: string,
    private readonly undoes = true,
  ) {}

  owns(id: string): boolean {
    return id.startsWith(this.own);
  }

  next(): { kind: 'do' | 'undo' | 'redo'; change: Change } {
    const kind =
      this.undoes && chance() < 0.12 && this.history.done.length > 0
        ? 'undo'
        : this.undoes && chance() < 0.06 && this.history.undone.length > 0
          ? 'redo'
          : 'do';
    if (kind === 'undo') return { kind, change: this.history.done.at(-1)!.inverse };
    if (kind === 'redo') return { kind, change: this.history.undone.at(-1)!.again };
    const traced = [...this.model.values()].filter(isTraced).filter((e) => e.id.startsWith(this.own)),
      r = chance();
    const e = traced.length > 0 ? pickOne(traced) : null;
    let change: Change | null = null;
    if (e && r < 0.2) change = removeElements(this.model, [e]);
    else if (e && r < 0.4)
      change = group(
        traced
          .filter(() => chance() < 0.3)
          .map((x) => replaced(x, movedBy(x, translation(Math.round(chance() * 500), 7)))),
      );
    else if (e && r < 0.5) {
      const moved = withGrip(e, Math.floor(chance() * gripsOf(e).length), [chance() * 9000, chance() * 9000]);
      change = moved && replaced(e, moved);
    }
    return { kind, change: change ?? { type: 'add', entity: this.element() } };
  }

  private element(): Traced {
    const line: Line = {
      type: 'line',
      id: `${this.own}${++this.n}`,
      planeId: 'ground',
      from: [chance() * 9000, chance() * 9000],
      to: [chance() * 9000, chance() * 9000 + 1],
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
    };
    const { type: _, to: __, from, ...rest } = line;
    return chance() < 0.5
      ? line
      : chance() < 0.5
        ? { ...rest, type: 'arc', centre: from, radius: 10 + chance() * 500, start: 1, sweep: 2 }
        : { ...rest, type: 'path', points: [from, line.to, [0, 0]], bulges: [0, 0.5], closed: false };
  }

  took({ kind, change }: { kind: 'do' | 'undo' | 'redo'; change: Change }): void {
    const applied = apply(this.model, change);
    if (!applied.ok) throw new Error(`The bookkeeping itself refused a change: ${applied.refusal.code}.`);
    this.model = applied.model;
    const of =
      kind === 'undo'
        ? this.history.done.at(-1)!.id
        : kind === 'redo'
          ? this.history.undone.at(-1)!.id
          : null;
    this.history = remember(this.history, { id: `s${++this.n}`, label: 'x', kind, of, change });
  }
}

/** Entities as text, whatever the order of keys; a field that is null is absent. */
export const plain = (entities: Iterable<Entity>) =>
  JSON.stringify(
    [...entities].sort((a, b) => (a.id < b.id ? -1 : 1)),
    (_, value: unknown) =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.fromEntries(
            Object.entries(value)
              .filter(([, v]) => v !== null)
              .sort(([x], [y]) => (x < y ? -1 : 1)),
          )
        : value,
  );

/** Where entities differ from what they should be, in words; null where nowhere. */
export function difference(entities: readonly Entity[], wanted: Iterable<Entity>): string | null {
  const want = new Map([...wanted].map((e) => [e.id, e])),
    there = new Map(entities.map((e) => [e.id, e]));
  if (plain(want.values()) === plain(there.values())) return null;
  const list = (ids: string[]) =>
    ids.length === 0
      ? 'none'
      : `${ids.slice(0, 8).join(' ')}${ids.length > 8 ? ` and ${ids.length - 8} more` : ''}`;
  const missing = [...want.keys()].filter((id) => !there.has(id)),
    more = [...there.keys()].filter((id) => !want.has(id)),
    other = [...there]
      .filter(([id, e]) => want.has(id) && plain([e]) !== plain([want.get(id)!]))
      .map(([id]) => id);
  return `missing ${list(missing)}; too many ${list(more)}; different ${list(other)}`;
}
