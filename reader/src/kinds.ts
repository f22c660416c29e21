/** What a file is, told by its bytes; its name proves nothing. */
export type FileKind = 'pdf' | 'png' | 'jpeg' | 'tiff' | 'webp' | 'dxf' | 'svg' | 'step';
export const PICTURE_KINDS: readonly FileKind[] = ['png', 'jpeg', 'tiff', 'webp'];

/** A PDF header may stand anywhere in the first kilobyte (ISO 32000-1, annex H.3). */
const HEADER_WITHIN = 1024;
/** Comments and declarations may stand before the first element of an SVG. */
const ROOT_WITHIN = 8192;

export function kindOf(bytes: Uint8Array): FileKind | null {
  const starts = (...magic: number[]) => magic.every((b, i) => bytes[i] === b);
  if (starts(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
  if (starts(0xff, 0xd8, 0xff)) return 'jpeg';
  // Classic and big TIFF, either byte order.
  if (
    starts(0x49, 0x49, 0x2a, 0) ||
    starts(0x4d, 0x4d, 0, 0x2a) ||
    starts(0x49, 0x49, 0x2b, 0) ||
    starts(0x4d, 0x4d, 0, 0x2b)
  )
    return 'tiff';
  const head = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(ROOT_WITHIN, bytes.length));
  if (head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WEBP') return 'webp';
  if (head.subarray(0, HEADER_WITHIN).includes('%PDF-', 0, 'latin1')) return 'pdf';
  const text = textStart(head);
  // Group code 0 with a section, perhaps behind comments (group code 999).
  if (/^\s*(?:999[ \t]*\r?\n[^\n]*\n\s*)*0[ \t]*\r?\n[ \t]*SECTION\b/.test(text)) return 'dxf';
  if (/^\s*ISO-10303-21\s*;/.test(text)) return 'step';
  if (beginsWithSvg(text)) return 'svg';
  return null;
}

/** What may stand before the first element of an XML file, and how each ends; an inner part of a DOCTYPE ends by itself. */
const PROLOGUE: readonly [string, string][] = [
  ['<!--', '-->'],
  ['<?', '?>'],
  ['<!doctype', '>'],
];

/** Is the first element an svg? Steps over what may stand before it, each once: a pattern that tries all ways of doing so would take for ever. */
function beginsWithSvg(text: string): boolean {
  const lower = text.toLowerCase();
  for (let at = 0; ;) {
    while (at < lower.length && /\s/.test(lower[at])) at++;
    const found = PROLOGUE.find(([start]) => lower.startsWith(start, at));
    if (!found) return /^<(?:[\w-]{1,40}:)?svg[\s>]/.test(lower.slice(at, at + 60));
    const [start, end] = found;
    const inner = start === '<!doctype' ? lower.indexOf('[', at) : -1,
      plain = lower.indexOf(end, at + start.length);
    const from = inner >= 0 && inner < plain ? lower.indexOf(']', inner) : at + start.length;
    const close = from < 0 ? -1 : lower.indexOf(end, from);
    if (close < 0) return false;
    at = close + end.length;
  }
}

/** The beginning as text; UTF-16 is told by its mark. */
function textStart(head: Buffer): string {
  if (head[0] === 0xff && head[1] === 0xfe) return head.toString('utf16le').slice(1);
  return head.toString('utf8').replace(/^\ufeff/, '');
}

export const isBinaryDxf = (bytes: Uint8Array): boolean =>
  Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(22, bytes.length))
    .toString('latin1')
    .includes('Binary DXF');
