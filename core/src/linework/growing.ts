/** Typed arrays that grow: one number after another, without boxing. */
export class GrowingFloats {
  private data: Float64Array;
  length = 0;
  constructor(capacity = 1024) {
    this.data = new Float64Array(capacity);
  }

  push4(a: number, b: number, c: number, d: number): void {
    const n = this.length;
    if (n + 4 > this.data.length) this.grow(n + 4);
    this.data[n] = a;
    this.data[n + 1] = b;
    this.data[n + 2] = c;
    this.data[n + 3] = d;
    this.length = n + 4;
  }

  push(values: readonly number[]): void {
    if (this.length + values.length > this.data.length) this.grow(this.length + values.length);
    this.data.set(values, this.length);
    this.length += values.length;
  }

  at(i: number): number {
    return this.data[i];
  }
  /** A view of what has been pushed; valid until the next push. */
  view(): Float64Array {
    return this.data.subarray(0, this.length);
  }
  toArray(): Float64Array {
    return this.data.slice(0, this.length);
  }

  private grow(needed: number): void {
    const next = new Float64Array(Math.max(needed, this.data.length * 2));
    next.set(this.data);
    this.data = next;
  }
}

export class GrowingInts {
  private data: Int32Array;
  length = 0;
  constructor(capacity = 1024) {
    this.data = new Int32Array(capacity);
  }

  push2(a: number, b: number): void {
    if (this.length + 2 > this.data.length) {
      const next = new Int32Array(this.data.length * 2);
      next.set(this.data);
      this.data = next;
    }
    this.data[this.length++] = a;
    this.data[this.length++] = b;
  }

  push3(a: number, b: number, c: number): void {
    if (this.length + 3 > this.data.length) {
      const next = new Int32Array(this.data.length * 2);
      next.set(this.data);
      this.data = next;
    }
    this.data[this.length++] = a;
    this.data[this.length++] = b;
    this.data[this.length++] = c;
  }

  at(i: number): number {
    return this.data[i];
  }
  toArray(): Int32Array {
    return this.data.slice(0, this.length);
  }
}
