import { cross3, dot3, type ModelPoint } from '../../geometry/index.ts';
import type { Feature, Part, Rule } from '../../model/index.ts';
import { threadNamed } from '../standards/index.ts';
import type { Check, FactFace, SolidFacts } from './facts.ts';
import { limitsOf, type Limits } from './limits.ts';
import { Rays } from './rays.ts';

const shown = (v: number): string => String(Number(v.toFixed(v < 1 ? 3 : 2)));
const by = (p: ModelPoint, way: ModelPoint, t: number): ModelPoint => [
  p[0] + t * way[0],
  p[1] + t * way[1],
  p[2] + t * way[2],
];
const minus = (p: ModelPoint, q: ModelPoint): ModelPoint => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
const unit = (v: ModelPoint): ModelPoint => {
  const n = Math.hypot(...v) || 1;
  return [v[0] / n, v[1] / n, v[2] / n];
};
const turnedRound = (v: ModelPoint): ModelPoint => [-v[0], -v[1], -v[2]];

/** Samples of a face: the middles of its triangles, the largest first, with the way out. */
const MOST_SAMPLES = 24;
interface Sample {
  at: ModelPoint;
  normal: ModelPoint;
  area: number;
}

class Looked {
  readonly rays: Rays;
  private readonly known = new Map<string, Sample[]>();
  private readonly byName: ReadonlyMap<string, FactFace>;

  constructor(readonly facts: SolidFacts) {
    this.rays = new Rays(facts.skin.corners, facts.skin.triangles);
    this.byName = new Map(facts.skin.faces.map((f) => [f.name, f]));
  }

  face = (name: string): FactFace | undefined => this.byName.get(name);

  samples(face: FactFace): Sample[] {
    const known = this.known.get(face.name);
    if (known) return known;
    const { corners, triangles } = this.facts.skin,
      place = (i: number): ModelPoint => [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]],
      out: Sample[] = [];
    for (let t = face.start; t < face.start + face.count; t += 3) {
      const [a, b, c] = [place(triangles[t]), place(triangles[t + 1]), place(triangles[t + 2])],
        n = cross3(minus(b, a), minus(c, a)),
        twice = Math.hypot(...n);
      if (twice > 1e-12)
        out.push({
          at: [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3],
          normal: [n[0] / twice, n[1] / twice, n[2] / twice],
          area: twice / 2,
        });
    }
    out.sort((p, q) => q.area - p.area);
    const kept = out.slice(0, MOST_SAMPLES);
    this.known.set(face.name, kept);
    return kept;
  }

  /** The way out of a triangle of the skin. */
  private normalOf(triangle: number): ModelPoint {
    const { corners, triangles } = this.facts.skin,
      [a, b, c] = [0, 1, 2].map((k): ModelPoint => {
        const i = triangles[3 * triangle + k];
        return [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]];
      });
    return unit(cross3(minus(b, a), minus(c, a)));
  }

  /** How far it is along a way to a face that looks that way too; null where there is none, or one that slants. */
  wallAlong(from: ModelPoint, way: ModelPoint, after: number): number | null {
    const hit = this.rays.first(from, way, after);
    return hit && dot3(this.normalOf(hit.triangle), way) > BACK_TO_BACK ? hit.distance : null;
  }

  wallBehind = ({ at, normal }: Sample): number | null => this.wallAlong(at, turnedRound(normal), 1e-5);

  /** Can something come to a place from a direction and meet nothing before? */
  isFree = (at: ModelPoint, way: ModelPoint): boolean =>
    this.rays.first(by(at, way, 1e-4), way, 1e-4) === null;

  /** A place of a face, to be lit up. */
  placeOf = (face: FactFace): ModelPoint => this.samples(face)[0]?.at ?? [0, 0, 0];
}

/** What of a part cannot be made in its way, or not easily, with the reasons. Empty: nothing that is known here speaks against it. */
export function makingChecks(
  part: Pick<Part, 'way' | 'limits'>,
  facts: SolidFacts,
  features: readonly Feature[],
  rules: readonly Rule[],
): Check[] {
  const limits = limitsOf(part),
    looked = new Looked(facts),
    common = [
      ...holeChecks(looked, limits),
      ...threadChecks(features, looked),
      ...toleranceChecks(rules, limits, part.way, looked),
    ];
  switch (part.way) {
    case 'milling':
    case 'drilling':
      return [
        ...cornerChecks(looked, limits),
        ...wallChecks(looked, limits),
        ...undercuts(looked),
        ...common,
      ];
    case 'turning':
      return [...turningChecks(looked), ...wallChecks(looked, limits), ...common];
    case 'cutting':
      return [...sheetChecks(looked, limits), ...common];
    case 'bending':
      return [...bendChecks(looked, limits), ...common];
  }
}

