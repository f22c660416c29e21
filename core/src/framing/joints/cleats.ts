import { cross3, dot3, minus3, type ModelPoint, type Point } from '../../geometry/index.ts';
import { outward, ownWeb, type KnownMember } from './faces.ts';
import { cutToFace } from './forms.ts';
import { back, onPlate, rectangle, row, type Making } from './making.ts';
import { sectionX } from './shape.ts';
import { along, times } from './vectors.ts';

/** Directions are in line, or square to one another, within this (cosine). */
const IN_LINE = 0.98,
  SQUARE = 0.05;

/** Cut before a face, and held by angles bolted to its web and to that: at both sides of a web that has two, else at its one flat side. */
export function cleat(on: Making, t: KnownMember): void {
  const { member: m, end, sizes } = on,
    { width, height, thickness: leg, rows, pitch, edge, gap } = sizes,
    met = cutToFace(on, t, gap, true);
  if (!met) return;
  const X = sectionX(m),
    x = back(outward(m, end));
  if (dot3(x, met.normal) < IN_LINE)
    return on.doubt('it does not come square to the face: angle cleats do not fit, take a fin plate');
  const web = ownWeb(m.section),
    isTwo =
      m.section.sizes?.shape === 'I' || m.section.sizes === null || m.section.sizes.shape === 'rectangle',
    h = m.up,
    at = row(rows, pitch),
    // From the face to the bolts in the web, and from the web to those in the face.
    toBolts = width - edge;
  for (const s of isTwo ? [1, -1] : [1]) {
    const out = times(X, web.side * s),
      face = along(met.at, X, s > 0 ? web.face : web.face - web.side * web.thickness),
      // The third direction of its legs, up or down along the section.
      way = cross3(x, out),
      origin = along(face, way, -height / 2),
      place = ([u, v]: Point, z: number): ModelPoint => along(along(along(face, x, u), out, v), h, z);
    on.angle(s > 0 ? 'cleat' : 'cleat behind', { origin, x, y: out, thickness: height }, { width, leg }, [
      ...at.map((z) => ({ from: place([toBolts, 0], z), to: place([toBolts, leg], z) })),
      ...at.map((z) => ({ from: place([0, toBolts], z), to: place([leg, toBolts], z) })),
    ]);
    on.bolts(
      s > 0 ? 'bolts in the face' : 'bolts in the face behind',
      at.map((z) => place([leg, toBolts], z)),
      back(x),
      leg + met.thickness,
      [{ of: t, hole: { through: met.through }, depth: met.thickness }],
    );
  }
  const out = times(X, web.side),
    near = along(met.at, X, web.face);
  on.bolts(
    'bolts in the web',
    at.map((z) => along(along(along(near, x, toBolts), out, leg), h, z)),
    back(out),
    web.thickness + (isTwo ? 2 : 1) * leg,
    [{ of: m, hole: { through: 'web' }, depth: web.thickness }],
  );
}

/** A plate that stands on a member, welded to it, to which the web of one that runs over it is bolted. */
export function purlinCleat(on: Making, t: KnownMember): void {
  const { member: m, sizes } = on,
    { width, thickness, rows, pitch, gauge, edge, weld } = sizes,
    { at, foot } = crossing(m, t);
  if (!at || Math.abs(dot3(m.along, t.along)) > ALONGSIDE)
    return on.doubt('it does not run across the member on which its cleat is to stand');
  const X = sectionX(m),
    off = minus3(at, foot),
    [a, b] = [dot3(off, sectionX(t)), dot3(off, t.up)],
    isOver = Math.abs(b) / t.section.h >= Math.abs(a) / t.section.b,
    normal = isOver ? times(t.up, Math.sign(b) || 1) : times(sectionX(t), Math.sign(a) || 1),
    toFace = isOver ? t.section.h / 2 : t.section.b / 2,
    web = ownWeb(m.section),
    side = times(X, web.side),
    above = dot3(off, normal) - toFace;
  if (Math.abs(dot3(X, normal)) > SQUARE)
    return on.doubt('its web does not stand on the member below: turn it, or take another joint');
  if (above <= 0) return on.doubt('it runs through the member on which its cleat is to stand');
  let x = m.along,
    y = cross3(side, x);
  if (dot3(y, normal) < 0) [x, y] = [back(x), back(y)];
  const origin = along(along(at, normal, -above), X, web.face),
    given = { origin, x, y, thickness },
    place = onPlate(given),
    top = above + ((rows - 1) * pitch) / 2 + edge,
    outline = rectangle(width, top).map(([u, v]): Point => [u, v + top / 2]),
    drilled = on.plate(
      'purlin cleat',
      { ...given, outline, weldedTo: t.member.id, weld: { size: weld, length: 2 * width } },
      [-gauge / 2, gauge / 2].flatMap((u) => row(rows, pitch).map((v): Point => [u, above + v])),
    );
  on.bolts(
    'bolts',
    drilled.map((p) => place(p, thickness)),
    back(side),
    thickness + web.thickness,
    [{ of: m, hole: { through: 'web' }, depth: web.thickness }],
  );
}

/** Members that run alongside one another more nearly than this (cosine) do not cross. */
const ALONGSIDE = 0.7;

/** Where two members come nearest to one another: on the line of the one and on that of the other; neither where that lies beyond an end. */
export function crossing(m: KnownMember, t: KnownMember): { at: ModelPoint | null; foot: ModelPoint } {
  const k = dot3(m.along, t.along),
    w = minus3(t.from, m.from),
    den = 1 - k * k;
  if (den < 1e-6) return { at: null, foot: t.from };
  const u = (dot3(w, m.along) - k * dot3(w, t.along)) / den,
    v = (k * dot3(w, m.along) - dot3(w, t.along)) / den,
    [at, foot] = [along(m.from, m.along, u), along(t.from, t.along, v)],
    isWithin = (p: KnownMember, z: number) => z >= -1 && z <= Math.hypot(...minus3(p.to, p.from)) + 1;
  return { at: isWithin(m, u) && isWithin(t, v) ? at : null, foot };
}
