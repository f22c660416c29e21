import type { Upgrade } from '../form.ts';

/** Elements and sheets lie on a plane, of which a storey's floor is one: `storeyId` became `planeId`. Ids are the same. */
export const to2: Upgrade = {
  to: 2,
  fields(fields) {
    if (!Object.hasOwn(fields, 'storeyId')) return fields;
    const { storeyId, ...others } = fields;
    return Object.hasOwn(others, 'planeId') ? others : { ...others, planeId: storeyId };
  },
};
