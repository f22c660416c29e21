import { create } from 'zustand';
import {
  get,
  knownSection,
  type GivenSection,
  type Member,
  type MemberRole,
  type Model,
  type Pair,
  type PlacingPoint,
} from '@calque/core/model';
import { isUpright } from '@calque/core/planes';
import { DENSITY } from '@calque/core/sections';

/** What the next member will be; kept while the page is open. */
interface NextMember {
  section: GivenSection;
  point: PlacingPoint;
  /** Quarter turns about its line from how such a member usually stands. */
  quarters: number;
  mirrored: boolean;
  role: MemberRole | null;
  /** Of one that stands on a plan: from and to above the floor, millimetres; null for as high as the storey. */
  foot: number;
  head: number | null;
}

export const useNextMember = create<NextMember>(() => ({
  section: { form: 'table', name: 'IPE 200' },
  point: 8,
  quarters: 0,
  mirrored: false,
  role: null,
  foot: 0,
  head: null,
}));

/**
 * How a section is turned where nobody says otherwise: on an upright plane it stands upright in it, so that its top is above; on a plan it
 * stands out of the plane. Radians, see Member.
 */
export function naturalTurn(upright: boolean, from: Pair, to: Pair): number {
  if (!upright) return 0;
  return to[0] - from[0] < 0 ? -Math.PI / 2 : Math.PI / 2;
}

/** Steeper than this (sine) a member on an upright plane is a column, and less steep than this a beam. */
const STEEP = 0.98,
  LEVEL = 0.1;

/** What a member is for by where it goes, until somebody says. */
export function likelyRole(upright: boolean, from: Pair, to: Pair): MemberRole {
  if (!upright) return 'beam';
  const rise = Math.abs(to[1] - from[1]) / Math.hypot(to[0] - from[0], to[1] - from[1]);
  return rise > STEEP ? 'column' : rise < LEVEL ? 'beam' : 'brace';
}

type Own = Omit<Member, 'id' | 'planeId' | 'source' | 'layerId'>;

/** A member along a line of a plane, as the next one is to be. */
export function memberAlong(model: Model, planeId: string, from: Pair, to: Pair): Own {
  const { section, point, quarters, mirrored, role } = useNextMember.getState(),
    plane = get(model, 'storey', planeId) ?? get(model, 'plane', planeId),
    upright = plane !== null && isUpright(plane);
  return {
    type: 'member',
    from,
    to,
    rise: [0, 0],
    section,
    point,
    turn: naturalTurn(upright, from, to) + (quarters * Math.PI) / 2,
    mirrored,
    back: [0, 0],
    role: role ?? likelyRole(upright, from, to),
    ...madeOf(section),
    mark: '',
  };
}

/** A member that stands at a place of a plan, as high as is said or as its storey. */
export function memberAt(at: Pair, height: number): Own {
  const { section, point, quarters, mirrored, role, foot, head } = useNextMember.getState();
  return {
    type: 'member',
    from: at,
    to: at,
    rise: [foot, head ?? height],
    section,
    // Where it stands its middle is meant, whatever point lies on the line of those that lie.
    point: point === 8 || point === 2 ? 5 : point,
    turn: (quarters * Math.PI) / 2,
    mirrored,
    back: [0, 0],
    role: role ?? 'column',
    ...madeOf(section),
    mark: '',
  };
}

/** What a section is usually made of. */
export const madeOf = (section: GivenSection): { material: string; density: number } =>
  knownSection(section)?.material === 'timber'
    ? { material: 'C24', density: DENSITY.timber }
    : { material: 'S355', density: DENSITY.steel };
