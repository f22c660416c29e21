'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { api } from '@/project/api';
import { useProject, useSession } from '@/project/context';
import { useSheetNames } from './names';
import { useSheetsState } from './state';

const WAIT_MS = 250;

/** Finds pages of all files by any words on them, by number or by title. */
export function PageFinder() {
  const session = useSession();
  const files = useProject((s) => s.files);
  const nameOf = useSheetNames();
  const [words, setWords] = useState('');
  const [found, setFound] = useState<{ fileId: string; page: number }[] | null>(null);
  const goTo = useSheetsState((s) => s.goTo);
  useEffect(() => {
    if (words.trim() === '') return;
    let late = false;
    const timer = setTimeout(() => {
      const wanted = words.toLowerCase().trim().split(/\s+/);
      const named = files
        .flatMap((f) => f.sheets)
        .filter((s) => {
          const n = nameOf(s);
          return wanted.every((w) => `${n.number} ${n.title}`.toLowerCase().includes(w));
        });
      void api
        .findPages(session.projectId, words)
        .then((pages) => {
          if (!late)
            setFound([
              ...named.map((s) => ({ fileId: s.fileId, page: s.page })),
              ...pages.filter((p) => !named.some((s) => s.fileId === p.fileId && s.page === p.page)),
            ]);
        })
        .catch((e: Error) => session.tell(e.message, true));
    }, WAIT_MS);
    return () => {
      late = true;
      clearTimeout(timer);
    };
  }, [words, files, nameOf, session]);
  const shown = words.trim() === '' ? null : found;
  return (
    <Box sx={{ mb: 1.25 }}>
      <TextField
        fullWidth
        label="Find a page by its number, title or any words on it"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      {shown && (
        <Box
          data-testid="pages-found"
          sx={{ maxHeight: 180, overflowY: 'auto', border: 1, borderTop: 0, borderColor: 'edge' }}
        >
          {shown.length === 0 && (
            <Typography color="text.secondary" sx={{ p: 0.75 }}>
              No page reads so.
            </Typography>
          )}
          {shown.map(({ fileId, page }) => {
            const file = files.find((f) => f.id === fileId);
            const sheet = file?.sheets.find((s) => s.page === page);
            if (!file || !sheet) return null;
            const { number, title } = nameOf(sheet);
            return (
              <ButtonBase
                key={`${fileId}:${page}`}
                onClick={() => goTo(fileId, page)}
                sx={{ display: 'block', width: '100%', textAlign: 'left', px: 0.75, py: 0.4 }}
              >
                {[number, title].filter(Boolean).join(' ') || `Page ${page}`}{' '}
                <Typography component="span" variant="caption" color="text.secondary">
                  {file.name}, page {page}
                </Typography>
              </ButtonBase>
            );
          })}
        </Box>
      )}
    </Box>
  );
}
