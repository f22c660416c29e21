/** Fields of a card, two beside one another. */
export const TWO_COLUMNS = {
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)',
  columnGap: 1,
  rowGap: 1.25,
  alignItems: 'start',
  '& .MuiTextField-root': { width: '100%' },
} as const;
