'use client';

import { createContext, useContext, useMemo } from 'react';
import { useStore } from 'zustand';
import type { ProjectSession, ProjectState } from './session';

export const SessionContext = createContext<ProjectSession | null>(null);

export function useSession(): ProjectSession {
  const session = useContext(SessionContext);
  if (!session) throw new Error('There is no open project around this component.');
  return session;
}

/** A part of the project's state; the selector must give the same value while nothing of it changes. */
export function useProject<T>(select: (state: ProjectState) => T): T {
  return useStore(useSession().store, select);
}

/** As useProject for values that are made anew each time: kept while the model is the same. `make` must be a stable function. */
export function useFromModel<T>(make: (model: ProjectState['model']) => T): T {
  const model = useProject((s) => s.model);
  return useMemo(() => make(model), [make, model]);
}
