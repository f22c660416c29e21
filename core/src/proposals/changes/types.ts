import type { Transform } from '../../geometry/index.ts';
import type { Pair } from '../../model/index.ts';
import type { Proposals } from '../types.ts';

/** What is seen on an issue of a sheet, and how that lies: its points to the plane. */
export interface SeenIssue {
  seen: Pick<Proposals, 'walls' | 'openings'>;
  placement: Transform;
}

/** Straight lines that only one of two issues has, x0, y0, x1, y1 each, in millimetres of the plane. */
export interface OwnLines {
  added: readonly (readonly number[])[];
  gone: readonly (readonly number[])[];
}

/** What a newer issue shows otherwise; walls and openings by their numbers in the older and the newer one, millimetres of the plane. */
export type SeenChange =
  /** Moved square to itself. */
  | { kind: 'wall-moved'; older: number; newer: number; by: Pair }
  /** Thicker or thinner, by its middle moved by so much. */
  | { kind: 'wall-thickness'; older: number; newer: number; by: Pair; from: number; to: number }
  /** Longer (above 0) or shorter at its ends. */
  | { kind: 'wall-ends'; older: number; newer: number; at: { from: number; to: number } }
  | { kind: 'wall-gone'; older: number }
  | { kind: 'wall-new'; newer: number }
  /** Moved along its wall (so far along its way in the plane), made wider (above 0) or narrower, of another kind, or hung otherwise. */
  | {
      kind: 'opening-changed';
      older: number;
      newer: number;
      by: number;
      wider: number;
      other: boolean;
      hung: boolean;
      /** How its wall moved. */ with: Pair;
    }
  | { kind: 'opening-gone'; older: number; with: Pair }
  | { kind: 'opening-new'; newer: number };
