'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useRef, useState, type PointerEvent as ReactPointerEvent } from 'react';
import { MM_PER_POINT } from '@calque/core/geometry';
import { pictureUrl } from '@/project/addresses';
import { useSession } from '@/project/context';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { Crop } from './lay';

/** A crop smaller than this (points) is a slip of the hand. */
const SMALLEST = 10;

/** Crops a page by dragging a box on its picture. */
export function CropDialog({
  file,
  sheet,
  crop,
  onCrop,
  onClose,
}: {
  file: FileInfo;
  sheet: SheetInfo;
  crop: Crop;
  onCrop(crop: Crop): void;
  onClose(): void;
}) {
  const [box, setBox] = useState<Crop>(crop);
  const start = useRef<[number, number] | null>(null);
  const picture = useRef<HTMLDivElement>(null);
  const at = (event: ReactPointerEvent): [number, number] => {
    const r = picture.current!.getBoundingClientRect();
    const clamp = (v: number) => Math.max(0, Math.min(1, v));
    return [
      clamp((event.clientX - r.left) / r.width) * sheet.width,
      (1 - clamp((event.clientY - r.top) / r.height)) * sheet.height,
    ];
  };
  const drag = (event: ReactPointerEvent) => {
    if (!start.current) return;
    const [x, y] = at(event),
      [sx, sy] = start.current;
    setBox([Math.min(x, sx), Math.min(y, sy), Math.max(x, sx), Math.max(y, sy)]);
  };
  const session = useSession();
  const small = box[2] - box[0] < SMALLEST || box[3] - box[1] < SMALLEST;
  const share = (v: number, of: number) => `${(v / of) * 100}%`;
  const whole: Crop = [0, 0, sheet.width, sheet.height];
  return (
    <Dialog open onClose={onClose} maxWidth="lg">
      <DialogTitle>Crop page {sheet.page}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          Drag a box around what is to be laid down. The rest stays in the file and can be taken back at any
          time.
        </Typography>
        <Box
          ref={picture}
          data-testid="crop-picture"
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            start.current = at(e);
          }}
          onPointerMove={drag}
          onPointerUp={(e) => {
            drag(e);
            start.current = null;
          }}
          sx={{
            position: 'relative',
            cursor: 'crosshair',
            touchAction: 'none',
            bgcolor: '#fff',
            border: 1,
            borderColor: 'edge',
            userSelect: 'none',
            width: `min(72vw, 860px, calc(62vh * ${sheet.width / sheet.height}))`,
            aspectRatio: `${sheet.width} / ${sheet.height}`,
            overflow: 'hidden',
          }}
        >
          {/* eslint-disable-next-line @next/next/no-img-element -- our own server's picture */}
          <img
            src={pictureUrl(session.projectId, file.id, sheet.page)}
            alt={`Page ${sheet.page}`}
            draggable={false}
            style={{ width: '100%', height: '100%', display: 'block' }}
          />
          <Box
            sx={{
              position: 'absolute',
              left: share(box[0], sheet.width),
              bottom: share(box[1], sheet.height),
              width: share(box[2] - box[0], sheet.width),
              height: share(box[3] - box[1], sheet.height),
              border: '2px solid #d4451f',
              boxShadow: '0 0 0 4000px rgba(23,39,58,.32)',
              pointerEvents: 'none',
            }}
          />
        </Box>
        <Typography
          variant="caption"
          color={small ? 'error' : 'text.secondary'}
          sx={{ mt: 0.75, display: 'block' }}
        >
          {small
            ? 'This box is too small: drag a larger one.'
            : `${Math.round((box[2] - box[0]) * MM_PER_POINT)} × ${Math.round((box[3] - box[1]) * MM_PER_POINT)} mm of paper`}
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => setBox(whole)}>Whole page</Button>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={small} onClick={() => onCrop(box)}>
          Use this crop
        </Button>
      </DialogActions>
    </Dialog>
  );
}
