import { planeFromWorld, type ModelPoint, type Point } from '../geometry/index.ts';
import type { Model, Part, Rule, WorkPlane } from '../model/index.ts';
import {
  costOf,
  drivingSources,
  featureName,
  featuresOf,
  heldFigures,
  isRuled,
  makingChecks,
  partPlanes,
  pointGrips,
  pointOf,
  recipeOf,
  rulesOn,
  sheetUnitOf,
  type Cost,
  type LaidSheet,
  type MakingCheck,
  threadedHoles,
} from '../part/index.ts';
import type { Body } from './body.ts';
import { edgeLines, skinOf, TO_LOOK_AT, type ShownEdge, type Skin } from './drawn.ts';
import { bodyEdges } from './edges.ts';
import { roundHoles, type RoundHole } from './holes.ts';
import { measured, type Measures } from './measure.ts';
import { Builder, type StepState } from './rebuild.ts';
import { viewOn } from './views.ts';

/** A printed figure of a part's sheet, and what its solid measures there. */
export interface PrintedOnSolid {
  text: string;
  /** Millimetres, or radians of an angle. */
  printed: number;
  /** null: nothing of the solid is there. */
  model: number | null;
  agrees: boolean;
  /** It drives. */
  drives?: boolean;
  /** What differs, where a figure alone does not tell. */
  words?: string;
}

/** All that is known of a part; lengths in millimetres, masses in kilograms. */
export interface PartReport {
  name: string;
  material: string;
  volume: number;
  mass: number;
  surface: number;
  centre: ModelPoint;
  box: readonly number[];
  /** kg mm2, about axes through its centre: xx, yy, zz, xy, xz, yz. */
  inertia: readonly number[];
  features: { name: string; kind: string; state: StepState['state']; words: string }[];
  holes: {
    at: ModelPoint;
    axis: ModelPoint;
    kind: RoundHole['kind'] | 'tapped';
    diameter: number;
    depth: number | null;
    thread: string | null;
    head: RoundHole['head'];
  }[];
  printed: PrintedOnSolid[];
  checks: MakingCheck[];
  cost: Cost | null;
}

/** Agreement of a figure that drives and a solid made from it: what is left of rounding, millimetres. */
const AGREES = 1e-6;
/** What of a solid lies so near to a point of linework is made from it, millimetres. */
const SAME_PLACE = 1e-4;

/**
 * Makes a part from nothing and tells all that is known of it; the body is null where no feature could be made. What is printed on `sheets`, laid on its
 * planes, is held against it too.
 */
export function partReport(
  model: Model,
  part: Part,
  sheets: readonly LaidSheet[] = [],
  file?: (id: string) => Uint8Array | null,
): { report: PartReport; body: Body | null } {
  const { body, states } = new Builder(file).rebuild(recipeOf(model, part.id)),
    features = featuresOf(model, part.id),
    told = features.map((f) => {
      const state = states.find((s) => s.id === f.id)!;
      return { name: featureName(f, features), kind: f.form.kind, state: state.state, words: state.words };
    });
  const base = { name: part.name, material: part.material, features: told };
  if (!body)
    return {
      body,
      report: {
        ...base,
        volume: 0,
        mass: 0,
        surface: 0,
        centre: [0, 0, 0],
        box: [0, 0, 0, 0, 0, 0],
        inertia: [0, 0, 0, 0, 0, 0],
        holes: [],
        printed: [],
        checks: [],
        cost: null,
      },
    };
  const solid = shownSolid(model, part, body),
    { measures, holes, threads } = solid;
  return {
    body,
    report: {
      ...base,
      volume: measures.volume,
      mass: (measures.volume * part.density) / 1e9,
      surface: measures.surface,
      centre: measures.centre,
      box: measures.box,
      inertia: measures.inertia.map((v) => (v * part.density) / 1e9),
      holes: holes.map(({ at, axis, kind, diameter, depth, head }, i) => ({
        at,
        axis,
        kind: threads[i] ? 'tapped' : kind,
        diameter,
        depth,
        thread: threads[i],
        head,
      })),
      printed: [...solid.printed, ...printedOnSheets(model, part, body, solid, sheets)],
      checks: solid.checks,
      cost: costOf(part, solid),
    },
  };
}

/** What is printed on sheets beside what drives. */
function printedOnSheets(
  model: Model,
  part: Part,
  body: Body,
  solid: Pick<ShownSolid, 'holes' | 'threads'>,
  sheets: readonly LaidSheet[],
): PrintedOnSolid[] {
  if (sheets.length === 0) return [];
  const planes = partPlanes(model, part.id),
    laid = planes.filter((p) => sheets.some((s) => s.underlay.planeId === p.id)),
    seen = laid.map((plane) => ({ plane, view: viewOn(body, plane) }));
  return heldFigures(
    seen,
    sheets,
    threadedHoles(solid),
    drivingSources(model, planes),
    sheetUnitOf(model),
  ).figures.map(({ text, printed, model: found, agrees, words }) => ({
    text,
    printed,
    model: found,
    agrees,
    ...(words !== '' && { words }),
  }));
}

