import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { PACKAGE_FORMAT, PACKAGE_VERSION, packagedPath, readDxf } from '@calque/core/exchange';
import { FORM } from '@calque/core/formats';
import type { PartReport } from '@calque/core/forming';
import { groundStorey, type Entity } from '@calque/core/model';
import { BRACKET_FOOT, BRACKET_PLANE, bracketPart } from '../../demo/src/bracket.ts';
import { drawBracketSheet } from '../../demo/src/sheets.ts';

const PT = 72 / 25.4;
const root = fileURLToPath(new URL('../../', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'calque-parts-'));

function calque(...args: string[]): { status: number; out: string; err: string } {
  const done = spawnSync(join(root, 'calque'), args, { cwd: folder, encoding: 'utf8', maxBuffer: 64 << 20 });
  return { status: done.status ?? -1, out: done.stdout, err: done.stderr };
}

interface Attached {
  id: string;
  name: string;
  bytes: Uint8Array;
}

function packaged(name: string, entities: Entity[], attached: readonly Attached[] = []): string {
  const path = join(folder, name),
    all: Entity[] = [
      { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 },
      groundStorey('ground'),
      ...entities,
    ],
    manifest = {
      format: PACKAGE_FORMAT,
      version: PACKAGE_VERSION,
      form: FORM,
      name: 'Boathouse',
      units: 'mm',
      createdAt: '2026-01-05T10:00:00.000Z',
      entities: all.length,
      steps: 0,
      files: attached.map((f) => {
        const sha256 = createHash('sha256').update(f.bytes).digest('hex');
        return { id: f.id, name: f.name, bytes: f.bytes.length, sha256, path: packagedPath(sha256) };
      }),
    };
  writeFileSync(
    path,
    zipSync({
      'manifest.json': strToU8(JSON.stringify(manifest)),
      'entities.jsonl': strToU8(all.map((e) => JSON.stringify(e)).join('\n')),
      'log.jsonl': strToU8(''),
      ...Object.fromEntries(attached.map((f, i) => [manifest.files[i].path, f.bytes])),
    }),
  );
  return path;
}
const bracket = packaged('bracket.calque', bracketPart());

/** Each call begins anew and loads the kernel. */
const SLOW = { timeout: 240000 };

describe('calque part', SLOW, () => {
  it('makes a part of a package and tells all of it', () => {
    const { status, out, err } = calque('part', bracket, '--json');
    expect(err).toBe('');
    expect(status).toBe(0);
    const told = JSON.parse(out) as PartReport;
    expect(told.name).toBe('Rigging bracket');
    expect(told.mass).toBeCloseTo(0.559171437, 8);
    expect(told.holes).toHaveLength(4);
    expect(told.features.map((f) => f.state)).toEqual(['made', 'made', 'made', 'made']);
    expect(told.printed.every((p) => p.agrees)).toBe(true);
    expect(calque('part', bracket).out).toMatch(/Rigging bracket, Stainless steel 1\.4404: 0[.]5592 kg/);
  });

  it('writes it for others', () => {
    const written = (to: string, ...more: string[]) => {
      const path = join(folder, `bracket.${to}`);
      expect(calque('deliver', bracket, '--to', to, ...more, '-o', path)).toMatchObject({
        status: 0,
        err: '',
      });
      return readFileSync(path);
    };
    expect(written('step').toString('latin1')).toContain('AP242');
    expect(written('stl').readUInt32LE(80)).toBeGreaterThan(100);
    expect(written('3mf').subarray(0, 2).toString()).toBe('PK');
    expect(written('glb', '--part', 'Rigging bracket').subarray(0, 4).toString()).toBe('glTF');
    expect(readDxf(written('dxf', '--part', 'Rigging bracket').toString()).items).toHaveLength(16);
    // What a building has too is a part's where that is named.
    const named = ['--part', 'Rigging bracket'];
    expect(written('svg', ...named).toString()).toContain('3x Ø11 THRU');
    expect(
      written('pdf', ...named)
        .subarray(0, 4)
        .toString(),
    ).toBe('%PDF');
    expect(
      written('csv', ...named)
        .toString()
        .trim()
        .split(/\r?\n/),
    ).toHaveLength(5);
  });

  it('holds all that the sheets in the package print against the solid, and says which could not be read', async () => {
    const sheet = (id: string, fileId: string): Entity =>
      ({
        type: 'underlay',
        id,
        name: `Sheet ${id}`,
        fileId,
        page: 1,
        planeId: BRACKET_PLANE,
        crop: [0, 0, 842, 595],
        placement: [1 / PT, 0, 0, 1 / PT, -BRACKET_FOOT[0] / PT, -BRACKET_FOOT[1] / PT],
        scaleState: 'stated',
        calibration: null,
        visible: true,
        fade: 0,
        locked: false,
        snap: true,
        order: 0,
      }) as Entity;
    const path = packaged(
        'sheets.calque',
        [...bracketPart(), sheet('u-bracket-front', 'f1'), sheet('u-broken', 'f2')],
        [
          { id: 'f1', name: 'bracket.pdf', bytes: await drawBracketSheet() },
          { id: 'f2', name: 'broken.pdf', bytes: strToU8('%PDF-1.7 nothing more') },
        ],
      ),
      { out, err } = calque('part', path, '--json');
    expect(err).toBe('');
    const told = JSON.parse(out) as PartReport & { unread: string[] };
    expect(told.unread).toEqual(['Sheet u-broken']);
    expect(told.printed.filter((p) => p.drives)).toHaveLength(8);
    expect(told.printed.filter((p) => !p.drives).map((p) => [p.text, p.agrees])).toEqual([
      ['20', true],
      ['20', true],
      ['120', true],
      ['3 holes dia 11', true],
    ]);
    // Another part of the same sheet: what it prints is not what is made.
    const thinner = bracketPart().map((e) =>
        e.id === 'bracket-f-holes' && e.type === 'feature' && e.form.kind === 'hole'
          ? { ...e, form: { ...e.form, diameter: 10 } }
          : e,
      ),
      other = packaged(
        'thinner.calque',
        [...thinner, sheet('u-bracket-front', 'f1')],
        [{ id: 'f1', name: 'bracket.pdf', bytes: await drawBracketSheet() }],
      );
    expect(calque('part', other).out).toContain('printed 3 holes dia 11: no such hole in the solid');
  });

  it('says what is not there', () => {
    expect(calque('part', bracket, '--part', 'Oarlock')).toMatchObject({
      status: 2,
      err: expect.stringContaining('it has "Rigging bracket"'),
    });
    expect(calque('part', packaged('none.calque', []))).toMatchObject({
      status: 2,
      err: expect.stringContaining('no part in this package'),
    });
    expect(
      calque('deliver', bracket, '--to', 'ifc', '--part', 'Rigging bracket', '-o', join(folder, 'x.ifc')),
    ).toMatchObject({ status: 2, err: expect.stringContaining('not as ifc') });
    const bare = bracketPart().filter((e) => e.type !== 'feature');
    expect(
      calque('deliver', packaged('bare.calque', bare), '--to', 'stl', '-o', join(folder, 'x.stl')),
    ).toMatchObject({ status: 2, err: expect.stringContaining('has no solid') });
  });
});
