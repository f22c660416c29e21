/** Numbers that look random and are the same for the same seed (a linear congruential generator, Numerical Recipes). */
export class Random {
  private state: number;
  constructor(seed: number) {
    this.state = seed >>> 0 || 1;
  }

  /** From 0 to below 1. */
  next(): number {
    this.state = (Math.imul(this.state, 1664525) + 1013904223) >>> 0;
    return this.state / 2 ** 32;
  }
  below(n: number): number {
    return Math.floor(this.next() * n);
  }
  pick<T>(list: readonly T[]): T {
    return list[this.below(list.length)];
  }
}
