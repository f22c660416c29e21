'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import CircularProgress from '@mui/material/CircularProgress';
import LinearProgress from '@mui/material/LinearProgress';
import Snackbar from '@mui/material/Snackbar';
import { useColorScheme } from '@mui/material/styles';
import Link from 'next/link';
import { startTransition, useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { SessionContext } from '@/project/context';
import { browserPending } from '@/project/pending';
import { ProjectSession } from '@/project/session';
import { lengthStyle } from '@/project/views';
import { TableContext } from '@/table/context';
import { LineworkCache } from '@/table/linework-cache';
import { Table } from '@/table/table';
import { SelectTool } from '@/table/tools/select-tool';
import { ofType, storeysOf } from '@calque/core/model';
import { followUndo } from './follow-undo';
import { keepView, recallView } from './remembered';
import { Workbench } from './workbench';

/** Opens the project and its drawing surface, once each, and shows the bench around them. */
export function ProjectPage({
  projectId,
  sheets,
}: {
  projectId: string;
  sheets: readonly { fileId: string; page: number }[];
}) {
  const [linework] = useState(() => new LineworkCache(projectId));
  const [session] = useState(() => {
    const tab = crypto.randomUUID();
    return new ProjectSession(projectId, browserPending(tab), tab, () => crypto.randomUUID());
  });
  const loaded = useStore(session.store, (s) => s.loaded),
    failure = useStore(session.store, (s) => s.failure);
  const surface = useRef<HTMLDivElement>(null);
  const [table, setTable] = useState<Table | null>(null);

  // Linework is on its way before the project says where it lies.
  useEffect(() => {
    linework.prefetch(sheets);
    return () => linework.close();
  }, [linework, sheets]);

  useEffect(() => {
    void session.open();
    const warn = (event: BeforeUnloadEvent) => {
      if (session.state.pendingCount > 0) event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => {
      window.removeEventListener('beforeunload', warn);
      session.close();
    };
  }, [session]);

  useEffect(() => {
    if (!loaded || !surface.current) return;
    const made = new Table(
      surface.current,
      session,
      linework,
      (t) => new SelectTool(t, () => lengthStyle(session.state.model)),
    );
    const storeys = storeysOf(session.state.model);
    if (storeys.length > 0 && !storeys.some((s) => s.id === 'ground')) made.setPlane(storeys[0].id);
    recallView(made, projectId, session.state.model);
    const { planeId } = made.state.getState(),
      laid = ofType(session.state.model, 'underlay').filter((u) => u.visible);
    const first = (
      laid.some((u) => u.planeId === planeId) ? laid.filter((u) => u.planeId === planeId) : laid
    ).sort((a, b) => b.order - a.order)[0];
    if (first) made.setUnderlay(first.id);
    made.showAll();
    const stops = [keepView(made, projectId), followUndo(made), showWhenWhole(made, surface.current)];
    // The panels are rendered in slices, so that linework and pointer come in between.
    startTransition(() => setTable(made));
    // For tests and benchmarks: the surface and the project as they are.
    (window as unknown as { calque?: unknown }).calque = { table: made, session };
    return () => {
      stops.forEach((stop) => stop());
      setTable(null);
      made.destroy();
    };
  }, [loaded, session, linework, projectId]);

  if (failure) {
    return (
      <Box sx={{ p: 6, minHeight: '100vh', bgcolor: 'table' }}>
        <Alert
          severity="error"
          variant="outlined"
          sx={{ maxWidth: 620, bgcolor: 'slip' }}
          action={
            <Button component={Link} href="/">
              All projects
            </Button>
          }
        >
          {failure}
        </Alert>
      </Box>
    );
  }
  return (
    <SessionContext.Provider value={session}>
      <Box sx={{ position: 'fixed', inset: 0, bgcolor: 'table', overflow: 'hidden' }}>
        <Box
          ref={surface}
          tabIndex={0}
          role="application"
          aria-label="Drawing"
          data-testid="drawing"
          sx={{ position: 'absolute', inset: 0, outline: 'none', touchAction: 'none' }}
        />
        {!loaded && (
          <CircularProgress
            size={24}
            aria-label="Opening the project"
            sx={{ position: 'absolute', left: '50%', top: '45%' }}
          />
        )}
        {table && (
          <TableContext.Provider value={table}>
            <SurfaceColours table={table} />
            <Workbench />
          </TableContext.Provider>
        )}
        <Opening session={session} />
        <Notice session={session} />
      </Box>
    </SessionContext.Provider>
  );
}

function SurfaceColours({ table }: { table: Table }) {
  const { mode, systemMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';
  useEffect(() => table.setDark(dark), [table, dark]);
  return null;
}

/** A project that was shown while it came is shown whole once it is, unless somebody has looked elsewhere meanwhile. */
function showWhenWhole(table: Table, surface: HTMLElement): () => void {
  if (table.session.state.opening === null) return () => {};
  let looked = false;
  const look = () => {
    looked = true;
  };
  for (const kind of ['wheel', 'pointerdown'] as const) surface.addEventListener(kind, look, { once: true });
  const stop = table.session.store.subscribe(({ opening }) => {
    if (opening !== null) return;
    stop();
    if (!looked) table.showAll();
  });
  return () => {
    stop();
    for (const kind of ['wheel', 'pointerdown'] as const) surface.removeEventListener(kind, look);
  };
}

/** How much of a large project is there, while it comes. */
function Opening({ session }: { session: ProjectSession }) {
  const opening = useStore(session.store, (s) => s.opening);
  if (opening === null) return null;
  return (
    <Box
      role="status"
      sx={{
        position: 'absolute',
        left: '50%',
        bottom: 60,
        transform: 'translateX(-50%)',
        width: 280,
        bgcolor: 'slip',
        border: 1,
        borderColor: 'edge',
        px: 2,
        py: 1,
      }}
    >
      Opening: {Math.round(100 * opening)} % is there
      <LinearProgress variant="determinate" value={100 * opening} aria-label="Opening the project" />
    </Box>
  );
}

const NOTICE_MS = 7000;

function Notice({ session }: { session: ProjectSession }) {
  const notice = useStore(session.store, (s) => s.notice);
  const [closed, setClosed] = useState(0);
  if (!notice) return null;
  const close = () => setClosed(notice.key);
  return (
    <Snackbar
      key={notice.key}
      open={closed !== notice.key}
      autoHideDuration={NOTICE_MS}
      onClose={(_, reason) => {
        if (reason !== 'clickaway') close();
      }}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
      // Above ruler and ledge.
      sx={{ mb: 11 }}
    >
      <Alert
        severity={notice.bad ? 'error' : 'info'}
        variant="outlined"
        onClose={close}
        sx={{ bgcolor: 'slip', boxShadow: 3 }}
      >
        {notice.text}
      </Alert>
    </Snackbar>
  );
}
