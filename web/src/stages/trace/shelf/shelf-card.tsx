'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import type { ShelfThing } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { isTaken, renameOnShelf, takeOffShelf, useShelf } from '@/project/shelf';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import type { OnShelf } from '@/project/wire';
import { useTable } from '@/table/context';
import { WordsField } from '@/ui/words-field';
import { KeepOpening } from './keep-opening';
import { ShelfPicture } from './shelf-picture';
import { takeThing } from './take-thing';

const WORDS: Record<ShelfThing['type'], string> = {
  wallType: 'wall type',
  assembly: 'group',
  opening: 'opening',
};

/** What is kept for all projects: found by name, taken into this one, renamed, thrown away. */
export function ShelfCard() {
  const { things, isKnown, state, why, fetch } = useShelf();
  const [words, setWords] = useState('');
  useEffect(() => {
    void fetch();
    const again = () => void fetch();
    // Another tab may have changed it.
    window.addEventListener('focus', again);
    return () => window.removeEventListener('focus', again);
  }, [fetch]);
  const wanted = words.trim().toLowerCase(),
    found = things.filter(
      ({ thing }) => thing.name.toLowerCase().includes(wanted) || WORDS[thing.type].includes(wanted),
    );
  return (
    <Box data-testid="shelf">
      <Typography variant="h3" sx={{ mb: 0.75, pr: 4 }}>
        Shelf{isKnown && `: ${things.length === 0 ? 'nothing on it yet' : count(things.length, 'thing')}`}
      </Typography>
      <Typography color="text.secondary" variant="caption" sx={{ display: 'block', mb: 1 }}>
        For all projects of this installation. A project keeps what it took, also when the shelf changes.
      </Typography>
      {things.length > 4 && (
        <TextField
          fullWidth
          label="Find"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          sx={{ mb: 1 }}
        />
      )}
      {state === 'failed' && (
        <Typography role="alert" sx={{ color: 'error.main' }}>
          {why} <Button onClick={() => void fetch()}>Try again</Button>
        </Typography>
      )}
      {things.length === 0 && state === 'there' && (
        <Typography color="text.secondary">
          Put a wall type or a group on it where they are listed, or the figures of the next opening below.
        </Typography>
      )}
      {found.map((one) => (
        <ThingRow key={`${one.thing.id} ${one.version}`} one={one} />
      ))}
      {things.length > 0 && found.length === 0 && (
        <Typography color="text.secondary">Nothing of that name.</Typography>
      )}
      <KeepOpening />
    </Box>
  );
}

const small = { py: 0, px: 0.75, minWidth: 0 } as const;

function ThingRow({ one }: { one: OnShelf }) {
  const session = useSession(),
    table = useTable(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    { thing } = one;
  const [renaming, setRenaming] = useState(false);
  const size =
    thing.type === 'opening'
      ? `${thing.width === null ? 'as wide as the plan has it' : formatLengthWithUnit(thing.width, style)}, ${formatLengthWithUnit(thing.sill, style)} to ${formatLengthWithUnit(thing.head, style)}`
      : thing.type === 'wallType'
        ? count(thing.layers.length, 'layer')
        : count(thing.elements.length, 'element');
  return (
    <Box data-testid="shelf-thing" sx={{ borderTop: 1, borderColor: 'edge', py: 0.75 }}>
      <ShelfPicture thing={thing} />
      <Typography sx={{ overflowWrap: 'anywhere', mt: 0.5 }}>
        {thing.name}{' '}
        <Typography component="span" color="text.secondary">
          {thing.type === 'opening' ? thing.kind : WORDS[thing.type]}, {size}
          {isTaken(model, thing) ? ', in this project' : ''}
        </Typography>
      </Typography>
      {renaming ? (
        <WordsField
          label="Name"
          value={thing.name}
          onChange={(name) => {
            setRenaming(false);
            void renameOnShelf(session, one, name);
          }}
        />
      ) : (
        <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
          <Button sx={small} onClick={() => takeThing(table, thing)}>
            Use
          </Button>
          <Button sx={small} onClick={() => setRenaming(true)}>
            Rename
          </Button>
          <Button sx={small} onClick={() => void takeOffShelf(session, one)}>
            Take off
          </Button>
        </Box>
      )}
    </Box>
  );
}
