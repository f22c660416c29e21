'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { setFields, type GridLine } from '@calque/core/model';
import { useSession } from '@/project/context';

/** The name of one. */
export function GridLineFields({ chosen }: { chosen: readonly GridLine[] }) {
  return chosen.length === 1 ? <NameOf key={`${chosen[0].id} ${chosen[0].name}`} line={chosen[0]} /> : null;
}

function NameOf({ line }: { line: GridLine }) {
  const session = useSession();
  const [name, setName] = useState(line.name);
  const keep = () => {
    if (name.trim() !== '' && name.trim() !== line.name)
      session.do(setFields(line, { name: name.trim() }), 'Name a grid line');
  };
  return (
    <TextField
      label="Name"
      value={name}
      onChange={(e) => setName(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
      }}
      sx={{ width: 110 }}
    />
  );
}
