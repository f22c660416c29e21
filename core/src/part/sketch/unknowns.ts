import type { Sketch, SketchCurve } from './sketch.ts';

/** Thrown for a rule that names what the sketch has not, or what cannot be so; in words. */
export class SketchError extends Error {
  override readonly name = 'SketchError';
}

/** Where the unknowns of a sketch stand in one row of numbers: x and y of each point, then the radius of each circle. */
export class Unknowns {
  readonly count: number;
  readonly values: Float64Array;
  private readonly points = new Map<string, number>();
  private readonly curves = new Map<string, SketchCurve>();
  private readonly joined = new Map<string, string>();
  private readonly radii = new Map<string, number>();

  constructor(readonly sketch: Sketch) {
    let n = 0;
    for (const p of sketch.points) {
      this.points.set(p.id, n);
      n += 2;
    }
    for (const c of sketch.curves) {
      this.curves.set(c.id, c);
      if (c.kind === 'circle') this.radii.set(c.id, n++);
    }
    this.count = n;
    for (const r of sketch.rules) {
      if (r.kind !== 'together') continue;
      const [p, q] = [this.root(r.of[0]), this.root(r.of[1])];
      if (p !== q) this.joined.set(p, q);
    }
    this.values = new Float64Array(n);
    for (const p of sketch.points) this.values.set(p.at, this.points.get(p.id)!);
    for (const c of sketch.curves) if (c.kind === 'circle') this.values[this.radii.get(c.id)!] = c.radius;
  }

  /** Where the x of a point stands at which two curves join by their ends: the second's own; null where they do not. */
  joint(a: string, b: string): number | null {
    const ends = (id: string): string[] => {
      const c = this.curve(id);
      return c.kind === 'circle' ? [] : [c.from, c.to];
    };
    for (const p of ends(b)) for (const q of ends(a)) if (this.root(p) === this.root(q)) return this.point(p);
    return null;
  }

  /** One point for all that rules put together. */
  private root(id: string): string {
    let at = id;
    for (let up = this.joined.get(at); up !== undefined; up = this.joined.get(at)) at = up;
    return at;
  }

  isPoint = (id: string): boolean => this.points.has(id);

  /** Where the x of a point stands; its y stands behind it. */
  point(id: string): number {
    const at = this.points.get(id);
    if (at === undefined) throw new SketchError(`there is no point "${id}" in the sketch`);
    return at;
  }

  curve(id: string): SketchCurve {
    const c = this.curves.get(id);
    if (!c) throw new SketchError(`there is nothing "${id}" in the sketch`);
    return c;
  }

  /** Its two ends. */
  line(id: string): [number, number] {
    const c = this.curve(id);
    if (c.kind !== 'line') throw new SketchError(`"${id}" is no line`);
    return [this.point(c.from), this.point(c.to)];
  }

  /** The centre of an arc or a circle, and its radius: an unknown of its own, or the distance of its beginning. */
  round(id: string): { centre: number; radius: number | null; from: number | null } {
    const c = this.curve(id);
    if (c.kind === 'line') throw new SketchError(`"${id}" is not round`);
    return c.kind === 'circle'
      ? { centre: this.point(c.centre), radius: this.radii.get(id)!, from: null }
      : { centre: this.point(c.centre), radius: null, from: this.point(c.from) };
  }

  /** The sketch with other values. */
  with(values: Float64Array): Sketch {
    const { points, curves } = this.sketch;
    return {
      ...this.sketch,
      points: points.map((p) => {
        const at = this.point(p.id);
        return { ...p, at: [values[at], values[at + 1]] };
      }),
      curves: curves.map((c) =>
        c.kind === 'circle' ? { ...c, radius: Math.abs(values[this.radii.get(c.id)!]) } : c,
      ),
    };
  }
}
