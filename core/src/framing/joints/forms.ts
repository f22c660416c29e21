import { convexHull, cross3, dot3, type ModelPoint, type Point } from '../../geometry/index.ts';
import {
  endOf,
  faceMet,
  nearerEnd,
  notchesAt,
  outward,
  ownWeb,
  type Face,
  type KnownMember,
} from './faces.ts';
import { rodMass } from './bolts.ts';
import { back, onPlate, type Making, rectangle, row, toPlane } from './making.ts';
import { cutBy, sectionPlace, sectionX } from './shape.ts';
import { along, plus, times, unit, without } from './vectors.ts';

/** Directions are in line, or square to one another, within this (cosine). */
const IN_LINE = 0.98,
  SQUARE = 0.05;

/** Cut to the face of another, round its flanges where it goes between these; gives the face. */
export function cutToFace(on: Making, t: KnownMember, gap: number, isCoped: boolean): Face | null {
  const { member: m, end, sizes } = on,
    face = faceMet(m, end, t);
  if (!face) {
    on.doubt('it runs along the other and meets no face of it');
    return null;
  }
  const notches = notchesAt(m, end, t, face, { gap, clearance: sizes.clearance });
  // What does not go between the flanges and is not coped ends before them.
  const before = face.between && !isCoped && (typeof notches === 'string' || notches.length > 0);
  if (typeof notches === 'string' && isCoped) on.doubt(notches);
  else if (typeof notches !== 'string' && isCoped)
    on.made.notches.push(...notches.map((notch) => ({ id: m.member.id, notch })));
  const off = gap + (before ? face.between!.reach : 0);
  on.cut(cutBy(m, along(face.at, face.normal, off), face.normal));
  return face;
}

export const face = (on: Making, t: KnownMember): void => void cutToFace(on, t, on.sizes.gap, false);
export const cope = (on: Making, t: KnownMember): void => void cutToFace(on, t, on.sizes.gap, true);

/** Both ends are cut by the plane in which either is the other's mirror image. */
export function mitre(on: Making, t: KnownMember): void {
  const { member: m, end, sizes } = on,
    o = outward(m, end),
    other = nearerEnd(t, endOf(m, end)),
    d = outward(t, other),
    at = meeting(endOf(m, end), o, endOf(t, other), d),
    n = unit([o[0] - d[0], o[1] - d[1], o[2] - d[2]]);
  if (!n || !at) return on.doubt('it runs beside the other: there is no mitre');
  on.cut(cutBy(m, along(at, n, -sizes.gap / 2), n));
  on.cut(cutBy(t, along(at, n, sizes.gap / 2), n), t, other);
}

/** Where two lines come nearest to one another, in the middle; of lines in line the middle of their ends. */
function meeting(p: ModelPoint, o: ModelPoint, q: ModelPoint, d: ModelPoint): ModelPoint | null {
  const k = dot3(o, d),
    w: ModelPoint = [q[0] - p[0], q[1] - p[1], q[2] - p[2]],
    den = 1 - k * k;
  if (den < 1e-6) return k < 0 ? times(plus(p, q), 0.5) : null;
  const s = (dot3(w, o) - k * dot3(w, d)) / den,
    r = (k * dot3(w, o) - dot3(w, d)) / den;
  return times(plus(along(p, o, s), along(q, d, r)), 0.5);
}

