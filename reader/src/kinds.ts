/** What a file is, told by its bytes; its name proves nothing. */
export type FileKind = 'pdf' | 'png' | 'jpeg';

/** A PDF header may stand anywhere in the first kilobyte (ISO 32000-1, annex H.3). */
const HEADER_WITHIN = 1024;

export function kindOf(bytes: Uint8Array): FileKind | null {
  const starts = (...magic: number[]) => magic.every((b, i) => bytes[i] === b);
  if (starts(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
  if (starts(0xff, 0xd8, 0xff)) return 'jpeg';
  const head = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(HEADER_WITHIN, bytes.length));
  return head.includes('%PDF-', 0, 'latin1') ? 'pdf' : null;
}
