import { applyTransform, invertTransform, meanScale, type Point } from '@calque/core/geometry';
import { ofType, type Model, type Underlay } from '@calque/core/model';
import type { SnapCandidate, SnapKind } from '@calque/core/snapping';
import type { LineworkCache } from './linework-cache';
import { withinOutline, type LookCache } from './look-cache';
import type { TraceCache } from './trace-cache';

/** Distance within which a pick finds something, CSS pixels. */
export const SNAP_PIXELS = 11;

export const SNAP_WORDS: Record<SnapKind, string> = {
  end: 'end of line', crossing: 'crossing', centre: 'centre', middle: 'middle', along: 'on the line',
};

/** Something found under the cursor, in plane millimetres. */
export interface Found {
  kind: SnapKind;
  plane: [number, number];
  /** The underlay that it belongs to, with the point on its sheet; null for what has been traced. */
  underlayId: string | null;
  sheet: [number, number] | null;
  lit: readonly (readonly Point[])[];
}

export interface SnapScope {
  storeyId: string;
  /** Only this underlay's own linework. */
  onlyUnderlay?: string;
  /** Nothing of this one. */
  notUnderlay?: string;
}

/** All that can be snapped to near a plane point, the best first. `scale` is CSS pixels per millimetre. */
export function findSnaps(model: Model, sheets: LineworkCache, looks: LookCache, traces: TraceCache, at: Point, scale: number, scope: SnapScope): Found[] {
  const radius = SNAP_PIXELS / scale;
  const found: (Found & { score: number })[] = [];
  const take = (candidates: readonly SnapCandidate[], place: (p: Point) => [number, number], underlayId: string | null) => {
    for (const c of candidates) {
      found.push({
        kind: c.kind, plane: place([c.x, c.y]), underlayId, sheet: underlayId ? [c.x, c.y] : null,
        lit: c.lit.map((line) => line.map(place)), score: c.score,
      });
    }
  };
  for (const u of ofType(model, 'underlay')) {
    if (!snapsTo(u, scope)) continue;
    const sheet = sheets.get(u.fileId, u.page);
    if (!sheet) continue;
    // Also where nothing has been switched: layers may be off by the file's own wish.
    const off = looks.of(u, sheet.linework, sheet.linework.layers.length > 0)?.visibility?.items ?? null;
    const unit = meanScale(u.placement);
    const [x, y] = applyTransform(invertTransform(u.placement), at);
    take(sheet.snapper.query(x, y, radius / unit, { crop: u.crop, off, within: withinOutline(u) }), (p) => applyTransform(u.placement, p), u.id);
  }
  if (!scope.onlyUnderlay) take(traces.of(model, scope.storeyId).snapper.query(at[0], at[1], radius), (p) => [p[0], p[1]], null);
  return found.sort((a, b) => a.score - b.score);
}

function snapsTo(u: Underlay, scope: SnapScope): boolean {
  if (scope.onlyUnderlay) return u.id === scope.onlyUnderlay && u.visible;
  return u.id !== scope.notUnderlay && u.visible && u.snap && u.storeyId === scope.storeyId && u.fade < 1;
}
