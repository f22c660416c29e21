import { create } from 'zustand';
import { MAKING_PARTS, type LedgePart, type MakingPart, type StageId } from '@/commands/command';
import type { Registry } from '@/commands/registry';
import { isInHand } from '@/commands/context';
import type { Table } from '@/table/table';

interface LedgeState {
  /** What is being made while tracing: its keys are meant. */
  making: MakingPart;
  /** What lies open on the ledge in Trace: what is made, or what changes what is there. */
  open: MakingPart | 'change';
  show(part: MakingPart | 'change'): void;
}

const KEPT = 'calque-making';

function kept(): MakingPart {
  try {
    const value = globalThis.localStorage?.getItem(KEPT);
    return MAKING_PARTS.find((p) => p === value) ?? 'building';
  } catch {
    return 'building';
  }
}

export const useLedge = create<LedgeState>((set) => {
  const making = kept();
  return {
    making,
    open: making,
    show: (part) => {
      if (part === 'change') return set({ open: part });
      try {
        globalThis.localStorage?.setItem(KEPT, part);
      } catch {
        // A browser that keeps nothing begins with the building next time.
      }
      set({ open: part, making: part });
    },
  };
});

/** The part of the ledge that is open at a stage; null where there is no ledge. */
export function partAt(stage: StageId, open: LedgePart): LedgePart | null {
  if (stage === 'trace') return open;
  return stage === 'calibrate' || stage === 'check' ? stage : null;
}

/** The part whose keys come first: what is being made has them also while something is selected. */
export function keysOf(stage: StageId, making: MakingPart): LedgePart | undefined {
  return stage === 'calibrate' || stage === 'check' ? stage : stage === 'trace' ? making : undefined;
}

/** What is taken in hand opens its part; what is selected opens what can be done with it; and nothing selected what is being made. */
export function followHand(table: Table, registry: Registry): () => void {
  return table.state.subscribe((now, before) => {
    const { making, open, show } = useLedge.getState();
    if (now.toolId !== before.toolId && now.toolId !== 'select') {
      const parts = registry.list.find((c) => c.on && isInHand(c, now.toolId))?.on ?? [];
      const part = parts.includes(making)
        ? making
        : [...MAKING_PARTS, 'change' as const].find((p) => parts.includes(p));
      if (part) show(part);
      return;
    }
    if (now.selection === before.selection || now.toolId !== 'select') return;
    if (now.selection.size > 0 && before.selection.size === 0) show('change');
    if (now.selection.size === 0 && before.selection.size > 0 && open === 'change') show(making);
  });
}
