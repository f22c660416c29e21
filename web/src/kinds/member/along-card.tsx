'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { frameAlong, gridsBehind, MOST_COPIES, spacings, type TurnedAbout } from '@calque/core/framing';
import { get, nextName, ofType, type Model, type WorkPlane } from '@calque/core/model';
import { isUpright } from '@calque/core/planes';
import { formatLengthWithUnit, parseAngle, parseLength } from '@calque/core/units';
import { useFloating } from '@/commands/floating';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTableState } from '@/table/context';
import { TWO_COLUMNS } from '@/ui/columns';

/** Names for the planes of copies: by their grid lines, else what comes after the name of the first; none that is taken. */
function planeNames(model: Model, plane: WorkPlane, grids: readonly (string | null)[]): string[] {
  const taken = new Set(ofType(model, 'plane').map((p) => p.name)),
    stem = plane.name.replace(/[\s,]*\S+$/, '');
  let last = plane.name;
  return grids.map((grid) => {
    let name =
      grid !== null && stem !== ''
        ? `${plane.name.slice(0, plane.name.lastIndexOf(' ') + 1)}${grid}`
        : nextName(last);
    while (taken.has(name)) name = nextName(name);
    taken.add(name);
    last = name;
    return name.slice(0, 200);
  });
}

/** Copies the frame of the upright plane in hand along grid lines or by spacings. */
export function AlongCard() {
  const session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    planeId = useTableState((s) => s.planeId),
    show = useFloating((s) => s.show);
  const [text, setText] = useState(''),
    [chosen, setChosen] = useState<readonly number[]>([]),
    [linked, setLinked] = useState(true),
    [mirrored, setMirrored] = useState(false),
    [turnText, setTurnText] = useState(''),
    [about, setAbout] = useState<TurnedAbout>('middle');
  const plane = get(model, 'plane', planeId);
  const grids = useMemo(() => (plane && isUpright(plane) ? gridsBehind(model, plane) : []), [model, plane]);
  if (!plane || !isUpright(plane))
    return (
      <Typography color="text.secondary" sx={{ pr: 4 }}>
        Go to the upright plane on which the frame is drawn: it is copied from there.
      </Typography>
    );
  const turn = turnText.trim() === '' ? 0 : parseAngle(turnText),
    badTurn = turn === null,
    turns = turn !== null && turn !== 0;
  const typed = spacings(
    text,
    (t) => {
      const parsed = parseLength(t, style.units);
      return parsed.ok ? parsed.mm : null;
    },
    turns,
  );
  const bad = text.trim() !== '' && typed === null,
    // What is turned may stay where it is.
    distances = text.trim() !== '' ? (typed ?? []) : chosen.length === 0 && turns ? [0] : chosen;
  const copy = () => {
    const nameOf = (d: number) => grids.find((g) => Math.abs(g.distance - d) < 1)?.name ?? null,
      made = frameAlong(model, plane, {
        distances,
        names: planeNames(model, plane, distances.map(nameOf)),
        linked,
        mirrored,
        turned: turns ? { by: turn, about } : null,
        newId: () => crypto.randomUUID(),
      });
    if (typeof made === 'string') session.tell(made, true);
    else if (session.do(made.change, `Copy ${plane.name} along`.slice(0, 190))) {
      session.tell(
        `${count(distances.length, 'copy stands', 'copies stand')} on ${distances.length === 1 ? 'a plane of its own' : 'planes of their own'}${linked ? '; edit the group in one, and all follow' : ''}.`,
      );
      show(null);
    }
  };
  return (
    <Box data-testid="along-card" sx={{ display: 'grid', gap: 1.25 }}>
      <Typography variant="h3" sx={{ pr: 4 }}>
        Copy {plane.name} along
      </Typography>
      {grids.length > 0 && (
        <Box>
          <Typography color="text.secondary">At grid lines that run along it</Typography>
          {grids.slice(0, 30).map(({ name, distance }) => (
            <FormControlLabel
              key={distance}
              sx={{ display: 'block' }}
              disabled={text.trim() !== ''}
              control={
                <Checkbox
                  checked={text.trim() === '' && chosen.includes(distance)}
                  onChange={(e) =>
                    setChosen(e.target.checked ? [...chosen, distance] : chosen.filter((d) => d !== distance))
                  }
                />
              }
              label={`${name}, ${formatLengthWithUnit(Math.abs(distance), style)} ${distance > 0 ? 'behind' : 'before'}`}
            />
          ))}
        </Box>
      )}
      <TextField
        fullWidth
        label={grids.length > 0 ? 'or by spacings' : 'Spacings'}
        placeholder="3x5000, or 5000 4500"
        value={text}
        error={bad}
        helperText={
          bad
            ? `Write each from the one before: 5000 4500, or 3x5000; at most ${MOST_COPIES}. With minus they go before it.`
            : 'Each from the one before, behind the plane; with minus before it.'
        }
        onChange={(e) => setText(e.target.value)}
      />
      <Box sx={TWO_COLUMNS}>
        <TextField
          label="Each turned by"
          placeholder="0°"
          value={turnText}
          error={badTurn}
          helperText={badTurn ? 'Degrees, such as 90 or -22.5.' : undefined}
          onChange={(e) => setTurnText(e.target.value)}
        />
        <TextField
          select
          label="about its"
          value={about}
          disabled={!turns}
          onChange={(e) => setAbout(e.target.value as TurnedAbout)}
        >
          <MenuItem value="left">left</MenuItem>
          <MenuItem value="middle">middle</MenuItem>
          <MenuItem value="right">right</MenuItem>
        </TextField>
      </Box>
      <RadioGroup value={linked ? 'linked' : 'free'} onChange={(e) => setLinked(e.target.value === 'linked')}>
        <FormControlLabel
          value="linked"
          control={<Radio />}
          label="as one group: edited in one, all follow"
        />
        <FormControlLabel value="free" control={<Radio />} label="each by itself" />
      </RadioGroup>
      <FormControlLabel
        control={<Checkbox checked={mirrored} onChange={(e) => setMirrored(e.target.checked)} />}
        label="the other way round about its middle"
      />
      <Button variant="contained" disabled={distances.length === 0 || badTurn || bad} onClick={copy}>
        {distances.length === 0 ? 'Copy' : `Make ${count(distances.length, 'copy', 'copies')}`}
      </Button>
    </Box>
  );
}
