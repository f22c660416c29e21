import { useCallback, useState } from 'react';

const KEPT = 'calque-folded';

interface Folded {
  stack: boolean;
  card: boolean;
}

function kept(): Folded {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(KEPT) ?? '{}');
    const { stack, card } = (typeof value === 'object' && value !== null ? value : {}) as Partial<Folded>;
    return { stack: stack === true, card: card === true };
  } catch {
    return { stack: false, card: false };
  }
}

/** What is folded stays folded, until it is opened; in the next project too. */
export function useFolded(): [Folded, (what: keyof Folded) => void] {
  const [folded, setFolded] = useState(kept);
  const flip = useCallback(
    (what: keyof Folded) =>
      setFolded((now) => {
        const next = { ...now, [what]: !now[what] };
        try {
          localStorage.setItem(KEPT, JSON.stringify(next));
        } catch {
          // A browser that keeps nothing forgets this too.
        }
        return next;
      }),
    [],
  );
  return [folded, flip];
}
