export { roofOver, type RoofPlan } from './skeleton.ts';
