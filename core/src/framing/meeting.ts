import { dot3, minus3, type ModelPoint } from '../geometry/index.ts';
import type { MemberEndName, Model } from '../model/index.ts';
import { crossing, isKnown, joinedFrame } from './joints/index.ts';
import type { PlacedMember } from './placed.ts';

/** How far a place lies outside the box of a member's section along its length. */
export function gapTo({ from, to, along, up, right, section }: PlacedMember, at: ModelPoint): number {
  const d = minus3(at, from),
    t = dot3(d, along),
    length = Math.hypot(...minus3(to, from)),
    [b, h] = [section?.b ?? 0, section?.h ?? 0];
  return Math.hypot(
    Math.max(-t, t - length, 0),
    Math.max(Math.abs(dot3(d, right)) - b / 2, 0),
    Math.max(Math.abs(dot3(d, up)) - h / 2, 0),
  );
}

/** An end that comes as near to another as this many depths of its own section is meant to meet it. */
const NEAR = 1;

/** The member that an end meets, or comes nearest to; null where none is near. */
export function memberMet(model: Model, id: string, end: MemberEndName): string | null {
  const { members } = joinedFrame(model),
    own = members.find((m) => m.member.id === id);
  if (!own) return null;
  const at = end === 'start' ? own.from : own.to,
    reach = NEAR * Math.max(own.section?.h ?? 0, own.section?.b ?? 0, 10);
  let best: { id: string; gap: number; off: number } | null = null;
  for (const other of members) {
    if (other === own) continue;
    const gap = gapTo(other, at);
    if (gap > reach) continue;
    // Of several that it lies in, the one whose line is nearest.
    const d = minus3(at, other.from),
      t = dot3(d, other.along),
      off = Math.hypot(...minus3(d, [0, 1, 2].map((i) => t * other.along[i]) as unknown as ModelPoint));
    if (!best || gap < best.gap - 1e-6 || (gap < best.gap + 1e-6 && off < best.off))
      best = { id: other.member.id, gap, off };
  }
  return best?.id ?? null;
}

/** The members that one runs over: it crosses them, and lies on them or comes as near as a cleat reaches. */
export function membersUnder(model: Model, id: string): string[] {
  const { members } = joinedFrame(model),
    own = members.find((m) => m.member.id === id);
  if (!isKnown(own)) return [];
  const reach = Math.hypot(own.section.b, own.section.h) / 2;
  return members.flatMap((t) => {
    if (t === own || !isKnown(t)) return [];
    const { at } = crossing(own, t);
    if (!at || Math.abs(dot3(own.along, t.along)) > ACROSS) return [];
    const gap = gapTo(t, at);
    // What goes through it is no support.
    return gap > LEAST_ABOVE && gap <= reach * ABOVE ? [t.member.id] : [];
  });
}
/** Members that run alongside one another more nearly (cosine) do not cross; what lies nearer to the other's face runs through it, millimetres; what lies farther above than this many halves of itself lies on nothing. */
const ACROSS = 0.7,
  LEAST_ABOVE = 5,
  ABOVE = 1.3;
