import { readFileSync, existsSync } from 'node:fs';
import { proposalsOn } from '@calque/core/proposals';
import { readFile } from '../src/read-file.ts';
import { byLibrary } from './hands/draw/producers.ts';
import { APART, TUNED, houseSheet } from './houses/sheets.ts';
import { scored, wallScore } from './houses/score.ts';
export async function linework(bytes: Uint8Array, page = 1) {
  let out: any = null;
  await readFile(bytes, { maxMegabytes: 640, page } as any, () => {}, (p: any) => { out = p.linework; });
  return out;
}
const pc = (a: number, b: number) => (b === 0 ? '  -  ' : ((100 * a) / b).toFixed(1).padStart(5));
const only = process.argv[2];
const sets = { tuned: TUNED, apart: APART } as const;
const tot: any = {};
const sure: any[] = [];
for (const [set, sheets] of Object.entries(sets)) for (const s of sheets) {
  if (only && only !== 'practice' && !s.name.includes(only)) continue;
  if (only === 'practice') continue;
  const { house, hand, at, scale } = houseSheet(s);
  const l = await linework(await byLibrary()([hand]));
  const t0 = performance.now();
  const got = proposalsOn(l, s.office.factor);
  const ms = performance.now() - t0;
  const o = at(0, 0), turn = s.office.turned ?? 0, c = Math.cos(turn), sn = Math.sin(turn);
  const back = ([x, y]: readonly [number, number]): [number, number] => {
    const [dx, dy] = [(x - o[0]) / scale, (y - o[1]) / scale];
    return [dx * c + dy * sn, -dx * sn + dy * c];
  };
  const r = scored(house, got, back);
  sure.push(...r.sure);
  const h = (x: any) => `${pc(x.found, x.there)}/${pc(x.right, x.proposed)}`;
  console.log(set[0], s.name.padEnd(20), 'W', h(r.walls), 'O', h(r.openings), `${r.openings.found}/${r.openings.there}/${r.openings.proposed}`, 'S', pc(r.swings.right, r.swings.doors), 'R', h(r.rooms), 'N', pc(r.names.right, r.names.rooms), 'C', h(r.columns), 'G', h(r.grid), ms.toFixed(0) + 'ms');
  for (const k of ['walls', 'openings', 'rooms', 'columns', 'grid'] as const) { tot[set] ??= {}; tot[set][k] ??= { there: 0, found: 0, proposed: 0, right: 0 }; for (const f of ['there', 'found', 'proposed', 'right'] as const) tot[set][k][f] += r[k][f]; }
  if (process.argv[3] === 'v') {
    const inv = (w: any) => ({ f: back(w.from).map(Math.round), t: back(w.to).map(Math.round), th: Math.round(w.thickness), c: w.confidence.toFixed(2) });
    for (const w of got.walls) { const one = wallScore([{ from: back(w.from), to: back(w.to), thickness: w.thickness }], house.walls); if (one.found < 0.9 * one.there) console.log('  FALSE', JSON.stringify(inv(w)), (one.found / one.there).toFixed(2)); }
    for (const w of house.walls) { const one = wallScore([w], got.walls.map((g: any) => ({ ...g, from: back(g.from), to: back(g.to) }))); if (one.found < 0.95 * one.there) console.log('  MISS', w.from, w.to, w.thickness, (one.found / one.there).toFixed(2)); }
    for (const t of house.openings) { const w = house.walls[t.wall]; const n = Math.hypot(w.to[0]-w.from[0], w.to[1]-w.from[1]); const p = [w.from[0] + (w.to[0]-w.from[0])*t.at/n, w.from[1] + (w.to[1]-w.from[1])*t.at/n]; const near = got.openings.map((g: any) => ({ g, d: Math.hypot(back(g.at)[0]-p[0], back(g.at)[1]-p[1]) })).sort((a: any, b: any) => a.d - b.d)[0]; if (!near || near.d > 150 || near.g.kind !== t.kind || Math.abs(near.g.width - t.width) > 60) console.log('  OMISS', t.kind, p.map(Math.round), t.width, 'wall', w.thickness, near && near.d < 1000 ? `near ${near.g.kind} ${back(near.g.at).map(Math.round)} ${Math.round(near.g.width)}` : ''); }
    for (const g of got.openings) { const p = back(g.at); if (!house.openings.some((t) => { const w = house.walls[t.wall]; const n = Math.hypot(w.to[0]-w.from[0], w.to[1]-w.from[1]); return Math.hypot(p[0] - (w.from[0] + (w.to[0]-w.from[0])*t.at/n), p[1] - (w.from[1] + (w.to[1]-w.from[1])*t.at/n)) < 150; })) console.log('  OFALSE', g.kind, p.map(Math.round), Math.round(g.width), 'on', got.walls[g.wall].thickness.toFixed(0)); }
    console.log('  classes', got.classes.map((c: number) => c.toFixed(0)).join(' '), 'cols', got.columns.length, house.columns.length, 'grid', got.grid.map((g: any) => g.name).join(','), 'rooms', got.rooms.map((r: any) => `${r.name}/${r.number} ${r.area.toFixed(1)} ${r.printed}`).join('; '));
  }
}
for (const [set, t] of Object.entries(tot) as any) console.log(set, Object.entries(t).map(([k, x]: any) => `${k} ${pc(x.found, x.there)}/${pc(x.right, x.proposed)}`).join('  '));
const bins = [0, 0.3, 0.5, 0.7, 0.8, 0.85, 0.95, 1.01];
for (const what of ['wall', 'opening']) console.log(what, bins.slice(1).map((b, i) => { const of = sure.filter((x) => x.what === what && x.confidence >= bins[i] && x.confidence < b); const a = of.reduce((s, x) => s + x.all, 0); return `${bins[i]}-${b}: ${pc(of.reduce((s, x) => s + x.right, 0), a)} (${a.toFixed(0)})`; }).join('  '));
if (only === 'practice') {
  const m = JSON.parse(readFileSync('/work/shared/sheets/manifest.json', 'utf8'));
  for (const c of m.cases) for (const p of c.pages ?? []) {
    if (!p.wall_axes || !p.scales?.[0] || !existsSync('/work/shared/sheets/' + c.file) || c.derived_from || c.password) continue;
    const l = await linework(new Uint8Array(readFileSync('/work/shared/sheets/' + c.file)), p.page);
    const f = p.scales[0].denominator, mm = (f * 25.4) / 72, H = p.page_size_pt[1];
    const t0 = performance.now();
    const got = proposalsOn(l, f);
    const ms = performance.now() - t0;
    const truth = p.wall_axes.map((w: any) => { const [[a, b], [cc, d]] = [w.p1, w.p2]; return { from: [a * mm, (H - b) * mm], to: [cc * mm, (H - d) * mm], thickness: w.thickness_mm ?? w[4] }; });
    const r = wallScore(truth, got.walls.map((w: any) => ({ ...w, from: w.from.map((v: number) => v * mm), to: w.to.map((v: number) => v * mm) })));
    const kinds = ['door', 'window', 'gap'].map((k) => `${k} ${got.openings.filter((o: any) => o.kind === k).length}`).join(' ');
    const arcs = (p.arcs ?? []).filter((a: any) => /door/.test(a.role ?? '')).length;
    console.log(c.id, p.page, 'W', pc(r.found, r.there), pc(r.right, r.proposed), kinds, `(door arcs ${arcs})`, 'rooms', got.rooms.map((x: any) => `${x.name || '?'} ${x.area.toFixed(1)}${x.printed ? '/' + x.printed : ''}`).join(', ').slice(0, 200), 'grid', got.grid.map((g: any) => g.name).join(''), 'col', got.columns.length, 'lev', got.levels.length, ms.toFixed(0) + 'ms');
  }
}
