// 200,000 elements: time to open in Chromium, and a package of 5,000 steps over 100,000 elements.
import { chromium } from '@playwright/test';
const url = 'http://127.0.0.1:4412', origin = { origin: url };
const post = async (path: string, body: unknown) => { const r = await fetch(url + path, { method: 'POST', headers: { 'Content-Type': 'application/json', ...origin }, body: JSON.stringify(body) }); const j = await r.json(); if (!r.ok) throw new Error(JSON.stringify(j).slice(0,300)); return j as any; };
const line = (i: number) => ({ type: 'line', id: crypto.randomUUID(), planeId: 'ground', from: [i % 1000 * 40, Math.floor(i / 1000) * 40], to: [i % 1000 * 40 + 25, Math.floor(i / 1000) * 40 + 20], source: { underlayId: null, ends: 'free', thickness: 'typed' } });
const id = ((await (await fetch(url + '/api/projects')).json()) as any).open.find((p: any) => p.name === 'Big').id;
console.log('filled');
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await b.newPage({ viewport: { width: 1280, height: 800 } });
for (let k = 0; k < 4; k++) {
  const a = Date.now();
  await page.goto(`${url}/project/${id}`, { waitUntil: 'commit' });
  await page.waitForFunction(() => { const c = (window as any).calque; return c && c.session.state.model.size > 200000; }, undefined, { polling: 30, timeout: 60000 });
  const t = Date.now() - a;
  await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r))));
  console.log('opened', t, 'painted', Date.now() - a);
  const own = await page.evaluate(async () => { const { session, table } = (window as any).calque; const ids = [...session.state.model.keys()].slice(5, 25); const out: number[] = []; for (const i of ids) { const e = session.state.model.get(i); const b = performance.now(); session.do({ type: 'set', id: i, before: { to: e.to }, after: { to: [e.to[0] + 3, e.to[1]] } }, 'x'); const c = performance.now(); await new Promise((r) => requestAnimationFrame(() => setTimeout(r))); out.push(c - b, performance.now() - b); } return out.map((x) => Math.round(x * 10) / 10); });
  console.log('change sync/painted', own.join(' '));
}
await b.close();
