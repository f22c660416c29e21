import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildingTimes } from './building.ts';
import { browserFigures, type FrameFigures } from './browser.ts';
import { deskFigures, registrationTimes } from './desk.ts';
import { frameTimes } from './frame.ts';
import { partTimes } from './part.ts';
import { sketchTimes } from './sketch.ts';
import { medianRun, timed } from './measure.ts';
import { readingPairs } from './reading.ts';
import { stepTimes, wallTimes } from './model.ts';
import { packageTimes } from './package.ts';
import { printedTimes } from './printed.ts';
import { printProposals } from './proposals.ts';
import { denseSheet } from './sheet.ts';
import { snapTimes } from './snapping.ts';
import { conversionTime } from './conversion.ts';
import { togetherInBrowser, traceFigures } from './trace.ts';

/** Prints the figures of docs/performance.md. `BENCH_URL`: a running application for the browser's part. */
const SEGMENTS = 250000;
/** Houses drawn by chance, for what is proposed. */
const HOUSES = 60;
const RUNS = 5;
const root = process.env.CALQUE_ROOT ?? process.cwd();
const folder = mkdtempSync(join(tmpdir(), 'calque-bench-'));
const file = join(folder, 'a0.pdf');
const pdf = denseSheet(SEGMENTS);
writeFileSync(file, pdf);
const row = (...cells: (string | number)[]) => console.log(`| ${cells.join(' | ')} |`);

// `./calque bench --proposals` tells alone what sheets are seen to show.
if (process.argv.includes('--proposals')) {
  await printProposals((...cells) => console.log(`| ${cells.join(' | ')} |`), HOUSES);
  process.exit(0);
}
// `./calque bench --browser` leaves out the long comparison with other extractors, `--desk` all but the sheet desk, `--trace` all but tracing.
const only = (name: string) => process.argv.includes(`--${name}`);
if (!only('browser') && !only('desk') && !only('trace')) await withoutBrowser();

const url = process.env.BENCH_URL;
if (url && !only('desk') && !only('trace')) {
  const b = await browserFigures(url, pdf);
  console.log();
  row('in the browser, with 2,000 walls', 'ms');
  row('---', '---');
  row('opening again, navigation to first snap', b.firstSnap.toFixed(0));
  row('frame while panning and zooming with snap, median', b.frameMedian.toFixed(1));
  row('the same, 99th percentile', b.frame99.toFixed(1));
  row('the same, worst', b.frameWorst.toFixed(1));
  row('our own handling of one move, median / worst', `${b.ownMedian.toFixed(1)} / ${b.ownWorst.toFixed(1)}`);
}

if (url && !only('browser') && !only('trace')) {
  const frames = (f: FrameFigures) =>
    `${f.frameMedian.toFixed(1)} / ${f.frame99.toFixed(1)} / ${f.frameWorst.toFixed(1)}`;
  const d = await deskFigures(url);
  const r = registrationTimes(100000);
  console.log();
  row('the sheet desk', 'ms');
  row('---', '---');
  row(
    `200-page set of ${d.setMegabytes.toFixed(0)} MB: upload ended to first picture`,
    d.firstPicture.toFixed(0),
  );
  row('the same: to the last page read', d.allPages.toFixed(0));
  row('the same: memory won by scrolling through it twice, MB', d.scrollMegabytes.toFixed(1));
  row(
    'a sheet of 50,000 segments panned while such a set is read: frame median / 99th / worst',
    frames(d.whileReading),
  );
  row('scan of 100 megapixels: upload to ready', d.scanRead.toFixed(0));
  row('the same: frame median / 99th / worst while panning', frames(d.scan));
  row('ten sheets of 100,000 segments: frame median / 99th / worst', frames(d.tenSheets));
  row('a kind switched on one of them, to the last tile', d.switched.toFixed(0));
  row('100,000 segments, turned: registering', (r.register * 1000).toFixed(0));
  row('the same: comparing', (r.compare * 1000).toFixed(0));
}

if (url && !only('browser') && !only('desk')) {
  const s = await togetherInBrowser(root, 1000000, 20000);
  const t = await traceFigures(url),
    [plan, strewn] = [false, true].map((s) => conversionTime(100000, s));
  const p = await packageTimes(url, 100000, 5000);
  console.log();
  row(`a package of 5,000 steps over 100,000 elements, ${p.megabytes.toFixed(1)} MB`, 's');
  row('---', '---');
  row('made and fetched', p.made.toFixed(1));
  row('opened as a new project', p.opened.toFixed(1));
  console.log();
  row('tracing', 'ms');
  row('---', '---');
  row(
    'a snap query over 1,000,000 sheet segments and 20,000 elements that change, median / 99th',
    `${s.median.toFixed(3)} / ${s.p99.toFixed(3)}`,
  );
  row('the same: both indexes searched alone', `${s.rawMedian.toFixed(3)} / ${s.raw99.toFixed(3)}`);
  row('the same: an element changed in the index, 99th', s.change.toFixed(3));
  row('50,000 traced elements, navigation to drawn', t.open.toFixed(0));
  row(
    '20,000: a move of the pointer with snap, median / 99th',
    `${t.pick.toFixed(2)} / ${t.pick99.toFixed(2)}`,
  );
  row(
    '20,000: a changed element followed by drawing and index, median / 95th',
    `${t.seen.toFixed(1)} / ${t.seenWorst.toFixed(1)}`,
  );
  row('10,000 dragged: frame median / 99th', `${t.dragMedian.toFixed(1)} / ${t.drag99.toFixed(1)}`);
  row(`undo of a step over ${t.undoCount} elements`, t.undo.toFixed(0));
  row(`100,000 segments of a plan converted, to ${plan.elements} elements`, (plan.seconds * 1000).toFixed(0));
  row(`100,000 strewn segments, to ${strewn.elements}`, (strewn.seconds * 1000).toFixed(0));
}

