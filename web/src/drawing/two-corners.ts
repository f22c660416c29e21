import { lengthField, typedLength } from '@/table/tools/geometry';
import { positive } from './plan-points';
import type { Variant } from './shape-tool';

/** Width and height of what is drawn by two corners, typed once the first is picked. */
export const BY_WIDTH_AND_HEIGHT: Required<Pick<Variant, 'fields' | 'typed'>> = {
  fields: ([a], live, { style }) =>
    a
      ? [
          lengthField('width', 'width', Math.abs(live[0] - a[0]), style),
          lengthField('height', 'height', Math.abs(live[1] - a[1]), style),
        ]
      : null,
  typed: ([a], values, live, { style }) => {
    const w = positive(typedLength(values.width, Math.abs(live[0] - a[0]), style), 'width'),
      h = positive(typedLength(values.height, Math.abs(live[1] - a[1]), style), 'height');
    if (typeof w === 'string') return w;
    return typeof h === 'string' ? h : [[a[0] + (live[0] < a[0] ? -w : w), a[1] + (live[1] < a[1] ? -h : h)]];
  },
};
