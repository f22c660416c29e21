import type { Feature, Part, Rule } from '../../model/index.ts';
import { holeChecks, threadChecks, toleranceChecks } from './drilled.ts';
import type { Check, SolidFacts } from './facts.ts';
import { limitsOf } from './limits.ts';
import { Looked } from './looked.ts';
import { cornerChecks, undercuts, wallChecks } from './milled.ts';
import { bendChecks, sheetChecks, turningChecks } from './other-ways.ts';

/** What of a part cannot be made in its way, or not easily, with the reasons. Empty: nothing that is known here speaks against it. */
export function makingChecks(
  part: Pick<Part, 'way' | 'limits'>,
  facts: SolidFacts,
  features: readonly Feature[],
  rules: readonly Rule[],
): Check[] {
  const limits = limitsOf(part),
    looked = new Looked(facts),
    common = [
      ...holeChecks(looked, limits),
      ...threadChecks(features, looked),
      ...toleranceChecks(rules, limits, part.way, looked),
    ];
  switch (part.way) {
    case 'milling':
    case 'drilling':
      return [
        ...cornerChecks(looked, limits),
        ...wallChecks(looked, limits),
        ...undercuts(looked),
        ...common,
      ];
    case 'turning':
      return [...turningChecks(looked), ...wallChecks(looked, limits), ...common];
    case 'cutting':
      return [...sheetChecks(looked, limits), ...common];
    case 'bending':
      return [...bendChecks(looked, limits), ...common];
  }
}
