import type { Registry } from '@/commands/registry';
import type { Table } from '@/table/table';
import { toScreen } from '@/table/viewport';
import type { Act, Showing } from './acts';
import { practiceModel } from './practice';

/** Milliseconds at the usual pace: a glide of the pointer, the pause after an act, the time to read what is said, the pause before all begins anew. */
const GLIDE = 650,
  PAUSE = 380,
  READ_A_LETTER = 42,
  REST = 1800;

/** What is seen of the person who uses the tool. */
export interface Seen {
  pointer: readonly [number, number];
  pressed: boolean;
  /** A key or figures that are typed just now. */ typed: string | null;
  words: string;
}

/** Shows a tool: does what a person would do with pointer and keys, on the surface that people draw on. */
export class Player {
  private stopped = false;
  private paused = false;
  private pointer: [number, number] = [40, 40];
  private pressed = false;
  private typed: string | null = null;
  private words = '';
  private resume: (() => void) | null = null;
  /** How often it has been played to its end. */
  rounds = 0;

  constructor(
    private readonly table: Table,
    private readonly registry: Registry,
    private readonly showing: Showing,
    private readonly onSeen: (seen: Seen) => void,
    /** How many times as fast as usual. */
    private readonly pace = 1,
  ) {}

  /** Plays it again and again until it is stopped. */
  async play(): Promise<void> {
    while (!this.stopped) {
      this.begin();
      for (const act of this.showing.acts) {
        await this.whilePaused();
        if (this.stopped) return;
        await this.perform(act);
      }
      this.rounds++;
      await this.wait(REST);
    }
  }

  pause(paused: boolean): void {
    this.paused = paused;
    if (!paused) this.resume?.();
  }

  stop(): void {
    this.stopped = true;
    this.pause(false);
  }

  private begin(): void {
    const { table, showing } = this;
    table.layDown();
    table.setSelection([]);
    table.session.store.setState({ model: practiceModel(showing.before) });
    table.setUnderlay(showing.before.find((e) => e.type === 'underlay')?.id ?? null);
    table.show(showing.sees ? [...showing.sees] : [300, 300, 6900, 5200]);
    this.words = '';
    this.show();
  }

  private async perform(act: Act): Promise<void> {
    const { table } = this;
    switch (act.does) {
      case 'say':
        this.words = act.words;
        this.show();
        return this.wait(READ_A_LETTER * act.words.length);
      case 'run':
        this.registry.get(act.command).run();
        break;
      case 'choose':
        table.setSelection(act.ids);
        break;
      case 'call':
        act.act(table);
        break;
      case 'point':
        return this.glide(act.at);
      case 'click':
        await this.glide(act.at);
        await this.press();
        break;
      case 'drag':
        await this.glide(act.from);
        await this.hold(act.to);
        break;
      case 'key':
        return this.key(act.key);
      case 'type':
        return this.type(act.figures);
    }
    this.show();
    await this.wait(PAUSE);
  }

  private async press(): Promise<void> {
    const { table } = this;
    this.pressed = true;
    this.show();
    table.currentTool.press(table.lastPick!);
    if (table.currentTool.drag) table.currentTool.release?.(table.lastPick!);
    table.picked();
    await this.wait(140);
    this.pressed = false;
  }

  private async hold(to: readonly [number, number]): Promise<void> {
    const { table } = this;
    this.pressed = true;
    if (table.currentTool.drag) table.currentTool.press(table.lastPick!);
    await this.glide(to, () => {
      table.currentTool.drag?.(table.lastPick!);
      table.showTool();
    });
    if (table.currentTool.drag) table.currentTool.release?.(table.lastPick!);
    else table.currentTool.press(table.lastPick!);
    table.picked();
    this.pressed = false;
  }

  private async key(name: string): Promise<void> {
    const { table } = this;
    this.typed = name;
    this.show();
    const taken = table.currentTool.key?.(new KeyboardEvent('keydown', { key: name }));
    if (!taken && name === 'Escape' && !table.currentTool.cancel()) table.layDown();
    else if (!taken) this.registry.byKey(name)?.run();
    table.showTool();
    await this.wait(PAUSE * 2);
    this.typed = null;
    this.show();
  }

  /** Types figures into the field at the cursor, in its order, and Enter. */
  private async type(figures: readonly string[]): Promise<void> {
    const { table } = this,
      field = table.state.getState().field;
    if (!field) return;
    for (let n = 1; n <= figures[0].length; n++) {
      this.typed = `${field.fields[0].label}: ${figures[0].slice(0, n)}`;
      this.show();
      await this.wait(110);
    }
    this.typed = field.fields
      .slice(0, figures.length)
      .map((f, i) => `${f.label}: ${figures[i]}`)
      .join('   ');
    this.show();
    await this.wait(PAUSE * 2);
    table.submitField(Object.fromEntries(field.fields.map((f, i) => [f.id, figures[i] ?? ''])));
    this.typed = null;
    this.show();
    await this.wait(PAUSE);
  }

  /** Moves the pointer to a place of the drawing, as a hand does: soon fast, slowly at the end. */
  private async glide(to: readonly [number, number], onMove?: () => void): Promise<void> {
    const from = this.pointer,
      end = toScreen(this.table.view, to),
      began = performance.now(),
      takes = GLIDE / this.pace;
    for (let share = 0; share < 1 && !this.stopped;) {
      await nextFrame();
      share = Math.min(1, (performance.now() - began) / takes);
      const eased = share * share * (3 - 2 * share);
      this.pointer = [from[0] + (end[0] - from[0]) * eased, from[1] + (end[1] - from[1]) * eased];
      this.table.moveTo(this.pointer, false, false);
      onMove?.();
      this.show();
    }
    await this.wait(PAUSE / 2);
  }

  private show(): void {
    this.onSeen({
      pointer: this.pointer,
      pressed: this.pressed,
      typed: this.typed,
      words: this.words,
    });
  }

  private whilePaused(): Promise<void> {
    if (!this.paused) return Promise.resolve();
    return new Promise((resolve) => {
      this.resume = resolve;
    });
  }

  private wait(milliseconds: number): Promise<void> {
    return new Promise((resolve) => setTimeout(resolve, milliseconds / this.pace));
  }
}

const nextFrame = () => new Promise((resolve) => requestAnimationFrame(resolve));
