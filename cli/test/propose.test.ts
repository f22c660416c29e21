import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from 'vitest';
import { byLibrary } from '../../reader/test/hands/draw/producers.ts';
import { houseSheet, TUNED } from '../../reader/test/houses/sheets.ts';

const root = fileURLToPath(new URL('../../', import.meta.url)),
  folder = mkdtempSync(join(tmpdir(), 'calque-propose-')),
  file = join(folder, 'house.pdf'),
  drawn = houseSheet(TUNED.find((s) => s.name === 'lines')!);

function calque(...args: string[]): { status: number; out: string; err: string } {
  const done = spawnSync(join(root, 'calque'), args, { cwd: folder, encoding: 'utf8', maxBuffer: 64 << 20 });
  return { status: done.status ?? -1, out: done.stdout, err: done.stderr };
}

interface Proposed {
  page: number;
  scale: number;
  walls: {
    from: [number, number];
    to: [number, number];
    thickness: number;
    outer: boolean | null;
    confidence: number;
  }[];
  openings: { kind: string; wall: number; width: number; swing: unknown; confidence: number }[];
  rooms: {
    name: string;
    number: string;
    outline: [number, number][];
    area: number;
    printed: number | null;
  }[];
  columns: unknown[];
  grid: unknown[];
  members: unknown[];
  levels: unknown[];
}

beforeAll(async () => {
  writeFileSync(file, await byLibrary()([drawn.hand]));
});

describe('calque propose', () => {
  it('calibrates by itself and tells what the page shows, as JSON and in words', () => {
    const { status, out, err } = calque('propose', file, '--json');
    expect(err).toBe('');
    expect(status).toBe(0);
    const told = JSON.parse(out) as Proposed,
      { house } = drawn;
    expect(told.page).toBe(1);
    expect(told.scale).toBeCloseTo(100, 0);
    // Two that lie in line, as thick, may be one.
    const length = (walls: readonly { from: readonly number[]; to: readonly number[] }[]) =>
      walls.reduce((sum, w) => sum + Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]), 0);
    expect((length(told.walls) * 100 * 25.4) / 72 / length(house.walls)).toBeCloseTo(1, 2);
    expect(told.walls.filter((w) => w.outer)).toHaveLength(house.walls.filter((w) => w.outer).length);
    expect(told.rooms.map((r) => r.name).sort()).toEqual(house.rooms.map((r) => r.name).sort());
    for (const o of told.openings) {
      expect(told.walls[o.wall]).toBeDefined();
      expect(o.confidence > 0 && o.confidence <= 1).toBe(true);
      expect(o.kind === 'door' || o.swing === null).toBe(true);
    }
    expect([told.columns, told.grid, told.members, told.levels]).toEqual([[], [], [], []]);
    const { out: said } = calque('propose', file);
    expect(said).toContain(`${told.walls.length} walls`);
    expect(said).toMatch(/Walls are (100, 300|300, 100) mm thick/);
  });

  it('takes a scale that is given, and says what is wrong with one that is none', () => {
    const half = JSON.parse(calque('propose', file, '--scale', '1:50', '--json').out) as Proposed;
    expect(half.scale).toBe(50);
    expect(half.walls.some((w) => Math.abs(w.thickness - 150) < 5)).toBe(true);
    const wrong = calque('propose', file, '--scale', 'large');
    expect(wrong.status).toBe(2);
    expect(wrong.err).toContain('"large" is no scale');
    expect(calque('propose', file, '--view', '7').status).toBe(2);
    expect(calque('propose', join(folder, 'none.pdf')).status).toBe(3);
  });

  it('says that a page without any scale needs one', async () => {
    const bare = join(folder, 'bare.pdf'),
      { hand } = houseSheet({
        ...TUNED[0],
        office: { ...TUNED[0].office, dims: null, areas: null },
      });
    writeFileSync(
      bare,
      await byLibrary()([Object.assign(hand, { ops: hand.ops.filter((o) => o.op !== 'text') })]),
    );
    const { status, err } = calque('propose', bare);
    expect(status).toBe(2);
    expect(err).toContain('--scale');
  });
});
