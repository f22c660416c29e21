import { cross3, dot3, type ModelPoint } from '../../geometry/index.ts';
import type { Check } from './facts.ts';
import type { Limits } from './limits.ts';
import type { Looked } from './looked.ts';
import { minus, shown, thicknessAt } from './looked.ts';

/** Turned parts: every face is round about one axis, or flat and square to it. */
export function turningChecks(looked: Looked): Check[] {
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
export function sheetOf(looked: Looked): { way: ModelPoint; thickness: number } | null {
  const flat = looked.facts.skin.faces
    .filter((f) => f.form.kind === 'plane')
    .sort((a, b) => b.area - a.area)[0];
  if (flat?.form.kind !== 'plane') return null;
  const t = looked.samples(flat).flatMap((s) => thicknessAt(looked.rays, s) ?? [])[0];
  return t === undefined ? null : { way: flat.form.normal, thickness: t };
}

/** Parts that are cut from sheet: flat, their sides square to it. */
export function sheetChecks(looked: Looked, limits: Limits): Check[] {
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
export function bendChecks(looked: Looked, limits: Limits): Check[] {
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
