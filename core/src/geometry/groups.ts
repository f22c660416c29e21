/** Which of n things belong together, found by joining two at a time (union by halving paths). */
export class Groups {
  private readonly parent: Int32Array;

  constructor(n: number) {
    this.parent = Int32Array.from({ length: n }, (_, i) => i);
  }

  /** The number that stands for the group of a thing. */
  of(thing: number): number {
    const { parent } = this;
    let at = thing;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]];
    return at;
  }

  join(a: number, b: number): void {
    this.parent[this.of(b)] = this.of(a);
  }
}