/** A plate under the end with its anchors: level under what rises, square to what does not. The line ends at its underside. */
export function basePlate(on: Making): void {
  const { member: m, end, sizes, size } = on,
    o = outward(m, end),
    n: ModelPoint = Math.abs(o[2]) > 0.5 ? [0, 0, -Math.sign(o[2])] : back(o),
    x = unit(without(sectionX(m), n)),
    origin = endOf(m, end);
  if (!x) return on.doubt('its section lies along the plate');
  const y = cross3(n, x),
    { width, height, thickness, gauge, pitch, weld } = sizes,
    holes = [-1, 1].flatMap((i) => [-1, 1].map((j): Point => [(i * gauge) / 2, (j * pitch) / 2]));
  on.cut(cutBy(m, along(origin, n, thickness), n));
  const given = { origin, x, y, outline: rectangle(width, height), thickness };
  const drilled = on.plate(
    'base plate',
    { ...given, weldedTo: m.member.id, weld: { size: weld, length: m.section.figures.perimeter } },
    holes,
  );
  if (drilled.length === 0) return;
  const place = onPlate(given),
    embedded = 20 * size.d,
    length = embedded + thickness + size.washer + size.nut + 2 * size.pitch;
  on.made.bolts.push({
    id: `${m.member.id}.${end}.anchors`,
    owner: m.member.id,
    d: size.d,
    name: `${size.name} anchor, ${Math.round(embedded)} mm in`,
    grade: size.grade,
    standard: size.standard,
    grip: thickness,
    length,
    anchor: true,
    at: drilled.map((p) => place(p, thickness)),
    axis: back(n),
    mass: rodMass(size.d, length),
  });
}

/** A plate at the end, bolted to the face of the other. */
export function endPlate(on: Making, t: KnownMember): void {
  const { member: m, sizes, size } = on,
    { thickness, width, height, gauge, pitch, rows, weld } = sizes,
    met = cutToFace(on, t, thickness, true),
    x = met && unit(without(sectionX(m), met.normal));
  if (!met || !x) return;
  const { normal } = met,
    y = cross3(normal, x),
    given = { origin: met.at, x, y, outline: rectangle(width, height), thickness },
    holes = row(rows, pitch).flatMap((v) => [-gauge / 2, gauge / 2].map((u): Point => [u, v])),
    place = onPlate(given);
  const drilled = on.plate(
    'end plate',
    { ...given, weldedTo: m.member.id, weld: { size: weld, length: m.section.figures.perimeter } },
    holes,
  );
  stiffen(on, t, met);
  if (t.section.sizes?.shape.includes('hollow'))
    on.doubt('its bolts go into a hollow section: they need blind ones, or a hole to reach them');
  on.bolts(
    'bolts',
    drilled.map((p) => place(p, thickness)),
    back(normal),
    thickness + met.thickness,
    [{ of: t, hole: { through: met.through }, depth: met.thickness }],
  );
  if (
    met.through !== 'web' &&
    gauge + 1.2 * 2 * size.hole > t.section.b + 1e-6 &&
    Math.abs(dot3(x, sectionX(t))) > IN_LINE
  )
    on.doubt('its bolts lie too near the edge of the flange behind it');
}

/** Plates between the flanges of the other in line with those of this one, at both sides of its web. */
function stiffen(on: Making, t: KnownMember, met: Face): void {
  const { member: m, sizes } = on,
    { stiffener: thickness, weld } = sizes,
    form = t.section.sizes;
  if (thickness <= 0) return;
  if (form?.shape !== 'I' || met.through === 'web')
    return on.doubt('stiffeners are put between the flanges of an I section whose flange it meets');
  if (Math.abs(dot3(m.along, t.along)) > 0.3)
    return on.doubt('it comes at too flat an angle for stiffeners in line with its flanges');
  const x = sectionX(t),
    y = t.up,
    // Thick along the other, about the middle of this one's flange.
    axis = cross3(x, y),
    half = (m.section.h - (m.section.sizes?.tf || 0)) / 2,
    { h, b } = t.section,
    { tw, tf, r } = form,
    high = h / 2 - tf;
  for (const [level, name] of [
    [half, 'upper'],
    [-half, 'lower'],
  ] as const) {
    const [, , z] = sectionPlace(t, along(met.at, m.up, level)),
      middle = along(along(t.from, t.along, z), axis, -thickness / 2);
    for (const side of [1, -1] as const) {
      // Its corners are cut off where the fillets are.
      const ring: Point[] = [
          [tw / 2, -high + r],
          [tw / 2 + r, -high],
          [b / 2, -high],
          [b / 2, high],
          [tw / 2 + r, high],
          [tw / 2, high - r],
        ],
        outline = side > 0 ? ring : ring.map(([u, v]): Point => [-u, v]).reverse();
      on.plate(`${name} stiffener ${side > 0 ? 'at one side' : 'at the other'}`, {
        origin: middle,
        x,
        y,
        outline,
        thickness,
        weldedTo: t.member.id,
        weld: { size: weld, length: 2 * (2 * (b / 2 - tw / 2 - r) + 2 * (high - r)) },
      });
    }
  }
}

