import type { Sketch, SketchCurve, SketchPoint, SketchRule } from '@calque/core/part';

type Pair = [number, number];

/** Numbers from 0 to 1 that are the same for the same seed. */
export function dice(seed: number): () => number {
  let s = seed >>> 0 || 1;
  return () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = Math.imul(s ^ (s >>> 15), 1 | s);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A sketch as it is put together, where it lies true to all of its rules. */
class Builder {
  readonly points: SketchPoint[] = [];
  readonly curves: SketchCurve[] = [];
  readonly rules: SketchRule[] = [];
  constructor(private readonly roll: () => number) {}

  point(at: Pair): string {
    const id = `p${this.points.length}`;
    this.points.push({ id, at });
    return id;
  }
  line(from: string, to: string): string {
    const id = `c${this.curves.length}`;
    this.curves.push({ id, kind: 'line', from, to });
    return id;
  }
  circle(centre: string, radius: number): string {
    const id = `c${this.curves.length}`;
    this.curves.push({ id, kind: 'circle', centre, radius });
    return id;
  }
  rule(rule: Record<string, unknown>): void {
    this.rules.push({ id: `r${this.rules.length}`, ...rule } as unknown as SketchRule);
  }
  at = (id: string): Pair => this.points.find((p) => p.id === id)!.at;
  ends(line: string): [Pair, Pair] {
    const c = this.curves.find((l) => l.id === line) as Extract<SketchCurve, { kind: 'line' }>;
    return [this.at(c.from), this.at(c.to)];
  }
  pick = <T>(list: readonly T[]): T => list[Math.floor(this.roll() * list.length)];
  between = (low: number, high: number): number => low + this.roll() * (high - low);
}

const far = ([a, b]: Pair, [c, d]: Pair) => Math.hypot(c - a, d - b);

/** A random sketch that is true to its rules, every kind of them, and the same with all of it moved a little. */
export function solvable(seed: number, by: number): { truth: Sketch; begin: Sketch } {
  const roll = dice(seed),
    b = new Builder(roll),
    place = (): Pair => [b.between(0, 300), b.between(0, 300)];
  const lines: string[] = [],
    rounds: string[] = [];
  let last = b.point(place());
  b.rule({ kind: 'fixed', of: [last], at: b.at(last) });
  const grow: (() => void)[] = [
    () => {
      const next = b.point(place());
      if (far(b.at(last), b.at(next)) < 20) return;
      const line = b.line(last, next);
      lines.push(line);
      b.rule({ kind: 'length', of: [line], value: far(b.at(last), b.at(next)) });
      const [[x0, y0], [x1, y1]] = b.ends(line);
      b.rule(
        roll() < 0.5
          ? { kind: 'across', of: [last, next], value: x1 - x0 }
          : { kind: 'up', of: [last, next], value: y1 - y0 },
      );
      last = next;
    },
    () => {
      const [x, y] = b.at(last),
        next = b.point(roll() < 0.5 ? [x + b.between(30, 90), y] : [x, y + b.between(30, 90)]),
        line = b.line(last, next),
        isLevel = b.at(next)[1] === y;
      lines.push(line);
      b.rule(
        roll() < 0.5
          ? { kind: isLevel ? 'level' : 'upright', of: [line] }
          : { kind: isLevel ? 'level' : 'upright', of: [last, next] },
      );
      last = next;
    },
    () => {
      // Along or across another line, or at an angle to it; as long as it.
      if (lines.length === 0) return;
      const other = b.pick(lines),
        [p, q] = b.ends(other),
        turn = b.pick([0, Math.PI / 2, 0.7]),
        angle = Math.atan2(q[1] - p[1], q[0] - p[0]) + turn,
        length = roll() < 0.5 ? far(p, q) : b.between(30, 120),
        [x, y] = b.at(last),
        next = b.point([x + length * Math.cos(angle), y + length * Math.sin(angle)]),
        line = b.line(last, next);
      lines.push(line);
      b.rule(
        turn === 0
          ? { kind: 'parallel', of: [other, line] }
          : turn === 0.7
            ? { kind: 'angle', of: [other, line], value: turn }
            : { kind: 'square', of: [other, line] },
      );
      if (length === far(p, q)) b.rule({ kind: 'equal', of: [other, line] });
      last = next;
    },
    () => {
      if (lines.length === 0) return;
      const line = b.pick(lines),
        [p, q] = b.ends(line),
        t = roll() < 0.5 ? 0.5 : b.between(0.2, 0.8),
        own = b.point([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
      b.rule({ kind: t === 0.5 ? 'middle' : 'on', of: [own, line] });
    },
    () => {
      // A circle that touches a line; its radius is said, or that of another.
      if (lines.length === 0) return;
      const line = b.pick(lines),
        [p, q] = b.ends(line),
        length = far(p, q),
        r =
          rounds.length > 0 && roll() < 0.4
            ? (b.curves.find((c) => c.id === rounds[0]) as { radius: number }).radius
            : b.between(8, 30),
        t = b.between(0.2, 0.8),
        centre = b.point([
          p[0] + t * (q[0] - p[0]) - (r * (q[1] - p[1])) / length,
          p[1] + t * (q[1] - p[1]) + (r * (q[0] - p[0])) / length,
        ]),
        circle = b.circle(centre, r);
      b.rule({ kind: 'touching', of: [line, circle] });
      if (rounds.length > 0 && r === (b.curves.find((c) => c.id === rounds[0]) as { radius: number }).radius)
        b.rule({ kind: 'equal', of: [rounds[0], circle] });
      else
        b.rule(
          roll() < 0.5
            ? { kind: 'radius', of: [circle], value: r }
            : { kind: 'diameter', of: [circle], value: 2 * r },
        );
      rounds.push(circle);
    },
    () => {
      // Two that touch, one in another, or about one centre.
      if (rounds.length === 0) return;
      const chosen = b.pick(rounds),
        other = b.curves.find((c) => c.id === chosen) as Extract<SketchCurve, { kind: 'circle' }>,
        r = b.between(8, 30),
        way = roll();
      if (way < 0.3) {
        const centre = b.point(b.at(other.centre)),
          circle = b.circle(centre, r + 5);
        b.rule({ kind: 'concentric', of: [other.id, circle] });
        rounds.push(circle);
        return;
      }
      const angle = b.between(0, 6),
        d = way < 0.7 ? other.radius + r : Math.abs(other.radius - r);
      if (d < 4) return;
      const [x, y] = b.at(other.centre),
        circle = b.circle(b.point([x + d * Math.cos(angle), y + d * Math.sin(angle)]), r);
      b.rule({ kind: 'touching', of: [other.id, circle] });
      b.rule({ kind: 'radius', of: [circle], value: r });
      rounds.push(circle);
    },
    () => {
      // The mirror image of a point, and one so far beside a line.
      if (lines.length === 0) return;
      const line = b.pick(lines),
        [p, q] = b.ends(line),
        l = far(p, q),
        [ux, uy] = [(q[0] - p[0]) / l, (q[1] - p[1]) / l],
        own = b.point(place()),
        off = ux * (b.at(own)[1] - p[1]) - uy * (b.at(own)[0] - p[0]);
      if (Math.abs(off) < 10) return;
      b.rule({ kind: 'gap', of: [own, line], value: Math.abs(off) });
      const image = b.point([b.at(own)[0] + 2 * off * uy, b.at(own)[1] - 2 * off * ux]);
      b.rule({ kind: 'symmetric', of: [own, image, line] });
      if (roll() < 0.5) b.rule({ kind: 'together', of: [b.point(b.at(image)), image] });
    },
    () => {
      // An arc about a point, from one place to another.
      const centre = b.point(place()),
        r = b.between(10, 60),
        [s, e] = [b.between(0, 6), b.between(0, 6)],
        [x, y] = b.at(centre),
        [from, to] = [s, e].map((a) => b.point([x + r * Math.cos(a), y + r * Math.sin(a)])),
        id = `c${b.curves.length}`;
      b.curves.push({ id, kind: 'arc', centre, from, to });
      b.rule({ kind: 'radius', of: [id], value: r });
      const on = b.point([x + r * Math.cos(s + 1), y + r * Math.sin(s + 1)]);
      b.rule({ kind: 'on', of: [on, id] });
    },
  ];
  for (let i = 0; i < 10; i++) b.pick(grow)();
  const { points, curves, rules } = b,
    truth: Sketch = { points, curves, rules },
    shake = () => by * (2 * roll() - 1);
  return {
    truth,
    begin: {
      points: points.map((p) => ({ ...p, at: [p.at[0] + shake(), p.at[1] + shake()] })),
      curves: curves.map((c) => (c.kind === 'circle' ? { ...c, radius: c.radius + shake() / 2 } : c)),
      rules,
    },
  };
}

/** A rectangle by its corners, from one that is fixed, with both of its sides said. */
export function rectangle(more: SketchRule[] = [], width = 200, height = 100): Sketch {
  const corner = (id: string, x: number, y: number): SketchPoint => ({ id, at: [x, y] }),
    side = (id: string, from: string, to: string): SketchCurve => ({ id, kind: 'line', from, to });
  return {
    points: [corner('a', 1, 2), corner('b', 190, 5), corner('c', 210, 90), corner('d', -4, 96)],
    curves: [
      side('south', 'a', 'b'),
      side('east', 'b', 'c'),
      side('north', 'c', 'd'),
      side('west', 'd', 'a'),
    ],
    rules: [
      { id: 'at', kind: 'fixed', of: ['a'], at: [0, 0] },
      { id: 's', kind: 'level', of: ['south'] },
      { id: 'n', kind: 'level', of: ['north'] },
      { id: 'e', kind: 'upright', of: ['east'] },
      { id: 'w', kind: 'upright', of: ['west'] },
      { id: 'width', kind: 'length', of: ['south'], value: width },
      { id: 'height', kind: 'length', of: ['east'], value: height },
      ...more,
    ],
  };
}
