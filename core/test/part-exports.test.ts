import { unzipSync, strFromU8 } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { beforeAll, describe, expect, it } from 'vitest';
import { writePartGlb, writeStl, writeThreeMf, welded } from '@calque/core/exchange';
import { edgeLines, measured, roundHoles, skinOf, stepOf, type Body } from '@calque/core/forming';
import { loadKernel } from './kernel.ts';
import { PartDraft } from './part-model.ts';
import { readStep, solidOf } from './step-reader.ts';

beforeAll(loadKernel, 60000);

/** A plate with a boss, holes of all sorts, a slot, and rounded edges. */
function bracket(): { body: Body; volume: number } {
  const d = new PartDraft(),
    outline = d.rectangle('top', 0, 0, 100, 60);
  d.extrude('top', [outline, d.arc('top', [50, 45], 5)], 20, {}, 'block');
  d.extrude('top', [d.arc('top', [80, 30], 12)], 30);
  d.hole('top', [[20, 20]], 9, { head: { kind: 'counterbore', diameter: 15, depth: 8 } });
  d.hole('top', [[20, 45]], 6.6, { head: { kind: 'countersink', diameter: 12.6, angle: Math.PI / 2 } });
  d.hole('top', [[80, 30]], 6.8, {
    depth: 18,
    tip: (118 * Math.PI) / 180,
    thread: { name: 'M8', depth: 14 },
  });
  d.hole('front', [[50, 10]], 4, { depth: 12 });
  d.feature({
    kind: 'slot',
    planeId: 'top',
    at: [[50, 25]],
    length: 20,
    width: 6,
    angle: 0.3,
    depth: null,
    back: false,
  });
  d.feature({
    kind: 'round',
    edges: [0, 1, 2, 3].map((i) => ({
      between: [`block/side:${outline}.${i}`, `block/side:${outline}.${(i + 1) % 4}`],
      near: null,
    })),
    radius: 6,
  });
  const made = d.made();
  expect(made.failed).toEqual([]);
  return { body: made.body!, volume: made.of!.volume };
}

/** How many triangles each pair of corners belongs to, with the way round in which it does. */
function ways(triangles: Uint32Array | number[]): Map<string, number> {
  const out = new Map<string, number>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const key = `${triangles[t + k]}>${triangles[t + ((k + 1) % 3)]}`;
      out.set(key, (out.get(key) ?? 0) + 1);
    }
  return out;
}
/** Each edge once each way: closed, and all triangles turned the same way. */
function expectClosed(triangles: Uint32Array | number[]): void {
  const all = ways(triangles);
  expect(all.size).toBeGreaterThan(100);
  for (const [key, count] of all) {
    const [a, b] = key.split('>');
    expect(count).toBe(1);
    expect(all.get(`${b}>${a}`), key).toBe(1);
  }
}
function volumeIn(corners: ArrayLike<number>, triangles: ArrayLike<number>): number {
  let six = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((i) => corners[3 * triangles[t + k] + i]));
    six +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) +
      a[1] * (b[2] * c[0] - b[0] * c[2]) +
      a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return six / 6;
}
const FINE = { off: 0.005, angle: 0.1 };
const about = (v: number, of: number) => expect(Math.abs(v / of - 1)).toBeLessThan(2e-4);

