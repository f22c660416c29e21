import { applyTransform, boxOfPoints, grownBox, meanScale, type Point } from '@calque/core/geometry';
import { get, group, pairOf, USUAL_STOREY_HEIGHT, type Model, type Traced } from '@calque/core/model';
import {
  columnTaken,
  gridLineTaken,
  roomTaken,
  wallTaken,
  type Proposals,
  type Standing,
} from '@calque/core/proposals';
import { elementOf, sourceOf, type Shape } from '@/drawing/drawn';
import { laidAs } from '@/drawing/looked-at';
import { useNextMember } from '@/kinds/member/next-member';
import { stairOf } from '@/kinds/stair/plan';
import { useTraceState } from '@/drawing/state';
import { count } from '@/project/trace-words';
import type { Table } from '@/table/table';
import { memberTaken, sectionWritten } from './member-offer';
import type { Offer } from './offer';
import { useOffers, type SeenKey, type SeenState } from './seen';
import { isThere, THERE } from './there';

/** Offers less sure than this are doubtful. */
export const DOUBTFUL = 0.8;

function standingOf(table: Table): Standing {
  const storey = get(table.session.state.model, 'storey', table.state.getState().planeId);
  return {
    height: storey?.height ?? USUAL_STOREY_HEIGHT,
    heightAssumed: storey?.heightAssumed ?? true,
  };
}

let last: { proposals: Proposals; of: readonly Offer[]; height: number; next: object } | null = null;

/** All that is seen, as it would be taken. */
export function offersOf(table: Table, { proposals, placement }: SeenState): readonly Offer[] {
  if (!proposals || !placement) return [];
  const standing = standingOf(table);
  const next = useNextMember.getState();
  if (last?.proposals === proposals && last.height === standing.height && last.next === next) return last.of;
  const classOf = (thickness: number): number =>
    proposals.classes.reduce(
      (best, t, i) => (Math.abs(t - thickness) < Math.abs(proposals.classes[best] - thickness) ? i : best),
      0,
    );
  const of: Offer[] = [
    ...proposals.walls.map((w, i): Offer => {
      const openings = proposals.openings.filter((o) => o.wall === i);
      return {
        key: `wall:${i}`,
        shape: wallTaken(w, openings, placement, standing) as Shape,
        confidence: w.confidence,
        doubts: w.doubts,
        at: applyTransform(placement, [(w.from[0] + w.to[0]) / 2, (w.from[1] + w.to[1]) / 2]),
        thicknessClass: classOf(w.thickness),
        openings,
        box: grownBox(
          boxOfPoints([w.from, w.to].map((p) => applyTransform(placement, p))),
          // A bent wall reaches beyond its ends by as much as its radius at most.
          w.thickness + (w.arc ? 2 * w.arc.radius * meanScale(placement) : 0),
        ),
      };
    }),
    ...proposals.columns.map((c, i): Offer => {
      const at = applyTransform(placement, c.at),
        box = grownBox(boxOfPoints([at]), Math.max(c.width, c.depth));
      return { ...plain(`column:${i}`, columnTaken(c, placement, standing) as Shape, c.confidence), at, box };
    }),
    ...proposals.grid.map((g, i): Offer => {
      const [p, q] = [g.from, g.to].map((end) => applyTransform(placement, end)),
        at: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
      return {
        ...plain(`grid:${i}`, gridLineTaken(g, placement) as Shape, g.confidence),
        at,
        box: boxOfPoints([p, q]),
      };
    }),
    ...proposals.stairs.map((s, i): Offer => {
      const [from, to] = [s.from, s.to].map((p) => applyTransform(placement, p)),
        shape = stairOf(table, { from, to, risers: s.risers, width: s.width });
      return {
        ...plain(`stair:${i}`, shape, s.confidence),
        doubts: s.confidence < DOUBTFUL ? ['which way it goes up is not written'] : [],
        at: [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2],
        box: grownBox(boxOfPoints([from, to]), s.width / 2),
      };
    }),
    ...(proposals.north ? [northOffer(proposals.north, placement)] : []),
    ...proposals.levels.map((v, i): Offer => {
      const at = applyTransform(placement, v.at),
        size = LEVEL_MARK * useTraceState.getState().textHeight,
        shape: Shape = { type: 'symbol', mark: 'level', at: pairOf(at), angle: 0, size, text: v.figure };
      return { ...plain(`level:${i}`, shape, NORTH_SURE), at, box: grownBox(boxOfPoints([at]), size) };
    }),
    ...proposals.members.map((m, i): Offer => {
      const { model } = table.session.state,
        shape = memberTaken(model, table.state.getState().planeId, m, placement);
      return {
        ...plain(`member:${i}`, shape as Shape, m.confidence),
        doubts: sectionWritten(m.mark) ? [] : ['its section is that of the next member'],
        at: [(shape.from[0] + shape.to[0]) / 2, (shape.from[1] + shape.to[1]) / 2],
        box: boxOfPoints([shape.from, shape.to]),
      };
    }),
    ...proposals.rooms.map((r, i): Offer => {
      const ring = r.outline.map((p) => applyTransform(placement, p)),
        shape = roomTaken(r, placement, useTraceState.getState().textHeight) as Shape;
      return { ...plain(`room:${i}`, shape, r.confidence), at: ring[0], ring, box: boxOfPoints(ring) };
    }),
  ];
  last = { proposals, of, height: standing.height, next };
  return of;
}
function northOffer(
  { at, direction, size }: NonNullable<Proposals['north']>,
  placement: NonNullable<SeenState['placement']>,
): Offer {
  const place = applyTransform(placement, at),
    tip = applyTransform(placement, [at[0] + Math.cos(direction), at[1] + Math.sin(direction)]),
    shape: Shape = {
      type: 'symbol',
      mark: 'north',
      at: pairOf(place),
      angle: Math.atan2(tip[1] - place[1], tip[0] - place[0]),
      size: size * meanScale(placement),
      text: 'N',
    };
  return {
    ...plain('north:0', shape, NORTH_SURE),
    at: place,
    box: grownBox(boxOfPoints([place]), shape.size / 2),
  };
}
/** A level mark is so many times as large as letters are high. */
const LEVEL_MARK = 2;
/** An arrow that points at its letter, or a figure with its sign, is hardly anything else; nobody has counted. */
const NORTH_SURE = 0.9;

