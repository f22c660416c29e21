'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { group, setFields, type Note } from '@calque/core/model';
import { useSession } from '@/project/context';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

/** What one says, and how high the letters of all are. */
export function TextFields({ chosen }: { chosen: readonly Note[] }) {
  return (
    <>
      {chosen.length === 1 && <TextOf key={`${chosen[0].id} ${chosen[0].text}`} note={chosen[0]} />}
      <LetterHeight chosen={chosen} />
    </>
  );
}

/** The height of letters. */
function LetterHeight({ chosen }: { chosen: readonly Note[] }) {
  const session = useSession();
  return (
    <LengthField
      label="Height of letters"
      value={shared(chosen, (e) => e.height)}
      onChange={(height) =>
        session.do(group(chosen.map((e) => setFields<Note>(e, { height }))), 'Change the height of letters')
      }
    />
  );
}

function TextOf({ note }: { note: Note }) {
  const session = useSession();
  const [text, setText] = useState(note.text);
  const keep = () => {
    if (text.trim() !== '' && text !== note.text)
      session.do(setFields(note, { text: text.trim() }), 'Change a text');
  };
  return (
    <TextField
      fullWidth
      label="Text"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
      }}
    />
  );
}
