import Flatbush from 'flatbush';
import { minus3, type ModelPoint } from '../geometry/index.ts';
import { jointAt, storeysOf, type Model } from '../model/index.ts';
import { clashesOf } from './clashes.ts';
import { joinedFrame, type JointDoubt } from './joints/index.ts';
import { gapTo } from './meeting.ts';
import { placedMembers, type PlacedMember } from './placed.ts';

/** What is to be looked at in a frame: members by their ids. */
export interface FrameDoubts {
  /** Two that have the same ends. */
  doubled: [string, string][];
  /** An end that comes near another member and does not meet it; how far is missing, millimetres. */
  nearly: { id: string; end: 'start' | 'end'; other: string; gap: number }[];
  /** Members with an end at which nothing is, and that is no foot on the floor of a storey. */
  free: { id: string; end: 'start' | 'end' }[];
  /** Sections that no table has. */
  unknown: string[];
  /** Two that run into one another and are not joined; doubled ones are told as such. */
  clashes: [string, string][];
  /** Ends that do not come out as they are said to be made. */
  joints: readonly JointDoubt[];
}

/** Ends this near are in one place; what is nearer than this to another meets it; what is farther than this has nothing to do with it. Millimetres. */
const ONE_PLACE = 1,
  MEETS = 2,
  NEAR = 60;

/** What in a frame is probably not meant: doubled members, ends that nearly meet, ends at which nothing is. */
export function frameDoubts(model: Model): FrameDoubts {
  const placed = placedMembers(model),
    levels = storeysOf(model).map((s) => s.elevation),
    doubts: FrameDoubts = {
      doubled: [],
      nearly: [],
      free: [],
      unknown: [],
      clashes: [],
      joints: joinedFrame(model).doubts,
    };
  doubts.unknown = placed.filter((p) => !p.section).map((p) => p.member.id);
  if (placed.length === 0) return doubts;
  const index = new Flatbush(placed.length);
  for (const p of placed) index.add(...flatBox(p, NEAR));
  index.finish();
  placed.forEach((p, i) => {
    const near = index.search(...flatBox(p, 0)).filter((j) => j !== i);
    for (const j of near)
      if (j > i && isDoubled(p, placed[j])) doubts.doubled.push([p.member.id, placed[j].member.id]);
    for (const end of ['start', 'end'] as const) {
      const at = end === 'start' ? p.from : p.to,
        gaps = near
          .map((j) => ({ other: placed[j].member.id, gap: gapTo(placed[j], at) }))
          .sort((a, b) => a.gap - b.gap);
      // What is joined there is told by its joint.
      if (jointAt(p.member, end)) continue;
      if (gaps.length > 0 && gaps[0].gap <= MEETS) continue;
      if (near.some((j) => endsAt(placed[j], p, at)) || standsOn(levels, p, at)) continue;
      if (gaps.length > 0 && gaps[0].gap <= NEAR) doubts.nearly.push({ id: p.member.id, end, ...gaps[0] });
      else doubts.free.push({ id: p.member.id, end });
    }
  });
  const twice = new Set(doubts.doubled.map((pair) => [...pair].sort().join(' ')));
  doubts.clashes = clashesOf(joinedFrame(model)).filter((pair) => !twice.has([...pair].sort().join(' ')));
  return doubts;
}

/** Around a member in plan, with room for its section. */
function flatBox({ from, to, section }: PlacedMember, room: number): [number, number, number, number] {
  const r = room + Math.hypot(section?.b ?? 0, section?.h ?? 0) / 2;
  return [
    Math.min(from[0], to[0]) - r,
    Math.min(from[1], to[1]) - r,
    Math.max(from[0], to[0]) + r,
    Math.max(from[1], to[1]) + r,
  ];
}

const far = (a: ModelPoint, b: ModelPoint) => Math.hypot(...minus3(a, b));

/** Have two the same ends, either way round? */
function isDoubled(p: PlacedMember, q: PlacedMember): boolean {
  const same = far(p.from, q.from) < ONE_PLACE && far(p.to, q.to) < ONE_PLACE,
    other = far(p.from, q.to) < ONE_PLACE && far(p.to, q.from) < ONE_PLACE;
  return same || other;
}

/** Is an end the foot of what rises from the floor of a storey? */
const standsOn = (levels: readonly number[], { along }: PlacedMember, at: ModelPoint): boolean =>
  Math.abs(along[2]) > RISES && levels.some((z) => Math.abs(at[2] - z) < ONE_PLACE);
/** Half as steep as upright, at least. */
const RISES = 0.5;

/** Does one end at another, beside an end of that? So a beam ends at the face of a column below its head. */
function endsAt(other: PlacedMember, p: PlacedMember, at: ModelPoint): boolean {
  const reach =
    Math.hypot(p.section?.b ?? 0, p.section?.h ?? 0) +
    Math.hypot(other.section?.b ?? 0, other.section?.h ?? 0);
  return [other.from, other.to].some((e) => far(e, at) <= reach && gapTo(p, e) <= MEETS);
}
