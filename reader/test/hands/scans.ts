// How scans of the sheets are read: `npx tsx reader/test/hands/scans.ts [name] [-v]`.
import { readFileSync, writeFileSync } from 'node:fs';
import { readPrinted } from '@calque/core/calibration';
import { pixelsPerMillimetre, readPicture, rasterScale, pictureOffers } from '@calque/core/ink';
import { startRecogniser } from '../../../cli/src/recogniser.ts';
import { DEFAULT_MEMORY_MB, readRaster } from '../../src/index.ts';
import { readFile } from '../../src/read-file.ts';
import { movedTruth, scanned, type Wear } from './draw/scan.ts';
import { say } from './say.ts';
import { handsFolder, PRACTICE, practiceTruth, score, truthOf } from './score.ts';

const WEAR: Record<string, Wear> = {
  clean: { dpi: 150, skew: 0, grain: 3, quality: 80 },
  worn: { dpi: 150, skew: 0.8, paper: 232, folds: 2, stains: 3, red: 3, grain: 14, quality: 55 },
  faint: { dpi: 150, skew: -1.3, paper: 205, folds: 1, stains: 1, red: 2, grain: 20, quality: 40, blur: 0.7 },
};
const SHEETS = [
  ['practice', '01_cairo_plan_100'],
  ['practice', '03_tikz_plan_50_rotated_wing'],
  ['practice', '05_rsvg_nested_forms_clips'],
  ['practice', '02_reportlab_imperial_ocg'],
  ['tuned', 'boathouse-details'],
  ['tuned', 'boat-store-cm'],
  ['tuned', 'bracket-inches'],
  ['tuned', 'dormer-feet'],
  ['tuned', 'gate-rounds'],
] as const;
const [only = '', loud] = process.argv.slice(2);
const recogniser = await startRecogniser();
for (const [set, name] of SHEETS)
  for (const [how, wear] of Object.entries(WEAR)) {
    if (only && !`${name}-${how}`.includes(only)) continue;
    const { pdf, move } = await scanned(
      new Uint8Array(readFileSync(new URL(`${name}.pdf`, set === 'practice' ? PRACTICE : handsFolder(set)))),
      wear,
      7,
    );
    const truth = movedTruth(set === 'practice' ? practiceTruth(`${name}.pdf`) : truthOf(set)[name][0], move);
    let linework: Parameters<typeof readPrinted>[0] | null = null;
    await readFile(
      pdf,
      { maxMegabytes: DEFAULT_MEMORY_MB, page: 1 },
      () => {},
      (page) => {
        linework = page.linework;
      },
    );
    const began = performance.now(),
      { raster, isPicture } = await readRaster(new Uint8Array(pdf), 1, linework!, { maxMegabytes: 1024 });
    const picture = await readPicture(raster, {
      lines: pictureOffers(linework!) === 'scan',
      perMillimetre: pixelsPerMillimetre(raster, isPicture),
      recogniser: recogniser.read,
    });
    if (process.env.SCANS)
      writeFileSync(`${process.env.SCANS}/${name}-${how}.json`, JSON.stringify({ picture, truth }));
    const read = performance.now(),
      reading = readPrinted(linework!, { picture }),
      s = score(reading, truth, 2.2, 2e-3);
    say(
      `${name} ${how}: ${s.found}/${s.printed}, ${s.wrong.length} wrong, scales ${s.scales.join('/')} (${reading.views.map((v) => `${v.factor.toFixed(3)} ${v.unit}`)}) ${s.wrongScales} ${picture.texts.length} texts, raster ${rasterScale(linework!).toFixed(2)}, ${((read - began) / 1000).toFixed(1)} s + ${((performance.now() - read) / 1000).toFixed(1)} ${reading.why ?? ''}`,
    );
    if (loud) {
      for (const m of s.missed) say('   missed', m);
      for (const w of s.wrong) say('   WRONG ', w);
      say(picture.texts.map((t) => `${t.text}(${t.confidence})`).join(' | '));
    }
  }
await recogniser.stop();
