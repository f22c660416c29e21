export { drawSet, drawBracketSheet, drawOldPlan, OUTER, PLAN, GROUND_WALLS } from './sheets.ts';
export { scanOf } from './scan.ts';
export { demoSteps } from './project.ts';
export { Drafter, PENS } from './draft.ts';
