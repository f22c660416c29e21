import {
  compose,
  mirrorIn,
  rotationAbout,
  scalingAbout,
  translation,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { get, storedTransform, type Assembly } from '@calque/core/model';
import { formatNumber, parseAngle } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { MovedPath } from '@/table/painters/moved-path';
import type { Table } from '@/table/table';
import { angleField, pointFields, typedPoint } from '@/table/tools/geometry';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick, Tool } from '@/table/tool';
import { currentLayer, foundBy, sourceOf, TYPED, type Found } from '@/drawing/drawn';

const MOST_FACTOR = 1000;

/** Places a group, click after click; turned and scaled by typed figures, mirrored by F. */
export class PlaceTool implements Tool {
  readonly id = 'place';
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private hover: Pick | null = null;
  private turn = 0;
  private factor = 1;
  private mirrored = false;
  private placed = 0;
  private readonly path: MovedPath;

  constructor(
    private readonly table: Table,
    readonly assembly: Assembly,
  ) {
    this.path = new MovedPath(assembly.elements);
  }

  words(): string {
    const how = [
      this.turn !== 0 && `turned by ${formatNumber((this.turn * 180) / Math.PI, 1)}°`,
      this.mirrored && 'mirrored',
      this.factor !== 1 && `${formatNumber(this.factor, 3)} times as large`,
    ]
      .filter(Boolean)
      .join(', ');
    return `Place ${this.assembly.name}${how ? `, ${how}` : ''}: click where it goes, or type its turn · F mirrors${this.placed > 0 ? ' · Backspace: one back' : ''} · Esc ends`;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  private at([x, y]: Point): Transform {
    const own = compose(
      scalingAbout(this.factor, [0, 0]),
      this.mirrored ? mirrorIn([0, 0], [0, 1])! : translation(0, 0),
    );
    return compose(translation(x, y), compose(rotationAbout(this.turn, [0, 0]), own));
  }

  press(pick: Pick): void {
    this.put(pick.plane, foundBy(pick));
  }

  private put(at: Point, found: Found): void {
    const { table } = this,
      { planeId } = table.state.getState();
    if (!get(table.session.state.model, 'assembly', this.assembly.id)) {
      table.session.tell(`The group ${this.assembly.name} is there no more.`, true);
      table.layDown();
      return;
    }
    const layerId = currentLayer(table);
    const entity = {
      type: 'placed',
      id: crypto.randomUUID(),
      planeId,
      source: sourceOf(table, [found]),
      ...(layerId && { layerId }),
      assemblyId: this.assembly.id,
      placement: storedTransform(this.at(at)),
    } as const;
    if (table.session.do({ type: 'add', entity }, `Place ${this.assembly.name}`)) this.placed++;
  }

  nextVariant(): boolean {
    this.mirrored = !this.mirrored;
    return true;
  }

  field(): FieldRequest | null {
    if (!this.hover) return null;
    const { plane } = this.hover;
    return {
      required: false,
      at: plane,
      fields: [
        angleField('turn', 'turn', this.turn),
        { id: 'factor', label: 'size', unit: 'number', live: formatNumber(this.factor, 3) },
      ],
      others: pointFields(null, plane, lengthStyle(this.table.session.state.model)),
    };
  }

  submit(values: Record<string, string>): string | null {
    const given = (id: string) => (values[id] ?? '').trim();
    if (given('x') || given('y')) {
      const at =
        this.hover && typedPoint(values, null, this.hover.plane, lengthStyle(this.table.session.state.model));
      if (typeof at === 'string') return at;
      if (at) this.put(at, TYPED);
      return null;
    }
    const turn = given('turn') ? parseAngle(given('turn')) : this.turn;
    if (turn === null) return `"${given('turn')}" is not an angle. Type degrees, such as 90 or 24.5.`;
    const factor = given('factor') ? Number(given('factor').replace(',', '.')) : this.factor;
    if (!(factor >= 1 / MOST_FACTOR && factor <= MOST_FACTOR))
      return `"${given('factor')}" is not a size. Type a number above 0, such as 1.5: so many times as large.`;
    [this.turn, this.factor] = [turn, factor];
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace' && this.placed > 0) {
      this.placed--;
      this.table.session.undo();
    } else if (event.key === 'Enter' && this.hover) this.press(this.hover);
    else return false;
    return true;
  }

  paint(brush: Brush): void {
    if (this.hover) this.path.stroke(brush, brush.palette.now, this.at(this.hover.plane));
  }

  cancel(): boolean {
    return false;
  }
}
