import RBush from 'rbush';
import {
  distanceToSegment,
  isFullTurn,
  pieceBox,
  type Arc,
  type Box,
  type Cubic,
  type Line4,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import type { ItemKind, SnapItems } from './items.ts';

interface Entry {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
  item: number;
}
interface Item {
  kind: ItemKind;
  piece: Piece | null;
  at: Point;
  entry: Entry;
  owner: string;
}

/** What an owner (a traced element) gives to be found: its pieces, and points that are neither ends nor centres of them. */
export interface LivePieces {
  pieces: readonly Piece[];
  bases?: readonly Point[];
}

/** Items that come and go one owner at a time, such as what has been traced; each change costs what its own pieces cost. */
export class LiveItems implements SnapItems {
  private readonly tree = new RBush<Entry>(16);
  private readonly items: (Item | null)[] = [];
  private readonly free: number[] = [];
  private readonly owned = new Map<string, number[]>();

  get owners(): number {
    return this.owned.size;
  }

  /** Puts an owner's pieces in place of those it had. Many at once are faster by `fill`. */
  set(owner: string, given: LivePieces): void {
    this.remove(owner);
    for (const entry of this.keep(owner, given)) this.tree.insert(entry);
  }

  remove(owner: string): void {
    for (const item of this.owned.get(owner) ?? []) {
      this.tree.remove(this.items[item]!.entry);
      this.items[item] = null;
      this.free.push(item);
    }
    this.owned.delete(owner);
  }

  /** Puts many owners that are not there yet. */
  fill(owners: Iterable<readonly [string, LivePieces]>): void {
    const entries: Entry[] = [];
    for (const [owner, given] of owners) entries.push(...this.keep(owner, given));
    this.tree.load(entries);
  }

  private keep(owner: string, { pieces, bases = [] }: LivePieces): Entry[] {
    const numbers: number[] = [],
      entries: Entry[] = [];
    const put = (
      kind: ItemKind,
      piece: Piece | null,
      at: Point,
      [minX, minY, maxX, maxY]: readonly [number, number, number, number],
    ) => {
      const item = this.free.pop() ?? this.items.length;
      const entry = { minX, minY, maxX, maxY, item };
      this.items[item] = { kind, piece, at, entry, owner };
      numbers.push(item);
      entries.push(entry);
    };
    for (const piece of pieces) {
      if (piece.kind === 'segment') put('segment', piece, piece.from, pieceBox(piece));
      else if (piece.kind === 'cubic') put('curve', piece, [piece.cubic[0], piece.cubic[1]], pieceBox(piece));
      else {
        const centre: Point = [piece.arc.cx, piece.arc.cy],
          full = isFullTurn(piece.arc);
        put(full ? 'circle' : 'arc', piece, centre, pieceBox(piece));
        put(full ? 'circleCentre' : 'arcCentre', piece, centre, [...centre, ...centre]);
      }
    }
    for (const p of bases) put('text', null, p, [...p, ...p]);
    this.owned.set(owner, numbers);
    return entries;
  }

  ownerOf(item: number): string {
    return this.items[item]!.owner;
  }

  /** The box around all of them; null for none. */
  get bounds(): Box | null {
    const { minX, minY, maxX, maxY } = this.tree.toJSON() as Entry;
    return minX <= maxX ? [minX, minY, maxX, maxY] : null;
  }

  /** Owners that may have something in a box. */
  ownersIn([x0, y0, x1, y1]: Box): Set<string> {
    return new Set(this.search(x0, y0, x1, y1).map((item) => this.items[item]!.owner));
  }

  search(minX: number, minY: number, maxX: number, maxY: number): number[] {
    return this.tree.search({ minX, minY, maxX, maxY }).map((e) => e.item);
  }

  kindOf(item: number): ItemKind {
    return this.items[item]!.kind;
  }

  straightDistance(item: number, x: number, y: number): number | null {
    const { piece } = this.items[item]!;
    return piece?.kind === 'segment'
      ? distanceToSegment(x, y, piece.from[0], piece.from[1], piece.to[0], piece.to[1])
      : null;
  }

  segment(item: number): Line4 {
    const { from, to } = this.items[item]!.piece as Extract<Piece, { kind: 'segment' }>;
    return [from[0], from[1], to[0], to[1]];
  }

  round(item: number): Arc {
    return (this.items[item]!.piece as Extract<Piece, { kind: 'arc' }>).arc;
  }

  curve(item: number): Cubic {
    return (this.items[item]!.piece as Extract<Piece, { kind: 'cubic' }>).cubic;
  }

  base(item: number): Point {
    return this.items[item]!.at;
  }
}
