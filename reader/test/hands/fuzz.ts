// How sheets drawn at random are read: `npx tsx reader/test/hands/fuzz.ts [from] [to] [-v]`.
import { readPrinted } from '@calque/core/calibration';
import { lineworkOf, randomSheet } from './draw/random.ts';
import { say } from './say.ts';
import { score } from './score.ts';

const [from = '1', to = '200', loud] = process.argv.slice(2);
const sum = { printed: 0, found: 0, wrong: 0, right: 0, all: 0, wrongScales: 0 };
const began = performance.now();
for (let seed = Number(from); seed <= Number(to); seed++) {
  const { hand, name, grid } = randomSheet(seed),
    reading = readPrinted(lineworkOf(hand, grid)),
    s = score(reading, hand.truth);
  sum.printed += s.printed;
  sum.found += s.found;
  sum.wrong += s.wrong.length;
  sum.right += s.scales[0];
  sum.all += s.scales[1];
  sum.wrongScales += s.wrongScales.length;
  if (s.found < s.printed || s.wrong.length || s.wrongScales.length || s.scales[0] < s.scales[1]) {
    say(
      `${seed} ${name}: ${s.found}/${s.printed}, ${s.wrong.length} wrong, scale ${s.scales.join('/')} ${reading.views.map((v) => `${v.factor.toFixed(3)} ${v.unit}`)} true ${hand.truth.views[0].factor.toFixed(3)} ${s.wrongScales.length ? 'WRONG' : ''} ${reading.why ?? ''}`,
    );
    if (loud) {
      for (const m of s.missed) say('   missed', m);
      for (const w of s.wrong) say('   WRONG ', w);
    }
  }
}
say(
  `${sum.found} of ${sum.printed} found (${((100 * sum.found) / sum.printed).toFixed(2)} %), ${sum.wrong} wrong, scales ${sum.right}/${sum.all}, ${sum.wrongScales} wrong, ${((performance.now() - began) / (Number(to) - Number(from) + 1)).toFixed(0)} ms a sheet`,
);
