import { readFileSync, writeFileSync } from 'node:fs';
import { pixelsPerMillimetre, textImage } from '@calque/core/ink';
import { readInk } from '../../../core/src/ink/figures/read-ink.ts';
import { ownersOf } from '../../../core/src/ink/figures/text-image.ts';
import { createRequire } from 'node:module';
import { DEFAULT_MEMORY_MB, readRaster } from '../../src/index.ts';
import { readFile } from '../../src/read-file.ts';
import { scanned } from './draw/scan.ts';
const sharp = createRequire(new URL('../../package.json', import.meta.url))('sharp');
const [name] = process.argv.slice(2);
const { pdf } = await scanned(new Uint8Array(readFileSync(`reader/test/hands/tuned/${name}.pdf`)), { dpi: 150, skew: 0, grain: 3, quality: 80 }, 7);
let l: any; await readFile(pdf, { maxMegabytes: DEFAULT_MEMORY_MB, page: 1 }, () => {}, (p) => { l = p.linework; });
const { raster, isPicture } = await readRaster(pdf, 1, l, { maxMegabytes: 1024 });
const ink = readInk(raster, pixelsPerMillimetre(raster, isPicture)), owner = ownersOf(ink.components, raster);
const tiles = []; let x = 0, y = 0;
for (const b of ink.blocks.filter((b) => b.glyphs >= 2)) { const t = textImage(raster, ink.components, owner, b); if (x + t.width > 1600) { x = 0; y += 105; } tiles.push({ input: await sharp(Buffer.from(t.grey), { raw: { width: t.width, height: t.height, channels: 1 } }).png().toBuffer(), left: x, top: y }); x += t.width + 4; }
await sharp({ create: { width: 1800, height: y + 110, channels: 3, background: '#88a' } }).composite(tiles).png().toFile('/tmp/dump.png');
