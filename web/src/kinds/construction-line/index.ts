import { drawBy } from '@/drawing/take-shape';
import { group, ofType, removeElements, type ConstructionLine } from '@calque/core/model';
import { count } from '@/project/trace-words';
import type { Face } from '../face';
import { CONSTRUCTION_PLAN } from './plan';

export const CONSTRUCTION_LINE_FACE: Face<ConstructionLine> = {
  commands: (hands) => {
    const here = () => {
      const { planeId } = hands.table.state.getState();
      return ofType(hands.session.state.model, 'constructionLine').filter((l) => l.planeId === planeId);
    };
    return [
      drawBy(hands, CONSTRUCTION_PLAN, {
        words: 'Draw construction lines: to pick by, never delivered or counted',
        short: 'Construction',
        key: ', u',
        on: ['drawing', 'frame'],
        picture: 'construction-line',
        also: 'guide helper auxiliary layout setting out infinite ray',
      }),
      {
        id: 'show-construction',
        words: 'Show construction lines, or hide them everywhere',
        also: 'guides helpers',
        group: 'View',
        why: () =>
          hands.session.state.model.hasType('constructionLine')
            ? null
            : 'No construction line has been drawn.',
        run: () => hands.table.setShowConstruction(!hands.table.state.getState().showConstruction),
      },
      {
        id: 'clear-construction',
        words: 'Remove the construction lines of the plane in hand',
        also: 'delete guides clean up',
        group: 'Edit',
        why: () => (here().length > 0 ? null : 'There is no construction line on this plane.'),
        run: () => {
          const lines = here();
          hands.session.do(
            group([removeElements(hands.session.state.model, lines)]),
            `Remove ${count(lines.length, 'construction line')}`,
          );
        },
      },
    ];
  },
  Fields: null,
};
