import { namedApart, type OpeningKind, type Traced, type WallOpening } from '../kinds/index.ts';
import { ofType, type Model } from './model.ts';

/** Letters of the tags that run on by themselves; gaps and niches have none. */
const LETTERS: Readonly<Record<OpeningKind, string>> = { door: 'D', window: 'W', gap: '', niche: '' };

/** The tags of a project's openings, and the highest number of each letter. */
class Tags {
  private readonly taken = new Set<string>();
  private readonly highest = new Map<string, number>();

  constructor(model: Model) {
    for (const w of ofType(model, 'wall')) for (const o of w.openings ?? []) this.take(o.tag);
  }

  /** A tag is used from now on. */
  take(tag: string): void {
    this.taken.add(tag);
    const running = /^([DW])(\d{1,6})$/.exec(tag);
    if (running)
      this.highest.set(running[1], Math.max(this.highest.get(running[1]) ?? 0, Number(running[2])));
  }

  next(kind: OpeningKind): string {
    const letter = LETTERS[kind];
    if (letter === '') return '';
    return `${letter}${String((this.highest.get(letter) ?? 0) + 1).padStart(2, '0')}`;
  }

  /** A copy of an opening: where its tag runs on by itself and is used already, with the next. */
  apart(o: WallOpening): WallOpening {
    const runs = LETTERS[o.kind] !== '' && new RegExp(`^${LETTERS[o.kind]}\\d{1,6}$`).test(o.tag),
      copy = runs && this.taken.has(o.tag) ? { ...o, tag: this.next(o.kind) } : o;
    this.take(copy.tag);
    return copy;
  }
}

/** The next tag of its kind in the project: D01, D02 …; gaps and niches have none. */
export const nextTag = (model: Model, kind: OpeningKind): string => new Tags(model).next(kind);

/** Copies that are to be added, their openings under tags of their own where those run on by themselves. */
export function taggedApart(model: Model, added: readonly Traced[]): Traced[] {
  const tags = new Tags(model);
  return added.map((e) =>
    e.type === 'wall' && e.openings && e.openings.length > 0
      ? { ...e, openings: e.openings.map((o) => tags.apart(o)) }
      : e,
  );
}

/** Copies on a plane that has others, told from these: grid lines by their names, openings by their tags. */
export const toldApart = (model: Model, added: readonly Traced[]): Traced[] =>
  taggedApart(model, namedApart(ofType(model, 'gridLine'), added));
