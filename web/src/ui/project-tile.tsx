'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useState } from 'react';
import { FORM } from '@calque/core/formats';
import { SETTINGS_ID } from '@calque/core/model';
import { api } from '@/project/api';
import type { ProjectCard } from '@/project/wire';

const when = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
});

/** A project as a slip with its picture. */
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
        <Stack direction="row" sx={{ alignItems: 'center', mt: 0.25 }}>
          <Typography variant="caption" color="text.secondary" sx={{ flex: 1 }} suppressHydrationWarning>
            {when.format(new Date(project.updated))}
          </Typography>
          <Button onClick={() => setNaming(project.name)}>Rename</Button>
          <Button onClick={onBin}>Delete</Button>
        </Stack>
      </Box>
    </Box>
  );
}
