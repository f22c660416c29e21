'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import CircularProgress from '@mui/material/CircularProgress';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, upload, uploadTo } from '@/project/api';
import type { ProjectCard } from '@/project/wire';
import { Confirm } from './confirm';
import { Mark } from './mark';
import { NewProjectDialog } from './new-project-dialog';
import { ProjectTile } from './project-tile';

const binnedOn = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
const words = (error: unknown) => (error instanceof Error ? error.message : String(error));

export function ProjectsPage() {
  const router = useRouter();
  const [lists, setLists] = useState<{ open: ProjectCard[]; binned: ProjectCard[] } | null>(null);
  const [making, setMaking] = useState(false);
  const [destroying, setDestroying] = useState<ProjectCard | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [binnedJust, setBinnedJust] = useState<ProjectCard | null>(null);
  const [opening, setOpening] = useState<number | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [order, setOrder] = useState<Order>('date');
  const [dropping, setDropping] = useState<string | null>(null);

  const refresh = useCallback(
    () =>
      api
        .projects()
        .then((l) => {
          setLists(l);
          setProblem(null);
        })
        .catch((e) => setProblem(words(e))),
    [],
  );
  useEffect(() => {
    void refresh();
  }, [refresh]);
  const act = (work: Promise<unknown>) => work.then(refresh).catch((e) => setProblem(words(e)));

  const openPackage = async (file: File) => {
    setOpening(0);
    try {
      const { id } = await upload('/api/packages', file, setOpening).done;
      router.push(`/project/${id}`);
    } catch (error) {
      setProblem(words(error));
    } finally {
      setOpening(null);
    }
  };

  /** Files that are dropped become a project of that name, with them attached; a package opens. */
  const takeFiles = async (files: readonly File[]) => {
    const [first] = files;
    if (!first) return;
    if (first.name.endsWith('.calque')) return openPackage(first);
    if (dropping !== null) return;
    const empty = files.find((f) => f.size === 0);
    if (empty) return setProblem(`${empty.name} is empty (0 bytes). Fetch it again.`);
    setDropping(first.name);
    let made: string | null = null,
      attached = 0,
      now = first;
    try {
      const name = first.name.replace(/\.[A-Za-z0-9]{2,5}$/, '').slice(0, 200) || 'New project';
      made = (await api.createProject({ name, units: 'mm', precision: 0 })).id;
      for (now of files) {
        await uploadTo(made, now.name, now, () => {}).done;
        attached++;
      }
      router.push(`/project/${made}`);
    } catch (error) {
      // A project that nothing came into was not asked for.
      if (made && attached === 0)
        await api
          .bin(made)
          .then(() => api.destroy(made!))
          .catch(() => {});
      await refresh();
      setProblem(
        `${now.name}: ${words(error)}${attached > 0 ? ` What came before it is in the new project ${first.name}.` : ''}`,
      );
    } finally {
      setDropping(null);
    }
  };
  const over = useFilesOver(takeFiles);
  const shown = shownOf(lists?.open ?? [], text, order);

  return (
    <Box component="main" sx={{ minHeight: '100vh', bgcolor: 'table', px: { xs: 2, md: 5 }, py: 3 }}>
      <Stack
        component="header"
        direction="row"
        spacing={1.5}
        sx={{ alignItems: 'center', mb: 3, flexWrap: 'wrap', rowGap: 1 }}
      >
        <Mark size={34} />
        <Box sx={{ flex: 1 }}>
          <Typography variant="h1">Calque</Typography>
          <Typography color="text.secondary">
            Plans laid under a drawing, brought to true scale, traced.
          </Typography>
        </Box>
        {(lists?.open.length ?? 0) > 1 && (
          <Finder text={text} onText={setText} order={order} onOrder={setOrder} />
        )}
        <input
          ref={picker}
          type="file"
          accept=".calque"
          hidden
          aria-label="Package file"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void openPackage(file);
            e.target.value = '';
          }}
        />
        <Button variant="outlined" onClick={() => picker.current?.click()} disabled={opening !== null}>
          {openingWords(opening)}
        </Button>
        <Button variant="contained" onClick={() => setMaking(true)}>
          New project
        </Button>
      </Stack>
      <Notes
        problem={problem}
        onProblem={() => setProblem(null)}
        binned={binnedJust}
        onBinned={() => setBinnedJust(null)}
        onBack={(id) => void act(api.unbin(id))}
      />
      {!lists && !problem && <CircularProgress size={22} aria-label="Loading projects" />}
      {lists?.open.length === 0 && (
        <Box
          sx={{ p: 5, border: 1, borderStyle: 'dashed', borderColor: 'edge', bgcolor: 'slip', maxWidth: 560 }}
        >
          <Typography variant="h2" gutterBottom>
            No project yet
          </Typography>
          <Typography color="text.secondary" sx={{ mb: 2 }}>
            Drop a PDF plan, a scan or a photo here, and a project is made of it. Or start an empty one.
          </Typography>
          <Button variant="contained" onClick={() => setMaking(true)}>
            New project
          </Button>
        </Box>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(380px, 1fr))', gap: 3 }}>
        {shown.map((p) => (
          <ProjectTile
            key={p.id}
            project={p}
            onProblem={setProblem}
            onRenamed={() => void refresh()}
            onBin={() => {
              void act(api.bin(p.id));
              setBinnedJust(p);
            }}
          />
        ))}
      </Box>
      {lists && lists.open.length > 0 && shown.length === 0 && (
        <Typography color="text.secondary">No project has all these words in its name.</Typography>
      )}
      {(over || dropping !== null) && <DropNote dropping={dropping} />}
      {lists && lists.binned.length > 0 && (
        <Bin projects={lists.binned} onBack={(id) => void act(api.unbin(id))} onDestroy={setDestroying} />
      )}
      {making && (
        <NewProjectDialog onClose={() => setMaking(false)} onMade={(id) => router.push(`/project/${id}`)} />
      )}
      {destroying && (
        <Confirm
          title={`Delete ${destroying.name} for good?`}
          action="Delete for good"
          onNo={() => setDestroying(null)}
          onYes={() => {
            void act(api.destroy(destroying.id));
            setDestroying(null);
          }}
        >
          Its sheets and everything traced are removed. There is no way back.
        </Confirm>
      )}
    </Box>
  );
}

