import { deflateSync } from 'node:zlib';

/** An A0 page with `count` stroked segments, as drawing programs write them: many short paths, some long ones. */
export function denseSheet(count: number): Buffer {
  const width = 3370.39, height = 2383.94;
  const lines: string[] = ['0.25 w 0 0 0 RG'];
  const f = (v: number) => v.toFixed(2);
  // A fixed sequence, so that every run measures the same page.
  let seed = 7;
  const chance = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  for (let n = 0; n < count;) {
    const x = 40 + chance() * (width - 120), y = 40 + chance() * (height - 120);
    const kind = n % 3;
    if (kind === 0) {
      lines.push(`${f(x)} ${f(y)} m ${f(x + 3 + chance() * 40)} ${f(y + chance() * 6)} l S`);
      n += 1;
    } else if (kind === 1) {
      lines.push(`${f(x)} ${f(y)} ${f(4 + chance() * 20)} ${f(4 + chance() * 20)} re S`);
      n += 4;
    } else {
      const points = Array.from({ length: 7 }, (_, i) => `${f(x + i * 5)} ${f(y + chance() * 12)} l`).join(' ');
      lines.push(`${f(x - 5)} ${f(y)} m ${points} S`);
      n += 7;
    }
  }
  const stream = deflateSync(Buffer.from(lines.join('\n')));
  return pdfOf(width, height, stream);
}

function pdfOf(width: number, height: number, stream: Buffer): Buffer {
  const parts: Buffer[] = [Buffer.from('%PDF-1.5\n')];
  const offsets: number[] = [];
  const add = (text: string | Buffer) => parts.push(Buffer.isBuffer(text) ? text : Buffer.from(text));
  const at = () => parts.reduce((s, p) => s + p.length, 0);
  const object = (n: number, body: () => void) => {
    offsets[n] = at();
    add(`${n} 0 obj\n`);
    body();
    add('\nendobj\n');
  };
  object(1, () => add('<</Type/Catalog/Pages 2 0 R>>'));
  object(2, () => add('<</Type/Pages/Kids[3 0 R]/Count 1>>'));
  object(3, () => add(`<</Type/Page/Parent 2 0 R/MediaBox[0 0 ${width} ${height}]/Contents 4 0 R/Resources<<>>>>`));
  object(4, () => { add(`<</Length ${stream.length}/Filter/FlateDecode>>stream\n`); add(stream); add('\nendstream'); });
  const xref = at();
  add(`xref\n0 5\n0000000000 65535 f \n${offsets.slice(1).map((o) => `${String(o).padStart(10, '0')} 00000 n \n`).join('')}trailer<</Size 5/Root 1 0 R>>\nstartxref\n${xref}\n%%EOF\n`);
  return Buffer.concat(parts);
}
