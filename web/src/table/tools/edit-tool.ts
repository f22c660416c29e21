import { compose, IDENTITY, type Transform } from '@calque/core/geometry';
import type { Traced } from '@calque/core/model';
import type { Brush } from '../brush';
import type { Field, FieldRequest, Pick, Tool } from '../tool';
import { MovedPath } from '../painters/moved-path';
import { paintStretch } from '../painters/overlay';

type Point = [number, number];

export interface EditPlan {
  id: string;
  /** What it does, as it begins a sentence: "Move". */
  verb: string;
  /** Words for each pick in turn. */
  steps: readonly string[];
  /** From how many picks on the cursor says where everything would go. */
  livesAfter: number;
  /** The map for these points (picks, the last perhaps still at the cursor); null while there is none. */
  map(points: readonly Point[]): Transform | null;
  /** Figures that can be typed instead of the last pick. */
  fields?(points: readonly Point[], live: Point): Field[];
  /** The map by typed figures; words where they do not do. Of a row: what was typed is kept for the pick that follows. */
  typed?(points: readonly Point[], values: Record<string, string>, live: Point): Transform | string | null;
  /** Of a row: how many copies there are for these points, one map after the other. The original always stays. */
  copies?(points: readonly Point[]): number;
  /** May it leave the original where it is, once or several times in equal steps? */
  keeps: boolean;
  /** Enter carries it out without a pick, everything where it is. */
  inPlace?: boolean;
  /** Another way of it, taken by F. */
  other?: EditPlan;
}

export interface EditHost {
  chosen(): Traced[];
  /** Carries it out; `copies` 0 moves the originals, more leaves them and adds as many. False where it was refused. */
  apply(map: Transform, copies: number): boolean;
  done(): void;
}

/** The most copies at once; of a row this many show while it is picked. */
const MOST_COPIES = 999,
  MOST_SHOWN = 200;

/** Moves, turns, mirrors or scales what is selected by picked points or typed figures, with everything shown where it would go. */
export class EditTool implements Tool {
  readonly id: string;
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private picks: Point[] = [];
  private hover: Pick | null = null;
  private keep: boolean;
  private shown: { of: readonly Traced[]; path: MovedPath } | null = null;

  constructor(
    private plan: EditPlan,
    private readonly host: EditHost,
    keep = false,
  ) {
    this.id = plan.id;
    this.keep = keep;
  }

  words(): string {
    const original = this.plan.keeps ? ` · + ${this.keep ? 'moves the original' : 'keeps the original'}` : '';
    const other = this.plan.other ? ` · F: ${this.plan.other.verb.toLowerCase()}` : '';
    return `${this.keep && this.plan.keeps ? `${this.plan.verb} a copy` : this.plan.verb}: ${this.plan.steps[this.picks.length]}${original}${other} · Backspace: one back · Esc ends`;
  }

  /** Takes the other way; what was picked stays. */
  nextVariant(): boolean {
    if (!this.plan.other) return false;
    this.plan = this.plan.other;
    return true;
  }

  anchor(): Point | null {
    return this.picks.at(-1) ?? null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    const points = [...this.picks, pick.plane];
    if (points.length < this.plan.steps.length) {
      // Two picks on one another say no direction.
      if (this.picks.some((p) => p[0] === pick.plane[0] && p[1] === pick.plane[1])) return;
      this.picks = points;
      return;
    }
    const map = this.plan.map(points);
    if (map) this.finish(map, this.plan.copies?.(points) ?? 1);
  }

  private finish(map: Transform, copies: number): void {
    if (!this.host.apply(map, this.keep || this.plan.copies ? copies : 0)) return;
    this.picks = [];
    this.host.done();
  }

  private live(): Transform | null {
    return this.hover && this.picks.length >= this.plan.livesAfter
      ? this.plan.map([...this.picks, this.hover.plane])
      : null;
  }

  field(): FieldRequest | null {
    if (!this.hover || !this.plan.fields || this.picks.length < this.plan.livesAfter) return null;
    const fields = this.plan.fields(this.picks, this.hover.plane);
    if (fields.length === 0) return null;
    const copies: Field[] =
      this.keep && this.plan.keeps ? [{ id: 'copies', label: 'copies', unit: 'number', live: '1' }] : [];
    return { required: false, at: this.hover.plane, fields: [...fields, ...copies] };
  }

  submit(values: Record<string, string>): string | null {
    if (!this.hover || !this.plan.typed) return null;
    const copies = (values.copies ?? '').trim() === '' ? 1 : Number(values.copies);
    if (!Number.isInteger(copies) || copies < 1 || copies > MOST_COPIES)
      return `"${values.copies}" is no number of copies. Type a whole number from 1 to ${MOST_COPIES}.`;
    const map = this.plan.typed(this.picks, values, this.hover.plane);
    if (typeof map === 'string') return map;
    if (map) this.finish(map, this.plan.copies?.([...this.picks, this.hover.plane]) ?? copies);
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Enter' && this.plan.inPlace) this.finish(IDENTITY, 0);
    else if (event.key === '+' && this.plan.keeps) this.keep = !this.keep;
    else if (event.key === 'Backspace' && this.picks.length > 0) this.picks = this.picks.slice(0, -1);
    else return false;
    return true;
  }

  cancel(): boolean {
    const had = this.picks.length > 0;
    this.picks = [];
    return had;
  }

  paint(brush: Brush): void {
    const { palette } = brush;
    const last = this.picks.at(-1);
    if (last && this.hover) paintStretch(brush, last, this.hover.plane, '', palette.soft, true);
    const map = this.live();
    if (!map) return;
    const chosen = this.host.chosen();
    // The same elements in the same state are one path for the whole edit.
    if (this.shown?.of.length !== chosen.length || chosen.some((e, i) => e !== this.shown!.of[i]))
      this.shown = { of: chosen, path: new MovedPath(chosen) };
    const copies = Math.min(MOST_SHOWN, this.plan.copies?.([...this.picks, this.hover!.plane]) ?? 1);
    for (let i = 0, step = map; i < copies; i++, step = compose(map, step))
      this.shown.path.stroke(brush, palette.now, step);
  }
}