/** Projects that were deleted, with the day, until they are taken back or deleted for good. */
function Bin({
  projects,
  onBack,
  onDestroy,
}: {
  projects: readonly ProjectCard[];
  onBack(id: string): void;
  onDestroy(project: ProjectCard): void;
}) {
  const [shown, setShown] = useState(false);
  return (
    <Box sx={{ mt: 5 }}>
      <Button onClick={() => setShown(!shown)} aria-expanded={shown}>
        {shown ? 'Hide the bin' : `Bin (${projects.length})`}
      </Button>
      {shown &&
        projects.map((p) => (
          <Stack
            key={p.id}
            direction="row"
            spacing={1}
            sx={{
              alignItems: 'center',
              py: 0.75,
              px: 1.5,
              bgcolor: 'slip',
              border: 1,
              borderColor: 'edge',
              maxWidth: 620,
              mt: 1,
            }}
          >
            <Typography sx={{ flex: 1 }}>
              {p.name}{' '}
              {p.deleted && (
                <Typography
                  component="span"
                  variant="caption"
                  color="text.secondary"
                  suppressHydrationWarning
                >
                  deleted on {binnedOn.format(new Date(p.deleted))}
                </Typography>
              )}
            </Typography>
            <Button onClick={() => onBack(p.id)}>Take it back</Button>
            <Button color="error" onClick={() => onDestroy(p)}>
              Delete for good
            </Button>
          </Stack>
        ))}
    </Box>
  );
}

/** Files dropped anywhere on the page; says whether some are held over it. */
function useFilesOver(take: (files: readonly File[]) => Promise<void>): boolean {
  const [over, setOver] = useState(false);
  const drop = useRef(take);
  useEffect(() => {
    drop.current = take;
  });
  useEffect(() => {
    const carries = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;
    const onOver = (event: DragEvent) => {
      if (!carries(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent) => {
      if (!carries(event)) return;
      event.preventDefault();
      setOver(false);
      void drop.current([...(event.dataTransfer?.files ?? [])]);
    };
    window.addEventListener('dragover', onOver);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('drop', onDrop);
    };
  }, []);
  return over;
}

/** What is said over the whole page while files are held over it, or become a project. */
function DropNote({ dropping }: { dropping: string | null }) {
  return (
    <Box
      role="status"
      sx={{
        position: 'fixed',
        inset: 16,
        display: 'grid',
        placeItems: 'center',
        border: 2,
        borderStyle: 'dashed',
        borderColor: 'now',
        bgcolor: 'slip',
        opacity: 0.94,
        fontSize: 17,
        pointerEvents: 'none',
      }}
    >
      {dropping === null ? 'Let go, and a project is made of it' : `Making a project of ${dropping} …`}
    </Box>
  );
}

type Order = 'date' | 'name';

function Finder({
  text,
  onText,
  order,
  onOrder,
}: {
  text: string;
  onText(text: string): void;
  order: Order;
  onOrder(order: Order): void;
}) {
  return (
    <>
      <TextField
        value={text}
        placeholder="Find a project"
        sx={{ bgcolor: 'slip' }}
        onChange={(e) => onText(e.target.value)}
        slotProps={{ htmlInput: { 'aria-label': 'Find a project' } }}
      />
      <ToggleButtonGroup
        exclusive
        size="small"
        value={order}
        aria-label="Order"
        sx={{ bgcolor: 'slip' }}
        onChange={(_, v: Order | null) => {
          if (v) onOrder(v);
        }}
      >
        <ToggleButton value="date">latest first</ToggleButton>
        <ToggleButton value="name">by name</ToggleButton>
      </ToggleButtonGroup>
    </>
  );
}

/** Projects whose names hold all the words, in an order. */
function shownOf(projects: readonly ProjectCard[], text: string, order: Order): ProjectCard[] {
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean);
  return projects
    .filter((p) => wanted.every((w) => p.name.toLowerCase().includes(w)))
    .sort((a, b) => (order === 'name' ? a.name.localeCompare(b.name) : b.updated.localeCompare(a.updated)));
}

/** What went wrong, and what was just put into the bin. */
function Notes({
  problem,
  onProblem,
  binned,
  onBinned,
  onBack,
}: {
  problem: string | null;
  onProblem(): void;
  binned: ProjectCard | null;
  onBinned(): void;
  onBack(id: string): void;
}) {
  return (
    <>
      {problem && (
        <Alert
          severity="error"
          variant="outlined"
          onClose={() => onProblem()}
          sx={{ mb: 2, bgcolor: 'slip' }}
        >
          {problem}
        </Alert>
      )}
      {binned && (
        <Alert
          severity="info"
          variant="outlined"
          sx={{ mb: 2, bgcolor: 'slip' }}
          onClose={() => onBinned()}
          action={
            <Button
              onClick={() => {
                onBack(binned.id);
                onBinned();
              }}
            >
              Take it back
            </Button>
          }
        >
          {binned.name} was put into the bin.
        </Alert>
      )}
    </>
  );
}

/** How far a package is that is being opened; null while none is. */
function openingWords(share: number | null): string {
  if (share === null) return 'Open a package';
  return share < 1 ? `Sending, ${Math.round(share * 100)} %` : 'Checking and opening it …';
}
