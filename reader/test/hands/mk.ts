import { readFileSync, writeFileSync } from 'node:fs';
import { scanned } from './draw/scan.ts';
const [name, out] = process.argv.slice(2);
const { pdf } = await scanned(new Uint8Array(readFileSync(`reader/test/hands/tuned/${name}.pdf`)), { dpi: 150, skew: 0, grain: 3, quality: 80 }, 7);
writeFileSync(out, pdf);
