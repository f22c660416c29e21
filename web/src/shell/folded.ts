import useMediaQuery from '@mui/material/useMediaQuery';
import { useCallback, useState } from 'react';

const KEPT = 'calque-folded';
/** On a narrow page (200 % zoom of a small screen) both are folded until somebody opens them: the drawing comes first. */
const NARROW = '(max-width: 899px)',
  KEPT_NARROW = 'calque-folded-narrow';

interface Folded {
  stack: boolean;
  card: boolean;
}

function kept(key: string): Folded {
  const usual = key === KEPT_NARROW;
  try {
    const value: unknown = JSON.parse(localStorage.getItem(key) ?? '{}');
    const { stack, card } = (typeof value === 'object' && value !== null ? value : {}) as Partial<Folded>;
    const said = (value: unknown) => (typeof value === 'boolean' ? value : usual);
    return { stack: said(stack), card: said(card) };
  } catch {
    return { stack: usual, card: usual };
  }
}

/** What is folded stays folded, until it is opened; in the next project too. */
export function useFolded(): [Folded, (what: keyof Folded) => void] {
  const key = useMediaQuery(NARROW, { noSsr: true }) ? KEPT_NARROW : KEPT;
  const [changed, setChanged] = useState<Record<string, Folded>>({});
  const folded = changed[key] ?? kept(key);
  const flip = useCallback(
    (what: keyof Folded) =>
      setChanged((all) => {
        const now = all[key] ?? kept(key),
          next = { ...now, [what]: !now[what] };
        try {
          localStorage.setItem(key, JSON.stringify(next));
        } catch {
          // A browser that keeps nothing forgets this too.
        }
        return { ...all, [key]: next };
      }),
    [key],
  );
  return [folded, flip];
}
