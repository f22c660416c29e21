/** Half a surrogate pair: no character, and nothing that UTF-8 or the database can hold. */
const HALF_PAIR = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
/** Control characters that no format can hold: all but tab and the ends of lines (XML 1.0, 2.2). */
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/g;
const REPLACEMENT = '\ufffd';
const ELLIPSIS = '…';

/** Are there neither half surrogate pairs nor control characters in the text? */
export const isSoundText = (text: string): boolean => text.search(HALF_PAIR) < 0 && text.search(CONTROL) < 0;

/** The text with half surrogate pairs and control characters replaced by the replacement character. */
export const withoutBroken = (text: string): string =>
  text.replace(HALF_PAIR, REPLACEMENT).replace(CONTROL, REPLACEMENT);

/** At most `most` UTF-16 units, the last an ellipsis where some are cut; a pair is never cut in two. */
export function shortened(text: string, most: number): string {
  if (text.length <= most) return text;
  return `${text
    .slice(0, most - 1)
    .replace(/[\ud800-\udbff]$/, '')
    .trimEnd()}${ELLIPSIS}`;
}

/** A name on one line as it may be stored: sound, trimmed, shortened; `otherwise` where nothing is left of it. */
export function soundName(text: string, most: number, otherwise = 'Unnamed'): string {
  const line = withoutBroken(text.replace(/[\t\n\r\u2028\u2029]+/g, ' ')).trim();
  return line === '' ? otherwise : shortened(line, most);
}

/** A remark that may be empty, as it may be stored: sound, trimmed, shortened. */
export const soundNote = (text: string, most: number): string => shortened(withoutBroken(text).trim(), most);

/** A text of the drawing: its spaces are the author's. */
export const soundBody = (text: string, most: number): string => shortened(withoutBroken(text), most);

/** Every text of a JSON value made sound, keys of objects too; the very value where nothing was broken. */
export function soundValue<T>(value: T): T {
  if (typeof value === 'string') return (isSoundText(value) ? value : withoutBroken(value)) as T;
  if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value)) return value;
  if (Array.isArray(value)) {
    const made = value.map((v: unknown) => soundValue(v));
    return (made.some((v, i) => v !== value[i]) ? made : value) as T;
  }
  const entries = Object.entries(value),
    made = entries.map(([key, v]) => [soundValue(key), soundValue(v as unknown)] as const);
  return (
    made.some(([key, v], i) => key !== entries[i][0] || v !== entries[i][1])
      ? Object.fromEntries(made)
      : value
  ) as T;
}
