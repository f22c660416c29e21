'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import CircularProgress from '@mui/material/CircularProgress';
import Stack from '@mui/material/Stack';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, upload } from '@/project/api';
import type { ProjectCard } from '@/project/wire';
import { Confirm } from './confirm';
import { Mark } from './mark';
import { NewProjectDialog } from './new-project-dialog';
import { ProjectTile } from './project-tile';

const words = (error: unknown) => (error instanceof Error ? error.message : String(error));

export function ProjectsPage() {
  const router = useRouter();
  const [lists, setLists] = useState<{ open: ProjectCard[]; binned: ProjectCard[] } | null>(null);
  const [making, setMaking] = useState(false);
  const [destroying, setDestroying] = useState<ProjectCard | null>(null);
  const [binShown, setBinShown] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [binnedJust, setBinnedJust] = useState<ProjectCard | null>(null);
  const [opening, setOpening] = useState<number | null>(null);
  const picker = useRef<HTMLInputElement>(null);

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

  return (
    <Box sx={{ minHeight: '100vh', bgcolor: 'table', px: { xs: 2, md: 5 }, py: 3 }}>
      <Stack direction="row" spacing={1.5} sx={{ alignItems: 'center', mb: 3 }}>
        <Mark size={34} />
        <Box sx={{ flex: 1 }}>
          <Typography variant="h1">Calque</Typography>
          <Typography color="text.secondary">
            Plans laid under a drawing, brought to true scale, traced.
          </Typography>
        </Box>
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
          {opening === null
            ? 'Open a package'
            : opening < 1
              ? `Sending, ${Math.round(opening * 100)} %`
              : 'Checking and opening it …'}
        </Button>
        <Button variant="contained" onClick={() => setMaking(true)}>
          New project
        </Button>
      </Stack>
      {problem && (
        <Alert
          severity="error"
          variant="outlined"
          onClose={() => setProblem(null)}
          sx={{ mb: 2, bgcolor: 'slip' }}
        >
          {problem}
        </Alert>
      )}
      {binnedJust && (
        <Alert
          severity="info"
          variant="outlined"
          sx={{ mb: 2, bgcolor: 'slip' }}
          onClose={() => setBinnedJust(null)}
          action={
            <Button
              onClick={() => {
                void act(api.unbin(binnedJust.id));
                setBinnedJust(null);
              }}
            >
              Take it back
            </Button>
          }
        >
          {binnedJust.name} was put into the bin.
        </Alert>
      )}
      {!lists && !problem && <CircularProgress size={22} aria-label="Loading projects" />}
      {lists?.open.length === 0 && (
        <Box
          sx={{ p: 5, border: 1, borderStyle: 'dashed', borderColor: 'edge', bgcolor: 'slip', maxWidth: 560 }}
        >
          <Typography variant="h2" gutterBottom>
            No project yet
          </Typography>
          <Typography color="text.secondary" sx={{ mb: 2 }}>
            A project holds sheets, their scale and what is traced on them. Start one, then drop a PDF on it.
          </Typography>
          <Button variant="contained" onClick={() => setMaking(true)}>
            New project
          </Button>
        </Box>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(300px, 1fr))', gap: 3 }}>
        {lists?.open.map((p) => (
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
      {lists && lists.binned.length > 0 && (
        <Box sx={{ mt: 5 }}>
          <Button onClick={() => setBinShown(!binShown)} aria-expanded={binShown}>
            {binShown ? 'Hide the bin' : `Bin (${lists.binned.length})`}
          </Button>
          {binShown &&
            lists.binned.map((p) => (
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
                <Typography sx={{ flex: 1 }}>{p.name}</Typography>
                <Button onClick={() => void act(api.unbin(p.id))}>Take it back</Button>
                <Button color="error" onClick={() => setDestroying(p)}>
                  Delete for good
                </Button>
              </Stack>
            ))}
        </Box>
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
