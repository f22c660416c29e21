import {
  dragged,
  solveSketch,
  stateOf,
  type Sketch,
  type SketchCurve,
  type SketchPoint,
  type SketchRule,
} from '@calque/core/part';

/** A comb of a hundred lines, level and upright in turn, its teeth equal: about two hundred rules. */
function comb(): Sketch {
  const points: SketchPoint[] = [{ id: 'q0', at: [0, 0] }],
    curves: SketchCurve[] = [],
    rules: SketchRule[] = [{ id: 'f', kind: 'fixed', of: ['q0'], at: [0, 0] }];
  let [x, y] = [0, 0];
  for (let i = 1; i <= 100; i++) {
    if (i % 2) x += 10;
    else y += i % 4 ? 10 : -10;
    points.push({ id: `q${i}`, at: [x, y] });
    curves.push({ id: `l${i}`, kind: 'line', from: `q${i - 1}`, to: `q${i}` });
    rules.push({ id: `d${i}`, kind: i % 2 ? 'level' : 'upright', of: [`l${i}`] });
    if (i > 2 && i < 99) rules.push({ id: `e${i}`, kind: 'equal', of: [`l${i}`, `l${i - 2}`] });
  }
  return { points, curves, rules };
}

const DRAGS = 60;

/** What it takes to drag a point of a sketch, and to tell what of it can still move, milliseconds. */
export function sketchTimes() {
  const sketch = comb();
  let now = solveSketch(sketch).sketch;
  const drag = (k: number) => (now = dragged(now, 'q60', [300 + 2 * k, 20 + k]).sketch);
  for (let k = 0; k < 5; k++) drag(k);
  const began = performance.now();
  for (let k = 5; k < 5 + DRAGS; k++) drag(k);
  const between = performance.now();
  stateOf(sketch);
  return {
    rules: sketch.rules.length,
    drag: (between - began) / DRAGS,
    state: performance.now() - between,
  };
}
