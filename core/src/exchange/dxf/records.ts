/** One entity, table entry or section head of a DXF: its group codes with their values, in order. */
export interface DxfRecord {
  type: string;
  pairs: [number, string][];
}

/** Splits an ASCII DXF into records: each begins at a group code 0. Lines that are no pairs end the reading. */
export function dxfRecords(source: string): DxfRecord[] {
  const lines = source.split(/\r\n|\n|\r/);
  const records: DxfRecord[] = [];
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const head = lines[i].trim();
    if (!/^-?\d+$/.test(head)) break;
    const code = Number(head);
    if (code === 999) continue;
    if (code === 0) records.push({ type: lines[i + 1].trim(), pairs: [] });
    else
      records[records.length - 1]?.pairs.push([
        code,
        code < 10 || (code >= 300 && code < 370) ? lines[i + 1] : lines[i + 1].trim(),
      ]);
  }
  return records;
}

export const text = (r: DxfRecord, code: number): string =>
  r.pairs.find(([c]) => c === code)?.[1].trim() ?? '';

/** The first finite value of a code, or what is usual. */
export function number(r: DxfRecord, code: number, usual = 0): number {
  for (const [c, value] of r.pairs) {
    if (c !== code) continue;
    const v = Number(value);
    if (value !== '' && Number.isFinite(v)) return v;
  }
  return usual;
}

export const numbers = (r: DxfRecord, code: number): number[] =>
  r.pairs
    .filter(([c]) => c === code)
    .map(([, v]) => Number(v))
    .filter(Number.isFinite);
