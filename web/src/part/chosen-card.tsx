'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { Frame, ModelPoint } from '@calque/core/geometry';
import type { EdgeName, FeatureForm, Model, Part, WorkPlane } from '@calque/core/model';
import { partPlanes } from '@calque/core/part';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { loopsOf } from './edge-loops';
import { measuredWords } from './measured-words';
import { addedFeature } from './part-changes';
import { usePartSolid } from './part-solid';
import { nameOfEdge } from './part-surface';
import { chooseEdges, chooseNothing, flipEdges, isChosenEdge, openFeature, usePartUi } from './part-ui';

/** What is chosen in the picture, and what can be made of it. */
export function ChosenCard({ part, onGo }: { part: Part; onGo(planeId: string): void }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    { faces, edges } = usePartUi(),
    solid = usePartSolid((s) => s.solid);
  if (!solid || faces.length + edges.length === 0) return null;
  const make = (form: FeatureForm, words: string) => {
    const feature = addedFeature(model, part.id, form, () => crypto.randomUUID());
    if (!session.do({ type: 'add', entity: feature }, words)) return;
    openFeature(feature.id);
    chooseNothing();
  };
  const chosen = solid.edges.filter((e) => isChosenEdge(edges, nameOfEdge(e, solid.edges))),
    // Of one edge the loops that it is part of; one that is a loop by itself says nothing.
    loops = chosen.length === 1 ? loopsOf(chosen[0], solid.edges).filter((l) => l.length > 1) : [];
  const named = (of: typeof solid.edges): EdgeName[] => of.map((e) => nameOfEdge(e, solid.edges)),
    ofFaces = solid.edges.filter((e) => e.between.some((n) => faces.includes(n))),
    radii = [
      ...new Set(
        solid.edges
          .filter((e) => named([e]).some((n) => edges.some((x) => x.between.join() === n.between.join())))
          .map((e) => e.radius),
      ),
    ],
    alike =
      radii.length === 1 && radii[0] !== null
        ? solid.edges.filter((e) => e.radius !== null && Math.abs(e.radius - radii[0]!) < 1e-6)
        : [],
    worked = edges.length > 0 ? [...edges] : named(ofFaces);
  const first = solid.skin.faces.find((f) => f.name === faces[0]),
    flat = faces.length === 1 && first?.form.kind === 'plane' ? first.form : null;
  const planeOn = () => {
    const plane = planeOnFace(part, model, faces[0], flat!);
    if (session.do({ type: 'add', entity: plane }, `Lay a plane on a face of ${part.name}`)) onGo(plane.id);
  };
  return (
    <Box
      data-testid="part-chosen"
      sx={{ borderLeft: 4, borderColor: 'now', bgcolor: 'action.hover', p: 1, mb: 1 }}
    >
      <Typography sx={{ fontWeight: 650 }}>
        {[faces.length > 0 && count(faces.length, 'face'), edges.length > 0 && count(edges.length, 'edge')]
          .filter(Boolean)
          .join(', ')}{' '}
        chosen
      </Typography>
      <Typography color="text.secondary" data-testid="part-measured">
        {measuredWords(solid, faces, chosen, style)}
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mt: 0.5 }}>
        <Button
          variant="outlined"
          disabled={worked.length === 0}
          onClick={() => make({ kind: 'round', edges: worked, radius: 2 }, 'Round edges')}
        >
          Round
        </Button>
        <Button
          variant="outlined"
          disabled={worked.length === 0}
          onClick={() => make({ kind: 'chamfer', edges: worked, distance: 1 }, 'Chamfer edges')}
        >
          Chamfer
        </Button>
        <Button
          variant="outlined"
          disabled={faces.length === 0}
          onClick={() => make({ kind: 'shell', open: [...faces], thickness: 2 }, 'Make it hollow')}
        >
          Shell
        </Button>
        <Button variant="outlined" disabled={!flat} onClick={planeOn}>
          Draw on it
        </Button>
        {faces.length > 0 && (
          <Button onClick={() => flipEdges(named(ofFaces))}>its edges ({ofFaces.length})</Button>
        )}
        {loops.map((loop, i) => (
          <Button key={i} onClick={() => chooseEdges(named(loop))}>
            {loops.length > 1 && i > 0 ? 'its other loop' : 'its loop'} ({loop.length})
          </Button>
        ))}
        {alike.length > 1 && (
          <Button
            onClick={() =>
              flipEdges(named(alike).filter((n) => !edges.some((e) => e.between.join() === n.between.join())))
            }
          >
            all of this radius ({alike.length})
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** A plane on a flat face, its x as level as it can be. */
function planeOnFace(
  part: Part,
  model: Model,
  face: string,
  { at, normal }: { at: ModelPoint; normal: ModelPoint },
): WorkPlane {
  const level = Math.abs(normal[2]) > 0.999,
    n = Math.hypot(normal[0], normal[1]),
    across: ModelPoint = level ? [1, 0, 0] : [-normal[1] / n, normal[0] / n, 0],
    up: ModelPoint = [
      normal[1] * across[2] - normal[2] * across[1],
      normal[2] * across[0] - normal[0] * across[2],
      normal[0] * across[1] - normal[1] * across[0],
    ];
  // Its zero is that of the part, as near as its face lies to it.
  const off = at[0] * normal[0] + at[1] * normal[1] + at[2] * normal[2],
    frame: Frame = { origin: [normal[0] * off, normal[1] * off, normal[2] * off], across, up };
  const taken = new Set(partPlanes(model, part.id).map((p) => p.name));
  let i = 1;
  while (taken.has(`${part.name}: face ${i}`)) i++;
  return {
    type: 'plane',
    id: crypto.randomUUID(),
    name: `${part.name}: face ${i}`,
    role: 'face',
    origin: [...frame.origin] as [number, number, number],
    across: [...across] as [number, number, number],
    up: [...up] as [number, number, number],
    width: 200,
    height: 200,
    partId: part.id,
    face,
  };
}
