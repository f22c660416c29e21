import { deflateSync } from 'node:zlib';
import { PDFDocument, PDFName, rgb } from '@cantoo/pdf-lib';
import sharp from 'sharp';

/** A file and how reading it must end: as one of these states, with words where it is not ready. */
export interface HostileFile {
  name: string;
  bytes(): Promise<Uint8Array> | Uint8Array;
  ends: readonly ('ready' | 'failed' | 'password' | 'units')[];
}

const text = (s: string) => new TextEncoder().encode(s);
const latin = (s: string) => new Uint8Array(Buffer.from(s, 'latin1'));

/** A PDF of objects as they are written, with a cross-reference that fits. */
function pdf(objects: readonly (string | Buffer)[], trailer = '/Root 1 0 R'): Uint8Array {
  const parts: Buffer[] = [Buffer.from('%PDF-1.7\n')];
  const offsets: number[] = [];
  let at = parts[0].length;
  objects.forEach((object, i) => {
    offsets.push(at);
    const part = Buffer.concat([
      Buffer.from(`${i + 1} 0 obj\n`),
      Buffer.isBuffer(object) ? object : Buffer.from(object, 'latin1'),
      Buffer.from('\nendobj\n'),
    ]);
    parts.push(part);
    at += part.length;
  });
  const table = offsets.map((o) => `${String(o).padStart(10, '0')} 00000 n \n`).join('');
  parts.push(
    Buffer.from(
      `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} ${trailer} >>\nstartxref\n${at}\n%%EOF\n`,
    ),
  );
  return new Uint8Array(Buffer.concat(parts));
}
const stream = (dict: string, content: Buffer) =>
  Buffer.concat([
    Buffer.from(`<< ${dict} /Length ${content.length} >>\nstream\n`),
    content,
    Buffer.from('\nendstream'),
  ]);
const page = (content: Buffer, more = '', box = '[0 0 600 400]') =>
  pdf([
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    `<< /Type /Page /Parent 2 0 R /MediaBox ${box} /Contents 4 0 R /Resources << >> ${more} >>`,
    stream('', content),
  ]);
const LINE = Buffer.from('10 10 m 200 200 l S');

const twice = (size: number) => deflateSync(deflateSync(Buffer.alloc(size, 32), { level: 9 }), { level: 9 });

