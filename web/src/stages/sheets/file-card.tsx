'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { CommandButton } from '@/commands/context';
import { useTrouble } from '@/project/health';
import { api } from '@/project/api';
import { useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import type { FileInfo, SheetInfo } from '@/project/wire';
import { CropDialog } from './crop-dialog';
import { LayForm } from './lay-form';
import type { Crop } from './lay';
import { PageGrid } from './page-grid';
import { ReferredSheets } from './referred-sheets';
import { useSheetsState } from './state';

/** One attached file: its state in words, its pages as pictures, and the form that lays chosen ones down. */
export function FileCard({
  file,
  startOpen,
  onRemove,
}: {
  file: FileInfo;
  startOpen: boolean;
  onRemove(): void;
}) {
  const [open, setOpen] = useState(startOpen);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const [crops, setCrops] = useState<Readonly<Record<number, Crop>>>({});
  const [cropping, setCropping] = useState<SheetInfo | null>(null);
  const chosen = file.sheets.length === 1 ? file.sheets : file.sheets.filter((s) => picked.has(s.page));
  const toggle = (page: number) =>
    setPicked((p) => {
      const next = new Set(p);
      if (!next.delete(page)) next.add(page);
      return next;
    });
  // One crop serves all chosen pages of the same size.
  const source = chosen.find((s) => crops[s.page]);
  const sameSize = source
    ? chosen.filter(
        (s) =>
          s !== source &&
          Math.abs(s.width - source.width) < 1 &&
          Math.abs(s.height - source.height) < 1 &&
          crops[s.page] !== crops[source.page],
      )
    : [];
  const wanted = useSheetsState((s) => s.wanted);
  const [seen, setSeen] = useState(0);
  if (wanted && wanted.fileId === file.id && wanted.turn !== seen) {
    setSeen(wanted.turn);
    setOpen(true);
  }
  const fullCrop = (s: SheetInfo): Crop => [0, 0, s.width, s.height];

  return (
    <Box component="section" aria-label={file.name} sx={{ borderTop: 1, borderColor: 'edge', pt: 1, mb: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Button
          onClick={() => setOpen(!open)}
          aria-expanded={open}
          sx={{ px: 0, flex: 1, justifyContent: 'flex-start', minWidth: 0 }}
        >
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', fontWeight: 650 }}>
            {open ? '▾' : '▸'} {file.name}
          </Box>
        </Button>
        <Button onClick={onRemove} sx={{ fontSize: 12, fontWeight: 500, color: 'text.secondary' }}>
          Detach
        </Button>
      </Box>
      <FileState file={file} />
      {open && (
        <>
          {file.kind === 'step' && file.status === 'ready' && <SolidFile />}
          <PageGrid
            file={file}
            picked={picked}
            cropped={new Set(Object.keys(crops).map(Number))}
            onToggle={toggle}
            onCrop={setCropping}
          />
          {file.sheets.length > 1 && (
            <Button
              onClick={() =>
                setPicked(new Set(picked.size === file.sheets.length ? [] : file.sheets.map((s) => s.page)))
              }
            >
              {picked.size === file.sheets.length ? 'Choose none' : 'Choose all'}
            </Button>
          )}
          {chosen.length > 0 && (
            <LayForm
              file={file}
              chosen={chosen.map((sheet) => ({ sheet, crop: crops[sheet.page] ?? fullCrop(sheet) }))}
              onLaid={() => setPicked(new Set())}
              onCrop={() => setCropping(chosen[0])}
            />
          )}
          <ReferredSheets drawing={file} />
          {sameSize.length > 0 && (
            <Button
              onClick={() =>
                setCrops({
                  ...crops,
                  ...Object.fromEntries(sameSize.map((s) => [s.page, crops[source!.page]])),
                })
              }
            >
              Use the crop of page {source!.page} for{' '}
              {sameSize.length === 1 ? 'the other page' : `the ${sameSize.length} others`} of its size
            </Button>
          )}
          {file.sheets.length > 1 && chosen.length === 0 && (
            <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
              Tick one page or several to lay them down.
            </Typography>
          )}
        </>
      )}
      {cropping && (
        <CropDialog
          file={file}
          sheet={cropping}
          crop={crops[cropping.page] ?? fullCrop(cropping)}
          onClose={() => setCropping(null)}
          onCrop={(crop) => {
            setCrops({ ...crops, [cropping.page]: crop });
            setPicked(new Set([...picked, cropping.page]));
            setCropping(null);
          }}
        />
      )}
    </Box>
  );
}

const UNITS: [string, number][] = [
  ['millimetres', 1],
  ['centimetres', 10],
  ['metres', 1000],
  ['inches', 25.4],
  ['feet', 304.8],
];

/** A drawing that does not say its units asks for them. */
function UnitsForm({ file }: { file: FileInfo }) {
  const session = useSession();
  return (
    <Box sx={{ mt: 0.5 }}>
      <Typography sx={{ color: 'assumed', mb: 0.75 }}>{file.message}</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {UNITS.map(([words, mm]) => (
          <Button
            key={words}
            variant="outlined"
            onClick={() =>
              void api
                .readWithUnits(session.projectId, file.id, mm)
                .then(() => session.refreshFiles())
                .catch((e: Error) => session.tell(e.message, true))
            }
          >
            {words}
          </Button>
        ))}
      </Box>
    </Box>
  );
}

/** A solid has no pages: it is taken into a part. */
function SolidFile() {
  return (
    <Box sx={{ my: 0.5 }}>
      <Typography color="text.secondary" sx={{ mb: 0.5 }}>
        It is taken into a part, where it can be measured, drilled and drawn on: make a part, and choose it in
        its card.
      </Typography>
      <CommandButton id="new-part" label="New part" />
    </Box>
  );
}

function FileState({ file }: { file: FileInfo }) {
  const session = useSession();
  const [password, setPassword] = useState('');
  const act = (work: Promise<unknown>) =>
    void work.then(() => session.refreshFiles()).catch((e: Error) => session.tell(e.message, true));
  const trouble = useTrouble('reader', file.status === 'waiting');
  if (file.status === 'waiting' || file.status === 'reading') {
    return (
      <Box>
        {trouble && (
          <Typography role="alert" sx={{ color: 'differs' }}>
            ≠ {trouble}
          </Typography>
        )}
        <Box sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography variant="caption" sx={{ flex: 1 }}>
            {file.status === 'waiting'
              ? 'waits to be read'
              : file.pages > 0
                ? `reading page ${Math.min(file.pagesRead + 1, file.pages)} of ${file.pages}`
                : 'reading'}
          </Typography>
          <Button onClick={() => act(api.stopReading(session.projectId, file.id))}>Stop</Button>
        </Box>
        <LinearProgress
          variant={file.pages > 0 ? 'determinate' : 'indeterminate'}
          value={file.pages > 0 ? (file.pagesRead / file.pages) * 100 : undefined}
          aria-label={`Reading ${file.name}`}
        />
      </Box>
    );
  }
  if (file.status === 'password') {
    return (
      <Box
        component="form"
        onSubmit={(e: React.FormEvent) => {
          e.preventDefault();
          act(api.readAgain(session.projectId, file.id, password));
        }}
        sx={{ mt: 0.5 }}
      >
        <Typography sx={{ color: 'assumed', mb: 0.75 }}>{file.message}</Typography>
        <Box sx={{ display: 'flex', gap: 1 }}>
          <TextField
            type="password"
            label="Password"
            value={password}
            autoComplete="off"
            onChange={(e) => setPassword(e.target.value)}
            sx={{ flex: 1 }}
          />
          <Button type="submit" variant="contained" disabled={password === ''}>
            Open it
          </Button>
        </Box>
      </Box>
    );
  }
  if (file.status === 'units') return <UnitsForm file={file} />;
  if (file.status === 'failed' || file.status === 'cancelled') {
    return (
      <Box>
        <Typography sx={{ color: file.status === 'failed' ? 'differs' : 'text.secondary' }}>
          {file.status === 'failed' ? '≠ ' : ''}
          {file.message}
        </Typography>
        <Button onClick={() => act(api.readAgain(session.projectId, file.id))}>Read it again</Button>
      </Box>
    );
  }
  const notes = [
    file.kind?.toUpperCase(),
    file.kind === 'step' ? 'a solid, for parts' : count(file.pages, 'page'),
    file.encrypted && 'encrypted',
    file.repaired && 'damaged, read after repair',
  ].filter(Boolean);
  return (
    <Typography variant="caption" color="text.secondary">
      {notes.join(', ')}
    </Typography>
  );
}
