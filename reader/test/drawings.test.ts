import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { MM_PER_POINT } from '@calque/core/geometry';
import { kindCode, ITEM_KINDS_OF_SHEET, penUses, type Linework } from '@calque/core/linework';
import { kindOf, readFile, type ReadOptions, type ReadPage } from '../src/index.ts';

const folder = new URL('./drawings/', import.meta.url);
const load = (name: string) => new Uint8Array(readFileSync(new URL(name, folder)));
async function read(bytes: Uint8Array | string, options: Partial<ReadOptions> = {}): Promise<ReadPage[]> {
  const pages: ReadPage[] = [];
  await readFile(
    typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes,
    { maxMegabytes: 200, ...options },
    () => {},
    (p) => void pages.push(p),
  );
  return pages;
}
const svg = (body: string, attributes = 'width="200mm" height="100mm" viewBox="0 0 200 100"') =>
  `<?xml version="1.0"?>\n<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`;
const mm = (array: Float64Array) => [...array].map((v) => Math.round(v * MM_PER_POINT * 1000) / 1000);
const HATCH = kindCode('hatch'),
  DIMENSION = kindCode('dimension');

/** Length drawn on a layer, millimetres, without hatches and dimensions. */
function lengthOn(l: Linework, ...names: string[]): number {
  const only = (style: Int32Array, object: Int32Array, kind: Uint8Array) => {
    const keep = Array.from(
      object,
      (_, i) => names.includes(l.layers[style[2 * i]]?.name) && kind[i] !== HATCH && kind[i] !== DIMENSION,
    );
    return { style: style.filter((_, k) => keep[k >> 1]), object: object.filter((_, i) => keep[i]), keep };
  };
  const part = (array: Float64Array, stride: number, keep: boolean[]) =>
    array.filter((_, k) => keep[Math.floor(k / stride)]);
  const s = only(l.segmentStyle, l.segmentObject, l.segmentKind),
    a = only(l.arcStyle, l.arcObject, l.arcKind),
    c = only(l.circleStyle, l.circleObject, l.circleKind),
    v = only(l.curveStyle, l.curveObject, l.curveKind);
  const picked = {
    ...l,
    segments: part(l.segments, 4, s.keep),
    segmentStyle: s.style,
    segmentObject: s.object,
    arcs: part(l.arcs, 5, a.keep),
    arcStyle: a.style,
    arcObject: a.object,
    circles: part(l.circles, 3, c.keep),
    circleStyle: c.style,
    circleObject: c.object,
    curves: part(l.curves, 8, v.keep),
    curveStyle: v.style,
    curveObject: v.object,
  };
  return penUses(picked).reduce((sum, u) => sum + u.length, 0) * MM_PER_POINT;
}

describe('DXF', () => {
  it('is read at true size: lengths by layer agree with another reader of the same file', async () => {
    const [{ linework: l, unknown }] = await read(load('boathouse-metres.dxf'), { keepHidden: true });
    const truth = JSON.parse(readFileSync(new URL('boathouse-metres.json', folder), 'utf8')) as Record<
      string,
      number
    >;
    expect(lengthOn(l, 'Walls')).toBeCloseTo(truth.Walls * 1000, -1);
    expect(lengthOn(l, 'Boats', '0')).toBeGreaterThan(truth.Boats * 1000 * 0.9999);
    expect(lengthOn(l, 'Boats', '0')).toBeLessThan(truth.Boats * 1000 * 1.0001);
    expect(lengthOn(l, 'Old')).toBeCloseTo(truth.Old * 1000, 3);
    expect(lengthOn(l, 'Frozen')).toBeCloseTo(truth.Frozen * 1000, 3);
    expect(unknown).toEqual({ RAY: 2 });
    expect(l.layers.filter((x) => !x.on).map((x) => x.name)).toEqual(['Old', 'Frozen']);
  });
  it('knows where its own origin lies, its texts, its hatches and dimensions', async () => {
    const [{ linework: l }] = await read(load('boathouse-metres.dxf'));
    const [ox, oy] = l.reference!.origin;
    const wall = mm(l.segments.subarray(0, 4)).map((v, i) => v + (i % 2 ? oy : ox));
    expect(wall.map((v) => Math.round(v))).toEqual([0, 0, 24000, 0]);
    expect(l.texts.map((t) => t.text)).toEqual(expect.arrayContaining(['Boat bay 1', 'Workshop', '12.5 m²']));
    expect(l.hatches).toBe(1);
    expect([...l.fillEdgeKind].filter((k) => k === HATCH)).toHaveLength(4);
    expect([...l.segmentKind].filter((k) => k === DIMENSION).length).toBeGreaterThan(2);
  });
  it('without units asks for them, and takes what it is told', async () => {
    await expect(read(load('no-units.dxf'))).rejects.toMatchObject({
      code: 'units',
      message: expect.stringContaining('does not say in which units'),
    });
    const [{ linework: l }] = await read(load('no-units.dxf'), { millimetresPerUnit: 304.8 });
    expect(Math.round((l.segments[2] - l.segments[0]) * MM_PER_POINT * 10) / 10).toBe(30480);
  });
  it('a block that holds itself ends, and nonsense is refused in words', async () => {
    const ring = [
      '0',
      'SECTION',
      '2',
      'HEADER',
      '9',
      '$INSUNITS',
      '70',
      '4',
      '0',
      'ENDSEC',
      '0',
      'SECTION',
      '2',
      'BLOCKS',
      '0',
      'BLOCK',
      '2',
      'A',
      '10',
      '0',
      '20',
      '0',
      '0',
      'INSERT',
      '2',
      'A',
      '10',
      '1',
      '20',
      '0',
      '0',
      'LINE',
      '10',
      '0',
      '20',
      '0',
      '11',
      '5',
      '21',
      '0',
      '0',
      'ENDBLK',
      '0',
      'ENDSEC',
      '0',
      'SECTION',
      '2',
      'ENTITIES',
      '0',
      'INSERT',
      '2',
      'A',
      '10',
      '0',
      '20',
      '0',
      '0',
      'ENDSEC',
      '0',
      'EOF',
    ].join('\n');
    const [{ linework: l }] = await read(ring);
    expect(l.counts.segments).toBeGreaterThan(0);
    expect(l.counts.segments).toBeLessThan(100);
    await expect(read('0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nEOF')).rejects.toMatchObject(
      { code: 'empty' },
    );
    await expect(read('Some Binary DXF\r\n\x1a\0....')).rejects.toMatchObject({
      message: expect.stringContaining('ASCII DXF'),
    });
  });
});

