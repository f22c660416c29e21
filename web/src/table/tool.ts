import type { Brush } from './brush';
import type { Found, NamedPlace } from './snapping';

/** One pick on the drawing. */
export interface Pick {
  /** Where it counts: the snapped point, or the held axis, or the bare cursor. Plane millimetres. */
  plane: [number, number];
  /** Where the pointer is. */
  bare: [number, number];
  screen: [number, number];
  found: Found | null;
  /** What else lay under the cursor and was not chosen; nothing where what was found was chosen by name. */
  others?: readonly Found[];
  /** What was touched last, from which a first point can be typed. */
  touched?: readonly [number, number] | null;
  shift: boolean;
  alt: boolean;
}

/** A figure that is asked for at the cursor. */
export interface Field {
  id: string;
  label: string;
  unit: 'length' | 'angle' | 'number' | 'text';
  /** What it is now, already in words; shown until something is typed. */
  live: string;
}

export interface FieldRequest {
  fields: Field[];
  /** Other figures that would say the same, such as offsets for length and angle: Tab goes on to them behind the last field. */
  others?: Field[][];
  /** Shows, and takes digits, only once Tab has asked for it. */
  onTab?: boolean;
  /** The person must type; otherwise typing is an offer. */
  required: boolean;
  /** Plane point beside which it stands. */
  at: [number, number];
  /** Words below the fields: what Enter does. */
  hint?: string;
  /** Called when what is asked for is being changed. */
  onTyping?(): void;
  /** A question about what was typed, with its answers: one press each. */
  question?: { words: string; answers: readonly { label: string; act(): void }[] };
}

/** What the pointer and the keys do while it is in hand. Knows no React; says its state in words. */
export interface Tool {
  readonly id: string;
  /** May picks snap, and to what? */
  readonly snaps: boolean;
  readonly onlyUnderlay?: string;
  /** Picks find nothing of this underlay. */
  readonly notUnderlay?: string;
  readonly cursor: string;
  /** Places on its one underlay that it knows by name: they come before what the linework has there. */
  named?(): readonly NamedPlace[];
  /** Words for what it points at in place of what a pick would find there; empty where no pick is awaited, null where a pick is. */
  instead?(): string | null;
  /** What the next click does, in words. */
  words(): string;
  /** Point that Shift holds the axis through. */
  anchor?(): [number, number] | null;
  move?(pick: Pick): void;
  press(pick: Pick): void;
  drag?(pick: Pick): void;
  release?(pick: Pick): void;
  key?(event: KeyboardEvent): boolean;
  field?(): FieldRequest | null;
  /** Typed figures, by field id, as text. Returns a message when they do not do. */
  submit?(values: Record<string, string>): string | null;
  paint?(brush: Brush): void;
  /** Esc: true when something was given up, false when the tool itself should be laid down. */
  cancel(): boolean;
}
