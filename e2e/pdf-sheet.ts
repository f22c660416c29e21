/** Small sheets that tests draw for themselves: a page of one content stream, with a plain typeface. */

/** Points of a millimetre. */
export const PT = 72 / 25.4;

export function pdfOf(content: string, [width, height]: readonly [number, number] = [420, 300]): string {
  const objects = [
    '<</Type/Catalog/Pages 2 0 R>>',
    '<</Type/Pages/Kids[3 0 R]/Count 1>>',
    `<</Type/Page/Parent 2 0 R/MediaBox[0 0 ${width} ${height}]/Contents 4 0 R/Resources<</Font<</F 5 0 R>>>>>>`,
    `<</Length ${content.length}>>\nstream\n${content}\nendstream`,
    '<</Type/Font/Subtype/Type1/BaseFont/Helvetica/Encoding/WinAnsiEncoding>>',
  ];
  let out = '%PDF-1.4\n';
  const at = objects.map((o, i) => {
    const begins = out.length;
    out += `${i + 1} 0 obj\n${o}\nendobj\n`;
    return begins;
  });
  const table = out.length;
  out += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${at.map((a) => `${String(a).padStart(10, '0')} 00000 n \n`).join('')}`;
  return `${out}trailer\n<</Size ${objects.length + 1}/Root 1 0 R>>\nstartxref\n${table}\n%%EOF\n`;
}

const ROUND = 0.5522847498;
/** A circle by four curves, as most programs draw it. */
export const circle = (x: number, y: number, r: number): string => {
  const k = ROUND * r,
    p = (...v: number[]) => v.map((n) => n.toFixed(4)).join(' ');
  return `${p(x + r, y)} m ${p(x + r, y + k, x + k, y + r, x, y + r)} c ${p(x - k, y + r, x - r, y + k, x - r, y)} c ${p(x - r, y - k, x - k, y - r, x, y - r)} c ${p(x + k, y - r, x + r, y - k, x + r, y)} c h S\n`;
};
export const words = (text: string, x: number, y: number): string =>
  `BT /F 9 Tf ${x} ${y} Td (${text}) Tj ET\n`;
