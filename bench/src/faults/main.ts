import { SEED } from './chance.ts';
import { fullDisk } from './full-disk.ts';
import { oneTab } from './one-tab.ts';
import { threeTabs } from './three-tabs.ts';

/**
 * Sessions of edits while the parts of the installation and the browser are killed: at the end the project must be what a second
 * bookkeeping here, fed with every edit that was shown as saved or waiting, says it is. `faults.mjs [edits] [kills] [seed]`.
 */
const [EDITS, KILLS] = [1000, 100].map((usual, i) => Number(process.argv[2 + i] ?? usual));
const wrong: string[] = [];
for (const [name, session] of [
  ['full disk', () => fullDisk(30)],
  ['three tabs', () => threeTabs(Math.round(EDITS * 0.6), Math.round(KILLS * 0.4))],
  ['one tab', () => oneTab(EDITS, KILLS)],
] as const) {
  const what = await session().catch((error: unknown) => String(error));
  if (what) wrong.push(`${name}: ${what}`);
}
wrong.forEach((w) => console.log(w));
console.log(
  wrong.length === 0
    ? `Nothing is missing: server and pages hold what every shown edit led to (seed ${SEED}).`
    : `Something is missing or different (seed ${SEED}).`,
);
process.exit(wrong.length === 0 ? 0 : 1);
