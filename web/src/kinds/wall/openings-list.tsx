'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { IconTrash } from '@tabler/icons-react';
import { arcOf, openingsOf, widthOfOpening, type OpeningInWall } from '@calque/core/building';
import {
  group,
  nextTag,
  pairOf,
  setFields,
  USUAL_DEPTH,
  usualOpening,
  type OpeningKind,
  type OpeningMeasure,
  type Wall,
  type WallOpening,
  standing,
  topOf,
} from '@calque/core/model';
import { formatLength } from '@calque/core/units';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { MarkButton } from '@/ui/icon-button';
import { LengthField } from '@/ui/length-field';

const KINDS: readonly (readonly [OpeningKind, string])[] = [
  ['door', 'Door'],
  ['window', 'Window'],
  ['gap', 'Gap'],
  ['niche', 'Niche'],
];
/** What stands for a door's leaves in the list. */
const LEAVES: readonly (readonly [string, string, Pick<WallOpening, 'leaves' | 'folds'>])[] = [
  ['one', 'one leaf', { leaves: 1, folds: null }],
  ['two', 'two leaves', { leaves: 2, folds: null }],
  ['slides', 'slides', { leaves: 0, folds: null }],
  ['folds', 'folds', { leaves: 0, folds: true }],
];
const leavesOf = ({ leaves, folds }: WallOpening): string =>
  LEAVES.find(([, , of]) => of.leaves === leaves && (leaves > 0 || Boolean(of.folds) === Boolean(folds)))![0];
const MEASURE_WORDS: Readonly<Record<OpeningMeasure, string>> = {
  kind: 'kind',
  sill: 'sill',
  head: 'head',
  swing: 'swing',
  depth: 'depth',
};

/** Doors, windows, gaps and niches of the walls selected: of one wall each with its figures. */
export function OpeningsOfWalls({ walls }: { walls: readonly Wall[] }) {
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const all = walls.flatMap((wall) => openingsOf(wall).map((o) => ({ wall, ...o })));
  if (all.length === 0) return null;
  const assumed = all.filter((o) => o.opening.assumed.length > 0);
  const confirm = () =>
    session.do(
      group(
        walls
          .filter((w) => w.openings?.some((o) => o.assumed.length > 0))
          .map((w) => setFields(w, { openings: w.openings!.map((o) => ({ ...o, assumed: [] })) })),
      ),
      'Confirm openings',
    );
  return (
    <Box sx={{ mt: 1.25 }}>
      <Typography variant="h3" sx={{ mb: 0.5 }}>
        {all.length === 1 ? 'One opening' : `${all.length} openings`}
      </Typography>
      {walls.length === 1 ? (
        all.map((o) => <OpeningFields key={o.opening.id} wall={o.wall} at={o} />)
      ) : (
        <Typography color="text.secondary">
          {all
            .slice(0, MOST_LISTED)
            .map((o) => formatLength(o.to - o.from, style))
            .join(', ')}
          {all.length > MOST_LISTED ? ' …' : ''} wide. Select one wall to change its openings.
        </Typography>
      )}
      {assumed.length > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Typography variant="caption" sx={{ color: 'assumed', flex: 1 }}>
            assumed: {measuresOf(assumed.map((o) => o.opening))}
          </Typography>
          <Button onClick={confirm}>Confirm</Button>
        </Box>
      )}
    </Box>
  );
}
const MOST_LISTED = 12;

const measuresOf = (openings: readonly WallOpening[]): string =>
  [...new Set(openings.flatMap((o) => o.assumed))].map((m) => MEASURE_WORDS[m]).join(', ');

