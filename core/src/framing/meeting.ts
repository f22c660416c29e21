import { dot3, minus3, type ModelPoint } from '../geometry/index.ts';
import type { MemberEndName, Model } from '../model/index.ts';
import { joinedFrame } from './joints/index.ts';
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
