'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { PaperDrawing } from '@calque/core/model';
import { doubtsOf, layPaper } from '@calque/core/ready';
import { PAPER_NAMES, type PaperName } from '@calque/core/papers';
import { useProject, useSession } from '@/project/context';
import { WordsField } from '@/ui/words-field';
import { AddViews } from './add-views';
import { changeDrawing, changeView, removeDrawing } from './changes';
import { PaperPreview } from './paper-preview';
import { useViewName, ViewFields } from './view-fields';
import { WriteButtons } from './write-buttons';

/** A ready drawing: the paper as it will print, and beside it what stands on it. */
export function ReadyDesk({ drawing, onClose }: { drawing: PaperDrawing; onClose(): void }) {
  const session = useSession(),
    model = useProject((s) => s.model);
  const [chosen, setChosen] = useState<string | null>(drawing.views[0]?.id ?? null);
  const laid = layPaper(model, drawing),
    doubts = doubtsOf(laid);
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth={false}
      onKeyDown={(e) => {
        const typing = e.target instanceof HTMLInputElement && e.target.type === 'text';
        if (typing || !(e.ctrlKey || e.metaKey)) return;
        const key = e.key.toLowerCase();
        if (key === 'z' && !e.shiftKey) session.undo();
        else if (key === 'y' || (key === 'z' && e.shiftKey)) session.redo();
        else return;
        e.preventDefault();
      }}
      slotProps={{
        paper: {
          'aria-label': `Ready drawing ${drawing.name}`,
          sx: { width: '96vw', height: '94vh', maxHeight: '94vh', flexDirection: 'row' },
        },
      }}
    >
      <Box sx={{ flex: 1, minWidth: 0, display: 'flex', bgcolor: 'table', p: 2.5 }}>
        <PaperPreview
          drawing={drawing}
          laid={laid}
          chosen={chosen}
          onChoose={setChosen}
          onMove={(id, at) => changeView(session, drawing, id, { at })}
        />
      </Box>
      <Box
        sx={{
          width: 320,
          flexShrink: 0,
          borderLeft: 1,
          borderColor: 'edge',
          display: 'flex',
          flexDirection: 'column',
          minHeight: 0,
        }}
      >
        <Box sx={{ flex: 1, overflowY: 'auto', p: 2, display: 'flex', flexDirection: 'column', gap: 1.25 }}>
          <TitleFields drawing={drawing} />
          <Views drawing={drawing} chosen={chosen} onChoose={setChosen} laid={laid} />
          <AddViews drawing={drawing} onAdd={setChosen} />
          {doubts.length > 0 && (
            <Box role="status" sx={{ borderTop: 1, borderColor: 'edge', pt: 1 }}>
              {doubts.map((words) => (
                <Typography key={words} variant="caption" sx={{ display: 'block', color: 'assumed' }}>
                  {words}
                </Typography>
              ))}
            </Box>
          )}
        </Box>
        <Box sx={{ borderTop: 1, borderColor: 'edge', p: 1.5, display: 'flex', flexWrap: 'wrap', gap: 1 }}>
          <WriteButtons drawing={drawing} isEmpty={laid.views.length === 0} />
          <Button
            color="inherit"
            onClick={() => {
              removeDrawing(session, drawing);
              onClose();
            }}
          >
            Remove
          </Button>
          <Button color="inherit" onClick={onClose} sx={{ ml: 'auto' }}>
            Close
          </Button>
        </Box>
      </Box>
    </Dialog>
  );
}

function TitleFields({ drawing }: { drawing: PaperDrawing }) {
  const session = useSession(),
    change = (fields: Parameters<typeof changeDrawing>[2]) => changeDrawing(session, drawing, fields);
  return (
    <>
      <WordsField label="Drawing" value={drawing.name} onChange={(name) => change({ name })} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <WordsField
          label="Number"
          mayBeEmpty
          value={drawing.number}
          onChange={(number) => change({ number })}
        />
        <WordsField
          label="Revision"
          mayBeEmpty
          value={drawing.revision}
          onChange={(revision) => change({ revision })}
        />
      </Box>
      <WordsField
        label="Drawn by"
        mayBeEmpty
        value={drawing.drawnBy}
        onChange={(drawnBy) => change({ drawnBy })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <TextField
          select
          label="Paper"
          value={drawing.paper}
          onChange={(e) => change({ paper: e.target.value as PaperName })}
        >
          {PAPER_NAMES.map((n) => (
            <MenuItem key={n} value={n}>
              {n}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="It lies"
          value={drawing.standing ? 'upright' : 'across'}
          onChange={(e) => change({ standing: e.target.value === 'upright' })}
        >
          <MenuItem value="across">across</MenuItem>
          <MenuItem value="upright">upright</MenuItem>
        </TextField>
      </Box>
    </>
  );
}

function Views({
  drawing,
  chosen,
  onChoose,
  laid,
}: {
  drawing: PaperDrawing;
  chosen: string | null;
  onChoose(id: string | null): void;
  laid: ReturnType<typeof layPaper>;
}) {
  const nameOf = useViewName();
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', pt: 1 }}>
      <Typography variant="h3" sx={{ mb: 0.5 }}>
        {drawing.views.length === 0 ? 'Nothing stands on it yet' : 'On the paper'}
      </Typography>
      {drawing.views.map((view) => {
        const one = laid.views.find((v) => v.view.id === view.id) ?? null,
          isOpen = chosen === view.id;
        return (
          <Box key={view.id} sx={{ borderBottom: 1, borderColor: 'edge', py: 0.5 }}>
            <Button
              color="inherit"
              aria-expanded={isOpen}
              onClick={() => onChoose(isOpen ? null : view.id)}
              sx={{
                width: '100%',
                justifyContent: 'space-between',
                textAlign: 'left',
                overflowWrap: 'anywhere',
                fontWeight: isOpen ? 600 : 400,
              }}
            >
              <span>{nameOf(view)}</span>
              <span style={{ whiteSpace: 'nowrap', paddingLeft: 8 }}>{one?.scaleText ?? ''}</span>
            </Button>
            {isOpen && <ViewFields drawing={drawing} view={view} laid={one} />}
          </Box>
        );
      })}
    </Box>
  );
}
