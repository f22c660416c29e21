'use client';

import Box from '@mui/material/Box';
import useMediaQuery from '@mui/material/useMediaQuery';
import dynamic from 'next/dynamic';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { CalibratePanel } from '@/stages/calibrate/panel';
import { CheckPanel } from '@/stages/check/panel';
import { DeliverPanel } from '@/stages/deliver/panel';
import { SheetsPanel } from '@/stages/sheets/panel';
import { TracePanel } from '@/stages/trace/panel';
import { isTraced, ownerId, planeOf } from '@calque/core/model';
import type { Table } from '@/table/table';
import { traceTally } from '@/project/trace-words';
import { useProject, useSession } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { CommandSearch } from './command-search';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { partOf } from '@/part/part-changes';
import { useSpaceState } from '@/space/state';
import { RegistryContext, useKeyOf } from '@/commands/context';
import { MarkButton } from '@/ui/icon-button';
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import { makeRegistry } from '@/commands/registry';
import { allCommands } from './commands';
import { CursorField } from './cursor-field';
import { PlaneList } from './planes/plane-list';
import { goToPlane } from './planes/plane-tools';
import { useSeenFromHere } from './planes/seen-keeper';
import { SlabNotice } from './planes/slab-notice';
import { stackOf } from '@/project/views';

import { FIRST_MINUTES_ROOM, FirstMinutes, useShowsFirstMinutes } from './first-minutes/first-minutes';
import { FloatingCards } from './floating-cards';
import { ScaleOfferContext } from '@/project/scale-offer';
import { useScaleOffer } from '@/stages/calibrate/scale-offer';
import { Ledge } from './ledge/ledge';
import { followHand, partAt, useLedge } from './ledge/state';
import { useCommandKeys } from './command-keys';
import { useFolded } from './folded';
import { EDGE_WIDTH, LEDGE, LEFT_WIDTH, RIGHT_WIDTH, RULER, SMALL_LEDGE, STRIP } from './measures';
import { useOwnKeys } from '@/commands/own-keys';
import { keyWords } from '@/commands/key-words';
import { Ruler } from './ruler';
import { Shown } from './shown/shown';
import { IN_HAND, useShown } from '@/commands/shown';
import { ShortcutSheet } from './shortcut-sheet';
import { StackColumn } from './stack/stack-column';
import { Strip } from './strip';
import type { StageId } from '@/commands/command';

/** What draws in three dimensions is large, and loaded when it is first asked for. */
const TakeoffView = dynamic(() => import('@/takeoff/takeoff-view').then((m) => m.TakeoffView), {
  ssr: false,
});
const PartView = dynamic(() => import('@/part/part-view').then((m) => m.PartView), { ssr: false });
const SpaceView = dynamic(() => import('@/space/space-view').then((m) => m.SpaceView), { ssr: false });