export const HOSTILE_FILES: readonly HostileFile[] = [
  { name: 'empty.pdf', bytes: () => new Uint8Array(0), ends: ['failed'] },
  { name: 'one byte.pdf', bytes: () => new Uint8Array([37]), ends: ['failed'] },
  { name: 'words.pdf', bytes: () => text('not a drawing at all'), ends: ['failed'] },
  { name: 'header only.pdf', bytes: () => text('%PDF-1.7\n'), ends: ['failed'] },
  {
    name: 'a million pages.pdf',
    bytes: () =>
      pdf([
        '<< /Type /Catalog /Pages 2 0 R >>',
        '<< /Type /Pages /Kids [3 0 R] /Count 1000000 >>',
        '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 10 10] >>',
      ]),
    ends: ['failed', 'ready'],
  },
  {
    name: 'pages in a ring.pdf',
    bytes: () =>
      pdf(['<< /Type /Catalog /Pages 2 0 R >>', '<< /Type /Pages /Kids [2 0 R 2 0 R] /Count 2 >>']),
    ends: ['failed', 'ready'],
  },
  ...[
    '[0 0 1e38 1e38]',
    '[0 0 0 0]',
    '[0 0 1e-30 1e-30]',
    '[-1e30 -1e30 1e30 1e30]',
    '[0 0 nan inf]',
    '[600 400 0 0]',
    '[0 0 14400 14400]',
  ].map((box): HostileFile => ({
    name: `box ${box}.pdf`,
    bytes: () => page(LINE, '', box),
    ends: ['ready', 'failed'],
  })),
  ...['1e30', '-5', '0', '99999999999999999999', '(x)'].map((unit): HostileFile => ({
    name: `unit ${unit}.pdf`,
    bytes: () => page(LINE, `/UserUnit ${unit}`),
    ends: ['ready', 'failed'],
  })),
  { name: 'turned by 45.pdf', bytes: () => page(LINE, '/Rotate 45'), ends: ['ready', 'failed'] },
  {
    name: 'lines beyond numbers.pdf',
    bytes: () => page(Buffer.from('1e38 1e38 m -1e38 -1e38 l S 1e30 0 0 1e30 0 0 cm 1e30 1e30 m 0 0 l S')),
    ends: ['ready', 'failed'],
  },
  {
    name: 'states without end.pdf',
    bytes: () => page(Buffer.from('q '.repeat(300000))),
    ends: ['ready', 'failed'],
  },
  {
    name: 'dashes without end.pdf',
    bytes: () => page(Buffer.from(`[${'0.001 '.repeat(5000)}] 0 d 0 0 m 600 400 l S`)),
    ends: ['ready', 'failed'],
  },
  {
    name: 'content inflated twice.pdf',
    bytes: () =>
      pdf([
        '<< /Type /Catalog /Pages 2 0 R >>',
        '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
        '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 400] /Contents 4 0 R >>',
        stream('/Filter [/FlateDecode /FlateDecode]', twice(400e6)),
      ]),
    ends: ['failed', 'ready'],
  },
  {
    name: 'object stream inflated twice.pdf',
    bytes: () =>
      pdf([
        '<< /Type /Catalog /Pages 2 0 R >>',
        '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
        '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 400] >>',
        stream('/Type /ObjStm /N 1 /First 4 /Filter [/FlateDecode /FlateDecode]', twice(900e6)),
      ]),
    ends: ['failed', 'ready'],
  },
  {
    name: 'optional form inflated.pdf',
    bytes: () =>
      pdf([
        '<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [5 0 R] /D << /ON [5 0 R] >> >> >>',
        '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
        '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 400] /Contents 4 0 R /Resources << /XObject << /F 6 0 R >> >> >>',
        stream('', Buffer.from('/F Do')),
        '<< /Type /OCG /Name (Walls) >>',
        stream(
          '/Type /XObject /Subtype /Form /BBox [0 0 9 9] /OC 5 0 R /Filter /FlateDecode',
          deflateSync(Buffer.alloc(700e6, 32), { level: 9 }),
        ),
      ]),
    ends: ['failed', 'ready'],
  },
  {
    name: 'forms in a ring.pdf',
    bytes: () =>
      pdf([
        '<< /Type /Catalog /Pages 2 0 R >>',
        '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
        '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 400] /Contents 4 0 R /Resources << /XObject << /F 5 0 R >> >> >>',
        stream('', Buffer.from('/F Do')),
        stream(
          '/Type /XObject /Subtype /Form /BBox [0 0 600 400] /Resources << /XObject << /F 5 0 R >> >>',
          Buffer.from('/F Do /F Do 0 0 m 9 9 l S'),
        ),
      ]),
    ends: ['failed', 'ready'],
  },
  {
    name: 'layers by the ten thousand.pdf',
    bytes: () => {
      const n = 30000;
      return pdf([
        `<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [${Array.from({ length: n }, (_, i) => `${i + 5} 0 R`).join(' ')}] /D << >> >> >>`,
        '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
        '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 400] /Contents 4 0 R >>',
        stream('', LINE),
        ...Array.from({ length: n }, (_, i) => `<< /Type /OCG /Name (L${i}) >>`),
      ]);
    },
    ends: ['failed', 'ready'],
  },
  {
    name: 'names that are none.pdf',
    bytes: async () => {
      const document = await PDFDocument.create();
      document.setTitle('\ud800 half');
      const sheet = document.addPage([300, 200]);
      sheet.drawLine({ start: { x: 1, y: 1 }, end: { x: 200, y: 100 }, color: rgb(0, 0, 0) });
      const { context } = document;
      const group = context.register(context.obj({ Type: 'OCG', Name: context.obj([]) }));
      document.catalog.set(PDFName.of('OCProperties'), context.obj({ OCGs: [group], D: { Order: [group] } }));
      return document.save();
    },
    ends: ['ready', 'failed'],
  },
  {
    name: 'cut short.pdf',
    bytes: async () =>
      (
        await (async () => {
          const d = await PDFDocument.create();
          d.addPage();
          return d.save();
        })()
      ).slice(0, 300),
    ends: ['failed', 'ready'],
  },
  {
    name: 'a large turned.tiff',
    bytes: async () =>
      new Uint8Array(
        await sharp({
          create: { width: 24000, height: 18000, channels: 3, background: '#fff' },
          limitInputPixels: false,
        })
          .withMetadata({ orientation: 6 })
          .tiff({ compression: 'deflate' })
          .toBuffer(),
      ),
    ends: ['ready', 'failed'],
  },
  {
    name: 'a wide.png',
    bytes: async () =>
      new Uint8Array(
        await sharp({
          create: { width: 60000, height: 4000, channels: 3, background: '#fff' },
          limitInputPixels: false,
        })
          .png({ compressionLevel: 9 })
          .toBuffer(),
      ),
    ends: ['ready', 'failed'],
  },
  {
    name: 'cut short.png',
    bytes: async () =>
      new Uint8Array(
        (
          await sharp({ create: { width: 500, height: 400, channels: 3, background: '#abc' } })
            .png()
            .toBuffer()
        ).subarray(0, 120),
      ),
    ends: ['failed', 'ready'],
  },
  {
    name: 'claims to be huge.png',
    bytes: async () => {
      const b = await sharp({ create: { width: 5, height: 4, channels: 3, background: '#abc' } })
        .png()
        .toBuffer();
      b.writeUInt32BE(2_000_000_000, 16);
      b.writeUInt32BE(2_000_000_000, 20);
      return new Uint8Array(b);
    },
    ends: ['failed'],
  },
  { name: 'comments.svg', bytes: () => text('<!---->'.repeat(200000)), ends: ['failed'] },
  {
    name: 'transforms.svg',
    bytes: () =>
      text(
        `<svg xmlns="http://www.w3.org/2000/svg"><g transform="${'rotate('.repeat(300000)}"><line x2="5" stroke="#000"/></g></svg>`,
      ),
    ends: ['ready', 'failed'],
  },
  {
    name: 'uses of uses.svg',
    bytes: () =>
      text(
        `<svg xmlns="http://www.w3.org/2000/svg"><defs>${Array.from({ length: 15 }, (_, k) => `<g id="g${k}">${k === 0 ? '<line x2="5" stroke="#000"/>' : `<use href="#g${k - 1}"/>`.repeat(8)}</g>`).join('')}</defs><use href="#g14"/></svg>`,
      ),
    ends: ['failed'],
  },
  {
    name: 'entities.svg',
    bytes: () =>
      text(
        `<!DOCTYPE svg [<!ENTITY a "${'x'.repeat(1000)}"><!ENTITY b "${'&a;'.repeat(1000)}">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>`,
      ),
    ends: ['failed', 'ready'],
  },
  {
    name: 'outside.svg',
    bytes: () =>
      text(
        '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="9" height="9"><image xlink:href="file:///etc/passwd"/><use href="http://127.0.0.1/x#y"/><line x2="5" y2="4" stroke="#000"/><script>1</script></svg>',
      ),
    ends: ['ready', 'failed'],
  },
  {
    name: 'blocks in themselves.dxf',
    bytes: () =>
      text(
        [
          0,
          'SECTION',
          2,
          'BLOCKS',
          0,
          'BLOCK',
          2,
          'A',
          0,
          'INSERT',
          2,
          'A',
          0,
          'INSERT',
          2,
          'B',
          0,
          'ENDBLK',
          0,
          'BLOCK',
          2,
          'B',
          0,
          'INSERT',
          2,
          'A',
          0,
          'INSERT',
          2,
          'A',
          0,
          'LINE',
          10,
          0,
          20,
          0,
          11,
          5,
          21,
          5,
          0,
          'ENDBLK',
          0,
          'ENDSEC',
          0,
          'SECTION',
          2,
          'ENTITIES',
          0,
          'INSERT',
          2,
          'A',
          0,
          'ENDSEC',
          0,
          'EOF',
        ].join('\n'),
      ),
    ends: ['units', 'ready', 'failed'],
  },
  {
    name: 'arcs to nowhere.dxf',
    bytes: () =>
      text(
        [
          0,
          'SECTION',
          2,
          'HEADER',
          9,
          '$INSUNITS',
          70,
          4,
          0,
          'ENDSEC',
          0,
          'SECTION',
          2,
          'ENTITIES',
          0,
          'ARC',
          10,
          0,
          20,
          0,
          40,
          5,
          50,
          0,
          51,
          -1e300,
          0,
          'LINE',
          10,
          0,
          20,
          0,
          11,
          5,
          21,
          5,
          0,
          'ENDSEC',
          0,
          'EOF',
        ].join('\n'),
      ),
    ends: ['ready'],
  },
  { name: 'binary.dxf', bytes: () => latin('Binary DXF\r\n\x1a\0rest'), ends: ['failed'] },
];
