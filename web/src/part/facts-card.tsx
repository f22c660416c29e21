'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { setFields, type Part } from '@calque/core/model';
import { STOCK_MATERIALS, stockMaterial } from '@calque/core/part';
import { exactStyle, formatLength, formatNumber } from '@calque/core/units';
import { readDensity } from '@/kinds/member/density';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { WordsField } from '@/ui/words-field';
import { FilesCard } from './files-card';
import { usePartSolid } from './part-solid';

/** What the part is: its material, volume, mass, centre, and the box around it. */
export function FactsCard({ part }: { part: Part }) {
  const session = useSession(),
    style = useFromModel(lengthStyle),
    measures = usePartSolid((s) => s.solid?.measures ?? null),
    failed = usePartSolid((s) => s.states.filter((x) => x.state === 'failed').length),
    isOld = usePartSolid((s) => s.making !== null || s.why !== null),
    solids = measures?.solids ?? 0;
  const set = (fields: Partial<Part>, label: string) => session.do(setFields<Part>(part, fields), label);
  const mass = measures && (measures.volume * part.density) / 1e9,
    length = (v: number) => formatLength(v, exactStyle(v, style));
  return (
    <Box sx={{ mt: 1.5 }} data-testid="part-facts">
      <Typography variant="h3">What it is</Typography>
      <Box sx={{ ...TWO_COLUMNS, mt: 1 }}>
        <WordsField
          label="Part"
          value={part.name}
          onChange={(name) => set({ name }, `Rename ${part.name}`)}
        />
        <Autocomplete
          freeSolo
          sx={{ gridColumn: '1 / -1', order: 1 }}
          options={STOCK_MATERIALS.map((m) => m.name)}
          value={part.material}
          onChange={(_, given) => {
            const material = given?.trim();
            if (!material || material === part.material) return;
            set(
              { material, density: stockMaterial(material)?.density ?? part.density },
              `Make ${part.name} of ${material}`,
            );
          }}
          renderInput={(params) => <TextField {...params} label="Material" />}
        />
        <FigureField
          label="kg/m³"
          value={part.density}
          shown={(v) => formatNumber(v, 0)}
          read={readDensity}
          wrong="A density in kg/m³, above 0"
          onChange={(density) => set({ density }, 'Change the density of a part')}
        />
      </Box>
      {measures ? (
        <>
          <Box
            component="dl"
            sx={{
              display: 'grid',
              gridTemplateColumns: 'auto 1fr',
              columnGap: 1.5,
              my: 1,
              '& dt': { color: 'text.secondary' },
              '& dd': { m: 0 },
            }}
          >
            <dt>Mass</dt>
            <dd data-testid="part-mass">{formatNumber(mass!, mass! < 10 ? 3 : 1)} kg</dd>
            <dt>Volume</dt>
            <dd data-testid="part-volume">{formatNumber(measures.volume / 1000, 3)} cm³</dd>
            <dt>Surface</dt>
            <dd>{formatNumber(measures.surface / 100, 1)} cm²</dd>
            <dt>Box</dt>
            <dd data-testid="part-box">
              {[0, 1, 2].map((i) => length(measures.box[i + 3] - measures.box[i])).join(' x ')}
            </dd>
            <dt>Centre</dt>
            <dd>{measures.centre.map(length).join(', ')}</dd>
            <dt title="About axes through its centre">Moments</dt>
            <dd data-testid="part-moments">
              {measures.inertia
                .slice(0, 3)
                .map((v) => formatNumber((v * part.density) / 1e15, 6))
                .join(', ')}{' '}
              kg m²
            </dd>
          </Box>
          {(failed > 0 || isOld) && (
            <Typography sx={{ color: 'assumed' }}>
              {isOld
                ? 'Of the part as it was made last.'
                : `Without ${failed === 1 ? 'the feature' : `the ${failed} features`} that could not be made.`}
            </Typography>
          )}
          {solids > 1 && (
            <Typography sx={{ color: 'assumed' }}>It is in {solids} pieces that do not touch.</Typography>
          )}
          <HolesTable />
          <FilesCard part={part} />
        </>
      ) : (
        <Typography color="text.secondary" sx={{ mt: 1 }}>
          It has no solid yet.
        </Typography>
      )}
    </Box>
  );
}

/** More rows than anybody reads in a card. */
const MOST_HOLES = 12;

const NO_THREADS: readonly (string | null)[] = [];
/** Holes that are alike, counted. */
function HolesTable() {
  const style = useFromModel(lengthStyle),
    holes = usePartSolid((s) => s.solid?.holes ?? null),
    threads = usePartSolid((s) => s.solid?.threads ?? NO_THREADS);
  if (!holes || holes.length === 0) return null;
  const alike = new Map<string, number>();
  for (const [i, h] of holes.entries()) {
    const words = [
      threads[i] ?? `⌀ ${formatLength(h.diameter, exactStyle(h.diameter, style))}`,
      h.depth === null ? 'through' : `${formatLength(h.depth, exactStyle(h.depth, style))} deep`,
      h.head && `${h.kind} ⌀ ${formatLength(h.head.diameter, exactStyle(h.head.diameter, style))}`,
    ]
      .filter(Boolean)
      .join(', ');
    alike.set(words, (alike.get(words) ?? 0) + 1);
  }
  return (
    <Box data-testid="part-holes">
      <Typography color="text.secondary">
        {holes.length} round {holes.length === 1 ? 'hole' : 'holes'}
      </Typography>
      {[...alike].slice(0, MOST_HOLES).map(([words, n]) => (
        <Typography key={words}>
          {n} of {words}
        </Typography>
      ))}
      {alike.size > MOST_HOLES && (
        <Typography variant="caption">and {alike.size - MOST_HOLES} kinds more</Typography>
      )}
    </Box>
  );
}
