import { translation } from '@calque/core/geometry';
import type { LengthStyle } from '@calque/core/units';
import type { EditPlan } from '@/table/tools/edit-tool';
import { distance, lengthField, typedLength } from '@/table/tools/geometry';

/** The most copies that a row may have. */
const MOST_IN_ROW = 999;
/** What rows are made with until something else is typed: the number of copies, and their spacing in millimetres. */
const last = { copies: 3, spacing: 1000 };

/** Copies in a row along a picked line: so many up to its end, or as many as fit at a spacing. */
export function rowPlans(style: () => LengthStyle): EditPlan {
  const divided: EditPlan = {
    id: 'row',
    verb: 'Row of copies up to its end',
    keeps: false,
    livesAfter: 1,
    steps: ['pick the point from which it runs', 'pick where the last copy goes, or type how many copies'],
    map: ([a, b]) =>
      distance(a, b) > 1e-9 ? translation((b[0] - a[0]) / last.copies, (b[1] - a[1]) / last.copies) : null,
    copies: () => last.copies,
    fields: () => [{ id: 'row-copies', label: 'copies', unit: 'number', live: String(last.copies) }],
    typed: (_points, values) => {
      const n = Number(values['row-copies']);
      if (!Number.isInteger(n) || n < 1 || n > MOST_IN_ROW)
        return `"${values['row-copies']}" is no number of copies. Type a whole number from 1 to ${MOST_IN_ROW}.`;
      last.copies = n;
      return null;
    },
  };
  const spaced: EditPlan = {
    id: 'row',
    verb: 'Row of copies at a spacing',
    keeps: false,
    livesAfter: 1,
    steps: ['pick the point from which it runs', 'pick how far it runs at most, or type the spacing'],
    map: ([a, b]) => {
      const length = distance(a, b),
        k = last.spacing / length;
      return length >= last.spacing * (1 - 1e-9) ? translation(k * (b[0] - a[0]), k * (b[1] - a[1])) : null;
    },
    copies: ([a, b]) => Math.min(MOST_IN_ROW, Math.floor(distance(a, b) / last.spacing + 1e-9)),
    fields: () => [lengthField('spacing', 'spacing', last.spacing, style())],
    typed: (_points, values) => {
      const spacing = typedLength(values.spacing, last.spacing, style());
      if (typeof spacing === 'string') return spacing;
      if (spacing <= 0) return 'The spacing must be above 0.';
      last.spacing = spacing;
      return null;
    },
  };
  divided.other = spaced;
  spaced.other = divided;
  return divided;
}
