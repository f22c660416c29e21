import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import {
  allSaved,
  clickSheet,
  drawing,
  dropFile,
  entities,
  newProject,
  onScreen,
  SHEET_01,
  sheetFile,
  snapReady,
} from './bench.ts';

const up = (p: [number, number]): [number, number] => [p[0], SHEET_01.height - p[1]];

interface WallEntity {
  from: number[];
  to: number[];
  thickness: number;
  height: number;
  heightAssumed: boolean;
  alignment: string;
}
interface UnderlayEntity {
  crop: number[];
  placement: number[];
  scaleState: string;
  calibration: { factor: number } | null;
}

/** Outer corners of case 01's building, page points from the top left (its manifest: 24600 x 13800 at 1:100). */
const CORNER = {
  topLeft: up([175.748, 181.417]),
  topRight: up([873.071, 181.417]),
  bottomRight: up([873.071, 572.599]),
  bottomLeft: up([175.748, 572.599]),
};

test('the whole job on a real sheet: drop, crop, calibrate, trace, reload, deliver', async ({ page }) => {
  await newProject(page, 'The whole job');

  await test.step('drop a PDF and see what it holds, from whichever stage', async () => {
    await expect(page.getByText('anywhere on this table')).toBeVisible();
    await page.keyboard.press('3');
    await dropFile(page, sheetFile(SHEET_01.file));
    await expect(page.getByText('lines to snap to')).toBeVisible({ timeout: 40000 });
    await expect(page.getByText('A3 across, 420 × 297 mm')).toBeVisible();
  });

  await test.step('crop by dragging on the picture and lay it down, not to scale', async () => {
    await page.getByRole('button', { name: 'Page 1: crop' }).click();
    const box = (await page.getByTestId('crop-picture').boundingBox())!;
    await page.mouse.move(box.x + box.width * 0.05, box.y + box.height * 0.05);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.85, box.y + box.height * 0.88, { steps: 5 });
    await page.mouse.up();
    await page.getByRole('button', { name: 'Use this crop' }).click();
    await page.getByRole('button', { name: 'Lay at the origin' }).click();
    await allSaved(page);
    const [u] = await entities<UnderlayEntity>(page, 'underlay');
    expect(u.scaleState).toBe('paper');
    expect(u.crop[0]).toBeCloseTo(0.05 * SHEET_01.width, -1);
    expect(u.crop[2]).toBeCloseTo(0.85 * SHEET_01.width, -1);
    await expect(page.getByText('0 of 1 to scale')).toBeVisible();
  });

  await test.step('calibrate by the overall dimension', async () => {
    await snapReady(page);
    await page.keyboard.press('2');
    await page.getByRole('button', { name: 'Pick a known dimension (C)' }).click();
    await clickSheet(page, CORNER.topLeft);
    await clickSheet(page, CORNER.topRight);
    await page.getByLabel('true length').fill('nonsense');
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('cursor-field')).toContainText('is not a length');
    await page.getByLabel('true length').fill('24.6 m');
    await expect(page.getByTestId('cursor-field')).toContainText('24\u2009600');
    await page.keyboard.press('Enter');
    await allSaved(page);
    const [u] = await entities<UnderlayEntity>(page, 'underlay');
    expect(u.scaleState).toBe('calibrated');
    expect(u.calibration!.factor).toBeCloseTo(100, 1);
    await expect(page.getByTestId('calibration-figures')).toContainText('1:100');
    await expect(page.getByText('1 of 1 to scale')).toBeVisible();
  });

  await test.step('hold another printed dimension against it', async () => {
    await page.keyboard.press('k');
    await clickSheet(page, CORNER.topRight);
    await clickSheet(page, CORNER.bottomRight);
    await page.getByLabel('printed').fill('13800');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('row').filter({ hasText: '13\u2009800' })).toBeVisible();
    await expect(page.getByText('1 agrees')).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('trace a closed ring of walls, with a typed length', async () => {
    await page.keyboard.press('w');
    await clickSheet(page, CORNER.bottomLeft);
    await page.keyboard.press('f');
    await expect(page.getByTestId('tool-words')).toContainText('left face');
    await page.keyboard.press('f');
    await expect(page.getByTestId('tool-words')).toContainText('right face');
    await clickSheet(page, CORNER.bottomRight);
    await clickSheet(page, CORNER.topRight);
    const [x, y] = await onScreen(page, CORNER.topLeft);
    await page.mouse.move(x + 60, y);
    await page.keyboard.type('24600');
    await page.keyboard.press('Tab');
    await page.keyboard.type('180');
    await page.keyboard.press('Enter');
    await clickSheet(page, CORNER.bottomLeft, [1, 1]);
    await allSaved(page);
    const walls = await entities<WallEntity>(page, 'wall');
    expect(walls).toHaveLength(4);
    const lengths = walls
      .map((w) => Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]))
      .map((l) => Math.round(l))
      .sort((a, b) => a - b);
    expect(lengths).toEqual([13800, 13800, 24600, 24600]);
    expect(walls.every((w) => w.alignment === 'right' && w.heightAssumed)).toBe(true);
    await page.keyboard.press('Escape');
  });

  await test.step('undo and redo', async () => {
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await entities(page, 'wall')).length).toBe(3);
    await page.keyboard.press('Control+Shift+z');
    await expect.poll(async () => (await entities(page, 'wall')).length).toBe(4);
    await allSaved(page);
  });

  await test.step('a reload and a second tab show the same', async () => {
    const before = await entities(page, 'wall');
    await page.reload();
    await expect(drawing(page).locator('canvas').first()).toBeVisible();
    await expect.poll(() => entities(page, 'wall')).toEqual(before);
    const second = await page.context().newPage();
    await second.goto(page.url());
    await expect.poll(async () => (await entities(second, 'wall').catch(() => [])).length).toBe(4);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await entities(second, 'wall')).length).toBe(3);
    await second.close();
    await page.keyboard.press('Control+Shift+z');
    await allSaved(page);
  });

  await test.step('deliver a DXF that an independent reader accepts, with true lengths', async () => {
    await page.keyboard.press('5');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Write DXF' }).click(),
    ]);
    const path = await download.path();
    const script = `
import ezdxf, json, sys
doc = ezdxf.readfile(sys.argv[1])
audit = doc.audit()
msp = doc.modelspace()
lines = sorted(round((l.dxf.end - l.dxf.start).magnitude, 1) for l in msp.query('LINE'))
polys = [[(round(p[0], 2), round(p[1], 2)) for p in pl.get_points('xy')] for pl in msp.query('LWPOLYLINE')]
print(json.dumps({'errors': len(audit.errors), 'units': doc.header['$INSUNITS'], 'lines': lines, 'polys': polys, 'layers': [l.dxf.name for l in doc.layers]}))`;
    const read = JSON.parse(execFileSync('/usr/bin/python3', ['-c', script, path], { encoding: 'utf8' })) as {
      errors: number;
      units: number;
      lines: number[];
      polys: number[][][];
      layers: string[];
    };
    expect(read.errors).toBe(0);
    expect(read.units).toBe(4);
    expect(read.layers).toContain('Walls');
    for (const [got, want] of read.lines.map((l, i) => [l, [13800, 13800, 24600, 24600][i]]))
      expect(Math.abs(got - want)).toBeLessThan(2);
    // One solid ring: an outer and an inner outline, a wall's thickness apart.
    expect(read.polys).toHaveLength(2);
    const width = (ring: number[][]) =>
      Math.max(...ring.map((p) => p[0])) - Math.min(...ring.map((p) => p[0]));
    const [inner, outer] = read.polys.map(width).sort((a, b) => a - b);
    expect(outer - inner).toBeCloseTo(200, 0);
  });

  await test.step('deliver CSV and SVG', async () => {
    const [csv] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Write CSV' }).click(),
    ]);
    const rows = readFileSync(await csv.path(), 'utf8')
      .trim()
      .split('\r\n');
    expect(rows).toHaveLength(5);
    expect(rows[0]).toContain('length (mm)');
    const [svg] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Write SVG' }).click(),
    ]);
    expect(readFileSync(await svg.path(), 'utf8')).toMatch(/<svg [^>]*width="2\d\d(\.\d+)?mm"/);
  });
});
