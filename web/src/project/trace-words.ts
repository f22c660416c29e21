import { isTraced, type Model, type Traced } from '@calque/core/model';

/** What has been traced, on one storey or on all. */
export function tracedOf(model: Model, planeId?: string): Traced[] {
  const out: Traced[] = [];
  for (const e of model.values())
    if (isTraced(e) && (planeId === undefined || e.planeId === planeId)) out.push(e);
  return out;
}

export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** How much has been traced: "12 walls, 4 lines, 3 others"; empty for nothing. */
export function traceWords(elements: readonly Traced[]): string {
  const walls = elements.filter((e) => e.type === 'wall').length,
    lines = elements.filter((e) => e.type === 'line').length,
    others = elements.length - walls - lines;
  return [
    walls > 0 && count(walls, 'wall'),
    lines > 0 && count(lines, 'line'),
    others > 0 && (walls + lines > 0 ? count(others, 'other') : count(others, 'element')),
  ]
    .filter(Boolean)
    .join(', ');
}
