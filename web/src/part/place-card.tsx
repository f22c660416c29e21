'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { facing, type Frame } from '@calque/core/geometry';
import { buildingPlanes, storeysOf, type Part } from '@calque/core/model';
import { deepAlong, placedPart } from '@calque/core/part';
import { useProject, useSession } from '@/project/context';
import { partWorker, usePartSolid } from './part-solid';

/** A part as it is looked at on a plan, and on an upright plane: from above, from its front. */
const FROM_ABOVE: Frame = { origin: [0, 0, 0], across: [1, 0, 0], up: [0, 1, 0] },
  FROM_FRONT: Frame = { origin: [0, 0, 0], across: [1, 0, 0], up: [0, 0, 1] };

/** The part put as a group on a plan or an upright plane of the building or of its frame. */
export function PlaceCard({ part, onGo }: { part: Part; onGo(planeId: string): void }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    solid = usePartSolid((s) => s.solid);
  if (!solid) return null;
  const places = [
    ...storeysOf(model).map((s) => ({ id: s.id, name: s.name, frame: FROM_ABOVE })),
    ...buildingPlanes(model).map((p) => ({ id: p.id, name: p.name, frame: FROM_FRONT })),
  ];
  const put = async (planeId: string) => {
    const place = places.find((p) => p.id === planeId);
    if (!place) return;
    try {
      const views = await partWorker.look('views', { frames: [place.frame] }),
        placed =
          views &&
          placedPart(
            session.state.model,
            {
              part,
              view: views[0],
              volume: solid.measures.volume,
              deep: deepAlong(solid.measures.box, facing(place.frame)),
              planeId,
            },
            () => crypto.randomUUID(),
          );
      if (!placed) {
        session.tell('Nothing is seen of it from there: it was not placed.', true);
        return;
      }
      if (!session.do(placed.change, `Place ${part.name} on ${place.name}`)) return;
      onGo(planeId);
      session.tell(
        placed.isPlate
          ? `${part.name} lies as a plate at the zero of ${place.name}: move it to its place.`
          : `${part.name} lies as the lines that are seen of it at the zero of ${place.name}: move it to its place.`,
      );
    } catch (error) {
      session.tell(`It was not placed: ${error instanceof Error ? error.message : String(error)}`, true);
    }
  };
  return (
    <TextField
      select
      fullWidth
      label="As a group in the building or frame"
      value=""
      onChange={(e) => void put(e.target.value)}
      sx={{ mt: 1.5 }}
    >
      {places.map((p) => (
        <MenuItem key={p.id} value={p.id}>
          {p.name}
        </MenuItem>
      ))}
    </TextField>
  );
}
