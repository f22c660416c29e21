import type { ShownSolid, StepState } from '@calque/core/forming';
import type { Entity } from '@calque/core/model';

/** Files that a part is written as by its solid. */
export type PartFile = 'step' | 'stl' | '3mf' | 'glb';

export interface PartWords {
  name: string;
  material: string;
  /** kg/m3. */
  density: number;
  colour: number;
}

/** What a worker that holds a part's solid is asked. It answers one after the other. */
export type ToPart =
  /** `entities`: the part, its planes, features, rules and all that is drawn on its planes. */
  | { type: 'rebuild'; task: number; partId: string; entities: readonly Entity[] }
  | { type: 'write'; task: number; file: PartFile; words: PartWords; at: string };

export type FromPart =
  | { type: 'progress'; task: number; done: number; of: number; name: string }
  /** `solid` is null where no step has made anything. */
  | {
      type: 'rebuilt';
      task: number;
      solid: ShownSolid | null;
      states: StepState[];
      /** What the kernel has taken by now, bytes. */
      memory: number;
    }
  | { type: 'written'; task: number; bytes: Uint8Array<ArrayBuffer> | null }
  | { type: 'failed'; task: number; why: string };
