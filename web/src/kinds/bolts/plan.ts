import { makeRegion, regionContains, type Point } from '@calque/core/geometry';
import { get, knownSection, kindOf, type BoltPattern, type Bolts, type Member } from '@calque/core/model';
import { pair } from '@/drawing/plan-points';
import type { Shape } from '@/drawing/drawn';
import type { ShapePlan, Variant } from '@/drawing/shape-tool';
import { traceHere } from '@/table/hit';
import type { Table } from '@/table/table';
import { plateAt } from '../plate/plan';
import { useNextBolts } from './next-bolts';

/** What bolts at a place would hold, and where on their axis it looks at whoever looks at the plane. */
function heldAt(table: Table, at: Point): { of: string; rise: number } | null {
  const plate = plateAt(table, at);
  if (plate) return { of: plate.id, rise: plate.rise + plate.thickness };
  const member = [...traceHere(table).elements.values()].find(
    (e): e is Member =>
      e.type === 'member' &&
      kindOf(e)
        .inside(e)
        .some((ring) => regionContains(makeRegion([[...ring]], 'nonzero'), at[0], at[1])),
  );
  if (!member || !get(table.session.state.model, 'member', member.id)) return null;
  const section = knownSection(member.section);
  return {
    of: member.id,
    rise: Math.max(...member.rise) + (section ? Math.hypot(section.b, section.h) : 0),
  };
}

const put =
  (pattern: () => BoltPattern): Variant['shape'] =>
  ([at], { table }) => {
    const { d, reversed } = useNextBolts.getState(),
      held = heldAt(table, at);
    if (!held) return 'Click a plate or a member that they are to hold.';
    return { type: 'bolts', at: pair(at), turn: 0, pattern: pattern(), d, ...held, reversed } satisfies Omit<
      Bolts,
      'id' | 'planeId' | 'source'
    > as Shape;
  };

export const BOLTS_PLAN: ShapePlan = {
  id: 'bolts',
  noun: 'Bolts',
  label: 'Put bolts',
  variants: [
    {
      words: 'in rows',
      steps: ['click their middle on a plate or a member'],
      shape: put(() => useNextBolts.getState().rows),
    },
    {
      words: 'on a circle',
      steps: ['click the middle of the circle on a plate or a member'],
      shape: put(() => useNextBolts.getState().circle),
    },
  ],
};
