/// <reference lib="webworker" />
import { gradeTrace } from '@calque/core/grade';
import type { FromGrade, ToGrade } from './grade-protocol';
import { seenOnSheet } from './seen-on-sheet';

/** Holds a trace against its sheet. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromGrade) => self.postMessage(message);

self.onmessage = async ({ data: { sheet, trace } }: MessageEvent<ToGrade>) => {
  try {
    const { shown, proposals, ink } = await seenOnSheet(
      { ...sheet, told: { notThick: [], pens: {} } },
      (share) => say({ type: 'progress', share }),
    );
    say({
      type: 'done',
      grade: gradeTrace({ trace, sheet: shown, placement: sheet.placement, seen: proposals }),
      ink,
    });
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