const PANELS = {
  sheets: SheetsPanel,
  calibrate: CalibratePanel,
  trace: TracePanel,
  check: CheckPanel,
  deliver: DeliverPanel,
};
/** Strip, stack, stage card and ruler around the drawing. */
export function Workbench() {
  const table = useTable();
  const session = useSession();
  const [stage, setStage] = useState<StageId>(() => (session.state.model.size <= 2 ? 'sheets' : 'calibrate'));
  const [folded, fold] = useFolded();
  const stackOpen = !folded.stack,
    cardOpen = !folded.card;
  const [searching, setSearching] = useState(false);
  const [helping, setHelping] = useState(false);
  const [listing, setListing] = useState(false);
  const [inSpace, setInSpace] = useState(false);
  const [counting, setCounting] = useState(false);
  /** Opens a stage with empty hands. */
  const goTo = useCallback(
    (s: StageId) => {
      setInSpace(false);
      setStage(s);
      table.layDown();
    },
    [table],
  );
  const ownKeys = useOwnKeys((s) => s.keys);
  const registry = useMemo(
    () =>
      makeRegistry(
        allCommands({
          foldStack: () => fold('stack'),
          foldCard: () => fold('card'),
          help: () => setHelping(true),
          show: () => useShown.getState().show(IN_HAND),
          openList: () => setListing(true),
          openSpace: () => setInSpace(true),
          openTakeoff: () => setCounting(true),
        }),
        { table, session, goTo },
        ownKeys,
      ),
    [table, session, goTo, fold, ownKeys],
  );
  const commands = registry.list;
  const openPart = useLedge((s) => s.open),
    part = partAt(stage, openPart);
  const small = useMediaQuery('(max-width: 1179px), (max-height: 619px)');
  const ledge = part === null ? 0 : small ? SMALL_LEDGE : LEDGE;
  useSeenFromHere();
  useEffect(() => followHand(table, registry), [table, registry]);
  const search = useCallback(() => setSearching(true), []);
  const begun = useCommandKeys(registry, stage, { table, session, search });

  useEffect(() => {
    table.setInsets({
      left: stackOpen ? LEFT_WIDTH + 18 : EDGE_WIDTH + 8,
      right: cardOpen ? RIGHT_WIDTH + 18 : 14,
      top: STRIP,
      bottom: RULER + ledge,
    });
  }, [table, stackOpen, cardOpen, ledge]);
  // Another project begins with everything in sight, whole, and with sizes that nobody has said.
  useEffect(
    () => () => {
      useSpaceState.setState(useSpaceState.getInitialState());
      useBuildingSizes.setState(useBuildingSizes.getInitialState());
    },
    [],
  );
  // The first view is fitted after the insets are known.
  useEffect(() => table.showAll(), [table]);

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

  const first = useShowsFirstMinutes(),
    below = first && !small ? FIRST_MINUTES_ROOM : 0;
  const Panel = PANELS[stage];
  const card = {
    bgcolor: 'slip',
    border: 1,
    borderColor: 'edge',
    boxShadow: '0 4px 18px rgba(23,39,58,.14)',
  } as const;
  return (
    <RegistryContext.Provider value={registry}>
      <ScaleOfferContext.Provider value={useScaleOffer}>
        <Strip
          stage={stage}
          inSpace={inSpace}
          onSpace={setInSpace}
          onStage={goTo}
          onSearch={() => setSearching(true)}
          onHelp={() => setHelping(true)}
        />
        <StackColumn open={stackOpen} bottom={RULER + ledge} onFold={() => fold('stack')} onStage={goTo} />
        <Box
          component="aside"
          aria-label="Stage"
          sx={{
            position: 'absolute',
            top: STRIP + 14,
            right: 14,
            width: cardOpen ? RIGHT_WIDTH : 'auto',
            // Longer ones are scrolled, so that the drawing keeps its room.
            maxHeight: `min(calc(100% - ${STRIP + RULER + ledge + 28 + below}px), ${part === null ? 70 : 52}vh)`,
            display: 'flex',
            flexDirection: 'column',
            ...card,
          }}
        >
          {cardOpen ? (
            // What is in a card that must be scrolled is reached by keys, too.
            <Box key={stage} tabIndex={0} sx={{ overflowY: 'auto', p: 1.75, pb: 1.5, '& h2': { pr: 3 } }}>
              <Panel />
            </Box>
          ) : null}
          <FoldButton open={cardOpen} onFold={() => fold('card')} />
        </Box>
        {part !== null && <Ledge part={part} height={ledge} small={small} />}
        {begun && <SecondStroke begun={begun} bottom={RULER + ledge + 10} />}
        <FloatingCards left={stackOpen ? LEFT_WIDTH + 12 : EDGE_WIDTH} bottom={RULER + ledge} />
        <EmptyTable />
        <LostView />
        <CursorField />
        <Ruler />
        {searching && <CommandSearch commands={commands} onClose={() => setSearching(false)} />}
        {listing && <PlaneList onClose={() => setListing(false)} />}
        {counting && !inSpace && (
          <TakeoffView
            bottom={RULER}
            onShow={(ids) => showCounted(table, ids)}
            onClose={() => setCounting(false)}
          />
        )}
        {inSpace && <InSpace onClose={() => setInSpace(false)} />}
        <SlabNotice top={STRIP + (inSpace ? 62 : 10)} />
        <FirstMinutes stage={stage} bottom={RULER + ledge} compact={small || !cardOpen} />
        <Shown />
        {helping && <ShortcutSheet commands={commands} onClose={() => setHelping(false)} />}
      </ScaleOfferContext.Provider>
    </RegistryContext.Provider>
  );
}

/** The building in space; from a plane of a part, that part. */
function InSpace({ onClose }: { onClose(): void }) {
  const table = useTable(),
    model = useProject((s) => s.model),
    planeId = useTableState((s) => s.planeId),
    part = partOf(planeOf(model, planeId), model);
  const view = {
    top: STRIP,
    onGo: (id: string) => goToPlane(table, id, stackOf(model, id)[0]?.id),
    onClose,
  };
  return part ? <PartView key={part.id} part={part} {...view} /> : <SpaceView {...view} />;
}

/** Goes to where elements lie, and selects them. */
function showCounted(table: Table, ids: readonly string[]): void {
  const { model } = table.session.state,
    owners = [...new Set(ids.map(ownerId))],
    first = model.get(owners[0]);
  if (first && isTraced(first) && first.planeId !== table.state.getState().planeId)
    goToPlane(table, first.planeId, stackOf(model, first.planeId)[0]?.id);
  table.setSelection(owners);
}

/** What the second of two strokes may be. */
function SecondStroke({
  begun,
  bottom,
}: {
  begun: NonNullable<ReturnType<typeof useCommandKeys>>;
  bottom: number;
}) {
  return (
    <Box
      role="status"
      sx={{
        position: 'absolute',
        left: '50%',
        bottom,
        transform: 'translateX(-50%)',
        display: 'flex',
        gap: 2,
        bgcolor: 'primary.main',
        color: 'primary.contrastText',
        px: 1.5,
        py: 0.75,
        maxWidth: '90%',
        flexWrap: 'wrap',
      }}
    >
      {begun.follow.map((c) => (
        <span key={c.id}>
          <b>{keyWords(c.key!.split(' ')[1])}</b> {c.short ?? c.words}
        </span>
      ))}
    </Box>
  );
}

function FoldButton({ open, onFold }: { open: boolean; onFold(): void }) {
  const key = useKeyOf('card');
  return (
    <MarkButton
      word={open ? `Fold the card${key}` : `Open the card${key}`}
      aria-expanded={open}
      onClick={onFold}
      sx={{ ...(open && { position: 'absolute', top: 8, right: 8, zIndex: 1 }), color: 'text.secondary' }}
    >
      {open ? <IconChevronRight size={16} stroke={1.8} /> : <IconChevronLeft size={16} stroke={1.8} />}
    </MarkButton>
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
        bottom: 120,
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
