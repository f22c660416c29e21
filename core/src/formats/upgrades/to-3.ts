import type { Stored, Upgrade } from '../form.ts';

const isRecord = (value: unknown): value is Stored =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** As an opening was when no more than its place was kept: what it is and how high nobody had said. */
const UNKNOWN = {
  kind: 'gap',
  sill: 0,
  head: 2100,
  leaves: 0,
  hung: 'from',
  opens: 'left',
  tag: '',
  assumed: ['kind', 'sill', 'head'],
};

/** Openings of walls were places that a plan had shown; they became doors, windows and gaps with an id, heights and swing. */
export const to3: Upgrade = {
  to: 3,
  fields(fields) {
    const { openings } = fields;
    if (!Array.isArray(openings) || openings.every((o) => !isRecord(o) || 'kind' in o)) return fields;
    return {
      ...fields,
      openings: openings.map((o: unknown, i) =>
        isRecord(o) && !('kind' in o)
          ? { id: `o${i + 1}`, ...UNKNOWN, assumed: [...UNKNOWN.assumed], ...o }
          : o,
      ),
    };
  },
};
