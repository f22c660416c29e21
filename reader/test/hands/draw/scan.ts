import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import type SharpModule from 'sharp';
import { chance, type PageTruth, type Point } from './hand.ts';

const sharp = createRequire(new URL('../../../package.json', import.meta.url))('sharp') as typeof SharpModule;

/** What a worn scanner does: resolution, skew in degrees, grey of the paper, folds, stains, red marks, grain, quality of the JPEG. */
export interface Wear {
  dpi: number;
  skew: number;
  paper?: number;
  folds?: number;
  stains?: number;
  red?: number;
  grain?: number;
  quality?: number;
  blur?: number;
}

/** Draws a sheet's first page as a scan, in a PDF as scanners write them; with where each point of it went. */
export async function scanned(
  pdf: Uint8Array,
  wear: Wear,
  seed: number,
): Promise<{ pdf: Uint8Array; move: (p: Point) => Point }> {
  const folder = mkdtempSync(join(tmpdir(), 'scan-'));
  try {
    writeFileSync(join(folder, 'in.pdf'), pdf);
    execFileSync('pdftoppm', [
      '-r',
      String(wear.dpi),
      '-png',
      '-singlefile',
      join(folder, 'in.pdf'),
      join(folder, 'page'),
    ]);
    const flat = sharp(readFileSync(join(folder, 'page.png'))).flatten({ background: '#ffffff' });
    const { width: w0, height: h0 } = (await flat.metadata()) as { width: number; height: number };
    const turned = await flat.rotate(wear.skew, { background: '#ffffff' }).png().toBuffer();
    const { width, height } = (await sharp(turned).metadata()) as { width: number; height: number };
    const random = chance(seed),
      marks: string[] = [];
    for (let i = 0; i < (wear.folds ?? 0); i++) {
      const x = width * (0.25 + 0.5 * random());
      marks.push(
        `<path d="M${x} 0L${x + 20 * (random() - 0.5)} ${height}" stroke="#000" stroke-opacity="0.16" stroke-width="5"/><path d="M${x + 4} 0L${x + 4 + 20 * (random() - 0.5)} ${height}" stroke="#fff" stroke-opacity="0.5" stroke-width="2"/>`,
      );
    }
    for (let i = 0; i < (wear.stains ?? 0); i++) {
      const x = width * random(),
        y = height * random(),
        r = width * (0.02 + 0.05 * random());
      marks.push(
        `<ellipse cx="${x}" cy="${y}" rx="${r}" ry="${r * 0.7}" fill="#6b4a20" fill-opacity="0.16"/><ellipse cx="${x}" cy="${y}" rx="${r}" ry="${r * 0.7}" fill="none" stroke="#6b4a20" stroke-opacity="0.35" stroke-width="4"/>`,
      );
    }
    for (let i = 0; i < (wear.red ?? 0); i++) {
      const x = width * (0.15 + 0.6 * random()),
        y = height * (0.15 + 0.6 * random()),
        r = wear.dpi * (0.2 + 0.5 * random());
      marks.push(
        `<path d="M${x} ${y}c${r} ${-r} ${2 * r} ${r} ${r} ${r}s${-2 * r} ${-r * 0.4} ${-r} ${-r}m${2.4 * r} 0l${r} ${0.8 * r}" stroke="#cc2222" stroke-width="${wear.dpi / 40}" fill="none" stroke-opacity="0.85"/>`,
      );
    }
    const paper = wear.paper ?? 250,
      worn = await sharp(turned)
        .composite([
          {
            input: Buffer.from(
              `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${marks.join('')}</svg>`,
            ),
          },
        ])
        .blur(wear.blur ?? 0.5)
        .raw()
        .toBuffer({ resolveWithObject: true });
    const { data, info } = worn,
      grain = wear.grain ?? 8;
    for (let i = 0; i < data.length; i++)
      data[i] = Math.max(
        0,
        Math.min(255, 30 + (data[i] * (paper - 30)) / 255 + grain * (random() + random() + random() - 1.5)),
      );
    const jpeg = await sharp(data, {
      raw: { width: info.width, height: info.height, channels: info.channels },
    })
      .jpeg({ quality: wear.quality ?? 55 })
      .toBuffer();
    const doc = await PDFDocument.create(),
      image = await doc.embedJpg(jpeg),
      per = 72 / wear.dpi,
      page = doc.addPage([width * per, height * per]);
    page.drawImage(image, { x: 0, y: 0, width: width * per, height: height * per });
    // The picture turns clockwise about its middle, y down.
    const a = (wear.skew * Math.PI) / 180,
      c = Math.cos(a),
      s = Math.sin(a),
      k = wear.dpi / 72;
    const move = ([x, y]: Point): Point => {
      const dx = x * k - w0 / 2,
        dy = h0 - y * k - h0 / 2;
      return [(width / 2 + c * dx - s * dy) * per, (height - (height / 2 + s * dx + c * dy)) * per];
    };
    return { pdf: await doc.save(), move };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** The truth of a page as its scan has it. */
export const movedTruth = (truth: PageTruth, move: (p: Point) => Point): PageTruth => ({
  ...truth,
  dimensions: truth.dimensions.map((d) => ({ ...d, from: move(d.from), to: move(d.to) })),
});
