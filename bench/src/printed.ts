import { readPrinted } from '@calque/core/calibration';
import { chanceFrom, Drafting } from '../../core/test/given-plan.ts';

/** Reading the printed dimensions of a dense sheet: seconds, and how many were found. */
export function printedTimes(segments: number, dimensions: number): { seconds: number; found: number } {
  const page = new Drafting(3370, 2384),
    chance = chanceFrom(3);
  for (let i = 0; i < segments; i++) {
    const x = 40 + 3250 * chance(),
      y = 40 + 2260 * chance();
    page.line(x, y, x + 20 * (chance() - 0.5), y + 20 * (chance() - 0.5));
  }
  for (let i = 0; i < dimensions; i++) {
    const mm = 500 + 50 * Math.floor(120 * chance()),
      points = (mm / 100 / 25.4) * 72,
      x = 60 + 3000 * chance(),
      y = 60 + 2200 * chance();
    page.dimension([x, y], i % 2 === 0 ? [x + points, y] : [x, y + points], String(mm), {
      marks: 'tick',
      figures: 'above',
      textHeight: 6,
    });
  }
  const linework = page.linework();
  const began = performance.now();
  const reading = readPrinted(linework);
  return {
    seconds: (performance.now() - began) / 1000,
    found: reading.dimensions.filter((d) => d.agrees).length,
  };
}
