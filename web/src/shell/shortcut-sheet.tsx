'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState, type KeyboardEvent } from 'react';
import type { Command, LedgePart } from '@/commands/command';
import { ShowLink } from '@/commands/show-link';
import { keyWords } from '@/commands/key-words';
import { chordOf } from '@/commands/keys';
import { useOwnKeys, whyNoKey } from '@/commands/own-keys';
import { clash } from '@/commands/registry';
import { SURFACE_KEYS } from './commands';

/** Groups of the sheet, in order: what is the same everywhere, then each part of the ledge. */
const GROUPS: readonly (readonly [string, (c: Command) => boolean])[] = [
  ['Stages', (c) => c.group === 'Stages'],
  ['View and help', (c) => !c.on && (c.group === 'View' || c.group === 'Help')],
  ['Everywhere', (c) => !c.on && (c.group === 'Edit' || c.group === 'Tools')],
  ['Change', (c) => isOf(c, 'change')],
  ['Building', (c) => isOf(c, 'building')],
  ['Frame', (c) => isOf(c, 'frame')],
  ['Drawing', (c) => isOf(c, 'drawing') && !isOf(c, 'building')],
  ['Grid and levels', (c) => isOf(c, 'levels')],
  ['Calibrate', (c) => isOf(c, 'calibrate')],
  ['Check', (c) => isOf(c, 'check') && !isOf(c, 'building')],
];
const isOf = (c: Command, part: LedgePart) => c.on?.includes(part) ?? false;
const canNow = (c: Command) => (c.applies?.() ?? true) && (c.why?.() ?? null) === null;

