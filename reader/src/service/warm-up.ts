import { encodeLinework } from '@calque/core/linework';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { DEFAULT_MEMORY_MB, readFile } from '../read-file.ts';

/** Segments of the sheet that is read to no end: enough that the code which reads them is compiled well. */
const SEGMENTS = 30000;

/** A sheet of short strokes in many directions, as a PDF. */
function practiceSheet(): Uint8Array {
  const lines: string[] = ['0.25 w'];
  for (let i = 0; i < SEGMENTS; i += 3) {
    const x = (i * 37) % 800,
      y = (i * 91) % 560;
    lines.push(
      `${x} ${y} m ${x + 5 + (i % 7)} ${y + (i % 5)} l S`,
      `${x} ${y} m ${x + 3} ${y + 4} l ${x + 6} ${y} l S`,
    );
  }
  const stream = lines.join('\n');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 842 595] /Contents 4 0 R >>',
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
  ];
  let text = '%PDF-1.4\n';
  const offsets = objects.map((object, i) => {
    const at = text.length;
    text += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const start = text.length;
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${offsets.map((o) => `${String(o).padStart(10, '0')} 00000 n \n`).join('')}`;
  text += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`;
  return new TextEncoder().encode(text);
}

/** Reads a sheet to no end, the whole way to its stored form. */
export function warmUp(): Promise<void> {
  return readFile(
    practiceSheet(),
    { maxMegabytes: DEFAULT_MEMORY_MB, picturePixels: 100 },
    () => {},
    ({ linework }) => void encodeLinework(linework, indexBytes(buildSheetIndex(linework))),
  );
}
