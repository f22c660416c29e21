import { get } from '@calque/core/model';
import type { ProjectSession } from '@/project/session';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import type { Picture } from './pictures';

export type StageId = 'sheets' | 'calibrate' | 'trace' | 'check' | 'deliver';

/** What is being made while tracing: a part of the ledge that has keys of its own. */
export const MAKING_PARTS = ['building', 'frame', 'drawing', 'levels'] as const;
export type MakingPart = (typeof MAKING_PARTS)[number];
/** Where on the ledge an instrument lies: with what is made, with what changes what is there, or with those of another stage. */
export type LedgePart = MakingPart | 'change' | 'calibrate' | 'check';

/** Something that can be run by its key, from the search, or by a button: they all ask it the same. */
export interface Command {
  id: string;
  /** What it does, as the trade says it. */
  words: string;
  /** In a word or two, for buttons. */
  short?: string;
  group: 'Stages' | 'Tools' | 'View' | 'Edit' | 'Help';
  /** Two strokes stand with a space between them: ", n". */
  key?: string;
  /** Words on the drawing and in cards name its key: it is the same for everybody. */
  fixedKey?: boolean;
  /** A second key, for where the first means something else. */
  otherKey?: string;
  /** Words that people use for it beside those that it is told by, for the search. */
  also?: string;
  /** The parts of the ledge that it lies on, with its drawing. In a part that is open its key comes before all others. */
  on?: readonly LedgePart[];
  picture?: Picture;
  /** How far behind the others it lies there; 0 unless said. */
  rank?: number;
  /** It opens a list and nothing else. */
  opensList?: boolean;
  /** The tool that is in hand when it has been run: its button is lit then. */
  tool?: string;
  /** Where several commands share a tool: is this the one that is in hand? */
  inHand?(): boolean;
  /** Is it taken up again by the repeat? Tools and edits are, unless they say no. */
  repeats?: boolean;
  /** Is its key free for it now, or for something else? */
  applies?(): boolean;
  /** Why it cannot do anything now; null where it can. */
  why?(): string | null;
  run(): void;
}

/** What commands have at hand. */
export interface Hands {
  table: Table;
  session: ProjectSession;
  /** Opens a stage with empty hands. */
  goTo(stage: StageId): void;
}

/** Commands are declared beside what they run, and made once for a project that is open. */
export type Declared = (hands: Hands) => Command[];

/** Runs a command, or says why it cannot do anything now. */
export function runOrTell(command: Command, session: ProjectSession): void {
  const why = command.why?.() ?? null;
  if (why === null) command.run();
  else session.tell(why);
}

/** Goes to a stage first. Another stage lets go of the selection, but the command is about it. */
export const inStage =
  ({ table, goTo }: Hands, stage: StageId, take: () => void): (() => void) =>
  () => {
    const { selection } = table.state.getState();
    goTo(stage);
    table.setSelection(selection);
    take();
  };

/** What works on the current sheet says so where there is none. */
export const needsSheet = ({ table, session }: Hands, key?: string): Pick<Command, 'key' | 'why'> => ({
  ...(key && { key }),
  why: () =>
    get(session.state.model, 'underlay', table.state.getState().underlayId)
      ? null
      : 'Choose a sheet first: this works on the current one. Press its name in the stack.',
});

/** What works on what is selected says so where nothing is. */
export const needsChosen = ({ table }: Hands, key?: string): Pick<Command, 'key' | 'why'> => ({
  ...(key && { key }),
  why: () =>
    chosenTraced(table).length > 0
      ? null
      : 'Select something first: this works on what is selected. Click it, or drag a box.',
});

/** What stands on a floor is drawn on the plan of a storey. */
export const needsStorey = ({ table, session }: Hands, what: string): Pick<Command, 'why'> => ({
  why: () => {
    const { model } = session.state,
      plane = get(model, 'plane', table.state.getState().planeId);
    return plane
      ? `${what} on the plan of a storey, and ${plane.name} is an upright plane. Choose a storey at the head of the stack.`
      : null;
  },
});
