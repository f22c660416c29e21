'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { FORM } from '@calque/core/formats';
import { TRACED_TYPES } from '@calque/core/kinds';
import { SETTINGS_ID } from '@calque/core/model';
import { api } from '@/project/api';
import { count, traceWords } from '@/project/trace-words';
import type { ProjectCard, TallyAnswer } from '@/project/wire';

const when = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
});

const SMALL = { px: 0.75 } as const;

/** "3 of 5 sheets calibrated, 41 walls" */
function tallyWords({ sheets, calibrated, types }: TallyAnswer): string {
  const byType = Object.fromEntries(
      Object.entries(types).filter(([type]) => (TRACED_TYPES as readonly string[]).includes(type)),
    ),
    total = Object.values(byType).reduce((sum, n) => sum + n, 0);
  const laid = sheets === 0 ? 'no sheets yet' : `${calibrated} of ${count(sheets, 'sheet')} calibrated`;
  return [laid, traceWords({ total, byType })].filter(Boolean).join(', ');
}

/** A project as a slip with its picture and its state. */
export function ProjectTile({
  project,
  onBin,
  onRenamed,
  onProblem,
}: {
  project: ProjectCard;
  onBin(): void;
  onRenamed(): void;
  onProblem(message: string): void;
}) {
  const [naming, setNaming] = useState<string | null>(null);
  const [tally, setTally] = useState<TallyAnswer | null>(null);
  const [copying, setCopying] = useState(false);
  useEffect(() => {
    let gone = false;
    // What is not told is left out: the project opens all the same.
    void api.tally(project.id).then(
      (answer) => {
        if (!gone) setTally(answer);
      },
      () => {},
    );
    return () => {
      gone = true;
    };
  }, [project.id, project.seq]);
  const duplicate = async () => {
    setCopying(true);
    await api
      .copy(project.id)
      .then(onRenamed, (error: Error) => onProblem(`The project was not duplicated: ${error.message}`));
    setCopying(false);
  };

  const rename = async () => {
    const name = naming?.trim();
    setNaming(null);
    if (!name || name === project.name) return;
    try {
      const answer = await api.send(project.id, {
        clientId: 'projects',
        form: FORM,
        steps: [
          {
            id: crypto.randomUUID(),
            label: 'Rename the project',
            kind: 'do',
            of: null,
            change: { type: 'set', id: SETTINGS_ID, before: { name: project.name }, after: { name } },
          },
        ],
      });
      if (!answer.ok) onProblem(`The project was not renamed: ${answer.message}.`);
      onRenamed();
    } catch (error) {
      onProblem(error instanceof Error ? error.message : String(error));
    }
  };

  return (
    <Box
      component="article"
      sx={{ bgcolor: 'slip', border: 1, borderColor: 'edge', boxShadow: '0 2px 8px rgba(23,39,58,.10)' }}
    >
      <Link href={`/project/${project.id}`} aria-label={`Open ${project.name}`} style={{ display: 'block' }}>
        {/* eslint-disable-next-line @next/next/no-img-element -- drawn by our own server, at its final size */}
        <img
          src={`/api/projects/${project.id}/picture?v=${project.seq}`}
          alt=""
          style={{ display: 'block', width: '100%', aspectRatio: '16 / 10', objectFit: 'cover' }}
        />
      </Link>
      <Box sx={{ px: 1.75, py: 1.25 }}>
        {naming === null ? (
          <Typography
            variant="h2"
            component={Link}
            href={`/project/${project.id}`}
            sx={{ color: 'text.primary', textDecoration: 'none' }}
          >
            {project.name}
          </Typography>
        ) : (
          <TextField
            autoFocus
            fullWidth
            value={naming}
            slotProps={{ htmlInput: { 'aria-label': 'Project name', maxLength: 200 } }}
            onChange={(e) => setNaming(e.target.value)}
            onBlur={() => void rename()}
            onKeyDown={(e) => {
              if (e.key === 'Enter') void rename();
              if (e.key === 'Escape') setNaming(null);
            }}
          />
        )}
        <Typography color="text.secondary" sx={{ mt: 0.25, minHeight: 19 }}>
          {tally && tallyWords(tally)}
        </Typography>
        <Stack direction="row" sx={{ alignItems: 'center', mt: 0.5 }}>
          <Typography variant="caption" color="text.secondary" sx={{ flex: 1 }} suppressHydrationWarning>
            {when.format(new Date(project.updated))}
          </Typography>
          <Button sx={SMALL} onClick={() => setNaming(project.name)}>
            Rename
          </Button>
          <Button sx={SMALL} disabled={copying} onClick={() => void duplicate()}>
            {copying ? 'Duplicating …' : 'Duplicate'}
          </Button>
          <Button sx={SMALL} onClick={onBin}>
            Delete
          </Button>
        </Stack>
      </Box>
    </Box>
  );
}
