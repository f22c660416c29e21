'use client';

import { create } from 'zustand';
import { linesOfTrace, type TraceGrade } from '@calque/core/grade';
import { get, isTraced, tracedOn, type Model, type Traced, type Underlay } from '@calque/core/model';
import { laidAs, lookedAt, sheetToScale } from '@/drawing/looked-at';
import { keepPicture } from '@/drawing/printed';
import type { Table } from '@/table/table';
import type { FromGrade, ToGrade } from '@/workers/grade-protocol';
import { runTask, Stopped, type Task } from '@/workers/task';

export interface GradeState {
  state: 'none' | 'grading' | 'graded' | 'failed';
  why: string;
  share: number | null;
  underlayId: string | null;
  laid: string;
  /** The trace as it was graded: where it is another now, the grade holds no more. */
  model: Model | null;
  grade: TraceGrade | null;
  /** Elements of the plane that were traced from other sheets. */
  others: number;
  /** More lines were traced than are graded. */
  isCut: boolean;
  /** Millimetres; kept from grade to grade. */
  tolerance: number;
  /** What is looked at of the lists: where it lies. */
  walked: { list: GradeList; at: number } | null;
}
export type GradeList = 'strays' | 'untraced' | 'undrawn';

const NOTHING = {
  state: 'none',
  why: '',
  share: null,
  underlayId: null,
  laid: '',
  model: null,
  grade: null,
  others: 0,
  isCut: false,
  walked: null,
} as const;
/** What is asked of a trace at first, millimetres. */
export const USUAL_TOLERANCE = 2;

export const useGrade = create<GradeState>(() => ({ ...NOTHING, tolerance: USUAL_TOLERANCE }));

/** Is an element held against a sheet? What was traced from it, and what was drawn without any. */
const isOf =
  (u: Underlay) =>
  (e: Traced): boolean =>
    e.source.underlayId === null || e.source.underlayId === u.id;

let task: Pick<Task<never>, 'stop'> | null = null;

/** Holds what was traced from the sheet in hand against it. */
export function gradeSheet(table: Table): void {
  stopGrading();
  const fail = (why: string) => useGrade.setState({ ...NOTHING, state: 'failed', why });
  const found = sheetToScale(table);
  if ('why' in found) return void fail(found.why);
  const u = found.sheet,
    { model } = table.session.state,
    here = tracedOn(model, u.planeId),
    trace = linesOfTrace(model, u.planeId, isOf(u)),
    others = here.filter((e) => !isOf(u)(e)).length;
  if (trace.elements.length === 0)
    return void fail(
      others > 0
        ? `Nothing was traced from ${u.name}: what is here comes from other sheets. Choose one of those in the stack.`
        : `Nothing has been traced from ${u.name} yet: there is nothing to hold against it.`,
    );
  useGrade.setState({
    ...NOTHING,
    state: 'grading',
    underlayId: u.id,
    laid: laidAs(u),
    model,
    others,
    isCut: trace.isCut,
  });
  // Until its picture is drawn there is no worker to stop.
  let isStopped = false;
  task = {
    stop: () =>
      void ((isStopped = true), useGrade.setState({ ...NOTHING, state: 'failed', why: 'Stopped.' })),
  };
  void lookedAt(table, u).then((sheet) => {
    if (isStopped) return;
    const worker = new Worker(new URL('../../../workers/grade.worker.ts', import.meta.url), {
      type: 'module',
    });
    task = runTask<ToGrade, FromGrade>(
      worker,
      { sheet, trace },
      {
        broken: 'The trace could not be graded. Reload the page.',
        transfer: sheet.picture ? [sheet.picture.bitmap] : [],
        onProgress: (share) => useGrade.setState({ share }),
        onEnd: (end) => {
          task = null;
          if ('done' in end) {
            keepPicture(u, end.done.ink);
            useGrade.setState({ state: 'graded', grade: end.done.grade });
          } else fail(end.error instanceof Stopped ? 'Stopped.' : end.error.message);
          table.showTool();
        },
      },
    );
  }, cannotDraw(fail));
}

/** The picture of a scan could not be made. */
const cannotDraw = (fail: (why: string) => void) => (): void => {
  task = null;
  fail('The sheet cannot be drawn. Try it again.');
};

export function stopGrading(): void {
  task?.stop();
  task = null;
}

/** Does a grade hold: is its trace as it was graded, and its sheet in hand as it lay? */
export function doesGradeHold(table: Table, { model, underlayId, laid }: GradeState): boolean {
  const now = table.session.state.model,
    u = get(now, 'underlay', underlayId);
  const { underlayId: inHand, planeId } = table.state.getState();
  if (!u || inHand !== u.id || u.planeId !== planeId || laidAs(u) !== laid || !model) return false;
  return now === model || !tracedDiffers(model, now, u.planeId);
}

let told: { from: Model; to: Model; planeId: string; differs: boolean } | null = null;

/** Is something of what was traced on a plane another? */
function tracedDiffers(from: Model, to: Model, planeId: string): boolean {
  if (told?.from !== from || told.to !== to || told.planeId !== planeId)
    told = {
      from,
      to,
      planeId,
      differs: to
        .changedSince(from)
        .some(({ before, now }) =>
          [before, now].some(
            (e) =>
              e && ((isTraced(e) && e.planeId === planeId) || e.type === 'layer' || e.type === 'assembly'),
          ),
        ),
    };
  return told.differs;
}
