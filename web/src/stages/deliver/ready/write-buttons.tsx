'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { PaperDrawing } from '@calque/core/model';
import { useSession } from '@/project/context';
import { useDelivered } from '@/project/delivered';
import { useTable } from '@/table/context';
import { saveText } from '@/ui/save-text';
import { readyPdf, readySvgForWriting } from './write';

/** Writes a ready drawing and says what could not be carried. */
export function WriteButtons({ drawing, isEmpty }: { drawing: PaperDrawing; isEmpty: boolean }) {
  const session = useSession(),
    table = useTable();
  const [writing, setWriting] = useState<string | null>(null),
    [told, setTold] = useState<string[]>([]);
  const fileName = [drawing.number, drawing.name].filter((t) => t !== '').join(' ');
  const write = async (word: string, make: () => Promise<string[]>) => {
    setWriting(word);
    setTold([]);
    try {
      const words = await make();
      useDelivered.getState().again();
      setTold([`The ${word} was written.`, ...words]);
    } catch (error) {
      setTold([`The ${word} was not written: ${error instanceof Error ? error.message : String(error)}`]);
    } finally {
      setWriting(null);
    }
  };
  const pdf = () =>
    write('PDF', async () => {
      const { bytes, told: words } = await readyPdf(table, session, drawing);
      saveText(`${fileName}.pdf`, bytes, 'application/pdf');
      return words;
    });
  const svg = () =>
    write('SVG', async () => {
      const { svg: text, whole } = await readySvgForWriting(table, session.state.model, drawing);
      saveText(`${fileName}.svg`, text, 'image/svg+xml');
      return whole ? [] : ['A sheet was not drawn to the end in time: look at it closely.'];
    });
  return (
    <>
      <Button variant="contained" disabled={isEmpty || writing !== null} onClick={() => void pdf()}>
        Write PDF
      </Button>
      <Button variant="outlined" disabled={isEmpty || writing !== null} onClick={() => void svg()}>
        Write SVG
      </Button>
      <Typography role="status" variant="caption" color="text.secondary" sx={{ width: '100%', order: -1 }}>
        {writing ? `The ${writing} is being written …` : told.join(' ')}
      </Typography>
    </>
  );
}
