import { PDFDocument, PDFName, PDFString, rgb, type PDFRef } from '@cantoo/pdf-lib';
import { beforeAll, describe, expect, it } from 'vitest';
import { layerStates, NO_SWITCHES, type Linework } from '@calque/core/linework';
import { readFile, type FileFacts, type ReadPage } from '../src/index.ts';

/** A page with four layers: two under a title, one of them off, and two of which only one may be on; their order holds itself in a ring. */
async function layered(): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const page = pdf.addPage([300, 200]);
  const { context } = pdf;
  const groups = ['Walls', 'Old walls', 'Plan A', 'Plan B'].map((name) =>
    context.register(context.obj({ Type: 'OCG', Name: PDFString.of(name) })),
  );
  const ring = context.obj([PDFString.of('Structure'), groups[0], groups[1]]);
  const ringRef = context.register(ring);
  ring.push(ringRef);
  const list = (...refs: PDFRef[]) => context.obj(refs);
  pdf.catalog.set(
    PDFName.of('OCProperties'),
    context.obj({
      OCGs: list(...groups),
      D: {
        OFF: list(groups[1], groups[3]),
        Order: [ringRef, groups[2], groups[3]],
        RBGroups: [list(groups[2], groups[3])],
      },
    }),
  );
  page.drawLine({ start: { x: 5, y: 5 }, end: { x: 295, y: 5 }, thickness: 1, color: rgb(0, 0, 0) });
  const resources = page.node.Resources()!;
  resources.set(
    PDFName.of('Properties'),
    context.obj(Object.fromEntries(groups.map((g, i) => [`L${i}`, g]))),
  );
  const content = groups
    .map((_, i) => `/OC /L${i} BDC 1 w 10 ${40 + 30 * i} m 290 ${40 + 30 * i} l S EMC`)
    .join('\n');
  const stream = context.register(context.flateStream(content));
  page.node.addContentStream(stream);
  return pdf.save();
}

let bytes: Uint8Array;
beforeAll(async () => {
  bytes = await layered();
});
async function read(
  options: object,
): Promise<{ linework: Linework; facts: FileFacts; picture: Buffer | null }> {
  const pages: ReadPage[] = [];
  let facts: FileFacts | undefined;
  await readFile(
    bytes,
    { maxMegabytes: 200, picturePixels: 150, ...options },
    (f) => {
      facts = f;
    },
    (p) => void pages.push(p),
  );
  return { linework: pages[0].linework, facts: facts!, picture: pages[0].picture };
}

describe('layers of a file', () => {
  it('come with their titles, states and exclusive groups, also where their order holds itself', async () => {
    const { linework: l } = await read({ keepHidden: true });
    expect(l.layers.map(({ name, on, under, oneOf }) => ({ name, on, under, oneOf }))).toEqual([
      { name: 'Walls', on: true, under: ['Structure'], oneOf: undefined },
      { name: 'Old walls', on: false, under: ['Structure'], oneOf: undefined },
      { name: 'Plan A', on: true, under: undefined, oneOf: 0 },
      { name: 'Plan B', on: false, under: undefined, oneOf: 0 },
    ]);
    expect(layerStates(l.layers, NO_SWITCHES)).toEqual([true, false, true, false]);
  });
  it('that are off are kept for later and counted only when all are asked for', async () => {
    expect((await read({})).linework.counts.segments).toBe(3);
    const kept = (await read({ keepHidden: true })).linework;
    expect([kept.counts.segments, kept.segments.length / 4]).toEqual([3, 5]);
    expect((await read({ allLayers: true })).linework.counts.segments).toBe(5);
  });
  it('are all on in the copy for drawing, while the picture shows the file as it is', async () => {
    const { facts, picture } = await read({});
    const copy = await PDFDocument.load(facts.drawing!);
    const config = copy.context.lookup(copy.catalog.get(PDFName.of('OCProperties')))!.toString();
    expect(config).not.toContain('/OFF [');
    const { default: sharp } = await import('sharp');
    const { data, info } = await sharp(picture!).greyscale().raw().toBuffer({ resolveWithObject: true });
    // Rows of the lines at 70 (off) and 100 (on) points from below.
    const darkest = (y: number) =>
      Math.min(
        ...[-1, 0, 1].map(
          (d) => data[(Math.round((200 - y) / 2) + d) * info.width * info.channels + 75 * info.channels],
        ),
      );
    expect(darkest(100)).toBeLessThan(200);
    expect(darkest(70)).toBeGreaterThan(240);
  });
});
