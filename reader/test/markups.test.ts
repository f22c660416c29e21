import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { kindCode } from '@calque/core/linework';
import { readFile, type ReadPage } from '../src/index.ts';
import { isoDate } from '../src/pdf/markups.ts';

describe('mark-ups', () => {
  it('are listed with author and comment, their lines where the file says, and none is taken for the drawing', async () => {
    const pages: ReadPage[] = [];
    await readFile(
      new Uint8Array(readFileSync(new URL('./sheets/12_mupdf_annotations.pdf', import.meta.url))),
      { maxMegabytes: 200 },
      () => {},
      (p) => void pages.push(p),
    );
    const l = pages[0].linework;
    expect(l.markups.map((m) => m.kind)).toEqual(
      expect.arrayContaining(['Line', 'Ink', 'Square', 'PolyLine', 'Text']),
    );
    const line = l.markups.findIndex((m) => m.kind === 'Line');
    expect(l.markups[line].comment).toBe('move this wall?');
    const at = l.segmentObject.indexOf(-1 - line);
    // The manifest's points go down from the top left.
    expect([...l.segments.subarray(4 * at, 4 * at + 4)].map((v) => Math.round(v * 10) / 10)).toEqual(
      [260, l.height - 260, 470, l.height - 330].map((v) => Math.round(v * 10) / 10),
    );
    expect(l.segmentKind[at]).toBe(kindCode('markup'));
    expect(l.counts.segments).toBe([...l.segmentObject].filter((n) => n >= 0).length);
  });
  it('dates are read as the standard writes them', () => {
    expect(isoDate("D:20261123140500+01'00'")).toBe('2026-11-23T14:05:00+01:00');
    expect(isoDate('D:20261123140500Z')).toBe('2026-11-23T14:05:00Z');
    expect(isoDate('D:202611')).toBe('2026-11-01');
    expect(isoDate('yesterday')).toBe('');
  });
});
