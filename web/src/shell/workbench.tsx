'use client';

import Box from '@mui/material/Box';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { CalibratePanel } from '@/stages/calibrate/panel';
import { CheckPanel } from '@/stages/check/panel';
import { DeliverPanel } from '@/stages/deliver/panel';
import { SheetsPanel } from '@/stages/sheets/panel';
import { TracePanel } from '@/stages/trace/panel';
import { traceTally } from '@/project/trace-words';
import { useProject, useSession } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { isTyping, looksAround } from '@/table/input';
import { CommandSearch } from './command-search';
import { runOrTell } from '@/commands/command';
import { RegistryContext } from '@/commands/context';
import { chordOf } from '@/commands/keys';
import { makeRegistry } from '@/commands/registry';
import { allCommands } from './commands';
import { CursorField } from './cursor-field';
import { PlaneList } from './planes/plane-list';
import { goToPlane } from './planes/plane-tools';
import { stackOf } from '@/project/views';
import { SpaceView } from '@/space/space-view';
import { Ruler } from './ruler';
import { ShortcutSheet } from './shortcut-sheet';
import { StackColumn } from './stack/stack-column';
import { Strip } from './strip';
import type { StageId } from '@/commands/command';

const PANELS = {
  sheets: SheetsPanel,
  calibrate: CalibratePanel,
  trace: TracePanel,
  check: CheckPanel,
  deliver: DeliverPanel,
};
export const LEFT_WIDTH = 250,
  RIGHT_WIDTH = 336,
  STRIP = 48,
  RULER = 40;

/** Strip, stack, stage card and ruler around the drawing. */
export function Workbench() {
  const table = useTable();
  const session = useSession();
  const [stage, setStage] = useState<StageId>(() => (session.state.model.size <= 2 ? 'sheets' : 'calibrate'));
  const [stackOpen, setStackOpen] = useState(true);
  const [cardOpen, setCardOpen] = useState(true);
  const [searching, setSearching] = useState(false);
  const [helping, setHelping] = useState(false);
  const [listing, setListing] = useState(false);
  const [inSpace, setInSpace] = useState(false);
  /** Opens a stage with empty hands. */
  const goTo = useCallback(
    (s: StageId) => {
      setStage(s);
      setCardOpen(true);
      table.layDown();
    },
    [table],
  );
  const registry = useMemo(
    () =>
      makeRegistry(
        allCommands({
          foldStack: () => setStackOpen((o) => !o),
          foldCard: () => setCardOpen((o) => !o),
          help: () => setHelping(true),
          openList: () => setListing(true),
          openSpace: () => setInSpace(true),
        }),
        { table, session, goTo },
      ),
    [table, session, goTo],
  );
  const commands = registry.list;

  useEffect(() => {
    table.setInsets({
      left: stackOpen ? LEFT_WIDTH + 20 : 44,
      right: cardOpen ? RIGHT_WIDTH + 16 : 44,
      top: STRIP,
      bottom: RULER,
    });
  }, [table, stackOpen, cardOpen]);
  // The first view is fitted after the insets are known.
  useEffect(() => table.showAll(), [table]);

  useEffect(
    () =>
      table.keys.on('commands', (event) => {
        if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
          setSearching(true);
          return true;
        }
        if ((isTyping(event.target) && !looksAround(event)) || event.altKey) return false;
        const chord = chordOf(event);
        // A tool that waits for figures takes the digits itself.
        const { field } = table.state.getState();
        if (/^\d$/.test(chord) && field && !field.onTab) return false;
        const command = registry.byKey(chord);
        if (command) runOrTell(command, session);
        return command !== undefined;
      }),
    [registry, table, session],
  );

  // A file dragged over any stage opens the one that takes it; elsewhere the browser would leave the page for it.
  useEffect(() => {
    const onDrag = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes('Files')) return;
      event.preventDefault();
      if (stage !== 'sheets') goTo('sheets');
    };
    window.addEventListener('dragenter', onDrag);
    window.addEventListener('dragover', onDrag);
    return () => {
      window.removeEventListener('dragenter', onDrag);
      window.removeEventListener('dragover', onDrag);
    };
  }, [stage, goTo]);

  const Panel = PANELS[stage];
  const card = {
    bgcolor: 'slip',
    border: 1,
    borderColor: 'edge',
    boxShadow: '0 4px 18px rgba(23,39,58,.14)',
  } as const;
  return (
    <RegistryContext.Provider value={registry}>
      <Strip
        stage={stage}
        onStage={goTo}
        onSearch={() => setSearching(true)}
        onHelp={() => setHelping(true)}
      />
      <StackColumn open={stackOpen} onFold={() => setStackOpen(!stackOpen)} onStage={goTo} />
      <Box
        component="aside"
        aria-label="Stage"
        sx={{
          position: 'absolute',
          top: STRIP + 16,
          right: 14,
          width: cardOpen ? RIGHT_WIDTH : 'auto',
          maxHeight: `calc(100% - ${STRIP + RULER + 32}px)`,
          display: 'flex',
          flexDirection: 'column',
          ...card,
        }}
      >
        {cardOpen ? (
          <Box key={stage} sx={{ overflowY: 'auto', p: 1.75, pb: 2 }}>
            <Panel />
          </Box>
        ) : null}
        <FoldButton open={cardOpen} onFold={() => setCardOpen(!cardOpen)} />
      </Box>
      <EmptyTable />
      <LostView />
      <CursorField />
      <Ruler />
      {searching && <CommandSearch commands={commands} onClose={() => setSearching(false)} />}
      {listing && <PlaneList onClose={() => setListing(false)} />}
      {inSpace && (
        <SpaceView
          onGo={(id) => goToPlane(table, id, stackOf(session.state.model, id)[0]?.id)}
          onClose={() => setInSpace(false)}
        />
      )}
      {helping && <ShortcutSheet commands={commands} onClose={() => setHelping(false)} />}
    </RegistryContext.Provider>
  );
}

