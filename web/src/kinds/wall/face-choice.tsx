'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import { coreInset, fieldsOfType, thicknessOfLayers, type WallFace, type WallType } from '@calque/core/model';
import { bandOf, plainBody } from '@calque/core/building';
import { faceWords } from './wall-tool';

/** The drawing of each choice is the band that the program itself makes for it, with the drawn line upon it. */
const FROM: [number, number] = [4, 13],
  TO: [number, number] = [76, 13],
  THICKNESS = 13;

type Side = 'left' | 'right';

/** The band with its layers, drawn as thick as all bands are. */
function Band({ face, type, firstLayer }: { face: WallFace; type: WallType | null; firstLayer: Side }) {
  const scale = type ? THICKNESS / thicknessOfLayers(type.layers) : 1,
    fields = type ? fieldsOfType(type, face, firstLayer) : null;
  const band = bandOf({
    id: '',
    from: FROM,
    to: TO,
    thickness: THICKNESS,
    alignment: face.alignment,
    inset: (fields?.inset ?? 0) * scale,
  });
  // On the page y goes down: what is left of the line lies above it.
  const up = (y: number) => 26 - y;
  const ring = plainBody(band),
    between = (type?.layers ?? []).slice(0, -1).map((_, i, all) => {
      const deep = scale * thicknessOfLayers(all.slice(0, i + 1));
      return firstLayer === 'left' ? band.left - deep : deep - band.right;
    });
  return (
    <svg width={74} height={28} viewBox="0 -1 80 28" aria-hidden>
      <polygon
        points={ring.map(([x, y]) => `${x},${up(y)}`).join(' ')}
        fill="currentColor"
        fillOpacity={0.16}
        stroke="currentColor"
        strokeWidth={1.4}
      />
      {between.map((left) => (
        <path
          key={left}
          d={`M${FROM[0]} ${up(FROM[1] + left)}H${TO[0]}`}
          stroke="currentColor"
          strokeWidth={0.7}
        />
      ))}
      <path
        d={`M${FROM[0]} ${up(FROM[1])}H${TO[0]}`}
        style={{ stroke: 'var(--mui-palette-now)' }}
        strokeWidth={2.4}
      />
    </svg>
  );
}

/** The faces by which a wall can be drawn: those of its core too, where finishes lie before it. */
function facesOf(type: WallType | null, firstLayer: Side): WallFace[] {
  const plain = (['centre', 'left', 'right'] as const).map((alignment) => ({ alignment, core: false }));
  if (!type) return plain;
  const cores = (['left', 'right'] as const)
    .filter((alignment) => coreInset(type, alignment, firstLayer) > 0)
    .map((alignment) => ({ alignment, core: true }));
  return [...plain, ...cores];
}

/** Which line of a wall is drawn: its middle, one of its faces, or its core. */
export function FaceChoice({
  value,
  type,
  firstLayer = 'left',
  onChange,
}: {
  value: WallFace | null;
  type: WallType | null;
  /** The face at which the first layer lies. */
  firstLayer?: Side;
  onChange(face: WallFace): void;
}) {
  const isChosen = (face: WallFace) => value?.alignment === face.alignment && value.core === face.core;
  return (
    <Box role="group" aria-label="Alignment" sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
      {facesOf(type, firstLayer).map((face) => (
        <ButtonBase
          key={faceWords(face)}
          aria-pressed={isChosen(face)}
          onClick={() => onChange(face)}
          sx={{
            flexDirection: 'column',
            flex: '1 0 30%',
            pt: 0.75,
            pb: 0.5,
            fontSize: 12,
            fontWeight: isChosen(face) ? 650 : 500,
            border: 1,
            borderColor: isChosen(face) ? 'text.primary' : 'edge',
            bgcolor: isChosen(face) ? 'action.hover' : undefined,
          }}
        >
          <Band face={face} type={type} firstLayer={firstLayer} />
          {faceWords(face)}
        </ButtonBase>
      ))}
    </Box>
  );
}
