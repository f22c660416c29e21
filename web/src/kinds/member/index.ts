import { inStage, needsChosen, needsStorey } from '@/commands/command';
import { drawBy } from '@/drawing/take-shape';
import { get, tracedOn, type Member } from '@calque/core/model';
import { isUpright } from '@calque/core/planes';
import { useFloating } from '@/commands/floating';
import type { Face } from '../face';
import { makeMembers, markMembers, membersOnGrid, swapEnds } from './commands';
import { joinChosen, JointTool } from './joint-tool';
import { MemberLevelTool } from './level-tool';
import { outlineAsSection } from './outline-section';
import { MemberFields } from './fields';
import { MEMBER_PLAN } from './plan';

export const MEMBER_FACE: Face<Member> = {
  commands: (hands) => [
    drawBy(hands, MEMBER_PLAN, {
      words: 'Put members of a frame by their ends, in a chain, or standing on the plan',
      short: 'Member',
      key: ', b',
      on: ['frame'],
      picture: 'member',
      also: 'beam column brace rafter purlin joist stud steel timber section profile',
    }),
    {
      id: 'members-on-grid',
      words: 'Put a member that stands at every crossing of the grid',
      short: 'On the grid',
      on: ['frame'],
      picture: 'members-on-grid',
      also: 'columns grid crossings posts',
      group: 'Edit',
      ...needsStorey(hands, 'Members at crossings of the grid stand'),
      run: inStage(hands, 'trace', () => membersOnGrid(hands.table)),
    },
    {
      id: 'joint',
      words: 'Make an end of a member: cut, mitred or coped, on a plate, spliced, on a gusset',
      short: 'Joint',
      key: ', j',
      on: ['frame'],
      picture: 'joint',
      also: 'connection joint connect cut cope notch mitre base plate end plate fin plate splice gusset bolts weld',
      group: 'Tools',
      tool: 'joint',
      run: inStage(hands, 'trace', () => hands.table.hold(new JointTool(hands.table))),
    },
    {
      id: 'join-chosen',
      words: 'Join every end of the members that are selected that meets another, as Joint does',
      short: 'All joints',
      on: ['frame'],
      picture: 'join-chosen',
      also: 'connections automatic all ends',
      group: 'Edit',
      ...needsChosen(hands),
      run: inStage(hands, 'trace', () => joinChosen(hands.table)),
    },
    {
      id: 'member-level',
      words: 'Put ends of members at a level that the elevation prints',
      short: 'At level',
      on: ['frame'],
      picture: 'member-level',
      also: 'height elevation printed figure top of steel',
      group: 'Tools',
      tool: 'member-level',
      why: () => {
        const plane = get(hands.session.state.model, 'plane', hands.table.state.getState().planeId);
        return plane && isUpright(plane)
          ? null
          : 'Go to the upright plane of the frame first, with an elevation or a section laid on it: levels stand there.';
      },
      run: inStage(hands, 'trace', () => hands.table.hold(new MemberLevelTool(hands.table))),
    },
    {
      id: 'outline-section',
      words:
        'Take the outline that is selected as the section of the next members, and of those selected with it',
      short: 'As section',
      on: ['change'],
      rank: 8,
      picture: 'outline-section',
      also: 'own profile custom shape traced section',
      group: 'Edit',
      ...needsChosen(hands),
      run: () => outlineAsSection(hands.table),
    },
    {
      id: 'swap-ends',
      words: 'Change start and end of the members that are selected for one another',
      short: 'Swap ends',
      key: '/',
      on: ['frame'],
      picture: 'swap-ends',
      also: 'reverse direction flip ends',
      group: 'Edit',
      run: inStage(hands, 'trace', () => swapEnds(hands.table)),
    },
    {
      id: 'frame-along',
      words: 'Copy the frame of the upright plane in hand along grid lines or spacings, linked or free',
      short: 'Copy along',
      key: ', q',
      on: ['frame'],
      picture: 'frame-along',
      also: 'array repeat portal bays grid linked copies mirrored',
      group: 'Edit',
      repeats: false,
      why: () => {
        const { planeId } = hands.table.state.getState(),
          plane = get(hands.session.state.model, 'plane', planeId);
        if (!plane || !isUpright(plane))
          return 'Go to the upright plane on which the frame is drawn: it is copied from there.';
        return tracedOn(hands.session.state.model, planeId).length > 0
          ? null
          : 'Nothing has been traced on this plane yet: draw the frame first.';
      },
      run: () => useFloating.getState().flip('along'),
    },
    {
      id: 'mark-members',
      words: 'Give all members their marks: equal ones for equal pieces',
      short: 'Mark pieces',
      on: ['frame'],
      picture: 'mark-members',
      also: 'number assembly piece marks',
      group: 'Edit',
      run: () => markMembers(hands.table),
    },
    {
      id: 'make-members',
      words: 'Make members along the lines and paths that are selected',
      short: 'To members',
      on: ['change', 'frame'],
      picture: 'make-members',
      rank: 7,
      also: 'convert lines to beams',
      group: 'Edit',
      ...needsChosen(hands),
      run: inStage(hands, 'trace', () => makeMembers(hands.table)),
    },
  ],
  Fields: MemberFields,
};
