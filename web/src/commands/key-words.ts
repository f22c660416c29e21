/** A key as it is shown beside a command. */
export function keyWords(key: string | undefined): string {
  if (!key) return '';
  return key
    .split(' ')
    .map((stroke) =>
      stroke
        .split('+')
        .map((part) => (part.length === 1 ? part.toUpperCase() : part))
        .join(' '),
    )
    .join(' ');
}
