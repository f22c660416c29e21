import { describe, expect, it } from 'vitest';
import { encodeLinework } from '@calque/core/linework';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { readFile, type ReadPage } from '../src/read-file.ts';

/** A page of hatched squares, with as many strokes as asked for, and one printed dimension. */
function hatchedPage(strokes: number): Uint8Array {
  const lines = ['0.25 w'];
  for (let n = 0; n < strokes; n++) {
    const square = Math.floor(n / 40),
      x = 30 + (square % 25) * 46,
      y = 60 + Math.floor(square / 25) * 32;
    lines.push(`${x} ${y + (n % 40) * 0.7} m ${x + 30} ${y + (n % 40) * 0.7} l S`);
  }
  lines.push('30 30 m 230 30 l S 30 24 m 30 36 l S 230 24 m 230 36 l S BT /F 8 Tf 120 32 Td (5000) Tj ET');
  const stream = lines.join('\n');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 1200 900] /Contents 4 0 R /Resources << /Font << /F << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >> >>',
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
  ];
  return new TextEncoder().encode(
    `%PDF-1.4\n${objects.map((o, i) => `${i + 1} 0 obj\n${o}\nendobj\n`).join('')}trailer << /Root 1 0 R >>\n%%EOF\n`,
  );
}

async function pagesOf(strokes: number, linesFirst: boolean): Promise<(ReadPage & { bytes: Buffer })[]> {
  const pages: (ReadPage & { bytes: Buffer })[] = [];
  await readFile(
    hatchedPage(strokes),
    { maxMegabytes: 300, picturePixels: 100, linesFirst },
    () => {},
    // As it is when it is given: kinds are told in place afterwards.
    (page) =>
      void pages.push({
        ...page,
        bytes: Buffer.from(encodeLinework(page.linework, indexBytes(buildSheetIndex(page.linework)))),
      }),
  );
  return pages;
}

describe('lines that come first', () => {
  it('come before the picture, hatches and dimensions of a page of many; what follows is the page as it is read at once', async () => {
    const [first, whole, ...more] = await pagesOf(24000, true);
    expect(more).toEqual([]);
    expect([first.whole, first.picture, first.linework.counts.segments]).toEqual([false, null, 24003]);
    expect(whole.whole).toBe(true);
    expect(whole.picture).not.toBeNull();
    expect(whole.linework.hatches).toBeGreaterThan(0);
    expect(whole.linework.texts.map((t) => t.kind)).not.toEqual(first.linework.texts.map((t) => t.kind));
    const [alone] = await pagesOf(24000, false);
    expect(whole.bytes.equals(alone.bytes)).toBe(true);
    expect(first.bytes.equals(alone.bytes)).toBe(false);
    expect(first.linework.segments).toEqual(alone.linework.segments);
  });
  it('a page of few lines comes once', async () => {
    expect((await pagesOf(400, true)).map((p) => p.whole)).toEqual([true]);
  });
});
