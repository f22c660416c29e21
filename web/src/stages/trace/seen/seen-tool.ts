import { bandOf, cutWalls, openingLines, openingsOf, plainBody, pointAt } from '@calque/core/building';
import {
  boxContains,
  boxOfPoints,
  distanceToSegment,
  grownBox,
  makeRegion,
  regionContains,
  type Point,
  type Ring,
} from '@calque/core/geometry';
import type { Traced, Wall } from '@calque/core/model';
import { count } from '@/project/trace-words';
import type { Brush } from '@/table/brush';
import { REACH_PIXELS } from '@/table/hit';
import { elementPath, piecePath, ringPath, segmentPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';
import { DOUBTFUL, openOffers, refuseOffers, takeOffers } from './offers';
import type { Offer } from './offer';
import { lookAtSheet, stopLooking, useOffers } from './seen';

/** Shows what the sheet is seen to show, and takes what is pointed at. */
class SeenTool implements Tool {
  readonly id = 'see';
  readonly snaps = false;
  readonly cursor = 'crosshair';
  private hover: Offer | null = null;
  private began: Pick | null = null;
  private reached: Pick | null = null;

  constructor(private readonly table: Table) {}

  words(): string {
    const { state, why } = useOffers.getState();
    if (state === 'looking') return 'Calque looks at the sheet … · Esc stops';
    if (state === 'failed') return why;
    if (this.hover) return `Click takes it · Delete refuses it${hoverWords(this.hover)}`;
    return 'Click what is offered, or drag a box around it, to take it · Delete refuses what is pointed at · Esc ends';
  }

  instead = () => '';

  private offerAt(p: Point): Offer | null {
    const reach = REACH_PIXELS / this.table.view.scale;
    let best: Offer | null = null,
      least = reach;
    for (const o of openOffers(this.table)) {
      // Rooms come of their walls.
      if (o.ring || !boxContains(grownBox(o.box, reach), [p[0], p[1], p[0], p[1]])) continue;
      const d = distanceTo(o, p);
      if (d < least) [best, least] = [o, d];
    }
    return best;
  }

  move(pick: Pick): void {
    this.hover = this.offerAt(pick.bare);
  }

  press(pick: Pick): void {
    this.began = this.reached = pick;
  }

  drag(pick: Pick): void {
    this.reached = pick;
  }

  release(pick: Pick): void {
    const { began } = this;
    this.began = this.reached = null;
    if (!began) return;
    const far = Math.hypot(pick.screen[0] - began.screen[0], pick.screen[1] - began.screen[1]);
    if (far < REACH_PIXELS) {
      const offer = this.offerAt(pick.bare);
      if (offer) takeOffers(this.table, [offer]);
      this.hover = null;
      return;
    }
    const box = boxOfPoints([began.bare, pick.bare]);
    takeOffers(
      this.table,
      openOffers(this.table).filter((o) => !o.ring && boxContains(box, [o.at[0], o.at[1], o.at[0], o.at[1]])),
    );
  }

  key(event: KeyboardEvent): boolean {
    if (event.key !== 'Delete' && event.key !== 'Backspace') return false;
    if (this.hover) refuseOffers([this.hover]);
    this.hover = null;
    return true;
  }

  paint(brush: Brush): void {
    const seen = useOffers.getState();
    if (seen.state !== 'seen') return;
    const { context, palette } = brush,
      open = openOffers(this.table);
    paintRooms(brush, open);
    context.save();
    for (const o of open) {
      if (o.ring) continue;
      const isHeld = o.key === this.hover?.key || o.key === seen.walked,
        isDoubtful = o.confidence < DOUBTFUL;
      context.strokeStyle = isDoubtful ? palette.assumed : palette.now;
      context.fillStyle = isDoubtful ? 'rgba(169,106,16,0.16)' : 'rgba(212,69,31,0.16)';
      context.lineWidth = isHeld ? 3 : 1.6;
      context.setLineDash(isHeld ? [] : [6, 4]);
      context.beginPath();
      shapePath(brush, o);
      if (o.shape.type !== 'gridLine') context.fill();
      context.stroke();
    }
    if (this.began && this.reached && this.reached !== this.began) {
      const [x0, y0, x1, y1] = boxOfPoints([this.began.bare, this.reached.bare]);
      context.strokeStyle = palette.soft;
      context.lineWidth = 1;
      context.setLineDash([5, 4]);
      context.beginPath();
      ringPath(brush, [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ]);
      context.stroke();
    }
    context.restore();
  }

  cancel(): boolean {
    if (useOffers.getState().state === 'looking') {
      stopLooking();
      return true;
    }
    const had = this.began !== null;
    this.began = this.reached = null;
    return had;
  }
}

/** What is known of what is pointed at. */
const hoverWords = (o: Offer): string =>
  o.shape.type === 'wall' ? wallWords(o) : o.doubts.map((d) => ` · ${d}`).join('');

/** How sure a wall is, why it is doubtful, and which of its openings are; of columns and grid lines nobody has counted how many are right. */
function wallWords({ confidence, doubts, openings }: Offer): string {
  const unsure = openings.filter((o) => o.confidence < DOUBTFUL).length,
    of = openings.length > 0 ? ` · with ${count(openings.length, 'opening')}` : '';
  return `${of}${unsure > 0 ? `, ${unsure} doubtful` : ''} · ${Math.round(100 * confidence)} % sure${doubts.length > 0 ? `: ${doubts.join(', ')}` : ''}`;
}

/** Rooms as their walls will close them. */
function paintRooms(brush: Brush, offers: readonly Offer[]): void {
  const { context, palette } = brush;
  context.save();
  context.fillStyle = palette.found;
  context.globalAlpha = 0.09;
  for (const { ring } of offers) {
    if (!ring) continue;
    context.beginPath();
    ringPath(brush, ring);
    context.fill();
  }
  context.restore();
}

const asTraced = (o: Offer): Traced =>
  ({
    ...o.shape,
    id: o.key,
    planeId: '',
    source: { underlayId: null, ends: 'snapped', thickness: 'measured' },
  }) as Traced;

/** The body of a wall by itself. */
const bodyOf = (wall: Wall): Ring =>
  wall.curve ? cutWalls([wall]).bodies.get(wall.id)! : plainBody(bandOf(wall));

function shapePath(brush: Brush, o: Offer): void {
  const e = asTraced(o);
  if (e.type !== 'wall') {
    elementPath(brush, e);
    return;
  }
  ringPath(brush, bodyOf(e));
  for (const opening of openingsOf(e))
    for (const t of [opening.from, opening.to]) segmentPath(brush, ...acrossAt(e, t));
  for (const opening of openingsOf(e)) leafPath(brush, e, opening);
}

/** The line across a wall at a distance from its first end. */
function acrossAt(wall: Wall, along: number): [Point, Point] {
  const band = bandOf(wall);
  return [pointAt(band, along, -band.right), pointAt(band, along, band.left)];
}

/** The leaf of a door, open. */
function leafPath(brush: Brush, wall: Wall, o: ReturnType<typeof openingsOf>[number]): void {
  const seen = o.opening;
  if (seen.kind !== 'door') return;
  const band = bandOf(wall);
  if (seen.leaves === 0) {
    // It slides, or folds.
    for (const piece of openingLines(band, o)) piecePath(brush, piece);
    return;
  }
  const width = (o.to - o.from) / (seen.leaves === 2 ? 2 : 1),
    side = seen.opens === 'left' ? 1 : -1,
    face = side > 0 ? band.left : -band.right,
    hinges = seen.leaves === 2 ? [o.from, o.to] : [seen.hung === 'from' ? o.from : o.to];
  for (const t of hinges) segmentPath(brush, pointAt(band, t, face), pointAt(band, t, face + side * width));
}

/** How far a point lies from an offer; 0 within it. */
function distanceTo(o: Offer, p: Point): number {
  const { shape } = o;
  if (shape.type === 'wall') {
    const ring = bodyOf(asTraced(o) as Wall);
    return regionContains(makeRegion([ring], 'nonzero'), p[0], p[1])
      ? 0
      : Math.min(...ring.map((q, i) => distanceToSegment(...p, ...q, ...ring[(i + 1) % ring.length])));
  }
  if (shape.type === 'symbol')
    return Math.max(0, Math.hypot(p[0] - shape.at[0], p[1] - shape.at[1]) - shape.size / 2);
  if (shape.type === 'stair')
    return Math.max(0, distanceToSegment(...p, ...shape.from, ...shape.to) - shape.width / 2);
  if (shape.type === 'gridLine' || shape.type === 'member')
    return distanceToSegment(...p, ...shape.from, ...shape.to);
  if (shape.type === 'column') {
    const { section } = shape,
      half =
        section.form === 'round'
          ? section.diameter / 2
          : section.form === 'rectangle'
            ? Math.max(section.width, section.depth) / 2
            : 0;
    return Math.max(0, Math.hypot(p[0] - shape.at[0], p[1] - shape.at[1]) - half);
  }
  return Infinity;
}

export function takeSeenTool(table: Table): void {
  table.hold(new SeenTool(table));
  const { underlayId, state } = useOffers.getState();
  if (state !== 'seen' || underlayId !== table.state.getState().underlayId) lookAtSheet(table);
}
