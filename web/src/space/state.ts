import { create } from 'zustand';

/** By what the building is cut open. */
export type Cut =
  | { by: 'nothing' }
  /** Share of the way from the lowest place to the highest. */
  | { by: 'height'; share: number }
  | { by: 'plane'; planeId: string }
  /** All but what lies about these elements. */
  | { by: 'box'; ids: readonly string[] };

/** How the model is looked at; kept while the page is open. */
interface SpaceState {
  hidden: {
    storeys: readonly string[];
    types: readonly string[];
    layers: readonly string[];
    sheets: boolean;
  };
  cut: Cut;
  parallel: boolean;
}

export const useSpaceState = create<SpaceState>(() => ({
  hidden: { storeys: [], types: [], layers: [], sheets: false },
  cut: { by: 'nothing' },
  parallel: false,
}));

/** Hides what is shown, or shows what is hidden. */
export function turnOver(what: 'storeys' | 'types' | 'layers', id: string): void {
  useSpaceState.setState(({ hidden }) => ({
    hidden: {
      ...hidden,
      [what]: hidden[what].includes(id) ? hidden[what].filter((k) => k !== id) : [...hidden[what], id],
    },
  }));
}
