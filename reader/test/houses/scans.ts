import sharp from 'sharp';
import { inkSlack, greyAt, readPicture, withInkLines, type Raster } from '@calque/core/ink';
import { emptyLinework } from '@calque/core/linework';
import { proposalsOn, type Proposals } from '@calque/core/proposals';
import { openPdf } from '../../src/pdf/read-pdf.ts';
import { chance } from '../hands/draw/hand.ts';
import { byLibrary } from '../hands/draw/producers.ts';
import type { Place } from './house.ts';
import { scored, type Score } from './score.ts';
import { houseSheet, type HouseSheet } from './sheets.ts';

/** How a sheet was laid on the glass, and what came of it. */
export interface Scan {
  dpi: number;
  /** Counter-clockwise about the middle of the page, radians. */
  turn: number;
  /** Of grey values. */
  noise: number;
  quality: number;
}
export const CLEAN: Scan = { dpi: 200, turn: 0.0227, noise: 6, quality: 75 };

/** A page as a scanner sees it: turned, grainy, through a JPEG. */
export async function scanOf(page: Raster, { turn, noise, quality }: Scan, seed: number): Promise<Raster> {
  const { width, height, scale } = page,
    grey = new Uint8Array(width * height),
    random = chance(seed),
    [c, s] = [Math.cos(turn), Math.sin(turn)],
    [mx, my] = [width / 2, height / 2];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [x + 0.5 - mx, y + 0.5 - my],
        px = mx + dx * c - dy * s,
        py = my + dx * s + dy * c,
        isPaper = px < 0 || py < 0 || px > width || py > height;
      // Twelve even chances together lie as a bell.
      let grain = -6;
      for (let k = 0; k < 12; k++) grain += random();
      const value = (isPaper ? 255 : greyAt(page, px, py)) * 0.93 + 6 + noise * grain;
      grey[y * width + x] = Math.max(0, Math.min(255, value));
    }
  const jpeg = await sharp(grey, { raw: { width, height, channels: 1 } })
      .jpeg({ quality })
      .toBuffer(),
    { data } = await sharp(jpeg).greyscale().raw().toBuffer({ resolveWithObject: true });
  return { width, height, grey: new Uint8Array(data), scale };
}

/** A sheet drawn, written, scanned, its ink read (without words), and looked at; scored against the house that it draws. */
export async function scoreOfScan(
  sheet: HouseSheet,
  scan: Scan = CLEAN,
): Promise<{ score: Score; proposed: Proposals; milliseconds: number; lines: number }> {
  const { house, hand, at, scale } = houseSheet(sheet),
    reader = await openPdf(await byLibrary()([hand]), { maxMegabytes: 640 }),
    page = reader.raster(1, scan.dpi / 72);
  reader.close();
  const raster = await scanOf(page, scan, sheet.given.seed),
    began = performance.now(),
    picture = await readPicture(raster, {
      lines: true,
      perMillimetre: scan.dpi / 25.4,
      recogniser: async () => ({ text: '', confidence: 0 }),
    }),
    [width, height] = [raster.width / raster.scale, raster.height / raster.scale],
    linework = withInkLines({ ...emptyLinework(width, height), content: 'scan' }, picture, { pens: true }),
    proposed = proposalsOn(linework, sheet.office.factor, { slack: inkSlack(picture) }),
    milliseconds = performance.now() - began;
  const [ox, oy] = at(0, 0),
    own = sheet.office.turned ?? 0,
    rotated = (angle: number, [x, y]: Place): Place => [
      x * Math.cos(angle) - y * Math.sin(angle),
      x * Math.sin(angle) + y * Math.cos(angle),
    ];
  const back = ([x, y]: readonly [number, number]): Place => {
    const [px, py] = rotated(-scan.turn, [x - width / 2, y - height / 2]);
    return rotated(-own, [(px + width / 2 - ox) / scale, (py + height / 2 - oy) / scale]);
  };
  return { score: scored(house, proposed, back), proposed, milliseconds, lines: picture.lines.length };
}