describe('files of parts', () => {
  it('is STEP that another kernel reads: the same volume, name, faces and colour', async () => {
    const { body, volume } = bracket(),
      text = await stepOf(body, {
        name: "Rigging 'O' bracket Ø9 – β",
        material: 'Steel S235JR',
        density: 7850,
        colour: 0x8c9398,
        at: '2026-01-05T10:00:00Z',
      }),
      read = await readStep(text);
    expect(read.success).toBe(true);
    expect(text).toMatch(/AP242/);
    expect(text).toContain("DESCRIPTIVE_REPRESENTATION_ITEM('Steel S235JR'");
    expect(text).toContain('NUMERIC_MEASURE(7850.)');
    expect(text).toMatch(/FILE_NAME\('Rigging ''O'' bracket/);
    expect(read.meshes).toHaveLength(1);
    const mesh = read.meshes[0] as (typeof read.meshes)[0] & { color?: number[]; brep_faces: unknown[] };
    about(solidOf(mesh).volume, volume);
    expect(mesh.name).toBe("Rigging 'O' bracket Ø9 – β");
    expect(mesh.brep_faces).toHaveLength(body.faces.length);
    expect(mesh.color).toBeDefined();
  });

  it('has the same box and volume once its skin has been broken into triangles', () => {
    const { body } = bracket(),
      before = measured(body);
    skinOf(body, { off: 1, angle: 1 });
    const after = measured(body);
    after.box.forEach((v, i) => expect(v).toBeCloseTo([0, 0, 0, 100, 60, 30][i], 6));
    expect(after.volume).toBe(before.volume);
  });

  it('is STL that closes', () => {
    const { body, volume } = bracket(),
      file = writeStl(skinOf(body, FINE), 'Bracket é'),
      view = new DataView(file.buffer),
      count = view.getUint32(80, true);
    expect(file.length).toBe(84 + 50 * count);
    const index = new Map<string, number>(),
      corners: number[] = [],
      triangles: number[] = [];
    for (let t = 0; t < count; t++)
      for (let k = 0; k < 3; k++) {
        const p = [0, 1, 2].map((i) => view.getFloat32(84 + 50 * t + 12 + 12 * k + 4 * i, true)),
          key = p.join();
        if (!index.has(key)) {
          index.set(key, corners.length / 3);
          corners.push(...p);
        }
        triangles.push(index.get(key)!);
      }
    expectClosed(triangles);
    about(volumeIn(corners, triangles), volume);
  });

  it('is 3MF with one closed mesh', () => {
    const { body, volume } = bracket(),
      parts = unzipSync(writeThreeMf(skinOf(body, FINE), { name: 'A & <B>', colour: 0x8c9398 })),
      model = strFromU8(parts['3D/3dmodel.model']),
      numbers = (what: RegExp) => [...model.matchAll(what)].flatMap((m) => m.slice(1).map(Number)),
      corners = numbers(/<vertex x="(\S+)" y="(\S+)" z="(\S+)"\/>/g),
      triangles = numbers(/<triangle v1="(\d+)" v2="(\d+)" v3="(\d+)"\/>/g);
    expect(Object.keys(parts).sort()).toEqual(['3D/3dmodel.model', '[Content_Types].xml', '_rels/.rels']);
    expect(model).toContain('unit="millimeter"');
    expect(model).not.toContain('<B>');
    expectClosed(triangles);
    expect(Math.max(...triangles)).toBeLessThan(corners.length / 3);
    about(volumeIn(corners, triangles), volume);
  });

  it('is glTF that the validator passes', async () => {
    const { body, volume } = bracket(),
      skin = skinOf(body, FINE),
      report = await validateBytes(writePartGlb(skin, { name: 'Bracket', colour: 0x8c9398 }));
    expect(report.issues.numErrors + report.issues.numWarnings).toBe(0);
    const { corners, triangles } = welded(skin);
    about(volumeIn(corners, triangles), volume);
  });

  it('shows every face and edge under its name', () => {
    const { body } = bracket(),
      skin = skinOf(body, FINE),
      edges = edgeLines(body, FINE),
      names = new Set(skin.faces.map((f) => f.name));
    expect(skin.faces).toHaveLength(body.faces.length);
    expect(skin.faces.reduce((n, f) => n + f.count, 0)).toBe(skin.triangles.length);
    expect([...names].filter((n) => n.startsWith('unnamed'))).toEqual([]);
    for (const e of edges) for (const n of e.between) expect(names.has(n)).toBe(true);
    // Each of a face's corners lies on it.
    for (const face of skin.faces) {
      const { form } = face;
      if (form.kind !== 'plane') continue;
      for (let i = face.start; i < face.start + face.count; i++) {
        const c = skin.triangles[i],
          off = [0, 1, 2].reduce((n, k) => n + (skin.corners[3 * c + k] - form.at[k]) * form.normal[k], 0);
        expect(Math.abs(off)).toBeLessThan(1e-4);
      }
    }
  });
});

describe('round holes of a solid', () => {
  it('finds them whatever made them, and tells what they are', () => {
    const { body } = bracket(),
      holes = roundHoles(body).sort((a, b) => a.diameter - b.diameter),
      told = holes.map(({ kind, diameter, depth, at, axis, head }) => ({
        kind,
        diameter: Number(diameter.toFixed(6)),
        depth: depth === null ? null : Number(depth.toFixed(6)),
        at: at.map((v) => Number(v.toFixed(6)) + 0),
        axis: axis.map((v) => Math.round(v) + 0),
        head: head && {
          ...head,
          diameter: Number(head.diameter.toFixed(6)),
          depth: Number(head.depth.toFixed(6)),
          angle: head.angle && Number(head.angle.toFixed(6)),
        },
      }));
    expect(told).toEqual([
      { kind: 'plain', diameter: 4, depth: 12, at: [50, 0, 10], axis: [0, 1, 0], head: null },
      {
        kind: 'countersink',
        diameter: 6.6,
        depth: null,
        at: [20, 45, 20],
        axis: [0, 0, -1],
        head: { diameter: 12.6, depth: 3, angle: Number((Math.PI / 2).toFixed(6)) },
      },
      { kind: 'plain', diameter: 6.8, depth: 18, at: [80, 30, 30], axis: [0, 0, -1], head: null },
      {
        kind: 'counterbore',
        diameter: 9,
        depth: null,
        at: [20, 20, 20],
        axis: [0, 0, -1],
        head: { diameter: 15, depth: 8, angle: null },
      },
      { kind: 'plain', diameter: 10, depth: null, at: told[4].at, axis: told[4].axis, head: null },
    ]);
  });
});
