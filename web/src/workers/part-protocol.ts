import type { FaceOutline, Section, ShownSolid, StepState } from '@calque/core/forming';
import type { Frame, ModelPoint } from '@calque/core/geometry';
import type { Entity } from '@calque/core/model';
import type { Shades, SolidView } from '@calque/core/part';

/** Files that a part is written as by its solid. */
export type PartFile = 'step' | 'stl' | '3mf' | 'glb';

export interface PartWords {
  name: string;
  material: string;
  /** kg/m3. */
  density: number;
  colour: number;
}

/** What a solid is asked once it is made, and what it answers; null where there is no solid, or nothing there. */
export interface PartAnswers {
  views: { asks: { frames: readonly Frame[] }; gives: SolidView[] };
  face: { asks: { name: string | null }; gives: FaceOutline };
  section: { asks: { frame: Frame }; gives: Section };
  thickness: { asks: object; gives: Shades };
  draft: { asks: { pull: ModelPoint }; gives: Shades };
}
export type PartQuestion = keyof PartAnswers;
/** A question with what it needs. */
export type AskedOfPart = { [Q in PartQuestion]: { about: Q } & PartAnswers[Q]['asks'] }[PartQuestion];

/** An attached file whose solid a feature takes, and where its bytes are. */
export interface GivenFile {
  id: string;
  url: string;
}

/** What a worker that holds a part's solid is asked. It answers one after the other. */
export type ToPart =
  /** `entities`: the part, its planes, features, rules and all that is drawn on its planes. */
  | {
      type: 'rebuild';
      task: number;
      partId: string;
      entities: readonly Entity[];
      files: readonly GivenFile[];
    }
  | { type: 'write'; task: number; file: PartFile; words: PartWords; at: string }
  | { type: 'look'; task: number; asked: AskedOfPart };

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
  | { type: 'looked'; task: number; found: PartAnswers[PartQuestion]['gives'] | null }
  | { type: 'failed'; task: number; why: string };
