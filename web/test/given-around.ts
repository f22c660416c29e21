/** What commands open around the drawing: nothing, in tests. */
export const AROUND = {
  foldStack: () => {},
  foldCard: () => {},
  help: () => {},
  show: () => {},
  openList: () => {},
  openSpace: () => {},
  openTakeoff: () => {},
};
