import { looseOf, type Loose, type Traced } from '@calque/core/model';
import { painterOf } from '@/kinds/painters';

/** Elements that paint more than their lines, found without looking at the rest; placed groups by their own elements. */
export class Painted {
  private readonly owners = new Map<string, readonly Loose[]>();

  follow(elements: Iterable<Traced>): void {
    this.owners.clear();
    for (const e of elements) this.change(e);
  }

  change(e: Traced): void {
    const painted = looseOf(e).filter((m) => painterOf(m).below || painterOf(m).above);
    if (painted.length > 0) this.owners.set(e.id, painted);
    else this.owners.delete(e.id);
  }

  drop(id: string): void {
    this.owners.delete(id);
  }

  *below(): Generator<Loose> {
    for (const painted of this.owners.values()) for (const e of painted) if (painterOf(e).below) yield e;
  }
  *above(): Generator<Loose> {
    for (const painted of this.owners.values()) for (const e of painted) if (painterOf(e).above) yield e;
  }
}
