import { inStage, type Command, type Hands } from '@/commands/command';
import { ShapeTool, type ShapePlan } from './shape-tool';

/** The command that takes up the tool which draws by a plan; its button is lit while that is in hand. */
export const drawBy = (
  hands: Hands,
  plan: ShapePlan,
  more: Pick<Command, 'words' | 'key' | 'also' | 'picture' | 'on' | 'short'>,
): Command => ({
  id: plan.id,
  short: plan.noun,
  group: 'Tools',
  tool: plan.id,
  on: ['drawing'],
  ...more,
  run: inStage(hands, 'trace', () => hands.table.hold(new ShapeTool(hands.table, plan))),
});
