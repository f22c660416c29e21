import type { Point, Transform } from '@calque/core/geometry';
import type { Switches } from '@calque/core/linework';
import type { SeenChange, SeenIssue } from '@calque/core/proposals';
import type { Registration } from '@calque/core/registration';

/** Which two pages are to be laid on one another, by the addresses of their linework. */
export interface ToIssue {
  oldUrl: string;
  newUrl: string;
  /** How one of the two lies on its plane, to scale: what both show is compared too. */
  lies: { which: 'older' | 'newer'; placement: Transform; ring: readonly Point[]; switches: Switches } | null;
}

/** What both issues are seen to show, and what of that is not the same. */
export interface IssueChanges {
  older: SeenIssue;
  newer: SeenIssue;
  changes: SeenChange[];
}

/** What became of it; lines in sheet points of the new page. */
export interface IssueResult {
  fit: Registration;
  added: number[][];
  gone: number[][];
  /** Null where that was not asked, or cannot be told: of scans. */
  seen: IssueChanges | null;
}
export type FromIssue =
  { type: 'progress'; share: number } | { type: 'none'; why: string } | ({ type: 'done' } & IssueResult);
