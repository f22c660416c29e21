import { PDFDocument, PDFName } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { kindOf, ReadFailure } from '@calque/reader';
import { bytesOf, read, truth } from './truth.ts';

const codeOf = (bytes: Uint8Array, options = {}) =>
  read(bytes, options).then(
    () => 'read',
    (e: unknown) => (e instanceof ReadFailure ? e.code : String(e)),
  );

describe('bad input ends in a clear failure or in success', () => {
  it('empty', async () => expect(await codeOf(new Uint8Array(0))).toBe('empty'));
  it('truncated', async () => expect(await codeOf(bytesOf('13a_truncated.pdf'))).toBe('damaged'));
  it('neither PDF nor picture', async () =>
    expect(await codeOf(new TextEncoder().encode('just words'))).toBe('unknown-kind'));
  it('a picture under the name of a PDF is a picture', async () => {
    const { facts, pages } = await read(bytesOf('13c_png_renamed.pdf'));
    expect(facts.kind).toBe('png');
    expect(pages[0].linework.content).toBe('scan');
  });
  it('damaged but readable says that it was repaired', async () =>
    expect((await read(bytesOf('13d_xref_damaged.pdf'))).facts.repaired).toBe(true));
  it('a whole file says nothing of repair', async () =>
    expect((await read(bytesOf(truth['01'].file))).facts.repaired).toBe(false));
  it('protected: asks for the password, refuses a wrong one', async () => {
    expect(await codeOf(bytesOf('13e_password.pdf'))).toBe('password');
    expect(await codeOf(bytesOf('13e_password.pdf'), { password: 'wrong' })).toBe('password');
  });
  it('a page that is not there', async () =>
    expect(await codeOf(bytesOf(truth['01'].file), { page: 7 })).toBe('no-such-page'));
  it('content that inflates without end stops at the memory limit', async () => {
    expect(await codeOf(bytesOf('13h_zip_bomb_500mb.pdf'), { maxMegabytes: 256 })).toBe('too-large');
  });
  it('a cut-off picture', async () => {
    const png = await sharp({ create: { width: 50, height: 50, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
    expect(await codeOf(new Uint8Array(png.subarray(0, 20)))).toBe('damaged');
  });
  it('a page without a size takes the usual one, a picture of 40,000 pixels across is a sheet', async () => {
    const pdf = await PDFDocument.create();
    const page = pdf.addPage([300, 200]);
    page.drawLine({ start: { x: 10, y: 10 }, end: { x: 90, y: 90 } });
    page.node.delete(PDFName.of('MediaBox'));
    const sizeless = await read(await pdf.save());
    expect(sizeless.pages[0].linework.width).toBeGreaterThan(100);
    expect(sizeless.pages[0].linework.counts.segments).toBe(1);
    const wide = await sharp({ create: { width: 40000, height: 20, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
    const { pages } = await read(new Uint8Array(wide), { picturePixels: 64 });
    expect(pages[0].pixels).toBeUndefined();
    expect(pages[0].linework.width).toBeCloseTo((40000 * 72) / 96, 6);
  });
  it('bytes thrown into a good file never end the process', async () => {
    const good = bytesOf(truth['13g'].file);
    for (let i = 0; i < 40; i++) {
      const bytes = good.slice();
      for (let k = 0; k < 6; k++) bytes[(i * 7919 + k * 104729) % bytes.length] = (i * 31 + k * 17) % 256;
      expect(await codeOf(bytes)).toBeTypeOf('string');
    }
  });
});

describe('pictures', () => {
  it('take their size from their resolution and their turn', async () => {
    const jpeg = await sharp({ create: { width: 300, height: 150, channels: 3, background: '#eee' } })
      .withMetadata({ density: 150, orientation: 6 })
      .jpeg()
      .toBuffer();
    const {
      facts,
      pages: [{ linework }],
    } = await read(new Uint8Array(jpeg));
    expect(facts.kind).toBe('jpeg');
    expect([linework.width, linework.height]).toEqual([72, 144]);
  });
});

it('tells kinds by bytes', async () => {
  const pdf = await (await PDFDocument.create()).save();
  expect(kindOf(pdf)).toBe('pdf');
  expect(kindOf(new Uint8Array([0xff, 0xd8, 0xff, 0xe0]))).toBe('jpeg');
  expect(kindOf(new Uint8Array([1, 2, 3]))).toBeNull();
});