/** A plate that stands on the face of the other, beside the web of this one. */
export function finPlate(on: Making, t: KnownMember): void {
  const { member: m, end, sizes } = on,
    { thickness, height, rows, pitch, edge, gap, weld } = sizes,
    met = cutToFace(on, t, gap, true);
  if (!met) return;
  const web = ownWeb(m.section),
    side = times(sectionX(m), web.side),
    x = back(outward(m, end)),
    // Thick away from the web.
    y = cross3(side, x),
    cos = dot3(x, met.normal),
    origin = along(met.at, sectionX(m), web.face),
    given = { origin, x, y, thickness },
    place = onPlate(given),
    atFace = (v: number): Point => [toPlane(place([0, v]), x, met.at, met.normal), v],
    far = gap / cos + 2 * edge,
    holes = row(rows, pitch).map((v): Point => [gap / cos + edge, v]);
  const outline: Point[] = [atFace(-height / 2), [far, -height / 2], [far, height / 2], atFace(height / 2)];
  const drilled = on.plate(
    'fin plate',
    { ...given, outline, weldedTo: t.member.id, weld: { size: weld, length: 2 * height } },
    holes,
  );
  on.bolts(
    'bolts',
    drilled.map((p) => place(p, thickness)),
    back(side),
    thickness + web.thickness,
    [{ of: m, hole: { through: 'web' }, depth: web.thickness }],
  );
}

/** Two members in line: plates at both sides of their webs, and over their flanges. */
export function splice(on: Making, t: KnownMember): void {
  const { member: m, end, sizes } = on,
    { thickness, rows, pitch, edge, gap } = sizes,
    o = outward(m, end),
    other = nearerEnd(t, endOf(m, end)),
    shape = m.section.sizes?.shape;
  if (dot3(o, outward(t, other)) > -IN_LINE)
    return on.doubt('the two do not lie in line: they cannot be spliced');
  const at = times(plus(endOf(m, end), endOf(t, other)), 0.5);
  on.cut(cutBy(m, along(at, o, -gap / 2), o));
  on.cut(cutBy(t, along(at, o, gap / 2), o), t, other);
  if (shape !== 'I' && shape !== 'channel')
    return on.doubt('plates are put on I and channel sections: these are cut, and joined by nothing yet');
  const X = sectionX(m),
    web = ownWeb(m.section),
    length = gap + 2 * (2 * edge + pitch),
    columns = [-1, 1].flatMap((s) => [0, 1].map((i) => s * (gap / 2 + edge + i * pitch))),
    { tw, tf } = m.section.sizes!,
    halves = (through: 'web' | 'top' | 'bottom', depth: number) => (u: number) => [
      { of: u < 0 ? m : t, hole: { through }, depth },
    ];
  const put = (
    name: string,
    given: { origin: ModelPoint; x: ModelPoint; y: ModelPoint },
    height: number,
    places: number[],
  ) => {
    const holes = columns.flatMap((u) => places.map((v): Point => [u, v]));
    return on.plate(
      name,
      { ...given, outline: rectangle(length, height), thickness, weldedTo: null, weld: null },
      holes,
    );
  };
  const bolt = (
    name: string,
    holes: readonly Point[],
    place: (p: Point) => ModelPoint,
    axis: ModelPoint,
    grip: number,
    of: ReturnType<typeof halves>,
  ) => {
    for (const s of [-1, 1]) {
      const own = holes.filter(([u]) => u * s > 0);
      on.bolts(`${name}${s < 0 ? '-1' : '-2'}`, own.map(place), axis, grip, of(s));
    }
  };
  // Beyond the far face of the web as well.
  const side = times(X, web.side),
    near = { origin: along(at, X, web.face), x: o, y: cross3(side, o) },
    height = (rows - 1) * pitch + 2 * edge,
    holes = put('web plate', near, height, row(rows, pitch)),
    far = along(near.origin, side, -tw);
  put('web plate behind', { origin: far, x: o, y: cross3(back(side), o) }, height, row(rows, pitch));
  bolt(
    'web',
    holes,
    (p) => along(onPlate(near)(p), side, thickness),
    back(side),
    2 * thickness + tw,
    halves('web', tw),
  );
  if (shape !== 'I') return;
  const { gauge } = sizes;
  for (const s of [1, -1] as const) {
    const out = times(m.up, s),
      cover = { origin: along(at, out, m.section.h / 2), x: o, y: cross3(out, o) },
      name = s > 0 ? 'upper cover' : 'lower cover',
      drilled = put(name, cover, m.section.b, [-gauge / 2, gauge / 2]);
    bolt(
      name.split(' ')[0],
      drilled,
      (p) => along(onPlate(cover)(p), out, thickness),
      back(out),
      thickness + tf,
      halves(s > 0 ? 'top' : 'bottom', tf),
    );
  }
}

