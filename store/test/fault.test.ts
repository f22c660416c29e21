import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { faultOf } from '@calque/store';

const failed = (code: string | undefined, severity: string, message = 'words') => {
  const inner = Object.assign(new pg.DatabaseError(message, 10, 'error'), { code, severity });
  return new Error('Failed query: select $1', { cause: inner });
};

describe('what a failed query means', () => {
  it.each([
    ['53100', 'ERROR', 'away'],
    ['57P01', 'FATAL', 'away'],
    ['57P03', 'FATAL', 'away'],
    ['53300', 'FATAL', 'away'],
    ['40P01', 'ERROR', 'away'],
    ['55P03', 'ERROR', 'away'],
    ['57014', 'ERROR', 'away'],
    // A disk so full that no new connection can be made: PostgreSQL says "could not write init file", an inner error.
    ['XX000', 'FATAL', 'away'],
    ['28P01', 'FATAL', 'away'],
    ['22P02', 'ERROR', 'refused'],
    ['22P05', 'ERROR', 'refused'],
    ['23505', 'ERROR', 'refused'],
    ['54000', 'ERROR', 'refused'],
    ['XX000', 'ERROR', 'other'],
    ['42P01', 'ERROR', 'other'],
  ])('%s as %s: %s', (code, severity, kind) => expect(faultOf(failed(code, severity)).kind).toBe(kind));

  it('no connection at all is no answer; what is no fault of the database stays what it is', () => {
    expect(faultOf(Object.assign(new Error('connect'), { code: 'ECONNREFUSED' })).kind).toBe('away');
    expect(faultOf(new Error('timeout exceeded when trying to connect')).kind).toBe('away');
    expect([faultOf(new Error('x')).kind, faultOf('x').kind, faultOf(null).kind]).toEqual([
      'other',
      'other',
      'other',
    ]);
  });
});