/** A place on the skin of a face that lies nearest to another: which way the face runs from an edge. */
function inwards(looked: Looked, face: FactFace, edge: ModelPoint): ModelPoint | null {
  const { corners, triangles } = looked.facts.skin;
  let best: ModelPoint | null = null,
    least = Infinity;
  for (let t = face.start; t < face.start + face.count; t += 3) {
    const p = [0, 1, 2].map((k): ModelPoint => {
        const i = triangles[t + k];
        return [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]];
      }),
      off = Math.min(...[0, 1, 2].map((k) => fromSegment(edge, p[k], p[(k + 1) % 3])));
    if (off < least) {
      least = off;
      best = [0, 1, 2].map((k) => (p[0][k] + p[1][k] + p[2][k]) / 3 - edge[k]) as unknown as ModelPoint;
    }
  }
  return best;
}
function fromSegment(p: ModelPoint, a: ModelPoint, b: ModelPoint): number {
  const d = minus(b, a),
    n = dot3(d, d),
    t = n === 0 ? 0 : Math.max(0, Math.min(1, dot3(minus(p, a), d) / n));
  return Math.hypot(...minus(p, by(a, d, t)));
}

/** Inner corners: sharp ones into which no cutter comes, round ones that are too tight, or too deep for what fits in. */
function cornerChecks(looked: Looked, limits: Limits): Check[] {
  const out: Check[] = [];
  for (const edge of looked.facts.edges) {
    const [a, b] = edge.between.map(looked.face);
    if (a?.form.kind !== 'plane' || b?.form.kind !== 'plane' || a === b) continue;
    const [na, nb] = [a.form.normal, b.form.normal],
      [ia, ib] = [inwards(looked, a, edge.middle), inwards(looked, b, edge.middle)];
    if (!ia || !ib || dot3(ia, nb) <= 1e-6 || dot3(ib, na) <= 1e-6) continue;
    // A cutter that stands on one of the two faces makes the corner, if it comes there.
    const out1 = unit([na[0] + nb[0], na[1] + nb[1], na[2] + nb[2]]),
      near = by(edge.middle, out1, 0.01);
    if (looked.isFree(near, na) || looked.isFree(near, nb)) continue;
    out.push({
      kind: 'corner',
      at: edge.middle,
      words: `A sharp inner corner, ${shown(edge.length)} mm long: no cutter gets into it. Give it a radius of ${shown(limits.toolRadius)} mm or more.`,
      faces: [a.name, b.name],
    });
  }
  const bores = new Set(looked.facts.holes.flatMap((h) => h.faces));
  for (const face of looked.facts.skin.faces) {
    const { form } = face;
    if (form.kind !== 'cylinder' || !form.hollow || bores.has(face.name)) continue;
    const at = looked.placeOf(face),
      deep = spanOf(looked, face, form.axis);
    if (form.radius < limits.toolRadius - 1e-9)
      out.push({
        kind: 'corner',
        at,
        words: `An inner corner of radius ${shown(form.radius)} mm: the smallest cutter has ${shown(limits.toolRadius)} mm.`,
        faces: [face.name],
      });
    else if (deep > limits.toolDepth * 2 * form.radius + 1e-6)
      out.push({
        kind: 'depth',
        at,
        words: `An inner corner of radius ${shown(form.radius)} mm is ${shown(deep)} mm deep: a cutter that fits reaches ${shown(limits.toolDepth * 2 * form.radius)} mm.`,
        faces: [face.name],
      });
  }
  return out;
}