async function withoutBrowser(): Promise<void> {
  const printed = printedTimes(SEGMENTS, 500);
  console.log(
    `${SEGMENTS} segments, 500 dimensions: ${printed.found} found and agreeing in ${printed.seconds.toFixed(2)} s\n`,
  );
  console.log(
    `A0 sheet, ${SEGMENTS} stroked segments, ${(pdf.length / 1e6).toFixed(1)} MB; median of ${RUNS}\n`,
  );
  row('reading', 'seconds', 'peak MB');
  row('---', '---', '---');
  const programs: [string, string, string[]][] = [
    [
      'Calque: command to stored arrays with index',
      process.execPath,
      [join(root, '.build/cli.mjs'), 'read', file, '--arrays', join(folder, 'a0.cqlw')],
    ],
    // `exec` keeps the shell out of the measured process.
    ['mutool trace', 'sh', ['-c', 'exec mutool trace "$0" > "$1"', file, join(folder, 'a0.xml')]],
    ['pdftocairo -svg', 'pdftocairo', ['-svg', file, join(folder, 'a0.svg')]],
  ];
  for (const [name, program, args] of programs) {
    const run = await medianRun(program, args, RUNS);
    row(name, run.seconds.toFixed(2), run.peakMegabytes.toFixed(0));
  }

  const pairs = await readingPairs(
    root,
    file,
    async () =>
      (await timed('sh', ['-c', 'exec mutool trace "$0" > "$1"', file, join(folder, 'a0.xml')])).seconds,
    RUNS,
  );
  row(
    `in the service, a child that waited: bytes to stored arrays (mutool beside it ${pairs.theirs.toFixed(2)}, ratio ${pairs.ratio.toFixed(2)})`,
    pairs.lines.toFixed(2),
    '',
  );
  row('the same: hatches and dimensions told apart, picture drawn', pairs.whole.toFixed(2), '');

  const steps = stepTimes(200000),
    walls = wallTimes(2000);
  console.log();
  row('the model at size', 'median, ms', '99th percentile, ms');
  row('---', '---', '---');
  for (const [words, { median, p99 }] of [
    ['a step at 200,000 elements: a field set', steps.set],
    ['the same: an element added', steps.add],
    ['the same: an element removed', steps.remove],
    ['the same: what follows from it on its plane', steps.followed],
    ['a wall moved among 2,000: cut to its neighbours again', walls],
  ] as const)
    row(words, median.toFixed(3), p99.toFixed(3));

  const b = buildingTimes();
  console.log();
  row(`a building of ten storeys: ${b.walls} walls, ${b.openings} openings`, 'ms');
  row('---', '---');
  row('a wall moved: its storey as solids again, joins and openings too', b.moved.toFixed(1));
  row('all of it as a scene, in a worker', b.scene.toFixed(0));
  row('its takeoff', b.counted.toFixed(0));
  row('written as IFC', b.ifc.toFixed(0));
  row('written as glTF', b.glb.toFixed(0));
  row('its elevation without what is hidden', b.elevation.toFixed(0));
  row('a picture of it at an angle, without what is hidden', b.outlook.toFixed(0));

  const f = frameTimes();
  console.log();
  row(`a frame: ${f.members} members, ${f.plates} plates, ${f.bolts} bolts`, 'ms');
  row('---', '---');
  row('all its joints, the first time', f.joined.toFixed(0));
  row('another section for 500 beams, with what follows from it', f.changed.toFixed(0));
  row('its takeoff after that', f.counted.toFixed(0));
  row('what is doubtful in it, clashes too', f.doubts.toFixed(0));
  row('all of it as a scene, in a worker', f.scene.toFixed(0));
  row('written as STEP', f.step.toFixed(0));

  const k = sketchTimes();
  console.log();
  row(`a sketch of ${k.rules} rules`, 'ms');
  row('---', '---');
  row('a point of it dragged, solved again', k.drag.toFixed(1));
  row('what of it can still move, and what contradicts what', k.state.toFixed(1));

  const p = await partTimes();
  console.log();
  row(`a part of ${p.count} features`, 'ms');
  row('---', '---');
  row('the kernel of solids loaded', p.loaded.toFixed(0));
  row('made the first time', p.first.toFixed(0));
  row('made again after its first figure has changed', p.again.toFixed(0));
  row('its skin, edges, holes, doubts', p.shown.toFixed(0));
  row('a plate drilled 200 times', p.drilled.toFixed(0));
  row('its skin, edges, holes, doubts', p.drilledShown.toFixed(0));

  console.log();
  row('snap queries', 'index built, s', 'median, ms', '99th percentile, ms');
  row('---', '---', '---', '---');
  for (const n of [250000, 1000000]) {
    const t = snapTimes(n);
    row(`${n} segments`, (t.build / 1000).toFixed(2), t.median.toFixed(3), t.p99.toFixed(3));
  }
}
