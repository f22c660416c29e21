import { get, kindOf, type Loose, type Model } from '../../model/index.ts';
import type { IfcScope } from './scope.ts';
import type { Ref } from '../step/step-text.ts';

const ENDS = {
  snapped: 'picked on lines of the sheet',
  free: 'picked freely',
  typed: 'typed',
  mixed: 'picked, some on lines of the sheet',
} as const;

/** Where an element and its measures came from, as properties of our own. */
export function sourceProperties(
  scope: IfcScope,
  model: Model,
  owner: { ref: Ref; name: string },
  e: Loose,
): void {
  const { source } = e,
    underlay = source.underlayId ? get(model, 'underlay', source.underlayId) : null,
    assumed = kindOf(e).doubts?.assumed(e) ?? [];
  scope.properties(owner, 'Calque_Source', {
    Sheet: underlay?.name ?? source.sheet ?? null,
    SheetScale: underlay ? underlay.scaleState : null,
    Places: ENDS[source.ends],
    FromInkOfScan: source.ink ? true : null,
    Thickness: e.type === 'wall' ? source.thickness : null,
    Assumed: assumed.length > 0 ? assumed.join(', ') : null,
  });
}
