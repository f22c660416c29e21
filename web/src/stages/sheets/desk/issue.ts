import { pointAt, straightParts } from '@calque/core/building';
import {
  applyTransform,
  boxRing,
  flattenPiece,
  invertTransform,
  MM_PER_POINT,
  meanScale,
  transformBox,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import {
  isTraced,
  lookOf,
  looseOf,
  ofType,
  piecesOf,
  setFields,
  shownOf,
  storedTransform,
  type Model,
  type Pair,
  type Traced,
  type Underlay,
} from '@calque/core/model';
import { leansOnGone, placementOfNew, type Registration } from '@calque/core/registration';
import { formatNumber } from '@calque/core/units';
import { lineworkUrl } from '@/project/addresses';
import { cropRing } from '@/table/look-cache';
import type { ProjectSession } from '@/project/session';
import type { SheetInfo } from '@/project/wire';
import { runTask } from '@/workers/task';
import type { FromIssue, IssueResult, ToIssue } from '@/workers/issue-protocol';

export interface PageOf {
  fileId: string;
  page: number;
}

/** Compares two pages in a worker; `stop` ends it. */
export function comparePages(
  projectId: string,
  older: PageOf,
  newer: PageOf,
  lies: ToIssue['lies'],
  onProgress: (share: number) => void,
): { done: Promise<IssueResult>; stop(): void } {
  const worker = new Worker(new URL('../../../workers/issue.worker.ts', import.meta.url), { type: 'module' });
  // Addresses inside a worker are relative to its script: these are whole.
  const whole = (p: PageOf) => new URL(lineworkUrl(projectId, p.fileId, p.page), window.location.href).href;
  return runTask<ToIssue, FromIssue>(
    worker,
    { oldUrl: whole(older), newUrl: whole(newer), lies },
    { onProgress, broken: 'Comparing the two pages failed. Try it again.' },
  );
}

/** How a page lies, for what both issues show to be compared; null where that cannot be measured, or lies on no floor. */
export const liesAs = (u: Underlay, which: 'older' | 'newer', isFloor: boolean): ToIssue['lies'] =>
  u.scaleState === 'paper' || !isFloor
    ? null
    : { which, placement: u.placement, ring: cropRing(u), switches: lookOf(u).switches };

/** In words how well the new page fits, and how it lies otherwise than the old one. */
export function fitWords(
  { transform, scale, radians, residual, found }: Registration,
  planeFromNew: Transform,
): string {
  const mm = residual * meanScale(planeFromNew);
  const degrees = (radians * 180) / Math.PI;
  const moves = [
    Math.abs(scale - 1) > 1e-4 && `drawn ${formatNumber(scale * 100, 2)} % as large`,
    Math.abs(degrees) > 0.005 && `turned by ${formatNumber(degrees, 2)}°`,
    Math.hypot(transform[4], transform[5]) > 0.5 &&
      Math.abs(degrees) < 0.5 &&
      Math.abs(scale - 1) < 1e-3 &&
      `shifted by ${formatNumber(Math.hypot(transform[4], transform[5]) * MM_PER_POINT, 1)} mm on paper`,
  ].filter(Boolean);
  return `${formatNumber(found * 100, 1)} % of the old lines lie on the new page, within ${formatNumber(mm, mm < 10 ? 1 : 0)} mm. ${moves.length === 0 ? 'It lies as the old one did.' : `It is ${moves.join(', ')}, and is laid so that the lines meet.`}`;
}

/** Below this share of common lines a person should look twice. */
export const POOR_FIT = 0.6;

/** The underlay with the new page in place of the old: placement, crop and look stay for what is drawn. */
export function withNewPage(u: Underlay, sheet: SheetInfo, { transform }: Registration): Partial<Underlay> {
  const placement = storedTransform(placementOfNew(u.placement, transform));
  const within = ([x, y]: Point): Pair => [
    Math.max(0, Math.min(sheet.width, x)),
    Math.max(0, Math.min(sheet.height, y)),
  ];
  const square = Math.abs(transform[1] * transform[0]) < 1e-6 * (transform[0] ** 2 + transform[1] ** 2);
  const ring = (u.outline ?? boxRing(u.crop)).map((p) => within(applyTransform(transform, p)));
  const moved = transformBox(transform, u.crop);
  const box: Underlay['crop'] = [...within([moved[0], moved[1]]), ...within([moved[2], moved[3]])];
  const sound = box[2] - box[0] > 1 && box[3] - box[1] > 1;
  const at = (p: Pair): Pair => [...applyTransform(transform, p)];
  return {
    fileId: sheet.fileId,
    page: sheet.page,
    former: { fileId: u.fileId, page: u.page },
    placement,
    crop: sound ? box : [0, 0, sheet.width, sheet.height],
    outline: sound && (u.outline || !square) ? ring : null,
    calibration: u.calibration && {
      ...u.calibration,
      from: at(u.calibration.from),
      to: at(u.calibration.to),
    },
  };
}

/** Replaces the sheet of an underlay in one step, with the points of its known dimensions. */
export function acceptIssue(
  session: ProjectSession,
  u: Underlay,
  sheet: SheetInfo,
  fit: Registration,
): boolean {
  const { model } = session.state;
  const checks = ofType(model, 'check').filter((c) => c.underlayId === u.id);
  // Earlier calibrations are of the old page: they are told in the new one's points, so that one can still go back to them.
  const records = ofType(model, 'calibration').filter((r) => r.underlayId === u.id);
  const at = (p: Pair): Pair => [...applyTransform(fit.transform, p)];
  const changes = [
    setFields(u, withNewPage(u, sheet, fit)),
    ...records.map((r) =>
      setFields(r, {
        placement: storedTransform(placementOfNew(r.placement, fit.transform)),
        known: r.known.map((k) => ({ ...k, from: at(k.from), to: at(k.to) })),
        calibration: r.calibration && {
          ...r.calibration,
          from: at(r.calibration.from),
          to: at(r.calibration.to),
        },
      }),
    ),
    ...checks.map((c) => setFields(c, { from: at(c.from), to: at(c.to) })),
  ].filter((c) => c !== null);
  return session.do({ type: 'group', changes }, `New issue of ${u.name}`);
}

/** Bends are told by chords that stray by no more than this, millimetres. */
const CHORDS = 5;
/** How near (sheet points) a traced edge must lie to a line to have leant on it. */
const LEANING = 1;

/** Traced elements of this underlay, as they show, whose lines or faces lay on lines that are gone. `gone` in sheet points of the new page. */
export function leaningOn(
  model: Model,
  u: Underlay,
  planeFromNew: Transform,
  gone: readonly (readonly number[])[],
): Traced[] {
  const inverse = invertTransform(planeFromNew);
  const on = (p: Point) => applyTransform(inverse, p);
  const traced = [...model.values()]
    .filter((e): e is Traced => isTraced(e) && e.source.underlayId === u.id)
    .map((e) => shownOf(e, model));
  const edges = traced.map((owner) =>
    looseOf(owner).flatMap((e): [number, number, number, number][] => {
      const lines =
        e.type === 'dimension'
          ? []
          : piecesOf(e).flatMap((piece) => {
              const points = flattenPiece(piece, CHORDS);
              return points.slice(1).map((q, i): [Point, Point] => [points[i], q]);
            });
      if (e.type === 'wall')
        for (const { band } of straightParts(e))
          for (const side of [band.left, -band.right])
            lines.push([pointAt(band, 0, side), pointAt(band, band.length, side)]);
      return lines.map(([p, q]) => [...on(p), ...on(q)]);
    }),
  );
  const flat = edges.flat();
  const leans = leansOnGone(gone, flat, LEANING);
  let at = 0;
  return traced.filter((_, i) => {
    const own = leans.slice(at, at + edges[i].length);
    at += own.length;
    return own.includes(true);
  });
}
