'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import {
  group,
  pairOf,
  setFields,
  stairFigures,
  stairOutline,
  storeysOf,
  get,
  ofType,
  flatRings,
  type Model,
  type Slab,
  type Stair,
} from '@calque/core/model';
import { makeRegion, regionContains } from '@calque/core/geometry';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { AssumedRow } from '@/ui/assumed-row';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

/** Width, rise and steps of stairs, held against what is usual. */
export function StairFields({ chosen: stairs }: { chosen: readonly Stair[] }) {
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const set = (fields: (s: Stair) => Partial<Omit<Stair, 'id' | 'type'>>, label: string) =>
    session.do(group(stairs.map((s) => setFields(s, fields(s)))), label);
  const [only] = stairs,
    one = stairs.length === 1,
    figures = stairFigures(only);
  const setBack = (back: Partial<NonNullable<Stair['back']>>, label: string) =>
    set((s) => (s.back ? { back: { ...s.back, ...back } } : {}), label);
  return (
    <Box sx={{ width: '100%' }}>
      {one && (
        <>
          <Typography sx={{ fontWeight: 650 }} data-testid="stair-steps">
            {figures.risers} risers of {formatLengthWithUnit(figures.rise, style)}, going{' '}
            {formatLengthWithUnit(figures.going, style)}
          </Typography>
          <Typography sx={{ color: figures.doubts.length > 0 ? 'assumed' : 'known', mb: 1 }}>
            {figures.doubts.length > 0
              ? `Unusual: ${figures.doubts.join('; ')}.`
              : `Twice the rise and the going: ${formatLengthWithUnit(figures.stride, style)}, as usual.`}
          </Typography>
        </>
      )}
      <Box sx={TWO_COLUMNS}>
        <LengthField
          label="Width"
          value={shared(stairs, (s) => s.width)}
          onChange={(width) => set(() => ({ width }), 'Change the width of a stair')}
        />
        <LengthField
          label="Rise of all"
          value={shared(stairs, (s) => s.rise)}
          onChange={(rise) => set(() => ({ rise, riseAssumed: false }), 'Change the rise of a stair')}
        />
        <RisersField
          label={only.back ? 'Risers, first flight' : 'Risers'}
          value={shared(stairs, (s) => s.risers)}
          onChange={(risers) => set(() => ({ risers }), 'Change the risers of a stair')}
        />
        {one && only.back && (
          <>
            <RisersField
              label="Risers, second"
              value={only.back.risers}
              onChange={(risers) => setBack({ risers }, 'Change the risers of a stair')}
            />
            <LengthField
              label="Landing"
              value={only.back.landing}
              onChange={(landing) => setBack({ landing }, 'Change the landing of a stair')}
            />
          </>
        )}
      </Box>
      {one && <HoleAbove stair={only} />}
      <AssumedRow chosen={stairs} />
    </Box>
  );
}

/** The slab of the storey above that lies over all of a stair, and is not open there yet. */
function slabOver(model: Model, stair: Stair): Slab | null {
  const storey = get(model, 'storey', stair.planeId),
    above = storeysOf(model)
      .filter((s) => storey && s.elevation > storey.elevation)
      .sort((a, b) => a.elevation - b.elevation)
      .at(0);
  if (!above) return null;
  const outline = stairOutline(stair);
  return (
    ofType(model, 'slab').find((s) => {
      if (s.planeId !== above.id) return false;
      const region = makeRegion(flatRings(s), 'evenodd');
      return outline.every(([x, y]) => regionContains(region, x, y));
    }) ?? null
  );
}

/** Cuts the outline of a stair out of the slab of the storey to which it leads. */
function HoleAbove({ stair }: { stair: Stair }) {
  const session = useSession();
  const model = useProject((s) => s.model);
  const slab = useMemo(() => slabOver(model, stair), [model, stair]);
  if (!slab) return null;
  const ring = { points: stairOutline(stair).map(pairOf), bulges: stairOutline(stair).map(() => 0) };
  return (
    <Button
      sx={{ mt: 1 }}
      variant="outlined"
      onClick={() =>
        session.do(setFields(slab, { rings: [...slab.rings, ring] }), 'Open the floor over a stair')
      }
    >
      Open the floor above over it
    </Button>
  );
}

function RisersField(props: { label: string; value: number | null; onChange(risers: number): void }) {
  return (
    <FigureField
      {...props}
      shown={String}
      read={(text) => {
        const n = Number(text);
        return Number.isInteger(n) && n >= 2 && n <= 200 ? n : null;
      }}
      wrong="From 2 to 200."
    />
  );
}
