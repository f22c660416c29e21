'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import type { Frame, ModelPoint } from '@calque/core/geometry';
import type { Section } from '@calque/core/forming';
import type { Shades } from '@calque/core/part';
import { exactStyle, formatLength, formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { useFromModel } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { FigureField } from '@/ui/figure-field';
import { LengthField } from '@/ui/length-field';
import { partWorker, usePartSolid } from './part-solid';
import { colourAt, DRAFT_BANDS, THICKNESS_STOPS, type ShownShades } from './shade-colours';

/** Ways of looking at a part. */
const LOOKS = {
  plain: 'As it is',
  section: 'Cut open by a plane',
  thickness: 'Wall thickness as colours',
  draft: 'Draft as colours',
} as const;
type LookKind = keyof typeof LOOKS;

const AXES: readonly { words: string; way: ModelPoint; across: ModelPoint; up: ModelPoint }[] = [
  { words: 'from its right (x)', way: [1, 0, 0], across: [0, 1, 0], up: [0, 0, 1] },
  { words: 'from the front (y)', way: [0, -1, 0], across: [1, 0, 0], up: [0, 0, 1] },
  { words: 'from above (z)', way: [0, 0, 1], across: [1, 0, 0], up: [0, 1, 0] },
];

/** What is shown in place of the plain solid. */
export interface PartLook {
  shades: ShownShades | null;
  section: { frame: Frame; cut: Section | null } | null;
}

/** Looks at a part otherwise than plain: cut open, or its walls and its draft as colours with their legend. */
export function LookCard({ onLook }: { onLook(look: PartLook): void }) {
  const solid = usePartSolid((s) => s.solid),
    [kind, setKind] = useState<LookKind>('plain');
  useEffect(() => {
    if (kind === 'plain') onLook({ shades: null, section: null });
  }, [kind, onLook]);
  if (!solid) return null;
  return (
    <Box sx={{ mt: 1.5 }} data-testid="part-look">
      <TextField
        select
        fullWidth
        label="Shown"
        value={kind}
        onChange={(e) => setKind(e.target.value as LookKind)}
      >
        {Object.entries(LOOKS).map(([value, words]) => (
          <MenuItem key={value} value={value}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {kind === 'section' && <SectionLook onLook={onLook} />}
      {kind === 'thickness' && <ThicknessLook onLook={onLook} />}
      {kind === 'draft' && <DraftLook onLook={onLook} />}
    </Box>
  );
}

type Looking = { onLook(look: PartLook): void };

/** A while after the last change the worker is asked, so that a slider is followed. */
const AFTER_MS = 60;

function SectionLook({ onLook }: Looking) {
  const solid = usePartSolid((s) => s.solid)!,
    style = useFromModel(lengthStyle),
    [axis, setAxis] = useState(1),
    [share, setShare] = useState(0.5),
    [back, setBack] = useState(false),
    [told, setTold] = useState<{ key: string; of: unknown; area: number | null; why: string } | null>(null);
  const { box } = solid.measures,
    low = box[axis],
    high = box[axis + 3],
    at = low + (high - low) * share,
    key = `${axis} ${at} ${back}`,
    // What was cut before says nothing of this cut.
    known = told?.key === key && told.of === solid ? told : null;
  useEffect(() => {
    const { across, up } = AXES[axis],
      origin = [0, 1, 2].map((k) => (k === axis ? at : 0)) as unknown as ModelPoint,
      turned = (v: ModelPoint): ModelPoint => [-v[0], -v[1], -v[2]],
      frame: Frame = { origin, across: back ? turned(across) : across, up };
    let over = false;
    onLook({ shades: null, section: { frame, cut: null } });
    const wait = setTimeout(() => {
      void partWorker.look('section', { frame }).then(
        (cut) => {
          if (over) return;
          setTold({ key, of: solid, area: cut?.area ?? null, why: 'Nothing is cut here.' });
          onLook({ shades: null, section: { frame, cut } });
        },
        (e: Error) => !over && setTold({ key, of: solid, area: null, why: `It was not cut: ${e.message}` }),
      );
    }, AFTER_MS);
    return () => {
      over = true;
      clearTimeout(wait);
    };
  }, [solid, axis, at, back, key, onLook]);
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: 'flex', gap: 0.5, alignItems: 'center' }}>
        <TextField
          select
          label="Seen"
          value={axis}
          onChange={(e) => setAxis(Number(e.target.value))}
          sx={{ flex: 1 }}
        >
          {AXES.map((a, i) => (
            <MenuItem key={a.words} value={i}>
              {a.words}
            </MenuItem>
          ))}
        </TextField>
        <Button onClick={() => setBack(!back)} aria-pressed={back}>
          Other half
        </Button>
      </Box>
      <Slider
        aria-label="Where it is cut"
        value={share}
        min={0}
        max={1}
        step={0.005}
        onChange={(_, v) => setShare(v as number)}
        sx={{ mx: 1, width: 'calc(100% - 16px)' }}
      />
      <LengthField
        exact
        label="Cut at"
        value={at}
        onChange={(v) => setShare(high > low ? Math.min(1, Math.max(0, (v - low) / (high - low))) : 0)}
      />
      <Typography role="status" data-testid="section-area" color="text.secondary">
        {known === null
          ? 'It is being cut …'
          : known.area === null
            ? known.why
            : `Cut area ${formatNumber(known.area / 100, 3)} cm², at ${formatLengthWithUnit(at, exactStyle(at, style))}`}
      </Typography>
    </Box>
  );
}

/** Asks for shades once, and again with each solid. */
function useShades(ask: () => Promise<Shades | null>, key: string): Shades | null | undefined {
  const solid = usePartSolid((s) => s.solid),
    [found, setFound] = useState<{ of: unknown; key: string; shades: Shades | null } | null>(null);
  useEffect(() => {
    let over = false;
    const hear = (shades: Shades | null) => {
      if (!over) setFound({ of: solid, key, shades });
    };
    ask().then(hear, () => hear(null));
    return () => {
      over = true;
    };
    // What is asked is told by its key.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [solid, key]);
  return found && found.of === solid && found.key === key ? found.shades : undefined;
}

function ThicknessLook({ onLook }: Looking) {
  const style = useFromModel(lengthStyle),
    shades = useShades(() => partWorker.look('thickness', {}), 'thickness'),
    [most, setMost] = useState<number | null>(null);
  const to = most ?? (shades ? Math.min(shades.most, 4 * Math.max(shades.least, 1e-3)) : 1);
  useEffect(() => {
    // Colours of a solid that is not any more would lie.
    onLook({
      shades: shades ? { of: shades, colour: (v) => colourAt(THICKNESS_STOPS, v / to) } : null,
      section: null,
    });
  }, [shades, to, onLook]);
  const fine = { ...style, precision: Math.max(style.precision, style.units === 'mm' ? 2 : 3) };
  if (!shades) return <Waits none={shades === null} />;
  return (
    <Box sx={{ mt: 1 }} data-testid="thickness-legend">
      <Typography>
        Thinnest found {formatLengthWithUnit(shades.least, fine)}, thickest{' '}
        {formatLengthWithUnit(shades.most, fine)}
      </Typography>
      <Legend
        stops={THICKNESS_STOPS.map((colour, i, all) => ({
          colour,
          words: `${formatLength((to * i) / (all.length - 1), fine)}${i === all.length - 1 ? ' and more' : ''}`,
        }))}
      />
      <LengthField exact label="Blue from" positive value={to} onChange={setMost} />
      <Typography color="text.secondary">Straight in from each place to where the part ends.</Typography>
    </Box>
  );
}

function DraftLook({ onLook }: Looking) {
  const [axis, setAxis] = useState(2),
    [needed, setNeeded] = useState(2),
    shades = useShades(() => partWorker.look('draft', { pull: AXES[axis].way }), `draft ${axis}`);
  useEffect(() => {
    if (!shades) {
      onLook({ shades: null, section: null });
      return;
    }
    const limit = (needed * Math.PI) / 180;
    onLook({
      shades: {
        of: shades,
        colour: (v) =>
          v >= limit ? DRAFT_BANDS.opens : v <= -limit ? DRAFT_BANDS.other : DRAFT_BANDS.upright,
      },
      section: null,
    });
  }, [shades, needed, onLook]);
  const areas = shades ? bandAreas(shades, (needed * Math.PI) / 180) : null;
  return (
    <Box sx={{ mt: 1 }} data-testid="draft-legend">
      <Box sx={{ display: 'flex', gap: 0.5 }}>
        <TextField
          select
          label="Drawn from the mould"
          value={axis}
          onChange={(e) => setAxis(Number(e.target.value))}
          sx={{ flex: 1 }}
        >
          {AXES.map((a, i) => (
            <MenuItem key={a.words} value={i}>
              {['along x', 'along y', 'along z'][i]}
            </MenuItem>
          ))}
        </TextField>
        <FigureField
          label="At least, °"
          value={needed}
          shown={(v) => formatNumber(v, 1)}
          read={(t) => {
            const v = Number(t.replace(',', '.'));
            return t.trim() !== '' && v >= 0 && v < 90 ? v : null;
          }}
          wrong="Degrees from 0 to below 90"
          onChange={setNeeded}
        />
      </Box>
      {!shades && <Waits none={shades === null} />}
      {areas && (
        <Legend
          stops={[
            { colour: DRAFT_BANDS.opens, words: `opens that way, ${areas.opens} %` },
            { colour: DRAFT_BANDS.other, words: `opens the other way, ${areas.other} %` },
            {
              colour: DRAFT_BANDS.upright,
              words: `less than ${formatNumber(needed, 1)}°, ${areas.upright} %`,
            },
          ]}
        />
      )}
    </Box>
  );
}

/** Shares of the skin in each band, whole per cent. */
function bandAreas(
  { corners, values }: Shades,
  limit: number,
): Record<'opens' | 'other' | 'upright', number> {
  const sums = { opens: 0, other: 0, upright: 0 };
  let all = 0;
  values.forEach((v, t) => {
    const c = corners.subarray(9 * t, 9 * t + 9),
      [ux, uy, uz] = [c[3] - c[0], c[4] - c[1], c[5] - c[2]],
      [vx, vy, vz] = [c[6] - c[0], c[7] - c[1], c[8] - c[2]],
      area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
    all += area;
    sums[v >= limit ? 'opens' : v <= -limit ? 'other' : 'upright'] += area;
  });
  const share = (v: number) => Math.round((100 * v) / (all || 1));
  return { opens: share(sums.opens), other: share(sums.other), upright: share(sums.upright) };
}

const Waits = ({ none }: { none: boolean }) => (
  <Typography role="status" color="text.secondary" sx={{ mt: 1 }}>
    {none ? 'It was not measured: there is no solid, or the work was stopped.' : 'It is being measured …'}
  </Typography>
);

function Legend({ stops }: { stops: readonly { colour: string; words: string }[] }) {
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, my: 0.5, p: 0 }}>
      {stops.map((s) => (
        <Box component="li" key={s.words} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Box sx={{ width: 22, height: 12, bgcolor: s.colour, border: 1, borderColor: 'edge' }} />
          <Typography>{s.words}</Typography>
        </Box>
      ))}
    </Box>
  );
}
