'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { ApiError, uploadTo, type Upload } from '@/project/api';
import { ofType, type Model } from '@calque/core/model';
import { useFromModel, useProject, useSession } from '@/project/context';
import { useReadsAhead } from '@/project/reads-ahead';
import type { FileInfo } from '@/project/wire';
import { SheetDesk } from './desk/desk';
import { DetachFile } from './detach-file';
import { FileCard } from './file-card';
import { PageFinder } from './page-finder';

interface Sending {
  key: number;
  name: string;
  share: number;
  upload: Upload;
}

/** A file of so few pages lies open until one of them is on the table: nobody overlooks it. */
const FEW_PAGES = 3;
const filesLaid = (model: Model): ReadonlySet<string> =>
  new Set(ofType(model, 'underlay').map((u) => u.fileId));

/** Attach files, see their pages, lay them down. */
export function SheetsPanel() {
  const session = useSession();
  const files = useProject((s) => s.files);
  const [sending, setSending] = useState<Sending[]>([]);
  const [over, setOver] = useState(false);
  const [detaching, setDetaching] = useState<FileInfo | null>(null);
  const laid = useFromModel(filesLaid);
  const { on: ahead, set: setAhead } = useReadsAhead();
  const picker = useRef<HTMLInputElement>(null);
  const nextKey = useRef(1);

  const send = async (file: File) => {
    if (file.size === 0) return session.tell(`${file.name} is empty (0 bytes). Fetch it again.`, true);
    const key = nextKey.current++;
    const started = uploadTo(session.projectId, file.name, file, (share) =>
      setSending((all) => all.map((s) => (s.key === key ? { ...s, share } : s))),
    );
    setSending((all) => [...all, { key, name: file.name, share: 0, upload: started }]);
    try {
      const sent = await started.done;
      if (sent.same) session.tell(`${file.name} is attached already, as ${sent.same}: its pages serve.`);
      await session.refreshFiles();
    } catch (error) {
      if (!(error instanceof ApiError && error.code === 'cancelled'))
        session.tell(`${file.name}: ${error instanceof Error ? error.message : String(error)}`, true);
    } finally {
      setSending((all) => all.filter((s) => s.key !== key));
    }
  };
  const sendRef = useRef(send);
  useEffect(() => {
    sendRef.current = send;
  });

  // A file may be dropped anywhere on the page.
  useEffect(() => {
    const onOver = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes('Files')) return;
      event.preventDefault();
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent) => {
      event.preventDefault();
      setOver(false);
      for (const file of event.dataTransfer?.files ?? []) void sendRef.current(file);
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

  return (
    <Box>
      <SheetDesk />
      <Typography variant="h2">Sheets</Typography>
      <Typography color="text.secondary" sx={{ mb: 1.25 }}>
        {files.length === 0
          ? 'Attach a PDF plan, a scan or a photo to begin.'
          : 'Choose pages and lay them down under the drawing.'}
      </Typography>
      <Box
        sx={{
          border: 1,
          borderStyle: 'dashed',
          borderColor: over ? 'now' : 'text.secondary',
          bgcolor: over ? 'action.hover' : undefined,
          p: 1.5,
          mb: 1.5,
          textAlign: 'center',
        }}
      >
        <input
          ref={picker}
          type="file"
          hidden
          multiple
          aria-label="Files to attach"
          data-testid="file-input"
          onChange={(e) => {
            for (const file of e.target.files ?? []) void send(file);
            e.target.value = '';
          }}
        />
        <Typography sx={{ mb: 0.75 }}>
          {over ? 'Let go to attach' : 'Drop PDF, PNG, JPEG, TIFF, WebP, DXF, SVG or STEP here, or'}
        </Typography>
        <Button
          variant={files.length === 0 ? 'contained' : 'outlined'}
          onClick={() => picker.current?.click()}
        >
          Choose files
        </Button>
      </Box>
      {sending.map((s) => (
        <Box key={s.key} sx={{ mb: 1.25 }}>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography noWrap sx={{ flex: 1 }}>
              {s.name}
            </Typography>
            <Typography variant="caption">sending {Math.round(s.share * 100)} %</Typography>
            <Button onClick={() => s.upload.cancel()}>Stop</Button>
          </Box>
          <LinearProgress variant="determinate" value={s.share * 100} aria-label={`Sending ${s.name}`} />
        </Box>
      ))}
      {files.some((f) => f.sheets.length > 1) && <PageFinder />}
      {[...files].reverse().map((file, i) => (
        <FileCard
          key={file.id}
          file={file}
          startOpen={i === 0 || (file.pages <= FEW_PAGES && !laid.has(file.id))}
          onRemove={() => setDetaching(file)}
        />
      ))}
      {files.length > 0 && (
        <FormControlLabel
          control={<Switch size="small" checked={ahead} onChange={(e) => setAhead(e.target.checked)} />}
          label="Read the printed dimensions of a chosen page by itself"
          sx={{ borderTop: 1, borderColor: 'edge', pt: 1, mx: 0, gap: 0.5 }}
        />
      )}
      {detaching && <DetachFile file={detaching} onDone={() => setDetaching(null)} />}
    </Box>
  );
}
