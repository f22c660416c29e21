'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { ofType, thicknessOfLayers, type Model } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFloating } from '@/commands/floating';
import { useFromModel } from '@/project/context';
import { lengthStyle } from '@/project/views';

export const wallTypesOf = (model: Model) => ofType(model, 'wallType');

/** Menus have no entry for nothing chosen. */
const NONE = 'none',
  SEVERAL = 'several';

/** Of which type walls are; undefined where several differ. */
export function TypeChoice({
  value,
  onChange,
}: {
  value: string | null | undefined;
  onChange(typeId: string | null): void;
}) {
  const types = useFromModel(wallTypesOf),
    style = useFromModel(lengthStyle),
    show = useFloating((s) => s.show);
  return (
    <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center', mb: 1.25 }}>
      <TextField
        select
        fullWidth
        label="Type"
        value={value === undefined ? SEVERAL : (value ?? NONE)}
        onChange={(e) => onChange(e.target.value === NONE ? null : e.target.value)}
      >
        <MenuItem value={NONE}>no type</MenuItem>
        {value === undefined && (
          <MenuItem value={SEVERAL} disabled>
            several
          </MenuItem>
        )}
        {types.map((t) => (
          <MenuItem key={t.id} value={t.id} sx={{ whiteSpace: 'normal' }}>
            {t.name}, {formatLengthWithUnit(thicknessOfLayers(t.layers), style)}
          </MenuItem>
        ))}
      </TextField>
      <Button sx={{ flexShrink: 0 }} onClick={() => show('wallTypes')}>
        Types …
      </Button>
    </Box>
  );
}
