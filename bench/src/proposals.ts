import { scoreOf } from '../../reader/test/houses/run.ts';
import { scoreOfScan } from '../../reader/test/houses/scans.ts';
import type { Hit, Score, Sure } from '../../reader/test/houses/score.ts';
import {
  APART,
  randomSheet,
  randomStrange,
  STRANGE,
  TUNED,
  type HouseSheet,
} from '../../reader/test/houses/sheets.ts';

const KINDS = ['walls', 'openings', 'rooms', 'columns', 'grid'] as const;
/** Confidences are told in bins with these edges. */
const BINS = [0.5, 0.7, 0.8, 0.85, 0.9, 0.95, 0.97, 1.001];

const NO_HIT: Hit = { there: 0, found: 0, proposed: 0, right: 0 };
const share = (of: number, all: number) => (all === 0 ? '-' : (100 * Math.min(1, of / all)).toFixed(1));
const both = ({ there, found, proposed, right }: Hit) => `${share(found, there)} / ${share(right, proposed)}`;

/** Prints how much of what houses show is found, and how much of what is proposed is right, and whether confidences hold. */
export async function printProposals(
  row: (...cells: (string | number)[]) => void,
  chance: number,
): Promise<void> {
  const sure: Score['sure'] = [];
  for (const [name, sheets] of [
    ['tuned on', TUNED],
    ['kept apart', APART],
    [`${chance} by chance`, Array.from({ length: chance }, (_, i) => randomSheet(i + 1))],
    ['in strange habits', STRANGE],
    [`${chance} in strange habits by chance`, Array.from({ length: chance }, (_, i) => randomStrange(i + 1))],
  ] as const) {
    const all = new Map<string, Hit>(),
      swings = { doors: 0, right: 0 },
      names = { rooms: 0, right: 0 };
    console.log();
    row(`sheets ${name}: found / right, %`, ...KINDS, 'swings', 'names', 'ms');
    row('---', ...KINDS.map(() => '---'), '---', '---', '---');
    for (const sheet of sheets as readonly HouseSheet[]) {
      const { score, milliseconds } = await scoreOf(sheet);
      row(
        sheet.name,
        ...KINDS.map((k) => both(score[k])),
        share(score.swings.right, score.swings.doors),
        share(score.names.right, score.names.rooms),
        milliseconds.toFixed(0),
      );
      sure.push(...score.sure);
      for (const k of KINDS) {
        const sum = all.get(k) ?? { there: 0, found: 0, proposed: 0, right: 0 };
        for (const f of ['there', 'found', 'proposed', 'right'] as const) sum[f] += score[k][f];
        all.set(k, sum);
      }
      swings.doors += score.swings.doors;
      swings.right += score.swings.right;
      names.rooms += score.names.rooms;
      names.right += score.names.right;
    }
    row(
      '**all**',
      ...KINDS.map((k) => both(all.get(k)!)),
      share(swings.right, swings.doors),
      share(names.right, names.rooms),
      '',
    );
  }
  console.log();
  row('scans at 200 dpi of sheets tuned on and kept apart: found / right, %', 'walls', 'openings', 'ms');
  row('---', '---', '---', '---');
  const scans = { walls: { ...NO_HIT }, openings: { ...NO_HIT } };
  for (const sheet of [...TUNED, ...APART]) {
    const { score, milliseconds } = await scoreOfScan(sheet);
    row(
      `${sheet.name}, 1:${sheet.office.factor}`,
      both(score.walls),
      both(score.openings),
      milliseconds.toFixed(0),
    );
    for (const k of ['walls', 'openings'] as const)
      for (const f of ['there', 'found', 'proposed', 'right'] as const) scans[k][f] += score[k][f];
  }
  row('**all**', both(scans.walls), both(scans.openings), '');
  console.log();
  row('said to be sure, %', 'walls right, % (metres)', 'openings right, % (of)');
  row('---', '---', '---');
  BINS.slice(1).forEach((high, i) => {
    const of = (what: Sure) => {
      const within = sure.filter((s) => s.what === what && s.confidence >= BINS[i] && s.confidence < high),
        sum = within.reduce((n, s) => n + s.all, 0);
      return `${share(
        within.reduce((n, s) => n + s.right, 0),
        sum,
      )} (${sum.toFixed(0)})`;
    };
    row(`${Math.round(100 * BINS[i])} to ${Math.round(100 * Math.min(1, high))}`, of('wall'), of('opening'));
  });
  console.log();
  row('kind', 'proposed', 'said to be sure on average, %', 'right, %');
  row('---', '---', '---', '---');
  for (const what of ['room', 'column', 'grid line', 'stair'] as const) {
    const of = sure.filter((s) => s.what === what),
      said = of.reduce((n, s) => n + s.confidence, 0);
    row(what, of.length, share(said, of.length), share(of.filter((s) => s.right === 1).length, of.length));
  }
}