describe('SVG', () => {
  it('is read at true size, y up, through transforms, with its groups as layers', async () => {
    const [{ linework: l }] = await read(
      svg(`
      <g id="Walls" fill="none" stroke="#123456" stroke-width="0.5"><rect x="10" y="10" width="50" height="20"/><g transform="translate(100 50) rotate(90)"><line x1="0" y1="0" x2="30" y2="0"/></g></g>
      <g id="Openings"><path d="M 10 60 h 20 v 10 z" stroke="black" fill="none"/></g>`),
    );
    expect([l.width, l.height].map((v) => Math.round(v * MM_PER_POINT * 1e6) / 1e6)).toEqual([200, 100]);
    expect(mm(l.segments.subarray(0, 4))).toEqual([10, 90, 60, 90]);
    expect(mm(l.segments.subarray(16, 20))).toEqual([100, 50, 100, 20]);
    expect(l.layers.map((x) => x.name)).toEqual(['Walls', 'Openings']);
    expect(l.counts.segments).toBe(8);
    expect(l.pens[0]).toMatchObject({ colour: 0x123456 });
    expect(l.pens[0].width * MM_PER_POINT).toBeCloseTo(0.5, 3);
  });
  it('circles stay circles, arcs become arcs, curves stay curves', async () => {
    const [{ linework: l }] = await read(
      svg(
        '<g fill="none" stroke="#000"><circle cx="50" cy="50" r="20"/><path d="M100 50 A 30 30 0 0 1 130 80"/><path d="M10 10 C 20 40 60 -20 90 10"/><rect x="150" y="10" width="30" height="20" rx="4"/></g>',
      ),
    );
    expect(mm(l.circles)).toEqual([50, 50, 20]);
    expect(l.counts).toMatchObject({ circles: 1, arcs: 5, curves: 1, segments: 4 });
    expect(l.arcs[2] * MM_PER_POINT).toBeCloseTo(30, 3);
  });
  it('takes styles from attributes, style and simple rules; what is not shown is not read', async () => {
    const [{ linework: l }] = await read(
      svg(`<style>.wall { stroke: #ff0000; stroke-width: 2 } line { stroke: blue }</style>
      <line class="wall" x1="0" y1="1" x2="9" y2="1"/><line x1="0" y1="2" x2="9" y2="2"/><line style="stroke:#00ff00" x1="0" y1="3" x2="9" y2="3"/>
      <line display="none" x1="0" y1="4" x2="9" y2="4"/><g visibility="hidden"><line x1="0" y1="5" x2="9" y2="5"/></g><line style="stroke:none" x1="0" y1="6" x2="9" y2="6"/>`),
    );
    expect(l.counts.segments).toBe(3);
    expect([0, 1, 2].map((i) => l.pens[l.segmentStyle[2 * i + 1]].colour.toString(16))).toEqual([
      'ff0000',
      'ff',
      'ff00',
    ]);
  });
  it('symbols are used, outside links never followed, scripts never run, a ring of uses ends', async () => {
    const [{ linework: l, unknown }] = await read(
      svg(`<script>throw new Error('ran')</script><image href="http://example.org/x.png" width="5" height="5"/>
      <defs><symbol id="door"><line x1="0" y1="0" x2="8" y2="0" stroke="#000"/></symbol><g id="ring"><use href="#ring"/></g></defs>
      <use href="#door" x="20" y="30"/><use xlink:href="#door" transform="translate(50 0)"/><use href="other.svg#a"/><use href="#ring"/>`),
    );
    expect(mm(l.segments)).toEqual([20, 70, 28, 70, 50, 100, 58, 100]);
    expect(unknown).toMatchObject({ script: 1, image: 1, 'use (outside link)': 1, use: 1 });
  });
  it('texts keep their place and direction', async () => {
    const [{ linework: l }] = await read(
      svg(
        '<text x="30" y="40" font-size="6">Crew room <tspan dy="7" x="30">2.1</tspan></text><text transform="translate(10 90) rotate(-90)" font-size="5">Tall</text>',
      ),
    );
    expect(
      l.texts.map((t) => [
        t.text,
        Math.round(t.x * MM_PER_POINT),
        Math.round(t.y * MM_PER_POINT),
        Math.round((t.radians * 180) / Math.PI),
      ]),
    ).toEqual([
      ['Crew room', 30, 60, 0],
      ['2.1', 30, 53, 0],
      ['Tall', 10, 10, 90],
    ]);
  });
  it('a broken one is refused in words, entities are not expanded', async () => {
    await expect(read('<svg xmlns="http://www.w3.org/2000/svg"><g></svg>')).rejects.toMatchObject({
      code: 'damaged',
      message: expect.stringContaining('SVG cannot be read'),
    });
    await expect(
      read(
        `<!DOCTYPE svg [<!ENTITY a "aaaa">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>`,
      ),
    ).rejects.toMatchObject({ code: 'damaged' });
    await expect(read(svg(''))).rejects.toMatchObject({ code: 'empty' });
  });
});