/** A plate on the face of the other in the plane of a brace, to which that is bolted, or welded where it is hollow. */
export function gusset(on: Making, t: KnownMember): void {
  const { member: m, end, sizes } = on,
    { thickness, rows, pitch, edge, gap, weld, width } = sizes,
    met = faceMet(m, end, t);
  if (!met) return on.doubt('it runs along the other and meets no face of it');
  const X = sectionX(m);
  if (Math.abs(dot3(met.normal, X)) > SQUARE)
    return on.doubt('its web does not lie in one plane with the face that it meets: give it a quarter turn');
  const o = outward(m, end),
    x = back(o),
    cos = dot3(x, met.normal),
    tan = Math.sqrt(Math.max(0, 1 - cos * cos)) / cos,
    { h } = m.section,
    isHollow = m.section.sizes?.shape.includes('hollow') ?? false,
    web = ownWeb(m.section),
    side = times(X, web.side),
    y = cross3(side, x),
    offset = isHollow ? (-web.side * thickness) / 2 : web.face,
    origin = along(met.at, X, offset),
    setBack = gap / cos + (h / 2) * tan,
    overlap = (rows - 1) * pitch + 2 * edge;
  on.cut(cutBy(m, along(met.at, x, setBack), o));
  // Along the face, in the plane of the plate.
  const f = unit(without(x, met.normal)) ?? y,
    half = width / 2 / cos,
    flat = (p: ModelPoint): Point => {
      const d: ModelPoint = [p[0] - met.at[0], p[1] - met.at[1], p[2] - met.at[2]];
      return [dot3(d, x), dot3(d, y)];
    };
  const half2 = Math.max(isHollow ? h / 2 + edge : 0, edge, Math.min(h / 2, width / 2)),
    far = setBack + overlap,
    outline = convexHull([
      flat(along(met.at, f, -half)),
      flat(along(met.at, f, half)),
      [far, -half2],
      [far, half2],
    ]);
  const holes = isHollow ? [] : row(rows, pitch).map((u): Point => [setBack + overlap / 2 + u, 0]),
    given = { origin, x, y, thickness };
  const drilled = on.plate(
    'gusset',
    {
      ...given,
      outline: [...outline],
      weldedTo: t.member.id,
      weld: { size: weld, length: 4 * half + (isHollow ? 4 * overlap : 0) },
    },
    holes,
  );
  on.bolts(
    'bolts',
    drilled.map((p) => onPlate(given)(p, thickness)),
    back(side),
    thickness + web.thickness,
    [{ of: m, hole: { through: 'web' }, depth: web.thickness }],
  );
}
