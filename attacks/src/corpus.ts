import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { PDFDocument, PDFName, PDFRawStream, decodePDFRawStream } from '@cantoo/pdf-lib';
import sharp from 'sharp';

export interface Sample {
  name: string;
  bytes: Uint8Array;
}

/** Larger files make fuzzing slow without making it better. */
const LARGEST = 100_000;

/** Practice files of every kind that is read; PDFs also with their streams laid open, so that what is changed in them is not only the packing. */
export async function corpus(root: string): Promise<Sample[]> {
  const out: Sample[] = [];
  for (const folder of ['reader/test/sheets', 'reader/test/drawings']) {
    for (const name of readdirSync(join(root, folder))) {
      const bytes = new Uint8Array(readFileSync(join(root, folder, name)));
      if (/\.(pdf|dxf)$/.test(name) && bytes.length <= LARGEST) out.push({ name, bytes });
    }
  }
  for (const { name, bytes } of [...out])
    if (name.endsWith('.pdf')) {
      const open = await laidOpen(bytes).catch(() => null);
      if (open) out.push({ name: `${name} laid open`, bytes: open });
    }
  const picture = sharp({ create: { width: 60, height: 40, channels: 3, background: '#cde' } });
  for (const kind of ['png', 'jpeg', 'webp', 'tiff'] as const)
    out.push({
      name: `small.${kind}`,
      bytes: new Uint8Array(await picture.clone().toFormat(kind).withMetadata({ orientation: 6 }).toBuffer()),
    });
  out.push({ name: 'small.svg', bytes: new TextEncoder().encode(SVG) });
  return out;
}

async function laidOpen(bytes: Uint8Array): Promise<Uint8Array> {
  const document = await PDFDocument.load(bytes, { updateMetadata: false, password: '' });
  const { context } = document;
  for (const [ref, object] of context.enumerateIndirectObjects()) {
    if (
      !(object instanceof PDFRawStream) ||
      object.dict.get(PDFName.of('Filter')) !== PDFName.of('FlateDecode')
    )
      continue;
    const open = context.stream(decodePDFRawStream(object).decode());
    for (const [key, value] of object.dict.entries())
      if (!['/Length', '/Filter', '/DecodeParms'].includes(key.toString())) open.dict.set(key, value);
    context.assign(ref, open);
  }
  return document.save({ useObjectStreams: false, updateFieldAppearances: false });
}

const SVG = `<?xml version="1.0"?><!DOCTYPE svg><svg xmlns="http://www.w3.org/2000/svg" width="210mm" height="100mm" viewBox="0 0 210 100"><style>.w{stroke:#123;fill:none} /* walls */ #a{stroke-width:2}</style>
<defs><g id="door"><path d="M0 0L9 0A9 9 0 0 1 0 9Z" class="w"/></g></defs><g id="walls" transform="translate(5,5) rotate(3)"><rect class="w" x="5" y="5" width="80" height="40" rx="2"/><use href="#door" x="20" y="5"/>
<circle cx="40" cy="20" r="6" stroke="red" stroke-dasharray="2 1"/><ellipse cx="60" cy="20" rx="9" ry="4" style="stroke:blue;fill:none"/><polyline points="0,0 5,5 9,1" stroke="#000"/><text x="10" y="30" font-size="4">5250 <tspan dx="2">mm</tspan></text></g></svg>`;
