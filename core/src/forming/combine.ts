import type { TopoDS_Shape } from 'replicad-opencascadejs';
import type { Doing } from '../model/index.ts';
import { listOf, partsOf, renamed, volumeOf, type Body, type NamedFace } from './body.ts';
import { StepFault } from './fault.ts';
import { inScope, kernel } from './kernel.ts';

/** Less of a change than this share of the part is none. */
const NO_CHANGE = 1e-12;

/**
 * A body with solids added, taken away, or with what it has in common with them. Faces keep their names. Throws StepFault where nothing comes of
 * it, or nothing is left.
 */
export function combined(does: Doing, body: Body | null, tools: readonly Body[]): Body {
  if (!body) {
    if (does !== 'add') throw new StepFault('There is nothing yet from which it could be taken.');
    if (tools.length === 1) return tools[0];
    return combined('add', tools[0], tools.slice(1));
  }
  const before = volumeOf(body.shape),
    result = operated(
      does,
      body.shape,
      tools.map((t) => t.shape),
      [...body.faces, ...tools.flatMap((t) => t.faces)],
    ),
    after = volumeOf(result.shape);
  if (!(after > 0) || partsOf(result.shape, 'SOLID').length === 0)
    throw new StepFault(
      does === 'cut' ? 'It takes all of the part away.' : 'Nothing would be left of the part.',
    );
  if (does === 'cut' && before - after <= NO_CHANGE * before)
    throw new StepFault('It takes nothing away: it lies beside the part, or goes the other way.');
  return result;
}

const OPERATIONS = { add: 'BRepAlgoAPI_Fuse', cut: 'BRepAlgoAPI_Cut', common: 'BRepAlgoAPI_Common' } as const;

/** The operation of the kernel itself. */
export function operated(
  does: Doing,
  shape: TopoDS_Shape,
  tools: readonly TopoDS_Shape[],
  names: readonly NamedFace[],
  simplified = true,
): Body {
  return inScope((s) => {
    const k = kernel(),
      making = s.keep(new k[OPERATIONS[does]]());
    making.SetArguments(listOf(s, [shape]));
    making.SetTools(listOf(s, tools));
    making.SetToFillHistory(true);
    making.Build(s.keep(new k.Message_ProgressRange()));
    if (making.HasErrors()) throw new StepFault('What it makes and the part do not come together.');
    if (simplified) making.SimplifyResult(true, true, 1e-9);
    const result = making.Shape();
    return { shape: result, faces: renamed(result, names, making, (_, i) => `unnamed:${i}`) };
  });
}
