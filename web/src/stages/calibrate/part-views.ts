import type { PrintedReading, SheetView } from '@calque/core/calibration';
import { group, ofType, setFields, type Change, type Model, type Underlay } from '@calque/core/model';
import { describeScale } from '@calque/core/units';

/** The part of the crop that a view takes up; null where they do not meet. */
function cropTo(u: Pick<Underlay, 'crop'>, { region }: SheetView): Underlay['crop'] | null {
  const crop: Underlay['crop'] = [
    Math.max(u.crop[0], region[0]),
    Math.max(u.crop[1], region[1]),
    Math.min(u.crop[2], region[2]),
    Math.min(u.crop[3], region[3]),
  ];
  return crop[2] > crop[0] && crop[3] > crop[1] ? crop : null;
}

/** Views of a page that the underlay shows some of. */
export const viewsWithin = (u: Pick<Underlay, 'crop'>, reading: PrintedReading): number[] =>
  reading.views.flatMap((v, i) => (cropTo(u, v) ? [i] : []));

/** Makes every view that an underlay shows a sheet of its own, with its own calibration: the underlay keeps `own`, the others are copies of it. */
export function partViews(
  model: Model,
  u: Underlay,
  reading: PrintedReading,
  own: number,
  imperial: boolean,
): Change | null {
  let order = Math.max(0, ...ofType(model, 'underlay').map((o) => o.order));
  return group(
    reading.views.map((view, i): Change | null => {
      const crop = cropTo(u, view);
      if (!crop) return null;
      if (i === own) return setFields(u, { crop, outline: null });
      return {
        type: 'add',
        entity: {
          ...u,
          id: crypto.randomUUID(),
          name: `${u.name}, ${describeScale(view.factor, imperial).text}`.slice(0, 200),
          crop,
          outline: null,
          scaleState: 'paper',
          calibration: null,
          order: ++order,
        },
      };
    }),
  );
}
