'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import type { WorkPlane } from '@calque/core/model';
import { formatLengthWithUnit, type LengthStyle } from '@calque/core/units';
import type { Extent } from './cuts';
import { useSpaceState, type Cut } from './state';

/** Where a cut at a height begins: through the windows of a storey, as plans are cut. */
const USUAL_SHARE = 0.45;

/** By what the building is cut open. */
export function CutCard({
  upright,
  chosen,
  all,
  style,
}: {
  upright: readonly WorkPlane[];
  chosen: readonly string[];
  all: Extent | null;
  style: LengthStyle;
}) {
  const { cut } = useSpaceState();
  const set = (next: Cut) => useSpaceState.setState({ cut: next });
  const value = cut.by === 'plane' ? `plane ${cut.planeId}` : cut.by,
    known = value === 'box' || value === 'height' || upright.some((p) => `plane ${p.id}` === value);
  return (
    <Box sx={{ mt: 1.5 }}>
      <TextField
        select
        fullWidth
        label="Cut open"
        value={known ? value : 'nothing'}
        onChange={({ target: { value: by } }) => {
          if (by === 'height') set({ by, share: USUAL_SHARE });
          else if (by === 'box') set({ by, ids: chosen });
          else if (by.startsWith('plane ')) set({ by: 'plane', planeId: by.slice(6) });
          else set({ by: 'nothing' });
        }}
      >
        <MenuItem value="nothing">not cut</MenuItem>
        <MenuItem value="height" disabled={!all}>
          at a height
        </MenuItem>
        {upright.map((p) => (
          <MenuItem key={p.id} value={`plane ${p.id}`}>
            at {p.name}
          </MenuItem>
        ))}
        <MenuItem value="box" disabled={chosen.length === 0 && cut.by !== 'box'}>
          {chosen.length === 0 && cut.by !== 'box'
            ? 'about what is selected (nothing is)'
            : 'about what is selected'}
        </MenuItem>
      </TextField>
      {cut.by === 'height' && all && (
        <Slider
          size="small"
          aria-label="Height of the cut"
          value={cut.share}
          min={0}
          max={1}
          step={0.005}
          valueLabelDisplay="auto"
          valueLabelFormat={(share) =>
            formatLengthWithUnit(all.low[2] + share * (all.high[2] - all.low[2]), style)
          }
          onChange={(_, share) => set({ by: 'height', share: share as number })}
        />
      )}
    </Box>
  );
}
