import type { Cubic } from '../geometry/index.ts';
import { GrowingFloats, GrowingInts } from './growing.ts';
import { STRIDE } from './types.ts';

/** Items as flat arrays: `object` the number of the page object of each; `drawn` the pieces as drawn. */
export interface Taken {
  geometry: Float64Array;
  style: Int32Array;
  object: Int32Array;
  drawn: number;
}

/** The number of the page object from an item's paint order. */
export const objectOf = (order: number) => (order < 0 ? -1 - order : order);

/** Items of one kind: geometry, style (layer, pen) and paint order; hidden items have order -1 - n. */
export class ItemStore {
  readonly geometry: GrowingFloats;
  readonly style: GrowingInts;
  readonly order: GrowingInts;
  constructor(
    readonly stride: number,
    capacity = 1024,
  ) {
    this.geometry = new GrowingFloats(capacity * stride);
    this.style = new GrowingInts(capacity * 2);
    this.order = new GrowingInts(capacity * 2);
  }

  get count(): number {
    return this.order.length / 2;
  }

  /** `again`: a further visible part of the piece before it, so that drawn pieces are counted once. */
  add(values: readonly number[], layer: number, pen: number, order: number, again = false): void {
    this.geometry.push(values);
    this.style.push2(layer, pen);
    this.order.push2(order, again ? 1 : 0);
  }

  add4(
    a: number,
    b: number,
    c: number,
    d: number,
    layer: number,
    pen: number,
    order: number,
    again = false,
  ): void {
    this.geometry.push4(a, b, c, d);
    this.style.push2(layer, pen);
    this.order.push2(order, again ? 1 : 0);
  }

  /** Everything, without asking item by item. */
  takeAll(): Taken {
    const n = this.count;
    const object = new Int32Array(n);
    let drawn = 0;
    for (let i = 0; i < n; i++) {
      object[i] = objectOf(this.order.at(2 * i));
      if (this.order.at(2 * i + 1) === 0) drawn++;
    }
    return { geometry: this.geometry.toArray(), style: this.style.toArray(), object, drawn };
  }

  /** The items that `keep` takes, as flat arrays, and how many pieces as drawn they are. `countHidden`: those on layers that are off count too. */
  take(keep: (item: number, order: number) => boolean, countHidden: boolean): Taken {
    const n = this.count,
      { stride } = this;
    const source = this.geometry.view();
    const geometry = new Float64Array(n * stride),
      style = new Int32Array(n * 2),
      object = new Int32Array(n);
    let kept = 0,
      drawn = 0;
    for (let i = 0; i < n; i++) {
      if (!keep(i, this.order.at(2 * i))) continue;
      for (let k = 0; k < stride; k++) geometry[kept * stride + k] = source[i * stride + k];
      style[2 * kept] = this.style.at(2 * i);
      style[2 * kept + 1] = this.style.at(2 * i + 1);
      const order = this.order.at(2 * i);
      object[kept] = objectOf(order);
      if (this.order.at(2 * i + 1) === 0 && (order >= 0 || countHidden)) drawn++;
      kept++;
    }
    return {
      geometry: geometry.slice(0, kept * stride),
      style: style.slice(0, kept * 2),
      object: object.slice(0, kept),
      drawn,
    };
  }
}

export class ItemStores {
  readonly segments = new ItemStore(STRIDE.segments, 65536);
  readonly arcs = new ItemStore(STRIDE.arcs);
  readonly circles = new ItemStore(STRIDE.circles);
  readonly curves = new ItemStore(STRIDE.curves);
  readonly fillEdges = new ItemStore(STRIDE.fillEdges, 4096);
}

export const asCubic = (v: ArrayLike<number>, at: number): Cubic => [
  v[at],
  v[at + 1],
  v[at + 2],
  v[at + 3],
  v[at + 4],
  v[at + 5],
  v[at + 6],
  v[at + 7],
];
