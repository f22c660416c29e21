export { cornersOf, depthOf, frameOf, isUpright, lineInPlan, roleWord } from './frames.ts';
export { buildingHeight, freePlaneName, turnedRound, uprightPlane, type Upright } from './upright.ts';
export { nearness, planeInView, viewFrame, type Outlook } from './view.ts';
