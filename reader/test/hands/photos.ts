// How photos of the sheets are read: `npx tsx reader/test/hands/photos.ts tuned|apart [name] [-v]`.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readPrinted } from '@calque/core/calibration';
import { applyHomography, invertHomography } from '@calque/core/geometry';
import { pixelsPerMillimetre, readPicture, type StraightSheet } from '@calque/core/ink';
import { startRecogniser } from '../../../cli/src/recogniser.ts';
import { DEFAULT_MEMORY_MB, readRaster, type ReadPage } from '../../src/index.ts';
import { readFile } from '../../src/read-file.ts';
import type { PageTruth } from './draw/hand.ts';
import { photographed, type Pose } from './draw/photo.ts';
import { movedTruth } from './draw/scan.ts';
import { say } from './say.ts';
import { handsFolder, PRACTICE, practiceTruth, score, truthOf } from './score.ts';

type Set = 'tuned' | 'apart';
const SHEETS: Record<Set, [set: 'practice' | Set, name: string, pose: Pose][]> = {
  tuned: [
    ['practice', '01_cairo_plan_100', { across: 14, up: 22, turn: 4, fill: 0.9 }],
    [
      'practice',
      '01_cairo_plan_100',
      { across: -9, up: -12, turn: -3, fill: 1.05, table: 'dark', shadow: 0.4 },
    ],
    ['practice', '05_rsvg_nested_forms_clips', { across: 3, up: 18, turn: 92, fill: 0.9, table: 'tiles' }],
    [
      'practice',
      '03_tikz_plan_50_rotated_wing',
      { across: 8, up: 9, turn: 12, fill: 0.95, table: 'white', lens: 0.004 },
    ],
    ['tuned', 'boat-store-cm', { across: -20, up: 6, turn: 2, fill: 1.1 }],
    ['tuned', 'boathouse-details', { across: 5, up: 30, turn: -6, fill: 0.95, lens: -0.004 }],
  ],
  apart: [
    [
      'practice',
      '01_cairo_plan_100',
      { across: 2, up: 1.5, turn: -1, fill: 0.92, table: 'wood', shadow: 0.1 },
    ],
    [
      'practice',
      '03_tikz_plan_50_rotated_wing',
      { across: -16, up: 14, turn: 3, fill: 1.0, table: 'dark', grain: 12, quality: 60 },
    ],
    [
      'practice',
      '05_rsvg_nested_forms_clips',
      { across: 25, up: -5, turn: -2, fill: 1.1, table: 'white', shadow: 0.5 },
    ],
    ['tuned', 'dormer-feet', { across: 10, up: 10, turn: 7, fill: 0.9, table: 'tiles', lens: 0.006 }],
  ],
};

/** How true the straightened sheet is: lengths over what they say, along both axes, each as a mean and a spread, and how far ends miss after that. */
function straightness(truth: PageTruth, straight: StraightSheet): string {
  const back = invertHomography(straight.pageFromStraight),
    rates = [[], []] as number[][];
  for (const d of truth.dimensions) {
    if (d.kind !== 'linear' || d.slip || d.free || d.value < 1000) continue;
    const [x0, y0] = applyHomography(back, d.from),
      [x1, y1] = applyHomography(back, d.to),
      l = Math.hypot(x1 - x0, y1 - y0),
      along = Math.abs(x1 - x0) > 0.99 * l ? 0 : Math.abs(y1 - y0) > 0.99 * l ? 1 : -1;
    if (along >= 0) rates[along].push(l / d.value);
  }
  const [x, y] = rates.map((r) => {
    const m = r.reduce((a, b) => a + b, 0) / r.length;
    return { m, s: Math.sqrt(r.reduce((a, b) => a + (b / m - 1) ** 2, 0) / r.length) };
  });
  return `across/up ${(x.m / y.m).toFixed(4)}, spreads ${(100 * x.s).toFixed(3)} % ${(100 * y.s).toFixed(3)} %, sigma ${straight.sigma.toFixed(2)} pt, ${straight.pixels.join(' x ')}`;
}

const [set = 'tuned', only = '', loud] = process.argv.slice(2) as [Set, string?, string?];
const keep = process.env.PHOTOS ?? '';
const recogniser = process.env.QUICK
  ? { read: async () => ({ text: '', confidence: 0 }), stop: async () => {} }
  : await startRecogniser();
let n = 0;
for (const [from, name, pose] of SHEETS[set]) {
  n++;
  if (only && !`${n} ${name}`.includes(only)) continue;
  const sheet = new Uint8Array(
      readFileSync(new URL(`${name}.pdf`, from === 'practice' ? PRACTICE : handsFolder(from))),
    ),
    { jpeg, move } = await photographed(sheet, pose, 40 + n);
  if (keep) {
    if (!existsSync(keep)) mkdirSync(keep);
    writeFileSync(join(keep, `${set}-${n}.jpg`), jpeg);
  }
  const truth = movedTruth(from === 'practice' ? practiceTruth(`${name}.pdf`) : truthOf(from)[name][0], move);
  let linework: ReadPage['linework'] | null = null;
  await readFile(
    new Uint8Array(jpeg),
    { maxMegabytes: DEFAULT_MEMORY_MB, page: 1 },
    () => {},
    (page) => {
      linework = page.linework;
    },
  );
  const began = performance.now(),
    { raster, isPicture } = await readRaster(new Uint8Array(jpeg), 1, linework!, { maxMegabytes: 1024 });
  const picture = await readPicture(raster, {
    lines: true,
    perMillimetre: pixelsPerMillimetre(raster, isPicture),
    recogniser: recogniser.read,
  });
  if (keep) writeFileSync(join(keep, `${set}-${n}.json`), JSON.stringify({ picture, truth }));
  const reading = readPrinted(linework!, { picture }),
    s = score(reading, truth, 4, 1);
  say(
    `${n} ${name} ${JSON.stringify(pose)}: ${s.found}/${s.printed}, ${s.wrong.length} wrong; ${reading.views.map((v) => `${v.x.toFixed(3)} ${v.y.toFixed(3)} ${v.unit} ±${(100 * v.uncertainty).toFixed(3)}%`)} ${picture.texts.length} texts, ${((performance.now() - began) / 1000).toFixed(1)} s ${picture.straight ? 'straightened' : 'as it is'} ${reading.why ?? ''}`,
  );
  if (picture.straight) say(`   ${straightness(truth, picture.straight)}`);
  if (loud) {
    for (const m of s.missed) say('   missed', m);
    for (const w of s.wrong) say('   WRONG ', w);
    say(picture.texts.map((t) => `${t.text}(${t.confidence})`).join(' | '));
  }
}
await recogniser.stop();
