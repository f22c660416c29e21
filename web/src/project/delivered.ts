import { create } from 'zustand';

/** How often something has been delivered since the page was opened. */
export const useDelivered = create<{ times: number; again(): void }>((set) => ({
  times: 0,
  again: () => set(({ times }) => ({ times: times + 1 })),
}));
