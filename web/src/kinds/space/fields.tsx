'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { roomAt, type Room } from '@calque/core/building';
import { setFields, type Space } from '@calque/core/model';
import { formatArea } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';
import { traceHere } from '@/table/hit';

/** Areas that differ by no more than this share agree: sheets print them rounded. */
const AGREES = 0.02;

/** How often it is looked whether the walls have been followed, milliseconds. */
const LOOK_MS = 150;

/** What the walls enclose; null until that is known again after a change. */
function useRoomsHere(): readonly Room[] | null {
  const table = useTable();
  const model = useProject((s) => s.model);
  const [rooms, setRooms] = useState<readonly Room[] | null>(null);
  useEffect(() => {
    let again: ReturnType<typeof setTimeout>;
    const look = () => {
      const trace = traceHere(table),
        now = trace.walls.length === 0 ? NONE : trace.rooms;
      setRooms(now);
      if (!now) again = setTimeout(look, LOOK_MS);
    };
    again = setTimeout(look);
    return () => clearTimeout(again);
  }, [table, model]);
  return rooms;
}
const NONE: readonly Room[] = [];

/** Name, number and area of rooms; the area held against what the sheet prints. */
export function SpaceFields({ chosen: spaces }: { chosen: readonly Space[] }) {
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const rooms = useRoomsHere();
  const [only] = spaces;
  if (spaces.length > 1)
    return <Typography color="text.secondary">{spaces.length} rooms. Select one to name it.</Typography>;
  const room = rooms && roomAt(rooms, only.at);
  const words = (area: number) => formatArea(area, style.units);
  const areaWords = () => {
    if (!rooms) return 'Its area is being found …';
    return room
      ? `${words(room.area)} by the inside faces of the walls in sight`
      : 'The walls in sight do not close around it: no area.';
  };
  const differs = room && only.printed !== null && Math.abs(room.area - only.printed) > AGREES * only.printed;
  const field = (key: 'name' | 'number', label: string) => (
    <TextField
      key={`${only.id} ${key} ${only[key]}`}
      label={label}
      defaultValue={only[key]}
      slotProps={{ htmlInput: { maxLength: 100 } }}
      onBlur={(e) => {
        const text = e.target.value.trim();
        if (text !== only[key]) session.do(setFields(only, { [key]: text }), 'Name a room');
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') (e.target as HTMLInputElement).blur();
      }}
      sx={{ flex: key === 'name' ? 2 : 1 }}
    />
  );
  return (
    <Box sx={{ width: '100%' }}>
      <Box sx={{ display: 'flex', gap: 1, mb: 1 }}>
        {field('name', 'Name')}
        {field('number', 'Number')}
      </Box>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={only.unheated ?? false}
            onChange={(e) =>
              session.do(setFields(only, { unheated: e.target.checked }), 'Say whether a room is heated')
            }
          />
        }
        label="not heated"
      />
      <Typography data-testid="room-area">{areaWords()}</Typography>
      {room && only.printed !== null && (
        <Typography sx={{ color: differs ? 'differs' : 'known' }}>
          {differs ? '≠ ' : ''}the sheet prints {words(only.printed)}
          {differs ? '' : ': agrees'}
        </Typography>
      )}
    </Box>
  );
}
