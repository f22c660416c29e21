import type { ModelPoint } from '../../geometry/index.ts';
import type { Chamfer, Round, Shell } from '../../model/index.ts';
import { listOf, partsOf, renamed, volumeOf, type Body } from '../body.ts';
import { bodyEdges, edgesNamed, type BodyEdge } from '../edges.ts';
import { StepFault } from '../fault.ts';
import { inScope, kernel, kernelSays } from '../kernel.ts';
import type { Context } from './context.ts';

const shown = (v: number) => String(Number(v.toPrecision(3)));
const placeOf = (p: ModelPoint) => p.map((v) => Number(v.toFixed(1))).join(', ');

/** More edges than this are not tried one by one for the one that fails. */
const MOST_TRIED = 40;

/** Edges rounded or cut off. */
export function edgesWorked(form: Round | Chamfer, { body, id }: Context): Body {
  if (!body) throw new StepFault('There is nothing yet that has edges.');
  const all = bodyEdges(body),
    chosen = [...new Set(form.edges.flatMap((name) => edgesNamed(all, name)))],
    gone = form.edges.filter((name) => edgesNamed(all, name).length === 0).length;
  if (gone > 0)
    throw new StepFault(
      gone === form.edges.length
        ? 'None of its edges is there any more: choose them again.'
        : `${gone} of its edges ${gone === 1 ? 'is' : 'are'} not there any more: choose them again.`,
    );
  const size = form.kind === 'round' ? form.radius : form.distance;
  const made = tried(form, body, chosen, size, id);
  if (made) return made;
  const what = form.kind === 'round' ? `a radius of ${shown(size)} mm` : `a chamfer of ${shown(size)} mm`;
  const bad = chosen.length <= MOST_TRIED ? chosen.filter((e) => !tried(form, body, [e], size, id)) : [];
  const first = bad[0] ?? chosen[0],
    largest = largestThat((v) => tried(form, body, bad.length > 0 ? [first] : chosen, v, id) !== null, size);
  throw new StepFault(
    bad.length > 0
      ? `The edge at ${placeOf(first.form.middle)} does not allow ${what}${largest > 0 ? `; ${shown(largest)} mm can be made there` : ''}.`
      : `These edges together do not allow ${what}${largest > 0 ? `; ${shown(largest)} mm can be made` : ''}.`,
    first.form.middle,
  );
}

/** The largest size below one that can be made, to within a hundredth of it, rounded down to what reads well. */
function largestThat(works: (size: number) => boolean, limit: number): number {
  let [low, high] = [0, limit];
  for (let i = 0; i < 9; i++) {
    const middle = (low + high) / 2;
    if (works(middle)) low = middle;
    else high = middle;
  }
  if (low === 0) return 0;
  const step = 10 ** Math.floor(Math.log10(low) - 1);
  return Math.floor(low / step) * step;
}

function tried(
  form: Round | Chamfer,
  body: Body,
  edges: readonly BodyEdge[],
  size: number,
  id: string,
): Body | null {
  const before = volumeOf(body.shape);
  try {
    return inScope((s) => {
      const k = kernel(),
        making = s.keep(
          form.kind === 'round'
            ? new k.BRepFilletAPI_MakeFillet(body.shape, k.ChFi3d_FilletShape.ChFi3d_Rational)
            : new k.BRepFilletAPI_MakeChamfer(body.shape),
        );
      for (const { edge } of edges) making.Add(size, edge);
      making.Build(s.keep(new k.Message_ProgressRange()));
      if (!making.IsDone()) return null;
      const shape = making.Shape();
      const check = s.keep(new k.BRepCheck_Analyzer(shape, true, false, false));
      if (!check.IsValid()) return null;
      const after = volumeOf(shape);
      // Both take from outer edges and fill inner ones, never more than all.
      if (
        !(after > 0) ||
        after > 2 * before ||
        partsOf(shape, 'SOLID').length !== partsOf(body.shape, 'SOLID').length
      )
        return null;
      return { shape, faces: renamed(shape, body.faces, making, (_, i) => `${id}/edge:${i}`) };
    });
  } catch (e) {
    if (kernelSays(e) !== null) return null;
    throw e;
  }
}

/** Hollow, open at some faces. */
export function shelled(form: Shell, { body, id }: Context): Body {
  if (!body) throw new StepFault('There is nothing yet that could be hollow.');
  const open = form.open.map((name) => {
    const found = body.faces.filter((f) => f.name === name);
    if (found.length === 0)
      throw new StepFault('A face at which it is open is not there any more: choose it again.');
    return found.map((f) => f.face);
  });
  if (open.length === 0) throw new StepFault('Choose at least one face at which it is open.');
  const words = `Walls of ${shown(form.thickness)} mm cannot be made: they are thicker than the part or one of its curves allows.`;
  try {
    return inScope((s) => {
      const k = kernel(),
        making = s.keep(new k.BRepOffsetAPI_MakeThickSolid());
      making.MakeThickSolidByJoin(
        body.shape,
        listOf(s, open.flat()),
        -form.thickness,
        1e-6,
        k.BRepOffset_Mode.BRepOffset_Skin,
        false,
        false,
        k.GeomAbs_JoinType.GeomAbs_Intersection,
        false,
        s.keep(new k.Message_ProgressRange()),
      );
      if (!making.IsDone()) throw new StepFault(words);
      const shape = making.Shape(),
        volume = volumeOf(shape);
      if (!(volume > 0 && volume < volumeOf(body.shape))) throw new StepFault(words);
      if (!s.keep(new k.BRepCheck_Analyzer(shape, true, false, false)).IsValid()) throw new StepFault(words);
      return { shape, faces: renamed(shape, body.faces, making, (_, i) => `${id}/inner:${i}`) };
    });
  } catch (e) {
    if (kernelSays(e) !== null) throw new StepFault(words);
    throw e;
  }
}
