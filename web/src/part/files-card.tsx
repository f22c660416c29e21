'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { partPage, writeDxf, writeHolesCsv, writeSvg } from '@calque/core/exchange';
import { settingsOf, shapeOfPiece, type Part } from '@calque/core/model';
import { drawnPlanes, threadedHoles } from '@calque/core/part';
import { useSession } from '@/project/context';
import { saveText } from '@/ui/save-text';
import type { PartFile } from '@/workers/part-protocol';
import { colourOfPart } from './part-colour';
import { partWorker, usePartSolid } from './part-solid';
import { usePartUi } from './part-ui';

interface FileOf {
  words: string;
  ending: string;
  type: string;
  /** What it is of, beside the part. */
  of: string;
  bytes(): Promise<string | Uint8Array<ArrayBuffer> | null>;
}

const SOLIDS: readonly { file: PartFile; words: string; type: string; ending: string }[] = [
  { file: 'step', words: 'STEP', type: 'model/step', ending: 'step' },
  { file: 'stl', words: 'STL', type: 'model/stl', ending: 'stl' },
  { file: '3mf', words: '3MF', type: 'model/3mf', ending: '3mf' },
  { file: 'glb', words: 'glTF', type: 'model/gltf-binary', ending: 'glb' },
];
const OUTLINE = { name: 'Outline', colour: 0x17273a, index: 7 };

/** The part as files for others: its solid, its views on paper, its holes, a face of it. */
export function FilesCard({ part }: { part: Part }) {
  const session = useSession(),
    solid = usePartSolid((s) => s.solid),
    faces = usePartUi((s) => s.faces),
    [busy, setBusy] = useState<string | null>(null);
  const { model } = session.state,
    { units } = settingsOf(model);
  const page = async () => {
    const planes = drawnPlanes(model, part),
      views = await partWorker.look('views', {
        frames: planes.map(({ origin, across, up }) => ({ origin, across, up })),
      });
    if (!solid || !views) return null;
    return partPage(model, part, {
      seen: planes.map((plane, i) => ({ plane, view: views[i] })),
      holes: threadedHoles(solid),
      mass: (solid.measures.volume * part.density) / 1e9,
    });
  };
  const files: FileOf[] = [
    ...SOLIDS.map(({ file, ...f }) => ({
      ...f,
      of: '',
      bytes: () => partWorker.write(file, { ...part, colour: colourOfPart(part) }),
    })),
    {
      words: 'PDF',
      ending: 'pdf',
      type: 'application/pdf',
      of: ', views',
      bytes: async () => {
        const view = await page(),
          { writePdf } = await import('@calque/core/paper');
        if (!view) return null;
        const { bytes } = await writePdf([view], {
          scale: view.scale ?? 1,
          paper: null,
          title: { project: settingsOf(model).name, date: new Date().toISOString().slice(0, 10) },
        });
        return new Uint8Array(bytes);
      },
    },
    {
      words: 'SVG',
      ending: 'svg',
      type: 'image/svg+xml',
      of: ', views',
      bytes: async () => {
        const view = await page();
        return view && writeSvg(view.drawing, { scale: view.scale ?? 1, title: part.name });
      },
    },
    {
      words: faces.length === 1 ? 'DXF of the face' : 'DXF of its largest face',
      ending: 'dxf',
      type: 'image/vnd.dxf',
      of: ', face',
      bytes: async () => {
        const outline = await partWorker.look('face', { name: faces.length === 1 ? faces[0] : null });
        return (
          outline &&
          writeDxf(
            { layers: [OUTLINE], shapes: outline.pieces.map((p) => shapeOfPiece(p, OUTLINE.name)) },
            units === 'mm' || units === 'cm' || units === 'm' ? 'mm' : 'in',
          )
        );
      },
    },
    ...(solid && solid.holes.length > 0
      ? [
          {
            words: 'CSV of holes',
            ending: 'csv',
            type: 'text/csv',
            of: ', holes',
            bytes: () => Promise.resolve(writeHolesCsv(threadedHoles(solid), units)),
          },
        ]
      : []),
  ];
  const write = async ({ words, ending, type, of, bytes }: FileOf) => {
    setBusy(words);
    try {
      const found = await bytes();
      if (found !== null) saveText(`${part.name}${of}.${ending}`, found, type);
      else
        session.tell(
          ending === 'dxf'
            ? 'There is no flat face to draw there: choose a flat one.'
            : 'There is no solid to write yet.',
          true,
        );
    } catch (error) {
      session.tell(
        `${words} was not written: ${error instanceof Error ? error.message : String(error)}`,
        true,
      );
    }
    setBusy(null);
  };
  return (
    <Box sx={{ mt: 1 }} data-testid="part-files">
      <Typography color="text.secondary">{busy ? `${busy} is being written …` : 'As a file'}</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {files.map((f) => (
          <Button key={f.words} variant="outlined" disabled={busy !== null} onClick={() => void write(f)}>
            {f.words}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
