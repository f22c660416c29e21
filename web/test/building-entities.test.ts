import { expect, it } from 'vitest';
import { modelOf } from '@calque/core/model';
import { takeoff } from '@calque/core/takeoff';
import { buildingEntities } from '../src/project/building-entities.ts';
import { houseModel } from '../../core/test/given-house.ts';

it('what workers are sent of a project counts as the project does', () => {
  const model = houseModel();
  expect(takeoff(modelOf(buildingEntities(model)))).toEqual(takeoff(model));
});
