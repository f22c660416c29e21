'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { group, setFields, type SymbolMark } from '@calque/core/model';
import { useSession } from '@/project/context';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

/** What one says, and how large all are. */
export function SymbolFields({ chosen }: { chosen: readonly SymbolMark[] }) {
  const session = useSession();
  return (
    <>
      {chosen.length === 1 && <Says key={`${chosen[0].id} ${chosen[0].text}`} mark={chosen[0]} />}
      <LengthField
        label="Size"
        value={shared(chosen, (e) => e.size)}
        onChange={(size) =>
          session.do(
            group(chosen.map((e) => setFields<SymbolMark>(e, { size }))),
            'Change the size of a mark',
          )
        }
      />
    </>
  );
}

function Says({ mark }: { mark: SymbolMark }) {
  const session = useSession();
  const [text, setText] = useState(mark.text);
  const keep = () => {
    if (text.trim() !== mark.text)
      session.do(setFields(mark, { text: text.trim() }), 'Change what a mark says');
  };
  return (
    <TextField
      label="Says"
      value={text}
      slotProps={{ htmlInput: { maxLength: 200 } }}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
      }}
      sx={{ width: 130 }}
    />
  );
}
