/** A table as CSV (RFC 4180: comma, CRLF, quotes doubled). */
export function csvText(rows: readonly (readonly (string | number)[])[]): string {
  return `${rows.map((cells) => cells.map((c) => cell(String(c))).join(',')).join('\r\n')}\r\n`;
}

/** Quotes what needs it; a leading sign that a spreadsheet would run as a formula is disarmed, unless it is a number. */
function cell(text: string): string {
  const safe =
    /^[=+@\t\r]/.test(text) || (text.startsWith('-') && !/^-[\d.]+(e-?\d+)?$/.test(text)) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
}
