'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import {
  GABLE,
  group,
  roofShape,
  setFields,
  slopedArea,
  type Roof,
  type RoofMeasure,
} from '@calque/core/model';
import { formatArea, formatNumber, parseAngle } from '@calque/core/units';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { AssumedRow } from '@/ui/assumed-row';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

const DEGREES = 180 / Math.PI;
const without = (assumed: readonly RoofMeasure[], said: RoofMeasure) => assumed.filter((m) => m !== said);

/** Pitches, eaves, overhang and thickness of roofs. */
export function RoofFields({ chosen: roofs }: { chosen: readonly Roof[] }) {
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const set = (
    fields: (r: Roof) => Partial<Omit<Roof, 'id' | 'type' | 'assumed'>>,
    said: RoofMeasure,
    label: string,
  ) =>
    session.do(
      group(roofs.map((r) => setFields<Roof>(r, { ...fields(r), assumed: without(r.assumed, said) }))),
      label,
    );
  const keep = (roof: Partial<{ pitch: number; overhang: number; thickness: number }>, said: RoofMeasure) =>
    useBuildingSizes.setState((s) => ({
      roof: { ...s.roof, ...roof },
      said: { ...s.said, roof: [...s.said.roof, said] },
    }));
  const shapes = roofs.map(roofShape),
    area = shapes
      .flatMap((s) => ('why' in s ? [] : s.faces))
      .reduce((sum, face) => sum + slopedArea(face), 0),
    why = shapes.flatMap((s) => ('why' in s ? [s.why] : []));
  return (
    <Box sx={{ width: '100%' }}>
      {area > 0 && (
        <Typography sx={{ fontWeight: 650, mb: 1 }}>{formatArea(area, style.units)} as it slopes</Typography>
      )}
      {why.length > 0 && (
        <Typography role="status" sx={{ color: 'differs', mb: 1 }}>
          ≠ No roof can be made of it. {why[0]}
        </Typography>
      )}
      <Box sx={TWO_COLUMNS}>
        <LengthField
          label="Eaves above level"
          positive={false}
          value={shared(roofs, (r) => r.eaves)}
          onChange={(eaves) => set(() => ({ eaves }), 'eaves', 'Change the eaves of a roof')}
        />
        <LengthField
          label="Overhang"
          positive={false}
          value={shared(roofs, (r) => r.overhang)}
          onChange={(overhang) => {
            if (overhang < 0) {
              session.tell('An overhang goes outwards: type 0 or more.', true);
              return;
            }
            keep({ overhang }, 'overhang');
            set(() => ({ overhang }), 'overhang', 'Change the overhang of a roof');
          }}
        />
        <LengthField
          label="Thickness, upright"
          value={shared(roofs, (r) => r.thickness)}
          onChange={(thickness) => {
            keep({ thickness }, 'thickness');
            set(() => ({ thickness }), 'thickness', 'Change the thickness of a roof');
          }}
        />
        <PitchField
          label="Pitch of all, °"
          value={shared(roofs, (r) => sharedPitch(r.pitches))}
          onChange={(pitch) => {
            keep({ pitch }, 'pitch');
            set(
              (r) => ({ pitches: r.pitches.map((p) => (p === GABLE && pitch !== 0 ? p : pitch)) }),
              'pitch',
              'Change the pitch of a roof',
            );
          }}
        />
      </Box>
      {roofs.length === 1 && <Sides roof={roofs[0]} />}
      <AssumedRow chosen={roofs} />
    </Box>
  );
}

/** The pitch that all sides have that are no gables; null where they differ. */
function sharedPitch(pitches: readonly number[]): number | null {
  const sloped = pitches.filter((p) => p !== GABLE);
  return sloped.every((p) => p === sloped[0]) ? (sloped[0] ?? null) : null;
}

/** Each side of a roof: its pitch, or that it is a gable. */
function Sides({ roof }: { roof: Roof }) {
  const session = useSession();
  const set = (side: number, pitch: number) =>
    session.do(
      setFields<Roof>(roof, {
        pitches: roof.pitches.map((p, i) => (i === side ? pitch : p)),
        assumed: without(roof.assumed, 'pitch'),
      }),
      'Change a side of a roof',
    );
  const usual = sharedPitch(roof.pitches) ?? useBuildingSizes.getState().roof.pitch;
  return (
    <Box
      sx={{ mt: 1, maxHeight: 190, overflowY: 'auto' }}
      tabIndex={0}
      role="group"
      aria-label="Sides of the roof"
    >
      {roof.pitches.map((pitch, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', py: 0.75 }}>
          {pitch === GABLE ? (
            <Typography color="text.secondary" sx={{ width: 110 }}>
              Side {i + 1}: gable
            </Typography>
          ) : (
            <PitchField label={`Side ${i + 1}, °`} value={pitch} onChange={(p) => set(i, p)} />
          )}
          <Button onClick={() => set(i, pitch === GABLE ? usual : GABLE)}>
            {pitch === GABLE ? 'Slope it' : 'Make a gable'}
          </Button>
        </Box>
      ))}
    </Box>
  );
}

/** A pitch in degrees: 0 for a flat roof, below 90. */
function PitchField(props: { label: string; value: number | null; onChange(radians: number): void }) {
  return (
    <FigureField
      {...props}
      shown={(radians) => formatNumber(radians * DEGREES, 2)}
      read={(text) => {
        const radians = parseAngle(text);
        return radians !== null && radians >= 0 && radians < 89 / DEGREES ? radians : null;
      }}
      wrong="From 0 (flat) to below 89 degrees."
    />
  );
}
