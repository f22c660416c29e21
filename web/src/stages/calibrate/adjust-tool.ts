import { stretchPlacement } from '@calque/core/calibration';
import { compose, translation, type Transform } from '@calque/core/geometry';
import { get, type Underlay } from '@calque/core/model';
import { formatLengthWithUnit, formatNumber, parseLength } from '@calque/core/units';
import { checked, knownOn } from '@/project/known';
import { boxOfUnderlay, lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import type { FieldRequest, Pick, Tool } from '@/table/tool';
import { useNudge } from '@/table/nudge';
import { currentUnderlay, middleOf, place } from './place';

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
const LONG_STEPS = 10;

/** Fine adjustment by keys: arrows shift, Alt with arrows stretches, in steps of a pixel at the zoom or of a typed length; typed figures shift. */
export class AdjustTool implements Tool {
  readonly id = 'adjust';
  readonly snaps = false;
  readonly cursor = 'default';

  constructor(
    private readonly table: Table,
    private readonly underlayId: string,
  ) {}

  private get step(): number | null {
    return useNudge.getState().step;
  }
  private get u(): Underlay | null {
    return get(this.table.session.state.model, 'underlay', this.underlayId);
  }

  words(): string {
    return `Arrows shift ${this.u?.name ?? 'the sheet'} by ${this.step === null ? 'a pixel' : formatLengthWithUnit(this.step, lengthStyle(this.table.session.state.model))}, Alt + arrows stretch it, Shift ten at once · ${this.worst()} · Esc ends`;
  }

  /** The check that differs most, followed live. */
  private worst(): string {
    const u = this.u;
    const checks = u ? knownOn(this.table.session.state.model, u.id) : [];
    if (!u || checks.length === 0) return 'no known dimensions to follow';
    const results = checks.map((c) => ({ c, r: checked(u, c) }));
    const { c, r } = results.reduce((a, b) => (Math.abs(b.r.difference) > Math.abs(a.r.difference) ? b : a));
    return `worst of ${checks.length}: ${c.typed} ${r.difference >= 0 ? '+' : ''}${formatNumber(r.difference, 1)} mm`;
  }

  press(_pick: Pick): void {}

  key(event: KeyboardEvent): boolean {
    const step = ARROWS[event.key];
    const u = this.u;
    if (!step || !u) return false;
    const pixel = (event.shiftKey ? LONG_STEPS : 1) * (this.step ?? 1 / this.table.view.scale);
    this.put(
      event.altKey
        ? this.stretched(u, step, pixel)
        : compose(translation(step[0] * pixel, step[1] * pixel), u.placement),
      event.altKey ? `Stretch ${u.name}` : `Shift ${u.name}`,
    );
    return true;
  }

  /** The far edges move by a step outwards or inwards; the middle stays. */
  private stretched(u: Underlay, [dx, dy]: [number, number], pixel: number): Transform {
    const [x0, y0, x1, y1] = boxOfUnderlay(u);
    return stretchPlacement(
      u.placement,
      1 + (2 * dx * pixel) / (x1 - x0),
      1 + (2 * dy * pixel) / (y1 - y0),
      middleOf(u),
    );
  }

  private put(placement: Transform, label: string): void {
    const u = this.u;
    if (u && !u.locked) place(this.table, u, placement, label, false);
    this.table.showTool();
  }

  field(): FieldRequest | null {
    const u = this.u;
    if (!u) return null;
    return {
      fields: [
        { id: 'dx', label: 'shift x', unit: 'length', live: '0' },
        { id: 'dy', label: 'shift y', unit: 'length', live: '0' },
        {
          id: 'step',
          label: 'arrow step',
          unit: 'length',
          live:
            this.step === null
              ? 'a pixel'
              : formatLengthWithUnit(this.step, lengthStyle(this.table.session.state.model)),
        },
      ],
      required: false,
      at: middleOf(u),
      hint: this.worst(),
    };
  }

  submit(values: Record<string, string>): string | null {
    const u = this.u;
    const { units } = lengthStyle(this.table.session.state.model);
    const read = (id: string) =>
      (values[id] ?? '').trim() === ''
        ? 0
        : (() => {
            const p = parseLength(values[id], units);
            return p.ok ? p.mm : null;
          })();
    const [dx, dy] = [read('dx'), read('dy')],
      given = (values.step ?? '').trim() !== '',
      step = read('step');
    if (given && (step === null || step <= 0))
      return 'Type how far an arrow is to shift it, such as 1 or 0.5.';
    if (given) useNudge.getState().setStep(step);
    if (dx === null || dy === null) return 'Type how far to shift it, such as 12.5 or -3.';
    if (u && (dx !== 0 || dy !== 0))
      this.put(
        compose(translation(dx, dy), u.placement),
        `Shift ${u.name} by ${formatLengthWithUnit(Math.hypot(dx, dy), lengthStyle(this.table.session.state.model))}`,
      );
    return null;
  }

  cancel(): boolean {
    return false;
  }
}

export function takeAdjustTool(table: Table): void {
  const u = currentUnderlay(table);
  if (u) table.hold(new AdjustTool(table, u.id));
}
