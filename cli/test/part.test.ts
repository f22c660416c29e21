import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { PACKAGE_FORMAT, PACKAGE_VERSION, readDxf } from '@calque/core/exchange';
import { FORM } from '@calque/core/formats';
import type { PartReport } from '@calque/core/forming';
import { groundStorey, type Entity } from '@calque/core/model';
import { bracketPart } from '../../demo/src/bracket.ts';

const root = fileURLToPath(new URL('../../', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'calque-parts-'));

function calque(...args: string[]): { status: number; out: string; err: string } {
  const done = spawnSync(join(root, 'calque'), args, { cwd: folder, encoding: 'utf8', maxBuffer: 64 << 20 });
  return { status: done.status ?? -1, out: done.stdout, err: done.stderr };
}

function packaged(name: string, entities: Entity[]): string {
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
      files: [],
    };
  writeFileSync(
    path,
    zipSync({
      'manifest.json': strToU8(JSON.stringify(manifest)),
      'entities.jsonl': strToU8(all.map((e) => JSON.stringify(e)).join('\n')),
      'log.jsonl': strToU8(''),
    }),
  );
  return path;
}
const bracket = packaged('bracket.calque', bracketPart());

describe('calque part', () => {
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
      calque('deliver', bracket, '--to', 'svg', '--part', 'Rigging bracket', '-o', join(folder, 'x.svg')),
    ).toMatchObject({ status: 2, err: expect.stringContaining('not as svg') });
    const bare = bracketPart().filter((e) => e.type !== 'feature');
    expect(
      calque('deliver', packaged('bare.calque', bare), '--to', 'stl', '-o', join(folder, 'x.stl')),
    ).toMatchObject({ status: 2, err: expect.stringContaining('has no solid') });
  });
});