/** How far a face reaches along a direction. */
function spanOf(looked: Looked, face: FactFace, way: ModelPoint): number {
  const { corners, triangles } = looked.facts.skin;
  let low = Infinity,
    high = -Infinity;
  for (let t = face.start; t < face.start + face.count; t++) {
    const i = triangles[t],
      v = corners[3 * i] * way[0] + corners[3 * i + 1] * way[1] + corners[3 * i + 2] * way[2];
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return high - low;
}

/** Faces that lie back to back, more or less, have a wall between them; others meet at a point or an edge. */
const BACK_TO_BACK = 0.7;

/** How thick the part is behind a sample of its skin. */
const thicknessAt = (rays: Rays, { at, normal }: Pick<Sample, 'at' | 'normal'>): number | null =>
  rays.first(at, turnedRound(normal), 1e-5)?.distance ?? null;

/** Thin walls: where the next face behind one is nearer than the limit, and looks the other way. */
function wallChecks(looked: Looked, limits: Limits): Check[] {
  const out: Check[] = [];
  for (const face of looked.facts.skin.faces) {
    let thinnest: { at: ModelPoint; t: number } | null = null;
    for (const sample of looked.samples(face)) {
      const t = looked.wallBehind(sample);
      if (t !== null && t < limits.wall - 1e-6 && (!thinnest || t < thinnest.t))
        thinnest = { at: sample.at, t };
    }
    if (thinnest)
      out.push({
        kind: 'wall',
        at: thinnest.at,
        words: `A wall of ${shown(thinnest.t)} mm: ${shown(limits.wall)} mm is the thinnest.`,
        faces: [face.name],
      });
  }
  return out;
}

const SIX: readonly ModelPoint[] = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
];

/** Faces that no tool reaches along any of the part's six directions. */
function undercuts(looked: Looked): Check[] {
  const bores = new Set(looked.facts.holes.flatMap((h) => h.faces));
  return looked.facts.skin.faces.flatMap((face): Check[] => {
    if (bores.has(face.name)) return [];
    const hidden = looked.samples(face).find(({ at, normal }) => {
      const ways = [...SIX, ...(face.form.kind === 'plane' ? [face.form.normal] : [])],
        off = by(at, normal, 0.01);
      return !ways.some((way) => dot3(way, normal) > -1e-6 && looked.isFree(off, way));
    });
    return hidden
      ? [
          {
            kind: 'undercut',
            at: hidden.at,
            words: 'An undercut: no tool that comes straight from one of six sides reaches this face.',
            faces: [face.name],
          },
        ]
      : [];
  });
}

const ROUND = 16;

/** Holes that are too small, too deep, too near to another face, or not square to the face at which they enter. */
function holeChecks(looked: Looked, limits: Limits): Check[] {
  return looked.facts.holes.flatMap((hole): Check[] => {
    const out: Check[] = [],
      { at, diameter } = hole,
      deep = hole.depth ?? throughDepth(looked, hole),
      say = (kind: Check['kind'], words: string) => out.push({ kind, at, words, faces: [...hole.faces] });
    if (diameter < limits.hole - 1e-9)
      say('hole', `A hole of ⌀ ${shown(diameter)} mm: the smallest has ${shown(limits.hole)} mm.`);
    if (deep > limits.drillDepth * diameter + 1e-6)
      say(
        'hole',
        `A hole of ⌀ ${shown(diameter)} mm is ${shown(deep)} mm deep: a drill reaches ${shown(limits.drillDepth)} times its diameter.`,
      );
    const beside = besideHole(looked, hole, deep),
      least = limits.holeEdge * diameter;
    if (beside !== null && beside < least - 1e-6)
      say(
        'hole',
        `Beside a hole of ⌀ ${shown(diameter)} mm stay ${shown(beside)} mm: ${shown(least)} mm is the least.`,
      );
    if (!isSquare(looked, hole))
      say(
        'entry',
        `A hole of ⌀ ${shown(diameter)} mm enters a face that is not square to it: the drill runs off.`,
      );
    return out;
  });
}

type Hole = SolidFacts['holes'][number];

const throughDepth = (looked: Looked, hole: Hole): number => {
  const face = looked.face(hole.faces[0]);
  return face ? spanOf(looked, face, hole.axis) : 0;
};

