'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { pictureUrl } from '@/project/addresses';
import { useSession } from '@/project/context';
import { pageSortOf } from '@calque/core/linework';
import { count } from '@/project/trace-words';
import { CONTENT_WORDS, paperWords } from '@/project/views';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { NameOfSheet } from '@/project/sheet-names';
import { setSheetName, useSheetNames } from './names';
import { useSheetsState } from './state';

/** A row of pages has this height, so that only those in sight need to be there. */
const ROW = 196;
const COLUMNS = 2;
/** More pages than this are scrolled in a window of their own. */
const MOST_OPEN = 12;
const WINDOW = 2.6 * ROW;
const ROWS_AROUND = 2;

interface Props {
  file: FileInfo;
  picked: ReadonlySet<number>;
  cropped: ReadonlySet<number>;
  onToggle(page: number): void;
  onCrop(sheet: SheetInfo): void;
}

/** Pages as pictures; of a long set only those in sight are made. */
export function PageGrid({ file, picked, cropped, onToggle, onCrop }: Props) {
  const { sheets } = file;
  const [top, setTop] = useState(0);
  const box = useRef<HTMLDivElement>(null);
  const wanted = useSheetsState((s) => s.wanted);
  const long = sheets.length > MOST_OPEN;
  useEffect(() => {
    if (!wanted || wanted.fileId !== file.id) return;
    const i = file.sheets.findIndex((s) => s.page === wanted.page);
    box.current?.scrollTo({ top: Math.floor(i / COLUMNS) * ROW });
    box.current?.querySelector(`[data-page="${wanted.page}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [wanted, file.id, file.sheets]);
  if (sheets.length === 1)
    return (
      <Box sx={{ mt: 1 }}>
        <PageTile
          sheet={sheets[0]}
          single
          picked={false}
          cropped={cropped.has(sheets[0].page)}
          marked={false}
          onToggle={onToggle}
          onCrop={onCrop}
        />
      </Box>
    );
  const rows = Math.ceil(sheets.length / COLUMNS);
  const first = long ? Math.max(0, Math.floor(top / ROW) - ROWS_AROUND) : 0;
  const last = long ? Math.min(rows, Math.ceil((top + WINDOW) / ROW) + ROWS_AROUND) : rows;
  return (
    <Box
      ref={box}
      onScroll={(e: React.UIEvent<HTMLDivElement>) => setTop(e.currentTarget.scrollTop)}
      data-testid="pages"
      sx={{ mt: 1, maxHeight: long ? WINDOW : undefined, overflowY: long ? 'auto' : undefined }}
    >
      <Box sx={{ height: rows * ROW, position: 'relative' }}>
        <Box
          sx={{
            position: 'absolute',
            top: first * ROW,
            left: 0,
            right: 0,
            display: 'grid',
            gridTemplateColumns: 'minmax(0,1fr) minmax(0,1fr)',
            gridAutoRows: ROW,
            columnGap: 1,
          }}
        >
          {sheets.slice(first * COLUMNS, last * COLUMNS).map((s) => (
            <PageTile
              key={s.page}
              sheet={s}
              picked={picked.has(s.page)}
              cropped={cropped.has(s.page)}
              marked={wanted?.fileId === file.id && wanted.page === s.page}
              onToggle={onToggle}
              onCrop={onCrop}
            />
          ))}
        </Box>
      </Box>
    </Box>
  );
}

interface TileProps {
  sheet: SheetInfo;
  single?: boolean;
  picked: boolean;
  cropped: boolean;
  marked: boolean;
  onToggle(page: number): void;
  onCrop(sheet: SheetInfo): void;
}

function PageTile({ sheet: s, single, picked, cropped, marked, onToggle, onCrop }: TileProps) {
  const session = useSession();
  const nameOf = useSheetNames();
  const [naming, setNaming] = useState<HTMLElement | null>(null);
  const name = nameOf(s);
  return (
    <Box
      data-page={s.page}
      sx={{
        border: 1,
        borderColor: picked ? 'now' : marked ? 'found' : 'edge',
        boxShadow: marked ? 'inset 0 0 0 1px #0b8f9c' : undefined,
        minWidth: 0,
        mb: 1,
        overflow: 'hidden',
      }}
    >
      <Box
        component="button"
        type="button"
        // There is nothing to drag on before its picture is drawn.
        disabled={!s.whole}
        onClick={() => onCrop(s)}
        title="Crop by dragging on the picture"
        aria-label={`Page ${s.page}: crop`}
        sx={{
          all: 'unset',
          cursor: 'crosshair',
          display: 'block',
          position: 'relative',
          width: '100%',
          height: single ? undefined : 92,
          bgcolor: '#fff',
          '&:focus-visible': { outline: '2px solid #0b8f9c' },
        }}
      >
        {s.whole ? (
          // eslint-disable-next-line @next/next/no-img-element -- our own server's picture at its final size
          <img
            src={pictureUrl(session.projectId, s.fileId, s.page)}
            alt={`Page ${s.page}`}
            loading="lazy"
            style={{
              display: 'block',
              width: '100%',
              height: single ? undefined : 92,
              maxHeight: single ? 200 : 92,
              objectFit: 'contain',
            }}
          />
        ) : (
          <Typography color="text.secondary" sx={{ p: 1 }}>
            Its lines are there; its picture is still being drawn.
          </Typography>
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'flex-start', px: 0.75, py: 0.5 }}>
        {!single && (
          <Checkbox
            checked={picked}
            onChange={() => onToggle(s.page)}
            slotProps={{ input: { 'aria-label': `Choose page ${s.page}` } }}
            sx={{ ml: -0.75, mt: -0.5 }}
          />
        )}
        <Box sx={{ minWidth: 0, flex: 1 }}>
          <Box
            component="button"
            type="button"
            onClick={(e: React.MouseEvent<HTMLElement>) => setNaming(e.currentTarget)}
            title="Change number and title"
            aria-label={`Name of page ${s.page}`}
            sx={{
              all: 'unset',
              cursor: 'text',
              display: 'block',
              width: '100%',
              '&:focus-visible': { outline: '2px solid #0b8f9c' },
            }}
          >
            <Typography variant="caption" noWrap sx={{ display: 'block', fontWeight: 650 }}>
              {name.number || `Page ${s.page}`}
              {cropped ? ', cropped' : ''}
            </Typography>
            <Typography variant="caption" noWrap sx={{ display: 'block' }}>
              {name.title || (name.number ? `page ${s.page}` : 'no title read')}
            </Typography>
          </Box>
          <Typography
            variant="caption"
            color="text.secondary"
            noWrap
            title={paperWords(s)}
            sx={{ display: 'block' }}
          >
            {s.reference ? 'at true size' : paperWords(s)}
          </Typography>
          <Typography
            variant="caption"
            noWrap={!single}
            title={contentWords(s)}
            sx={{
              display: 'block',
              color: contentColour(s),
            }}
          >
            {contentWords(s)}
          </Typography>
          {s.unknown && (
            <Typography variant="caption" sx={{ display: 'block', color: 'assumed' }}>
              not understood:{' '}
              {Object.entries(s.unknown)
                .map(([what, n]) => `${n} ${what}`)
                .join(', ')}
            </Typography>
          )}
        </Box>
      </Box>
      {naming && (
        <Popover
          open
          anchorEl={naming}
          onClose={() => setNaming(null)}
          anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        >
          <NameForm sheet={s} name={name} onDone={() => setNaming(null)} />
        </Popover>
      )}
    </Box>
  );
}

function contentColour(s: SheetInfo): string {
  if (s.content === 'empty') return 'differs';
  if (s.content !== 'vector') return 'assumed';
  return ['cover', 'table'].includes(pageSortOf(s)) ? 'text.secondary' : 'known';
}

/** What a page is good for, as far as it can be told: "plan, 27 dimensions, lines to snap to". */
function goodFor(s: SheetInfo): string {
  if (s.content !== 'vector') return CONTENT_WORDS[s.content];
  const sort = pageSortOf(s);
  if (sort === 'cover') return 'a cover: little to snap to';
  if (sort === 'table') return 'a table or notes: little to trace';
  return [
    sort === 'drawing' ? null : sort,
    s.dimensions > 0 && count(s.dimensions, 'dimension'),
    CONTENT_WORDS.vector,
  ]
    .filter(Boolean)
    .join(', ');
}

/** What a page holds; where letters are drawn as outlines, or have none behind them, that is said too. */
const contentWords = (s: SheetInfo) =>
  goodFor(s) +
  (s.counts.texts === 0 &&
  s.counts.fills > 0 &&
  (s.content === 'vector' || s.content === 'mixed') &&
  !s.reference
    ? ', its texts cannot be read'
    : '');

function NameForm({ sheet, name, onDone }: { sheet: SheetInfo; name: NameOfSheet; onDone(): void }) {
  const session = useSession();
  const [number, setNumber] = useState(name.number);
  const [title, setTitle] = useState(name.title);
  const save = () => {
    setSheetName(session, sheet, { number: number.trim(), title: title.trim() });
    onDone();
  };
  return (
    <Box
      component="form"
      onSubmit={(e: React.FormEvent) => {
        e.preventDefault();
        save();
      }}
      sx={{
        bgcolor: 'slip',
        border: 1,
        borderColor: 'edge',
        p: 1.25,
        pt: 1.5,
        width: 240,
        display: 'grid',
        gap: 1.25,
      }}
    >
      <TextField
        autoFocus
        label="Sheet number"
        value={number}
        onChange={(e) => setNumber(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <TextField
        label="Title"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <Box>
        <Button type="submit" variant="contained">
          Keep
        </Button>{' '}
        <Button onClick={onDone}>Leave</Button>
      </Box>
    </Box>
  );
}