/** A part's solid as it is shown, with what is told of it. */
export interface ShownSolid {
  skin: Skin;
  edges: ShownEdge[];
  measures: Measures;
  holes: RoundHole[];
  /** To each hole its thread; null: none. */
  threads: (string | null)[];
  printed: PrintedOnSolid[];
  checks: MakingCheck[];
}

/** All that is shown and told of a body that was made of a part. */
export function shownSolid(model: Model, part: Part, body: Body): ShownSolid {
  const features = featuresOf(model, part.id),
    planes = partPlanes(model, part.id),
    rules = planes.flatMap((p) => rulesOn(model, p.id)),
    facts = {
      skin: skinOf(body, TO_LOOK_AT),
      edges: edgeLines(body, TO_LOOK_AT),
      measures: measured(body),
      holes: roundHoles(body),
    };
  return {
    ...facts,
    threads: facts.holes.map((h) => threadOf(h, features)),
    printed: printedOnSolid(model, body, rules, planes),
    checks: makingChecks(part, facts, features, rules),
  };
}

/** The thread of a hole: that of the feature that made its bore, also where it is made again elsewhere. */
export function threadOf(
  hole: Pick<RoundHole, 'faces'>,
  features: ReturnType<typeof featuresOf>,
): string | null {
  for (const face of hole.faces)
    for (const f of features)
      if (f.form.kind === 'hole' && f.form.thread && face.split('/').includes(f.id))
        return f.form.thread.name;
  return null;
}

/** Printed figures that drive, each held against the solid: its corners and round edges as they are seen on the plane of the figure. */
export function printedOnSolid(
  model: Model,
  body: Body,
  rules: readonly Rule[],
  planes: readonly WorkPlane[],
): PrintedOnSolid[] {
  const printed = rules.filter((r) => r.printed && r.value !== null);
  if (printed.length === 0) return [];
  const edges = bodyEdges(body);
  return printed.map((rule) => {
    const plane = planes.find((p) => p.id === rule.planeId)!,
      flat = (p: ModelPoint): Point => planeFromWorld(plane, p).point,
      places = edges
        .flatMap(({ form }) => [form.from, form.to, ...(form.centre ? [form.centre] : [])])
        .map(flat),
      rounds = edges.flatMap(({ form }) =>
        form.centre && form.radius !== null ? [{ at: flat(form.centre), radius: form.radius }] : [],
      );
    const found = measuredBy(rule, model, places, rounds),
      value = rule.value!;
    return {
      text: rule.printed!.text,
      printed: value,
      model: found,
      drives: true,
      agrees: found !== null && Math.abs(Math.abs(found) - Math.abs(value)) <= AGREES,
    };
  });
}

function measuredBy(
  rule: Rule,
  model: Model,
  places: readonly Point[],
  rounds: readonly { at: Point; radius: number }[],
): number | null {
  const elements = rule.of.map((p) => model.get(p.id)),
    onSolid = (p: Point): Point | null =>
      places.find((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_PLACE) ?? null;
  const [a, b] = elements;
  if (!a || !isRuled(a)) return null;
  if (rule.kind === 'radius' || rule.kind === 'diameter') {
    if (a.type !== 'arc') return null;
    const at = a.centre,
      here = rounds.filter((r) => Math.hypot(r.at[0] - at[0], r.at[1] - at[1]) < SAME_PLACE);
    if (here.length === 0) return null;
    const wanted = rule.kind === 'radius' ? rule.value! : rule.value! / 2,
      best = here.reduce((x, y) => (Math.abs(y.radius - wanted) < Math.abs(x.radius - wanted) ? y : x));
    return rule.kind === 'radius' ? best.radius : 2 * best.radius;
  }
  const pointsOf = (i: number): (Point | null)[] => {
    const e = elements[i],
      { grip } = rule.of[i];
    if (!e || !isRuled(e)) return [null];
    return (grip === null ? pointGrips(e).slice(0, 2) : [grip]).map((g) => onSolid(pointOf(e, g)));
  };
  const first = pointsOf(0),
    second = b ? pointsOf(1) : first.slice(1);
  if ([...first, ...second].some((p) => p === null)) return null;
  const [p] = first as Point[],
    [q, r] = second as Point[];
  switch (rule.kind) {
    case 'length':
      return Math.hypot(q[0] - p[0], q[1] - p[1]);
    case 'across':
      return q[0] - p[0];
    case 'up':
      return q[1] - p[1];
    case 'gap': {
      if (!r) return null;
      const n = Math.hypot(r[0] - q[0], r[1] - q[1]);
      return n === 0 ? null : Math.abs((p[0] - q[0]) * (r[1] - q[1]) - (p[1] - q[1]) * (r[0] - q[0])) / n;
    }
    case 'angle': {
      const [p2] = (first as Point[]).slice(1);
      if (!p2 || !r) return null;
      return Math.atan2(r[1] - q[1], r[0] - q[0]) - Math.atan2(p2[1] - p[1], p2[0] - p[0]);
    }
    default:
      return null;
  }
}
