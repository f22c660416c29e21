'use client';

import { create } from 'zustand';

/** What is shown of a part over the plane that is drawn on. */
export interface OnPlane {
  /** The solid is held against the sheet. */
  held: boolean;
  /** The edges of the solid are found by picks. */
  edges: boolean;
  /** How near counts as the same, millimetres; null: by the scale of the sheet. */
  slack: number | null;
  /** The way to move that is shown, by its number; null: none. */
  way: number | null;
}

export const useOnPlane = create<OnPlane>(() => ({ held: false, edges: false, slack: null, way: null }));
export const toggleHeld = (): void => useOnPlane.setState(({ held }) => ({ held: !held }));
export const toggleEdges = (): void => useOnPlane.setState(({ edges }) => ({ edges: !edges }));
export const setSheetSlack = (slack: number): void => useOnPlane.setState({ slack });
export const showWay = (way: number | null): void => useOnPlane.setState({ way });
