'use client';

import { create } from 'zustand';
import type { ModelPoint } from '@calque/core/geometry';
import type { EdgeName } from '@calque/core/model';

/** What is chosen in the picture of a part, and which of its features is open. */
export interface PartUi {
  featureId: string | null;
  faces: readonly string[];
  edges: readonly EdgeName[];
  /** Places that are lit up. */
  lit: readonly ModelPoint[];
}

const NOTHING: PartUi = { featureId: null, faces: [], edges: [], lit: [] };

export const usePartUi = create<PartUi>(() => NOTHING);

export const openFeature = (featureId: string | null): void => usePartUi.setState({ featureId });
export const chooseNothing = (): void => usePartUi.setState({ faces: [], edges: [], lit: [] });

const sameEdge = (a: EdgeName, b: EdgeName): boolean =>
  a.between.every((n, i) => n === b.between[i]) && (a.near ?? []).join() === (b.near ?? []).join();

/** Chooses a face, or lets it go. */
export const flipFace = (name: string): void =>
  usePartUi.setState(({ faces }) => ({
    faces: faces.includes(name) ? faces.filter((f) => f !== name) : [...faces, name],
  }));

/** Chooses edges as well, or lets them go where all of them are chosen. */
export const flipEdges = (names: readonly EdgeName[]): void =>
  usePartUi.setState(({ edges }) => {
    const all = names.every((n) => edges.some((e) => sameEdge(e, n)));
    return {
      edges: all
        ? edges.filter((e) => !names.some((n) => sameEdge(e, n)))
        : [...edges, ...names.filter((n) => !edges.some((e) => sameEdge(e, n)))],
    };
  });
/** Chooses these edges alone. */
export const chooseEdges = (edges: readonly EdgeName[]): void =>
  usePartUi.setState({ edges, faces: [], lit: [] });
export const isChosenEdge = (edges: readonly EdgeName[], name: EdgeName): boolean =>
  edges.some((e) => sameEdge(e, name));
