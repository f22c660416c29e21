import { cross3, type ModelPoint } from '../../geometry/index.ts';
import type { Feature, Part, Rule } from '../../model/index.ts';
import { threadNamed } from '../standards/index.ts';
import type { Check, SolidFacts } from './facts.ts';
import type { Limits } from './limits.ts';
import type { Looked } from './looked.ts';
import { by, shown, spanOf, unit } from './looked.ts';

export const ROUND = 16;

/** Holes that are too small, too deep, too near to another face, or not square to the face at which they enter. */
export function holeChecks(looked: Looked, limits: Limits): Check[] {
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
    const least = limits.holeEdge * diameter,
      beside = besideHole(looked, hole, deep, least - 1e-6);
    if (beside !== null)
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

export type Hole = SolidFacts['holes'][number];

export const throughDepth = (looked: Looked, hole: Hole): number => {
  const face = looked.face(hole.faces[0]);
  return face ? spanOf(looked, face, hole.axis) : 0;
};

/** Ways square to an axis, round it. */
export function around(axis: ModelPoint): ModelPoint[] {
  const x = unit(cross3(Math.abs(axis[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], axis)),
    y = cross3(axis, x);
  return Array.from({ length: ROUND }, (_, i) => {
    const a = (2 * Math.PI * i) / ROUND;
    return [0, 1, 2].map((k) => x[k] * Math.cos(a) + y[k] * Math.sin(a)) as unknown as ModelPoint;
  });
}

/** The least that stays beside a hole, from its wall outwards; null where that is `enough`, or nothing ends. */
export function besideHole(
  looked: Looked,
  { at, axis, diameter }: Hole,
  deep: number,
  enough: number,
): number | null {
  let least: number | null = null;
  for (const share of [0.15, 0.5, 0.85])
    for (const way of around(axis)) {
      const wall = looked.wallAlong(
        by(by(at, axis, share * deep), way, diameter / 2),
        way,
        1e-3,
        least ?? enough,
      );
      if (wall !== null) least = wall;
    }
  return least;
}

/** Does the face at which a hole enters lie alike on all sides of it? */
export function isSquare(looked: Looked, { at, axis, diameter, head }: Hole): boolean {
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
export function threadChecks(features: readonly Feature[], looked: Looked): Check[] {
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

export function toleranceChecks(
  rules: readonly Rule[],
  limits: Limits,
  way: Part['way'],
  looked: Looked,
): Check[] {
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
