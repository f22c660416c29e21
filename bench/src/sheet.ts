import { deflateSync } from 'node:zlib';

/** An A0 page with `count` stroked segments, as drawing programs write them: many short paths, some long ones. */
export function denseSheet(count: number, pages = 1): Buffer {
  const width = 3370.39,
    height = 2383.94;
  const lines: string[] = ['0.25 w 0 0 0 RG'];
  const f = (v: number) => v.toFixed(2);
  // A fixed sequence, so that every run measures the same page.
  let seed = 7;
  const chance = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  for (let n = 0; n < count;) {
    const x = 40 + chance() * (width - 120),
      y = 40 + chance() * (height - 120);
    const kind = n % 3;
    if (kind === 0) {
      lines.push(`${f(x)} ${f(y)} m ${f(x + 3 + chance() * 40)} ${f(y + chance() * 6)} l S`);
      n += 1;
    } else if (kind === 1) {
      lines.push(`${f(x)} ${f(y)} ${f(4 + chance() * 20)} ${f(4 + chance() * 20)} re S`);
      n += 4;
    } else {
      const points = Array.from({ length: 7 }, (_, i) => `${f(x + i * 5)} ${f(y + chance() * 12)} l`).join(
        ' ',
      );
      lines.push(`${f(x - 5)} ${f(y)} m ${points} S`);
      n += 7;
    }
  }
  const stream = deflateSync(Buffer.from(lines.join('\n')));
  return pdfOf(
    width,
    height,
    Array.from({ length: pages }, () => ({ stream, picture: null })),
  );
}

/** A set of A1 pages with a few thousand lines and a picture that cannot be packed each: 300 kB a page. */
export function largeSet(pages: number): Buffer {
  let seed = 3;
  const chance = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  return pdfOf(
    2384,
    1684,
    Array.from({ length: pages }, (_, n) => {
      const lines = [`0.5 w 200 0 0 200 ${100 + n} 100 cm /P Do 0.005 0 0 0.005 0 0 cm`];
      for (let i = 0; i < 1500; i++)
        lines.push(
          `${(chance() * 400000).toFixed(0)} ${(chance() * 300000).toFixed(0)} m ${(chance() * 400000).toFixed(0)} ${(chance() * 300000).toFixed(0)} l S`,
        );
      const picture = Buffer.alloc(PICTURE * PICTURE);
      for (let i = 0; i < picture.length; i++) picture[i] = chance() * 256;
      return { stream: deflateSync(Buffer.from(lines.join('\n'))), picture };
    }),
  );
}

/** Pixels of a side. */
const PICTURE = 520;

interface PageParts {
  stream: Buffer;
  picture: Buffer | null;
}

function pdfOf(width: number, height: number, pages: readonly PageParts[]): Buffer {
  const parts: Buffer[] = [Buffer.from('%PDF-1.5\n')];
  const offsets: number[] = [];
  let at = parts[0].length;
  const add = (part: string | Buffer) => {
    const bytes = Buffer.isBuffer(part) ? part : Buffer.from(part);
    parts.push(bytes);
    at += bytes.length;
  };
  const object = (n: number, ...body: (string | Buffer)[]) => {
    offsets[n] = at;
    add(`${n} 0 obj\n`);
    body.forEach(add);
    add('\nendobj\n');
  };
  // Three objects a page, from 3 on: the page, its content, its picture.
  const first = (i: number) => 3 + 3 * i;
  object(1, '<</Type/Catalog/Pages 2 0 R>>');
  object(
    2,
    `<</Type/Pages/Kids[${pages.map((_, i) => `${first(i)} 0 R`).join(' ')}]/Count ${pages.length}>>`,
  );
  pages.forEach(({ stream, picture }, i) => {
    const n = first(i);
    object(
      n,
      `<</Type/Page/Parent 2 0 R/MediaBox[0 0 ${width} ${height}]/Contents ${n + 1} 0 R/Resources<<${picture ? `/XObject<</P ${n + 2} 0 R>>` : ''}>>>>`,
    );
    object(n + 1, `<</Length ${stream.length}/Filter/FlateDecode>>stream\n`, stream, '\nendstream');
    object(
      n + 2,
      ...(picture
        ? [
            `<</Type/XObject/Subtype/Image/Width ${PICTURE}/Height ${PICTURE}/ColorSpace/DeviceGray/BitsPerComponent 8/Length ${picture.length}>>stream\n`,
            picture,
            '\nendstream',
          ]
        : ['null']),
    );
  });
  const xref = at;
  add(
    `xref\n0 ${offsets.length}\n0000000000 65535 f \n${offsets
      .slice(1)
      .map((o) => `${String(o).padStart(10, '0')} 00000 n \n`)
      .join('')}trailer<</Size ${offsets.length}/Root 1 0 R>>\nstartxref\n${xref}\n%%EOF\n`,
  );
  return Buffer.concat(parts);
}