describe('what a file is', () => {
  it('is told by its bytes', () => {
    const bytes = (...parts: (string | number[])[]) =>
      Uint8Array.from(parts.flatMap((p) => (typeof p === 'string' ? [...p].map((c) => c.charCodeAt(0)) : p)));
    expect(kindOf(bytes('II', [0x2a, 0], '....'))).toBe('tiff');
    expect(kindOf(bytes('MM', [0, 0x2a], '....'))).toBe('tiff');
    expect(kindOf(bytes('RIFF', [1, 2, 3, 4], 'WEBPVP8 '))).toBe('webp');
    expect(kindOf(bytes('  0\r\nSECTION\r\n'))).toBe('dxf');
    expect(kindOf(bytes('999\nmade by hand\n  0\nSECTION\n'))).toBe('dxf');
    expect(kindOf(bytes('\u00ef\u00bb\u00bf<?xml version="1.0"?><!-- plan --><svg xmlns="x">'))).toBe('svg');
    expect(kindOf(bytes('<html><svg></svg></html>'))).toBeNull();
    // An illustration program's file with a PDF inside is what its bytes say.
    expect(kindOf(bytes('%!PS\n', '%PDF-1.6\n'))).toBe('pdf');
    expect(ITEM_KINDS_OF_SHEET).toHaveLength(8);
    expect(kindOf(bytes('\r\n ISO-10303-21;\nHEADER;'))).toBe('step');
    expect(kindOf(bytes('not ISO-10303-21;'))).toBeNull();
  });

  it('a STEP file is a solid without pages, and one that is cut short is refused in words', async () => {
    const step = 'ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n';
    expect(await read(step)).toEqual([]);
    await expect(read(step.slice(0, 40))).rejects.toMatchObject({
      code: 'damaged',
      message: expect.stringContaining('cut short') as string,
    });
  });
});

describe('pictures', () => {
  it('TIFF with pages, WebP, CMYK, 16 bit and turned pictures are sheets of their size', async () => {
    const { default: sharp } = await import('sharp');
    const plain = sharp({ create: { width: 300, height: 150, channels: 3, background: '#ccc' } });
    const of = async (bytes: Buffer) => (await read(new Uint8Array(bytes), { picturePixels: 64 }))[0];
    const webp = await of(await plain.clone().webp().toBuffer());
    expect([webp.linework.width, webp.linework.height, webp.linework.content]).toEqual([225, 112.5, 'scan']);
    const cmyk = await of(
      await plain.clone().toColourspace('cmyk').withMetadata({ density: 150 }).jpeg().toBuffer(),
    );
    expect(cmyk.linework.width).toBeCloseTo(144, 6);
    expect((await sharp(cmyk.picture!).metadata()).space).toBe('srgb');
    const deep = await of(await plain.clone().toColourspace('rgb16').png().toBuffer());
    expect((await sharp(deep.picture!).metadata()).depth).toBe('uchar');
    const turned = await of(await plain.clone().withMetadata({ orientation: 6 }).jpeg().toBuffer());
    expect(turned.linework.height).toBeGreaterThan(turned.linework.width);
  });
});
