import type { Registration } from '@calque/core/registration';

/** Which two pages are to be laid on one another, by the addresses of their linework. */
export interface ToIssue {
  oldUrl: string;
  newUrl: string;
}

/** What became of it; lines in sheet points of the new page. */
export interface IssueResult {
  fit: Registration;
  added: number[][];
  gone: number[][];
}
export type FromIssue =
  { type: 'progress'; share: number } | { type: 'none'; why: string } | ({ type: 'done' } & IssueResult);
