import {
  ofType,
  setFields,
  type Change,
  type Feature,
  type FeatureForm,
  type Model,
} from '../../model/index.ts';

/** What features need when curves become others: their outlines are made of these, and faces that were called by the old ones by the new. */
export function renamedCurves(model: Model, became: ReadonlyMap<string, readonly string[]>): Change[] {
  const faces = new Map<string, string>();
  for (const [old, now] of became)
    now.forEach((id, i) => faces.set(now.length === 1 ? old : `${old}.${i}`, id));
  const name = (face: string): string =>
    face.replace(/side:([A-Za-z0-9_.-]+)$/, (whole, curve: string) => {
      const now = faces.get(curve);
      return now === undefined ? whole : `side:${now}`;
    });
  return ofType(model, 'feature').flatMap((feature): Change[] => {
    const form = renamedForm(feature.form, became, name);
    const change = form === feature.form ? null : setFields<Feature>(feature, { form });
    return change ? [change] : [];
  });
}

function renamedForm(
  form: FeatureForm,
  became: ReadonlyMap<string, readonly string[]>,
  name: (face: string) => string,
): FeatureForm {
  switch (form.kind) {
    case 'extrude':
    case 'revolve':
    case 'rib': {
      const changed = form.profile.curves.some((c) => became.has(c)),
        profile = changed
          ? { ...form.profile, curves: form.profile.curves.flatMap((c) => became.get(c) ?? [c]) }
          : form.profile;
      if (form.kind === 'extrude' && form.reach.kind === 'face' && name(form.reach.face) !== form.reach.face)
        return { ...form, profile, reach: { kind: 'face', face: name(form.reach.face) } };
      return changed ? { ...form, profile } : form;
    }
    case 'hole':
      return form.centres.some((c) => became.has(c))
        ? { ...form, centres: form.centres.flatMap((c) => became.get(c) ?? [c]) }
        : form;
    case 'round':
    case 'chamfer': {
      const edges = form.edges.map((e) => ({ ...e, between: e.between.map(name) as [string, string] }));
      return edges.some((e, i) => e.between.some((n, k) => n !== form.edges[i].between[k]))
        ? { ...form, edges }
        : form;
    }
    case 'shell': {
      const open = form.open.map(name);
      return open.some((n, i) => n !== form.open[i]) ? { ...form, open } : form;
    }
    default:
      return form;
  }
}
