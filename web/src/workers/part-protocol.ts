import type { Measures, RoundHole, ShownEdge, Skin, StepState } from '@calque/core/forming';
import type { Recipe } from '@calque/core/part';

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
  | { type: 'rebuild'; task: number; recipe: Recipe }
  | { type: 'write'; task: number; file: PartFile; words: PartWords; at: string };

/** A part's solid as it is shown. */
export interface PartSolid {
  skin: Skin;
  edges: ShownEdge[];
  measures: Measures;
  holes: RoundHole[];
}

export type FromPart =
  | { type: 'progress'; task: number; done: number; of: number; name: string }
  /** `solid` is null where no step has made anything. */
  | { type: 'rebuilt'; task: number; solid: PartSolid | null; states: StepState[] }
  | { type: 'written'; task: number; bytes: Uint8Array<ArrayBuffer> | null }
  | { type: 'failed'; task: number; why: string };