/** Every key and what it does; keys of one's own are given here. */
export function ShortcutSheet({ commands, onClose }: { commands: readonly Command[]; onClose(): void }) {
  const own = useOwnKeys();
  const [text, setText] = useState('');
  const [nowOnly, setNowOnly] = useState(false);
  const [asked, setAsked] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const wanted = (shown: string) => words.every((w) => shown.toLowerCase().includes(w));
  const give = (command: Command, key: string) => {
    const problem = whyNoKey(key),
      other = commands.find((c) => c.id !== command.id && clash({ ...command, key, otherKey: undefined }, c));
    if (problem) return setWhy(problem);
    if (other?.fixedKey) return setWhy(`${keyWords(key)} always means “${other.words}”: press another.`);
    setAsked(null);
    const wasOwn = other !== undefined && Object.hasOwn(own.keys, other.id);
    // A key has one owner: what another was given goes back to what it came with.
    if (wasOwn) own.set(other.id, null);
    setWhy(
      other
        ? `${keyWords(key)} was the key of “${other.words}”, which has ${wasOwn ? 'the key that it came with again' : 'none now'}.`
        : null,
    );
    own.set(command.id, key);
  };
  const surface = nowOnly ? [] : SURFACE_KEYS.filter(([key, what]) => wanted(`${key} ${what}`));
  return (
    <Dialog
      open
      // While a key is asked for, Esc gives that up and not the sheet.
      onClose={(_, reason) => {
        if (reason !== 'escapeKeyDown' || asked === null) onClose();
      }}
      maxWidth="lg"
      fullWidth
      aria-labelledby="keys-title"
      className="prints-alone"
    >
      <DialogTitle id="keys-title" sx={{ display: 'flex', gap: 2, alignItems: 'center', pb: 1 }}>
        <span>Keys and what they do</span>
        <TextField
          autoFocus
          value={text}
          placeholder="Find a key or a word"
          onChange={(e) => setText(e.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Find a key or a word' } }}
          sx={{ flex: 1, maxWidth: 320 }}
          className="not-printed"
        />
        <FormControlLabel
          control={<Switch size="small" checked={nowOnly} onChange={(e) => setNowOnly(e.target.checked)} />}
          label="only what applies now"
          className="not-printed"
        />
      </DialogTitle>
      <DialogContent
        tabIndex={0}
        aria-label="Keys"
        sx={{
          columnWidth: 330,
          columnGap: 3,
          '@media print': { columns: 4, fontSize: 7, overflow: 'visible' },
        }}
      >
        {GROUPS.map(([name, is]) => {
          const rows = commands.filter(
            (c) =>
              is(c) &&
              (c.key || words.length > 0 || own.keys[c.id]) &&
              wanted(`${keyWords(c.key)} ${c.words} ${c.short ?? ''} ${c.also ?? ''} ${name}`) &&
              (!nowOnly || canNow(c)),
          );
          return (
            rows.length > 0 && (
              <Group key={name} name={name}>
                {rows.map((c) => (
                  <KeyRow
                    key={c.id}
                    command={c}
                    isOwn={Object.hasOwn(own.keys, c.id)}
                    asked={asked === c.id}
                    onAsk={() => {
                      setAsked(asked === c.id ? null : c.id);
                      setWhy(null);
                    }}
                    onKey={(key) => give(c, key)}
                    onBack={() => own.set(c.id, null)}
                  />
                ))}
              </Group>
            )
          );
        })}
        {surface.length > 0 && (
          <Group name="On the drawing">
            {surface.map(([key, what]) => (
              <Box key={what} sx={ROW}>
                <Typography sx={KEY}>{key}</Typography>
                <Typography variant="body2">{what}</Typography>
              </Box>
            ))}
          </Group>
        )}
      </DialogContent>
      <DialogActions className="not-printed">
        <Typography role="status" sx={{ flex: 1, color: 'assumed', px: 1 }}>
          {why ??
            (asked ? 'Press the key that it is to have, a comma and a letter for two strokes, or Esc.' : '')}
        </Typography>
        <Button onClick={own.clear}>All keys as they came</Button>
        <Button onClick={() => window.print()}>Print</Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

const ROW = { display: 'flex', gap: 1.25, py: 0.15, breakInside: 'avoid', alignItems: 'baseline' } as const;
const KEY = { width: 92, flex: 'none', fontWeight: 650, textAlign: 'right', fontSize: 12.5 } as const;

function Group({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <Box component="section" sx={{ mb: 1.5 }}>
      <Typography variant="h3" sx={{ mb: 0.25, breakAfter: 'avoid' }}>
        {name}
      </Typography>
      {children}
    </Box>
  );
}

function KeyRow({
  command: c,
  isOwn,
  asked,
  onAsk,
  onKey,
  onBack,
}: {
  command: Command;
  isOwn: boolean;
  asked: boolean;
  onAsk(): void;
  onKey(key: string): void;
  onBack(): void;
}) {
  const [comma, setComma] = useState(false);
  const waits = comma ? ', …' : '…';
  const listen = (event: KeyboardEvent) => {
    if (!asked || ['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    const chord = chordOf(event.nativeEvent);
    if (chord === 'Escape') onAsk();
    else if (chord === ',' && !comma) return setComma(true);
    else onKey(comma ? `, ${chord}` : chord);
    setComma(false);
  };
  return (
    <Box sx={ROW}>
      <ButtonBase
        disabled={c.fixedKey}
        onClick={onAsk}
        onKeyDown={listen}
        aria-pressed={asked}
        aria-label={`Key of “${c.words}”: ${keyWords(c.key) || 'none'}; change it`}
        title="Press to give it another key"
        sx={{
          ...KEY,
          display: 'block',
          minHeight: 24,
          px: 0.5,
          color: isOwn ? 'found' : undefined,
          outline: asked ? '2px solid' : undefined,
          outlineColor: 'now',
          '&:hover': { bgcolor: 'action.hover' },
        }}
      >
        {asked ? waits : keyWords(c.key) || '–'}
      </ButtonBase>
      <Typography variant="body2" sx={{ flex: 1, color: canNow(c) ? undefined : 'text.secondary' }}>
        {c.words}
        <Box component="span" className="not-printed">
          <ShowLink command={c} sx={{ py: 0, px: 0.75, ml: 0.5, fontSize: 11.5, minHeight: 24 }} />
        </Box>
        {isOwn && (
          <Button onClick={onBack} sx={{ py: 0, px: 0.75, ml: 0.5, fontSize: 11.5 }} className="not-printed">
            as it came
          </Button>
        )}
      </Typography>
    </Box>
  );
}