const plain = (key: SeenKey, shape: Shape, confidence: number) => ({
  key,
  shape,
  confidence,
  doubts: [],
  thicknessClass: -1,
  openings: [],
});

/** Do offers hold: does their sheet lie as it did when it was looked at, and on the plane in hand? */
export function doOffersHold(table: Table, { underlayId, laid, proposals }: SeenState): boolean {
  const { planeId, underlayId: inHand } = table.state.getState(),
    u = get(table.session.state.model, 'underlay', underlayId);
  return proposals !== null && !!u && u.id === inHand && u.planeId === planeId && laidAs(u) === laid;
}

let open: { model: Model; planeId: string; seen: SeenState; of: Offer[] } | null = null;

/** Was what is offered refused, here or as it was seen before? */
export const isRefused = ({ refused }: SeenState, { shape, box }: Offer): boolean =>
  refused.some((r) => r.type === shape.type && r.box.every((v, i) => Math.abs(v - box[i]) < THERE));

/** What is still offered: neither in the model nor refused. */
export function openOffers(table: Table, seen: SeenState = useOffers.getState()): Offer[] {
  const { model } = table.session.state,
    { planeId } = table.state.getState();
  if (!doOffersHold(table, seen)) return [];
  // Asked at every movement of the pointer: found anew only where something has changed.
  if (
    open?.model === model &&
    open.planeId === planeId &&
    open.seen.proposals === seen.proposals &&
    open.seen.refused === seen.refused &&
    open.seen.taken === seen.taken
  )
    return open.of;
  const of = offersOf(table, seen).filter(
    (o) => !isRefused(seen, o) && !isThere(model, planeId, o, seen.taken.get(o.key)),
  );
  open = { model, planeId, seen, of };
  return of;
}

/** Those rooms among offers that close: all walls around them are in the model, or are taken with them. */
export function roomsThatClose(table: Table, open: readonly Offer[], taking: readonly Offer[]): Offer[] {
  const seen = useOffers.getState(),
    { model } = table.session.state,
    { planeId } = table.state.getState(),
    all = offersOf(table, seen),
    stands = new Set([
      ...taking.map((o) => o.key),
      ...all.filter((o) => isThere(model, planeId, o, seen.taken.get(o.key))).map((o) => o.key),
    ]);
  return open.filter(
    (o) =>
      o.ring &&
      seen.proposals?.rooms[Number(o.key.slice('room:'.length))]?.walls.every((w) => stands.has(`wall:${w}`)),
  );
}

/** Puts offers into the model, as one step. */
export function takeOffers(table: Table, offers: readonly Offer[]): void {
  if (offers.length === 0) return;
  const elements = offers.map((o): [SeenKey, Traced] => [
    o.key,
    elementOf(table, o.shape, {
      ...sourceOf(table, [{ snapped: true, typed: false, ink: useOffers.getState().fromInk }]),
      thickness: 'measured',
      underlayId: useOffers.getState().underlayId,
    }),
  ]);
  const change = group(elements.map(([, entity]) => ({ type: 'add', entity })));
  if (!change) return;
  table.session.do(change, `Take ${wordsFor(offers)}`);
  useOffers.setState(({ taken }) => ({
    taken: new Map([...taken, ...elements.map(([key, e]): [SeenKey, string] => [key, e.id])]),
  }));
}

export function refuseOffers(offers: readonly Offer[]): void {
  useOffers.setState(({ refused }) => ({
    refused: [...refused, ...offers.map(({ shape, box }) => ({ type: shape.type, box }))],
  }));
}

/** "3 walls, 2 columns". */
export function wordsFor(offers: readonly Offer[]): string {
  const of = (type: string) => offers.filter((o) => o.shape.type === type).length,
    mark = (m: string) => offers.filter(({ shape: s }) => s.type === 'symbol' && s.mark === m).length;
  return [
    [of('wall'), 'wall'],
    [of('column'), 'column'],
    [mark('north'), 'north arrow'],
    [mark('level'), 'level mark'],
    [of('stair'), 'stair'],
    [of('member'), 'member'],
    [of('gridLine'), 'grid line'],
    [of('space'), 'room'],
  ]
    .flatMap(([n, word]) => ((n as number) > 0 ? [count(n as number, word as string)] : []))
    .join(', ');
}
