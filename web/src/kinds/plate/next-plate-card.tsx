'use client';

import Box from '@mui/material/Box';
import { useTable } from '@/table/context';
import { TWO_COLUMNS } from '@/ui/columns';
import { LengthField } from '@/ui/length-field';
import { WordsField } from '@/ui/words-field';
import { useNextPlate, type NextPlate } from './next-plate';

/** What the next plate will be: how thick, how far out of its plane, what it is called. */
export function NextPlateCard() {
  const table = useTable(),
    next = useNextPlate();
  const set = (fields: Partial<NextPlate>) => {
    useNextPlate.setState(fields);
    table.repaint('overlay');
  };
  return (
    <Box sx={{ ...TWO_COLUMNS, mb: 1 }}>
      <LengthField label="Thickness" value={next.thickness} onChange={(thickness) => set({ thickness })} />
      <LengthField
        label="Out of plane"
        positive={false}
        value={next.rise}
        onChange={(rise) => set({ rise })}
      />
      <WordsField label="Called" mayBeEmpty value={next.name} onChange={(name) => set({ name })} />
    </Box>
  );
}
