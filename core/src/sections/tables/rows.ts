/** Rows of figures as tables print them: a name, then numbers; a dash for what is not printed. */
export function rowsOf(text: string): { name: string; figures: number[] }[] {
  return text
    .trim()
    .split('\n')
    .map((line) => {
      const [name, ...rest] = line.trim().split(/\s+/);
      return { name, figures: rest.map((v) => (v === '-' ? NaN : Number(v))) };
    });
}

/** What is printed, without what is not. */
export const printed = <K extends string>(figures: Record<K, number>): Partial<Record<K, number>> =>
  Object.fromEntries(Object.entries<number>(figures).filter(([, v]) => Number.isFinite(v))) as Partial<
    Record<K, number>
  >;
