import { expect, it } from 'vitest';
import { groundStorey, modelOf, type PaperDrawing, type PaperView } from '@calque/core/model';
import { entitiesFor } from '../src/stages/deliver/ready/write.ts';
import { line, wall } from './given-table.ts';

it('a ready drawing is made of what lies on its planes, and of all storeys where the building is seen from one', () => {
  const model = modelOf([
      { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 },
      groundStorey('ground'),
      { ...groundStorey('loft'), elevation: 3000 },
      wall('low', [0, 0], [5000, 0]),
      { ...wall('high', [0, 0], [5000, 0]), planeId: 'loft' },
      { ...line('l', [0, 0], [1, 1]), planeId: 'south' },
    ]),
    view = (more: Partial<PaperView>): PaperView => ({
      id: 'v',
      planeId: 'south',
      scale: 100,
      at: [0, 0],
      beneath: false,
      caption: '',
      ...more,
    }),
    traced = (...views: PaperView[]) =>
      entitiesFor(model, { views } as PaperDrawing)
        .map((e) => e.id)
        .filter((id) => ['low', 'high', 'l'].includes(id));
  expect(traced(view({}))).toEqual(['l']);
  expect(traced(view({}), view({ planeId: 'ground' }))).toEqual(['low', 'l']);
  expect(traced(view({ building: true }))).toEqual(['low', 'high', 'l']);
});