function OpeningFields({ wall, at: { opening: o, from, to } }: { wall: Wall; at: OpeningInWall }) {
  const session = useSession();
  const put = (fields: Partial<WallOpening>, label: string) =>
    session.do(
      setFields(wall, {
        openings: wall.openings!.map((other) => (other.id === o.id ? { ...o, ...fields } : other)),
      }),
      label,
    );
  const set = (fields: Partial<WallOpening>, label: string, ...known: OpeningMeasure[]) =>
    put({ ...fields, assumed: o.assumed.filter((m) => !known.includes(m)) }, label);
  const refused = (why: string) => session.tell(why, true);
  const heights = (sill: number, head: number, label: string, known: 'sill' | 'head') => {
    if (sill >= head) refused('The sill must lie below the head.');
    else if (head > topOf(standing(session.state.model, wall)))
      refused('The head would be above the wall: make the wall higher first.');
    else set({ sill, head }, label, known);
  };
  /** Both edges move by half, so that its middle stays; refused where the wall or another opening is in the way. */
  const widen = (width: number) => {
    const arc = arcOf(wall),
      // In a bent wall an opening is straight from edge to edge.
      half = arc ? arc.radius * Math.asin(Math.min(1, width / (2 * arc.radius))) : width / 2,
      ends = [(from + to) / 2 - half, (from + to) / 2 + half],
      chord = Math.hypot(wall.to[0] - wall.from[0], wall.to[1] - wall.from[1]),
      length = arc?.length ?? chord;
    if (ends[0] < -1e-6 || ends[1] > length + 1e-6)
      return refused('It would go beyond the end of its wall: move it along first, or make it less wide.');
    if (openingsOf(wall).some((p) => p.opening.id !== o.id && p.from < ends[1] && p.to > ends[0]))
      return refused('It would go into the opening beside it.');
    const [ux, uy] = [(wall.to[0] - wall.from[0]) / chord, (wall.to[1] - wall.from[1]) / chord];
    const place = (t: number): [number, number] =>
      arc ? pairOf(arc.at(t)) : [wall.from[0] + ux * t, wall.from[1] + uy * t];
    const forward = arc
      ? arc.along(o.to) > arc.along(o.from)
      : (o.to[0] - o.from[0]) * ux + (o.to[1] - o.from[1]) * uy > 0;
    const [a, b] = ends.map(place);
    set(forward ? { from: a, to: b } : { from: b, to: a }, 'Change the width of an opening');
  };
  const name = o.tag || KINDS.find(([id]) => id === o.kind)![1];
  return (
    <Box
      role="group"
      aria-label={`Opening ${name}`}
      sx={{ borderTop: 1, borderColor: 'edge', py: 1, display: 'grid', gap: 1 }}
    >
      <Box sx={{ display: 'flex', gap: 1 }}>
        <TextField
          select
          label="Kind"
          value={o.kind}
          onChange={(e) => {
            const kind = e.target.value as OpeningKind;
            const usual = usualOpening(o.id, kind, o.from, o.to),
              others = o.assumed.filter((m) => m === 'sill' || m === 'head');
            put(
              {
                kind,
                leaves: usual.leaves,
                folds: null,
                depth: usual.depth && Math.min(usual.depth, wall.thickness / 2),
                tag: nextTag(session.state.model, kind),
                // Nobody has said how it swings, or how deep it is.
                assumed: [...others, ...usual.assumed.filter((m) => m === 'swing' || m === 'depth')],
              },
              'Change the kind of an opening',
            );
          }}
          sx={{ flex: 1 }}
        >
          {KINDS.map(([id, words]) => (
            <MenuItem key={id} value={id}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        <Words
          label="Tag"
          value={o.tag}
          width={76}
          longest={40}
          onChange={(tag) => set({ tag }, 'Name an opening')}
        />
        <MarkButton
          word={`Remove ${name}`}
          onClick={() =>
            session.do(
              setFields(wall, { openings: wall.openings!.filter((other) => other.id !== o.id) }),
              'Remove an opening',
            )
          }
        >
          <IconTrash size={16} stroke={1.6} />
        </MarkButton>
      </Box>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <LengthField label="Width" value={widthOfOpening(wall, { from, to })} onChange={widen} />
        <LengthField
          label="Sill"
          value={o.sill}
          positive={false}
          onChange={(sill) =>
            sill < 0
              ? refused('The sill cannot lie below the floor.')
              : heights(sill, o.head, 'Change a sill', 'sill')
          }
        />
        <LengthField
          label="Head"
          value={o.head}
          onChange={(head) => heights(o.sill, head, 'Change a head', 'head')}
        />
      </Box>
      {(o.kind === 'door' || o.kind === 'window') && (
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Words
            label="Type"
            value={o.type ?? ''}
            longest={80}
            onChange={(words) => set({ type: words || null }, 'Change the type of an opening')}
          />
          <Words
            label="Material"
            value={o.material ?? ''}
            longest={80}
            onChange={(words) => set({ material: words || null }, 'Change the material of an opening')}
          />
        </Box>
      )}
      {o.kind === 'niche' && (
        <Box sx={{ display: 'flex', gap: 1 }}>
          <LengthField
            label="Depth"
            value={o.depth ?? USUAL_DEPTH}
            onChange={(depth) =>
              depth >= wall.thickness
                ? refused('It would go through the wall: make it less deep, or a gap.')
                : set({ depth }, 'Change the depth of a niche', 'depth')
            }
          />
          <Button
            variant="outlined"
            onClick={() => put({ opens: o.opens === 'left' ? 'right' : 'left' }, 'Open to the other side')}
          >
            Other side
          </Button>
        </Box>
      )}
      {o.kind === 'door' && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <TextField
            select
            label="Leaves"
            value={leavesOf(o)}
            onChange={(e) =>
              set(LEAVES.find(([id]) => id === e.target.value)![2], 'Change the leaves of a door', 'swing')
            }
            sx={{ width: 110 }}
          >
            {LEAVES.map(([id, words]) => (
              <MenuItem key={id} value={id}>
                {words}
              </MenuItem>
            ))}
          </TextField>
          <Button
            variant="outlined"
            onClick={() =>
              set({ opens: o.opens === 'left' ? 'right' : 'left' }, 'Open to the other side', 'swing')
            }
          >
            Other side
          </Button>
          {o.leaves === 1 && (
            <Button
              variant="outlined"
              onClick={() =>
                set({ hung: o.hung === 'from' ? 'to' : 'from' }, 'Hang at the other edge', 'swing')
              }
            >
              Other edge
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}

/** What schedules say of it in words; taken on Enter or on leaving. */
function Words({
  label,
  value,
  width,
  longest,
  onChange,
}: {
  label: string;
  value: string;
  width?: number;
  longest: number;
  onChange(words: string): void;
}) {
  return (
    <TextField
      key={value}
      label={label}
      defaultValue={value}
      slotProps={{ htmlInput: { maxLength: longest } }}
      onBlur={(e) => {
        const words = e.target.value.trim();
        if (words !== value) onChange(words);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') (e.target as HTMLInputElement).blur();
      }}
      sx={width ? { width } : { flex: 1 }}
    />
  );
}
