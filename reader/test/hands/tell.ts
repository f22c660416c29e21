// Tells how the sheets by other hands are read: `npx tsx reader/test/hands/tell.ts [tuned|apart] [name] [-v]`.
import { readFileSync } from 'node:fs';
import { readPrinted } from '@calque/core/calibration';
import { DEFAULT_MEMORY_MB } from '../../src/index.ts';
import { readFile } from '../../src/read-file.ts';
import { say } from './say.ts';
import { handsFolder, score, truthOf } from './score.ts';

const [set = 'tuned', only = '', loud] = process.argv.slice(2) as ['tuned' | 'apart', string, string?];
const sum = {
  printed: 0,
  found: 0,
  wrong: 0,
  scales: 0,
  allScales: 0,
  wrongScales: 0,
  heights: 0,
  allHeights: 0,
};
for (const [name, pages] of Object.entries(truthOf(set))) {
  if (only && !name.includes(only)) continue;
  const bytes = new Uint8Array(readFileSync(new URL(`${name}.pdf`, handsFolder(set))));
  for (let page = 1; page <= pages.length; page++) {
    await readFile(
      bytes,
      { maxMegabytes: DEFAULT_MEMORY_MB, page },
      () => {},
      ({ linework }) => {
        const began = performance.now(),
          reading = readPrinted(linework),
          ms = performance.now() - began,
          s = score(reading, pages[page - 1]);
        sum.printed += s.printed;
        sum.found += s.found;
        sum.wrong += s.wrong.length;
        sum.scales += s.scales[0];
        sum.allScales += s.scales[1];
        sum.wrongScales += s.wrongScales.length;
        sum.heights += s.heights[0];
        sum.allHeights += s.heights[1];
        say(
          `${name} p${page}: ${s.found}/${s.printed} found, ${s.wrong.length} wrong, scales ${s.scales.join('/')} (${reading.views.map((v) => `1:${v.factor.toFixed(3)} ${v.unit}`).join(', ')})${s.wrongScales.length ? ` WRONG ${s.wrongScales.join(' ')}` : ''}${s.heights[1] ? `, heights ${s.heights.join('/')}` : ''}, ${ms.toFixed(0)} ms${reading.why ? `  [${reading.why}]` : ''}`,
        );
        if (loud) {
          for (const m of s.missed) say('   missed', m);
          for (const w of s.wrong) say('   WRONG ', w);
          for (const n of reading.notes) say('   note', n.text, n.factor.toFixed(3));
        }
      },
    );
  }
}
say(
  `${set}: ${sum.found} of ${sum.printed} found, ${sum.wrong} wrong, scales ${sum.scales} of ${sum.allScales}, ${sum.wrongScales} wrong ones, heights ${sum.heights} of ${sum.allHeights}`,
);
