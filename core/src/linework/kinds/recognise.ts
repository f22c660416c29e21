import { kindCode, type Linework } from '../types.ts';
import { findDimensions } from './dimensions.ts';
import { findHatches } from './hatch.ts';

const HATCH = kindCode('hatch'),
  DIMENSION = kindCode('dimension'),
  MARKUP = kindCode('markup');

/** Finds what is hatch, dimension and mark-up among the items, and writes their kinds in place. */
export function recogniseKinds(l: Linework): void {
  for (const [object, kind] of beside(l))
    for (let i = object.length - 1; i >= 0 && object[i] < 0; i--) kind[i] = MARKUP;
  let drawn = l.segmentObject.length;
  while (drawn > 0 && l.segmentObject[drawn - 1] < 0) drawn--;
  const hatches = findHatches(l.segments, l.segmentStyle, drawn);
  l.hatches += hatches.families;
  const dimensions = findDimensions(l, drawn, hatches.marks);
  for (let i = 0; i < drawn; i++) {
    if (hatches.marks[i]) l.segmentKind[i] = HATCH;
    else if (dimensions.segments[i]) l.segmentKind[i] = DIMENSION;
  }
  dimensions.circles.forEach((mark, i) => {
    if (mark && l.circleKind[i] !== MARKUP) l.circleKind[i] = DIMENSION;
  });
  dimensions.fillEdges.forEach((mark, i) => {
    if (mark) l.fillEdgeKind[i] = DIMENSION;
  });
  dimensions.texts.forEach((mark, i) => {
    if (mark) l.texts[i].kind = DIMENSION;
  });
  kindsOfObjects(l);
}

/** Gives items the kinds that their objects name. */
export function takeKinds(l: Linework, kinds: ReadonlyMap<number, number>): void {
  for (const [object, kind] of beside(l))
    object.forEach((n, i) => {
      kind[i] = kinds.get(n) ?? kind[i];
    });
  for (const t of l.texts) t.kind = kinds.get(t.object) ?? t.kind;
  for (const [n, kind] of kinds)
    if (3 * n < l.objects.length && l.objects[3 * n + 2] >= 0) l.objects[3 * n + 2] = kind;
}

const beside = (l: Linework): [Int32Array, Uint8Array][] => [
  [l.segmentObject, l.segmentKind],
  [l.arcObject, l.arcKind],
  [l.circleObject, l.circleKind],
  [l.curveObject, l.curveKind],
  [l.fillEdgeObject, l.fillEdgeKind],
];

/** A page object is switched as a whole in its picture: it is a hatch or dimension when most of its items are. */
function kindsOfObjects(l: Linework): void {
  const n = l.objects.length / 3;
  const items = new Int32Array(n),
    special = new Int32Array(n),
    which = new Uint8Array(n);
  const count = (object: number, kind: number) => {
    if (object < 0 || object >= n) return;
    items[object]++;
    if (kind !== HATCH && kind !== DIMENSION) return;
    special[object]++;
    which[object] = kind;
  };
  for (const [object, kind] of beside(l)) for (let i = 0; i < object.length; i++) count(object[i], kind[i]);
  for (const t of l.texts) count(t.object, t.kind);
  for (let i = 0; i < n; i++) if (special[i] * 2 > items[i]) l.objects[3 * i + 2] = which[i];
}
