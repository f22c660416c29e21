'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { group, ofType, setFields, type Traced } from '@calque/core/model';
import { fieldsOf, KINDS_IN_ORDER } from '@/kinds';
import { useFromModel, useSession } from '@/project/context';
import { shared } from '@/ui/shared-value';
import { WordsField } from '@/ui/words-field';

const layersOf = (model: Parameters<typeof ofType>[0]) => ofType(model, 'layer');

/** The layer of what is selected, and what each kind of it has of its own. */
export function PropertiesCard({ chosen }: { chosen: readonly Traced[] }) {
  const session = useSession();
  const layers = useFromModel(layersOf);
  const layer = shared(chosen, (e) => e.layerId ?? '');
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, my: 1 }}>
      {layers.length > 0 && (
        <TextField
          select
          label="Layer"
          value={layer ?? 'several'}
          sx={{ width: 150 }}
          onChange={(e) =>
            session.do(
              group(chosen.map((x) => setFields<Traced>(x, { layerId: e.target.value || null }))),
              'Put on a layer',
            )
          }
        >
          {layer === null && (
            <MenuItem value="several" disabled>
              several
            </MenuItem>
          )}
          <MenuItem value="">none</MenuItem>
          {layers.map((l) => (
            <MenuItem key={l.id} value={l.id}>
              {l.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {KINDS_IN_ORDER.map((type) => {
        const Fields = fieldsOf(type),
          own = chosen.filter((e) => e.type === type);
        return Fields && own.length > 0 ? <Fields key={type} chosen={own} /> : null;
      })}
      <Box sx={{ width: 150 }}>
        <WordsField
          label="Phase"
          mayBeEmpty
          value={shared(chosen, (e) => e.phase ?? '') ?? ''}
          onChange={(phase) =>
            session.do(
              group(chosen.map((x) => setFields<Traced>(x, { phase: phase || null }))),
              'Say the phase of elements',
            )
          }
        />
      </Box>
    </Box>
  );
}
