import type { HoleHead } from '../../model/index.ts';
import type { HoleCallout } from '../callouts/index.ts';

/** A round hole of a solid, as far as a note speaks of it; millimetres, radians. */
export interface SolidHole {
  diameter: number;
  /** To its shoulder; null: through. */
  depth: number | null;
  head: { diameter: number; depth: number; angle: number | null } | null;
  thread: string | null;
}

/** What the holes of a solid make of a note. */
export interface HeldNote {
  /** The diameter that was found; null: no such hole. */
  model: number | null;
  agrees: boolean;
  /** What differs, in words; empty: nothing. */
  words: string;
}

/** What is drilled is as printed within this, millimetres. */
const SAME = 0.05;
const near = (a: number, b: number) => Math.abs(a - b) <= SAME;

/** The holes of a solid, each with its thread. */
export const threadedHoles = <H>({
  holes,
  threads,
}: {
  holes: readonly H[];
  threads: readonly (string | null)[];
}): (H & { thread: string | null })[] => holes.map((h, i) => ({ ...h, thread: threads[i] }));

/**
 * Holds notes at holes against the holes of a solid. Notes that say the same are taken together: "4x Ø9" twice is eight. One that says no number asks for
 * one at least.
 */
export function heldNotes(notes: readonly HoleCallout[], holes: readonly SolidHole[]): HeldNote[] {
  const asks = notes.map((n) => JSON.stringify([n.diameter, n.depth, n.through, n.head, n.thread?.name]));
  return notes.map((note, i) => {
    const alike = notes.filter((_, k) => asks[k] === asks[i]),
      wanted = alike.reduce((sum, n) => sum + n.count, 0),
      counted = alike.some((n) => n.count > 1),
      wide = holes.filter((h) =>
        note.thread?.known ? h.thread === note.thread.name : near(h.diameter, note.diameter),
      );
    if (wide.length === 0) return { model: null, agrees: false, words: 'no such hole in the solid' };
    const [{ diameter: model }] = wide,
      whole = wide.filter((h) => differences(note, h).length === 0);
    if (whole.length === 0) return { model, agrees: false, words: differences(note, wide[0]).join(', ') };
    const right = counted ? whole.length === wanted : whole.length >= wanted;
    return {
      model,
      agrees: right,
      words: right ? '' : `the solid has ${whole.length} of them, not ${wanted}`,
    };
  });
}

function differences({ depth, through, head, thread }: HoleCallout, hole: SolidHole): string[] {
  const out: string[] = [];
  if (through && hole.depth !== null) out.push('it is not drilled through');
  // A thread need not be as deep as its hole.
  if (!through && depth !== null && (hole.depth === null || !near(hole.depth, depth)))
    out.push(hole.depth === null ? 'it is drilled through' : `it is ${hole.depth.toFixed(2)} mm deep`);
  if (thread?.known && hole.thread === null) out.push('it has no thread');
  if (head) out.push(...headDifferences(head, hole.head));
  return out;
}

function headDifferences(said: HoleHead, head: SolidHole['head']): string[] {
  if (!head || (said.kind === 'countersink') !== (head.angle !== null)) return [`it has no ${said.kind}`];
  if (!near(head.diameter, said.diameter)) return [`its ${said.kind} is ${head.diameter.toFixed(2)} mm wide`];
  return said.kind === 'counterbore' && !near(head.depth, said.depth)
    ? [`its counterbore is ${head.depth.toFixed(2)} mm deep`]
    : [];
}