/** Ways square to an axis, round it. */
function around(axis: ModelPoint): ModelPoint[] {
  const x = unit(cross3(Math.abs(axis[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], axis)),
    y = cross3(axis, x);
  return Array.from({ length: ROUND }, (_, i) => {
    const a = (2 * Math.PI * i) / ROUND;
    return [0, 1, 2].map((k) => x[k] * Math.cos(a) + y[k] * Math.sin(a)) as unknown as ModelPoint;
  });
}

/** The least that stays beside a hole, from its wall outwards, half-way down; null where nothing ends. */
function besideHole(looked: Looked, { at, axis, diameter }: Hole, deep: number): number | null {
  let least: number | null = null;
  for (const share of [0.15, 0.5, 0.85])
    for (const way of around(axis)) {
      const wall = looked.wallAlong(by(by(at, axis, share * deep), way, diameter / 2), way, 1e-3);
      if (wall !== null && (least === null || wall < least)) least = wall;
    }
  return least;
}

/** Does the face at which a hole enters lie alike on all sides of it? */
function isSquare(looked: Looked, { at, axis, diameter, head }: Hole): boolean {
  const r = Math.max(diameter, head?.diameter ?? 0) / 2 + Math.max(0.05, 0.02 * diameter),
    high = diameter;
  const heights = around(axis).map(
    (way) => looked.rays.first(by(by(at, way, r), axis, -high), axis, 1e-6)?.distance ?? null,
  );
  const met = heights.filter((h): h is number => h !== null);
  if (met.length < ROUND) return true;
  return Math.max(...met) - Math.min(...met) < 0.1 * diameter;
}

/** Threads that no table knows, and such that are cut deeper than their hole allows. */
function threadChecks(features: readonly Feature[], looked: Looked): Check[] {
  return features.flatMap(({ id, form, off }): Check[] => {
    if (form.kind !== 'hole' || !form.thread || off) return [];
    const face = looked.facts.skin.faces.find((f) => f.name.startsWith(`${id}/bore`)),
      at = face ? looked.placeOf(face) : ([0, 0, 0] as ModelPoint),
      faces = face ? [face.name] : [],
      thread = threadNamed(form.thread.name);
    if (!thread)
      return [{ kind: 'thread', at, words: `No table here knows the thread ${form.thread.name}.`, faces }];
    const out: Check[] = [];
    if (Math.abs(thread.drill - form.diameter) > 0.051 * thread.diameter)
      out.push({
        kind: 'thread',
        at,
        words: `${thread.name} is drilled with ${shown(thread.drill)} mm, and this hole has ${shown(form.diameter)} mm.`,
        faces,
      });
    if (
      form.depth !== null &&
      form.thread.depth !== null &&
      form.thread.depth > form.depth - 2 * thread.pitch + 1e-9
    )
      out.push({
        kind: 'thread',
        at,
        words: `${thread.name} is cut ${shown(form.thread.depth)} mm deep in a hole of ${shown(form.depth)} mm: the tap needs two pitches more.`,
        faces,
      });
    return out;
  });
}

function toleranceChecks(rules: readonly Rule[], limits: Limits, way: Part['way'], looked: Looked): Check[] {
  return rules.flatMap((rule): Check[] => {
    if (!rule.tolerance || rule.kind === 'angle') return [];
    const band = rule.tolerance.plus + rule.tolerance.minus;
    return band < 2 * limits.tolerance - 1e-12
      ? [
          {
            kind: 'tolerance',
            at: looked.facts.skin.faces[0] ? looked.placeOf(looked.facts.skin.faces[0]) : [0, 0, 0],
            words: `${rule.printed?.text ?? shown(rule.value ?? 0)} allows ${shown(band)} mm in all: ${way} holds ${shown(2 * limits.tolerance)} mm.`,
            faces: [],
          },
        ]
      : [];
  });
}

/** Turned parts: every face is round about one axis, or flat and square to it. */
function turningChecks(looked: Looked): Check[] {
  const rounds = looked.facts.skin.faces
      .filter((f) => f.form.kind === 'cylinder')
      .sort((a, b) => b.area - a.area),
    main = rounds[0]?.form;
  if (main?.kind !== 'cylinder')
    return [
      {
        kind: 'turning',
        at: [0, 0, 0],
        words: 'Nothing of the part is round: it cannot be turned.',
        faces: [],
      },
    ];
  return looked.facts.skin.faces.flatMap((face): Check[] => {
    const { form } = face,
      off = form.kind === 'cylinder' ? Math.hypot(...cross3(minus(form.at, main.at), main.axis)) : 0,
      isRound =
        form.kind === 'cylinder'
          ? Math.abs(dot3(form.axis, main.axis)) > 1 - 1e-9 && off < 1e-6
          : form.kind !== 'plane',
      isEnd = form.kind === 'plane' && Math.abs(dot3(form.normal, main.axis)) > 1 - 1e-9;
    return isRound || isEnd
      ? []
      : [
          {
            kind: 'turning',
            at: looked.placeOf(face),
            words: 'This face is not round about the axis of the part: it is not made by turning.',
            faces: [face.name],
          },
        ];
  });
}

/** The direction out of a flat sheet: that of its largest flat face; with its thickness. */
function sheetOf(looked: Looked): { way: ModelPoint; thickness: number } | null {
  const flat = looked.facts.skin.faces
    .filter((f) => f.form.kind === 'plane')
    .sort((a, b) => b.area - a.area)[0];
  if (flat?.form.kind !== 'plane') return null;
  const t = looked.samples(flat).flatMap((s) => thicknessAt(looked.rays, s) ?? [])[0];
  return t === undefined ? null : { way: flat.form.normal, thickness: t };
}

/** Parts that are cut from sheet: flat, their sides square to it. */
function sheetChecks(looked: Looked, limits: Limits): Check[] {
  const sheet = sheetOf(looked);
  if (!sheet)
    return [
      {
        kind: 'sheet',
        at: [0, 0, 0],
        words: 'The part has no flat face: it cannot be cut from sheet.',
        faces: [],
      },
    ];
  const { way, thickness } = sheet,
    out: Check[] = [];
  if (thickness > limits.sheet + 1e-6)
    out.push({
      kind: 'sheet',
      at: looked.placeOf(looked.facts.skin.faces[0]),
      words: `${shown(thickness)} mm thick: ${shown(limits.sheet)} mm is the thickest sheet.`,
      faces: [],
    });
  for (const face of looked.facts.skin.faces) {
    const { form } = face,
      isSide =
        form.kind === 'plane'
          ? Math.abs(dot3(form.normal, way)) < 1e-6
          : form.kind === 'cylinder' && Math.abs(dot3(form.axis, way)) > 1 - 1e-9,
      isFlat = form.kind === 'plane' && Math.abs(dot3(form.normal, way)) > 1 - 1e-9;
    const depth = isFlat
      ? (looked.samples(face).flatMap((s) => thicknessAt(looked.rays, s) ?? [])[0] ?? thickness)
      : thickness;
    if (!isSide && !(isFlat && Math.abs(depth - thickness) < 1e-3))
      out.push({
        kind: 'sheet',
        at: looked.placeOf(face),
        words: isFlat
          ? 'This face lies within the thickness of the sheet: it is milled, not cut.'
          : 'This face is not square to the sheet: a beam or a jet does not make it.',
        faces: [face.name],
      });
  }
  for (const hole of looked.facts.holes)
    if (hole.diameter < limits.cutHole * thickness - 1e-9)
      out.push({
        kind: 'hole',
        at: hole.at,
        words: `A hole of ⌀ ${shown(hole.diameter)} mm in ${shown(thickness)} mm of sheet: ${shown(limits.cutHole * thickness)} mm is the smallest that is cut.`,
        faces: [...hole.faces],
      });
  return out;
}

/** Bent sheet: of one thickness, its bends wide enough. */
function bendChecks(looked: Looked, limits: Limits): Check[] {
  const sheet = sheetOf(looked);
  if (!sheet)
    return [
      {
        kind: 'sheet',
        at: [0, 0, 0],
        words: 'The part has no flat face: it cannot be bent from sheet.',
        faces: [],
      },
    ];
  const { thickness } = sheet,
    out: Check[] = [];
  if (thickness > limits.sheet + 1e-6)
    out.push({
      kind: 'sheet',
      at: looked.placeOf(looked.facts.skin.faces[0]),
      words: `${shown(thickness)} mm thick: ${shown(limits.sheet)} mm is the thickest sheet that is bent.`,
      faces: [],
    });
  const bores = new Set(looked.facts.holes.flatMap((h) => h.faces));
  for (const face of looked.facts.skin.faces) {
    const { form } = face;
    if (form.kind === 'plane') {
      const t = looked.samples(face).flatMap((s) => thicknessAt(looked.rays, s) ?? [])[0];
      // The narrow sides of the sheet look at what lies far behind them.
      const narrow = looked.facts.edges.some(
        (e) => e.between.includes(face.name) && Math.abs(e.length - thickness) < 1e-3,
      );
      if (t !== undefined && !narrow && Math.abs(t - thickness) > 0.02 * thickness)
        out.push({
          kind: 'sheet',
          at: looked.placeOf(face),
          words: `${shown(t)} mm thick here, and ${shown(thickness)} mm elsewhere: bent sheet is of one thickness.`,
          faces: [face.name],
        });
    } else if (
      form.kind === 'cylinder' &&
      form.hollow &&
      !bores.has(face.name) &&
      form.radius < limits.bendRadius * thickness - 1e-9
    )
      out.push({
        kind: 'sheet',
        at: looked.placeOf(face),
        words: `A bend of inner radius ${shown(form.radius)} mm: ${shown(limits.bendRadius * thickness)} mm is the smallest for ${shown(thickness)} mm.`,
        faces: [face.name],
      });
  }
  return out;
}
