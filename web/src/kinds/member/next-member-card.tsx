'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { MEMBER_ROLES, type MemberRole } from '@calque/core/model';
import { useTable } from '@/table/context';
import { TWO_COLUMNS } from '@/ui/columns';
import { LengthField } from '@/ui/length-field';
import { useNextMember } from './next-member';
import { PlacingPicture } from './placing-picture';
import { SectionChoice } from './section-choice';

/** What the next member will be: its section, how it lies about the line, what it is for. */
export function NextMemberCard() {
  const table = useTable(),
    next = useNextMember();
  const set = (fields: Partial<typeof next>) => {
    useNextMember.setState(fields);
    table.showTool();
    table.repaint('overlay');
  };
  return (
    <Box sx={{ mb: 1 }}>
      <SectionChoice value={next.section} onChange={(section) => set({ section })} />
      <PlacingPicture
        section={next.section}
        point={next.point}
        turn={(next.quarters * Math.PI) / 2}
        mirrored={next.mirrored}
        onChange={(point) => set({ point })}
      />
      <Box sx={{ display: 'flex', gap: 1, my: 1 }}>
        <Button variant="outlined" onClick={() => set({ quarters: (next.quarters + 1) % 4 })}>
          Quarter turn
        </Button>
        <Button
          variant="outlined"
          aria-pressed={next.mirrored}
          onClick={() => set({ mirrored: !next.mirrored })}
        >
          Mirror
        </Button>
      </Box>
      <TextField
        select
        fullWidth
        label="It is a"
        value={next.role ?? ''}
        onChange={(e) => set({ role: (e.target.value || null) as MemberRole | null })}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        sx={{ mb: 1 }}
      >
        <MenuItem value="">as it goes: beam, column or brace</MenuItem>
        {MEMBER_ROLES.map((role) => (
          <MenuItem key={role} value={role}>
            {role}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={TWO_COLUMNS}>
        <LengthField
          label="Standing: foot"
          positive={false}
          value={next.foot}
          onChange={(foot) => set({ foot })}
        />
        <LengthField
          label="Head above floor"
          value={next.head}
          empty="the storey"
          onChange={(head) => set({ head })}
          onEmptied={() => set({ head: null })}
        />
      </Box>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.5 }}>
        Foot and head count for those that stand at a place of the plan.
      </Typography>
    </Box>
  );
}