function FoldButton({ open, onFold }: { open: boolean; onFold(): void }) {
  return (
    <Box
      component="button"
      type="button"
      onClick={onFold}
      aria-expanded={open}
      sx={{
        all: 'unset',
        cursor: 'pointer',
        textAlign: 'center',
        fontSize: 11.5,
        color: 'text.secondary',
        borderTop: open ? 1 : 0,
        borderColor: 'edge',
        px: 1.5,
        py: 0.4,
        '&:focus-visible': { outline: '2px solid #0b8f9c' },
      }}
    >
      {open ? 'Fold the card (])' : 'Open the card (])'}
    </Box>
  );
}

/** What to do first, on a table with nothing on it. */
function EmptyTable() {
  const empty = useProject(
    (s) => s.loaded && !s.model.hasType('underlay') && traceTally(s.model).total === 0,
  );
  const attached = useProject((s) => s.files.length > 0);
  if (!empty) return null;
  return (
    <Box
      sx={{
        position: 'absolute',
        left: LEFT_WIDTH + 40,
        right: RIGHT_WIDTH + 40,
        top: '38%',
        textAlign: 'center',
        pointerEvents: 'none',
        color: 'text.secondary',
        fontSize: 15,
      }}
    >
      {attached
        ? 'Choose a page on the right and lay it down.'
        : 'Drop a PDF plan, a scan or a photo anywhere on this table.'}
    </Box>
  );
}

/** When the view has wandered off everything, says so and offers the way back. */
function LostView() {
  const table = useTable();
  useTableState((s) => s.view);
  useProject((s) => s.model);
  if (table.seesSomething()) return null;
  return (
    <Box
      sx={{
        position: 'absolute',
        left: '50%',
        bottom: 70,
        transform: 'translateX(-50%)',
        bgcolor: 'slip',
        border: 1,
        borderColor: 'edge',
        px: 2,
        py: 1,
        display: 'flex',
        gap: 1.5,
        alignItems: 'center',
      }}
    >
      Nothing of the project is in sight here.
      <Box
        component="button"
        type="button"
        onClick={() => table.showAll()}
        sx={{ all: 'unset', cursor: 'pointer', fontWeight: 650, textDecoration: 'underline' }}
      >
        Show all (Home)
      </Box>
    </Box>
  );
}
