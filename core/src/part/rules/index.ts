export { isRuled, planeSketch, pointGrips, pointOf, ruledOn, rulesOn, type Ruled } from './of-plane.ts';
export { settled } from './settle.ts';
export { planeState, type PlaneState, type RuleClash } from './state.ts';
export { foundRules, MOST_LOOKED_THROUGH, USUAL_NEARNESS, type FoundRule, type Nearness } from './found.ts';
export { ruleWords } from './words.ts';
export { figurePlaces, type FigurePlaces } from './figure-places.ts';
export { offeredFigures, type OfferedFigure } from './offered.ts';
export { commonEdges, type CommonEdge } from './common-edges.ts';
export { waysToMove } from './ways.ts';
