'use client';

import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState, type KeyboardEvent } from 'react';
import { useSession } from '@/project/context';
import { runOrTell, type Command } from '@/commands/command';
import { keyWords } from '@/commands/key-words';
import { useLately } from '@/commands/lately';

/** What is chosen by the arrows is scrolled to. */
const intoSight = (element: HTMLElement | null) => element?.scrollIntoView({ block: 'nearest' });

/** Finds a command by plain words and runs it. */
export function CommandSearch({ commands, onClose }: { commands: readonly Command[]; onClose(): void }) {
  const session = useSession();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const lately = useLately((s) => s.ids);
  const recent = (c: Command) => (lately.includes(c.id) ? lately.indexOf(c.id) : lately.length);
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean);
  const place = (c: Command) => {
    // Its own name is meant before anything that only holds the same words.
    if (c.short?.toLowerCase() === wanted.join(' ')) return -1;
    const at = c.words.toLowerCase().indexOf(wanted[0] ?? '');
    return at < 0 ? c.words.length : at;
  };
  // What begins with the typed word is meant more often than what only mentions it.
  const all = (c: Command) => `${c.words} ${c.short ?? ''} ${c.also ?? ''}`.toLowerCase();
  const hits = commands
    .filter((c) => wanted.every((w) => all(c).includes(w)))
    // With nothing typed, what was used lately comes first.
    .sort((a, b) => (wanted.length === 0 ? recent(a) - recent(b) : place(a) - place(b)));
  const run = (command: Command | undefined) => {
    if (!command || command.applies?.() === false) return;
    onClose();
    runOrTell(command, session);
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setAt(Math.min(at + 1, hits.length - 1));
    else if (event.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
    else if (event.key === 'Enter') run(hits[at]);
    else return;
    event.preventDefault();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      slotProps={{ paper: { 'aria-label': 'Commands by their words' } }}
      maxWidth="sm"
      sx={{ '& .MuiDialog-container': { alignItems: 'flex-start' } }}
    >
      <Box sx={{ p: 1.5 }}>
        <TextField
          autoFocus
          fullWidth
          value={text}
          placeholder="What do you want to do?"
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
          }}
          onKeyDown={onKey}
          slotProps={{
            htmlInput: {
              'aria-label': 'Find a command',
              role: 'combobox',
              'aria-expanded': true,
              'aria-controls': 'found-commands',
              'aria-activedescendant': hits[at] ? `found-${hits[at].id}` : undefined,
            },
          }}
        />
        <Box
          role="listbox"
          aria-label="Commands"
          id="found-commands"
          tabIndex={0}
          sx={{ mt: 1, maxHeight: 380, overflowY: 'auto' }}
        >
          {hits.map((c, i) => {
            const why = c.why?.() ?? null,
              off = c.applies?.() === false || why !== null;
            return (
              <Box
                key={c.id}
                id={`found-${c.id}`}
                ref={i === at ? intoSight : undefined}
                role="option"
                aria-selected={i === at}
                aria-disabled={off}
                onClick={() => run(c)}
                onMouseEnter={() => setAt(i)}
                sx={{
                  display: 'flex',
                  px: 1,
                  py: 0.75,
                  cursor: off ? 'default' : 'pointer',
                  color: off ? 'text.secondary' : undefined,
                  bgcolor: i === at ? 'action.hover' : undefined,
                }}
              >
                <Typography sx={{ flex: 1 }}>
                  {c.words}
                  {why && i === at && (
                    <Typography component="span" variant="caption" sx={{ display: 'block' }}>
                      {why}
                    </Typography>
                  )}
                </Typography>
                <Typography color="text.secondary">{keyWords(c.key)}</Typography>
              </Box>
            );
          })}
          {hits.length === 0 && (
            <Typography color="text.secondary" sx={{ p: 1 }}>
              No command has all these words. Try fewer.
            </Typography>
          )}
        </Box>
      </Box>
    </Dialog>
  );
}
