/** The value that all share, or null. */
export function shared<T, V>(items: readonly T[], of: (item: T) => V): V | null {
  const first = of(items[0]);
  return items.every((i) => of(i) === first) ? first : null;
}
