'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import {
  footOf,
  group,
  setFields,
  standing,
  standingOf,
  storeysOf,
  toRoof,
  topOf,
  type AtLevel,
  type Wall,
} from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

/** What says where a wall's top is, beside the level of a storey by its id. */
const BY_HEIGHT = 'height',
  ROOF = 'roof',
  /** Of the storey on which it stands. */
  OWN = 'own';

const WORDS: Readonly<Record<string, string>> = {
  [BY_HEIGHT]: 'its own height',
  [ROOF]: 'the roof over it',
};

const levelKey = (at: AtLevel | null | undefined): string => at?.storeyId ?? OWN;
const topKey = (w: Wall): string => (w.underRoof ? ROOF : w.top ? levelKey(w.top) : BY_HEIGHT);
const storeyIdOf = (key: string): string | null => (key === OWN ? null : key);

/** Where walls stand and how high they reach: by levels of the building with offsets, a height, or a roof. */
export function WallHeights({ chosen: walls }: { chosen: readonly Wall[] }) {
  const session = useSession();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const storeys = storeysOf(model),
    foot = shared(walls, (w) => levelKey(w.base)),
    top = shared(walls, topKey),
    stands = walls.map((w) => standingOf(model, w)),
    doubts = [...new Set(stands.flatMap((s) => s.doubt ?? []))],
    assumed = walls.filter((w) => w.heightAssumed).length,
    reaches = shared(stands, (s) => s.height);
  const length = (mm: number) => formatLengthWithUnit(mm, style);
  /** Refused where it would leave a wall no height. */
  const set = (fields: (w: Wall) => Partial<Omit<Wall, 'id' | 'type'>>, label: string) => {
    const next = walls.map((w): [Wall, Partial<Wall>] => [w, fields(w)]),
      why = next.map(([w, f]) => standingOf(model, { ...w, ...f }).doubt).find((d) => d !== null);
    if (why) session.tell(`This would not hold: ${why}. Take another level or offset.`, true);
    else session.do(group(next.map(([w, f]) => setFields<Wall>(w, f))), label);
  };
  const setTop = (key: string) =>
    set((w) => {
      if (key === ROOF) return toRoof(model, w);
      if (key === BY_HEIGHT) return { ...toRoof(model, w), underRoof: false };
      return {
        top: { storeyId: storeyIdOf(key), offset: w.top?.offset ?? 0 },
        underRoof: false,
        heightAssumed: false,
      };
    }, 'Change the top of walls');
  const levels = storeys.map((s) => (
    <MenuItem key={s.id} value={s.id}>
      {`${s.name}, at ${length(s.elevation)}`}
    </MenuItem>
  ));
  const nameOf = (key: string, own: string): string =>
    key === OWN ? own : (WORDS[key] ?? storeys.find((s) => s.id === key)?.name ?? 'a level that is gone');
  const byLevel = top !== null && top !== BY_HEIGHT && top !== ROOF;
  return (
    <Box sx={{ mb: 1.25 }}>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '3fr 2fr',
          columnGap: 1,
          rowGap: 1.25,
          alignItems: 'flex-start',
        }}
      >
        <TextField
          select
          label="Stands on"
          value={foot ?? ''}
          slotProps={{ select: { renderValue: (key) => nameOf(key as string, 'its own floor') } }}
          onChange={(e) =>
            set(
              (w) => levelFields(e.target.value, w.base?.offset ?? 0),
              'Change the level on which walls stand',
            )
          }
        >
          <MenuItem value={OWN}>its own floor</MenuItem>
          {levels}
        </TextField>
        <LengthField
          label="Foot above it"
          positive={false}
          value={shared(walls, (w) => w.base?.offset ?? 0)}
          onChange={(offset) => set((w) => levelFields(levelKey(w.base), offset), 'Change the foot of walls')}
        />
        <TextField select label="Goes up to" value={top ?? ''} onChange={(e) => setTop(e.target.value)}>
          {[BY_HEIGHT, ROOF].map((key) => (
            <MenuItem key={key} value={key}>
              {WORDS[key]}
            </MenuItem>
          ))}
          <MenuItem value={OWN}>its storey’s height</MenuItem>
          {levels}
        </TextField>
        {byLevel ? (
          <LengthField
            label="Top above it"
            positive={false}
            value={shared(walls, (w) => w.top?.offset ?? 0)}
            onChange={(offset) =>
              set((w) => (w.top ? { top: { ...w.top, offset } } : {}), 'Change the top of walls')
            }
          />
        ) : (
          <LengthField
            label={top === ROOF ? 'Height without one' : 'Height'}
            value={shared(walls, (w) => w.height)}
            onChange={(height) => set(() => ({ height, heightAssumed: false }), 'Change height')}
          />
        )}
      </Box>
      {(byLevel || foot !== OWN || walls.some((w) => w.base)) && reaches !== null && top !== ROOF && (
        <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.5 }}>
          {reachWords(
            walls.map((w) => standing(model, w)),
            length,
          )}
        </Typography>
      )}
      {doubts.map((d) => (
        <Typography key={d} variant="caption" sx={{ display: 'block', mt: 0.5, color: 'differs' }}>
          {d.replace(/^./, (c) => c.toUpperCase())}.
        </Typography>
      ))}
      {assumed > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mt: 0.5 }}>
          <Typography variant="caption" sx={{ color: 'assumed' }}>
            {assumed === 1 && walls.length === 1 ? 'height assumed' : `${assumed} heights assumed`}
          </Typography>
          <Button onClick={() => set(() => ({ heightAssumed: false }), 'Confirm heights')}>Confirm</Button>
        </Box>
      )}
    </Box>
  );
}

/** A foot by a level; on its own floor without an offset it needs none. */
const levelFields = (key: string, offset: number): Pick<Wall, 'base'> => ({
  base: key === OWN && offset === 0 ? null : { storeyId: storeyIdOf(key), offset },
});

/** "3.000 m high, from -0.300 m to 2.700 m above its floor", of walls that stand alike. */
function reachWords(walls: readonly Wall[], length: (mm: number) => string): string {
  const foot = shared(walls, footOf),
    top = shared(walls, topOf),
    high = `${length(walls[0].height)} high`;
  return foot === null || top === null
    ? high
    : `${high}: from ${length(foot)} to ${length(top)} above its floor`;
}
