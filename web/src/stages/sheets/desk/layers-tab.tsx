'use client';

import Typography from '@mui/material/Typography';
import Box from '@mui/material/Box';
import { layerStates, switchLayer } from '@calque/core/linework';
import { useTable } from '@/table/context';
import { lightUp } from './marking';
import { SavedLooks } from './saved-looks';
import { SwitchRow } from './switch-row';
import type { Desk } from './use-desk';

/** The file's own layers, under the titles that the file gives them. */
export function LayersTab({ desk }: { desk: Desk }) {
  const table = useTable();
  const { underlay: u, look, linework: l, setSwitches } = desk;
  if (!l) return <Typography color="text.secondary">The sheet is still being fetched.</Typography>;
  if (l.layers.length === 0)
    return (
      <Typography color="text.secondary">
        This file has no layers. Use Kinds and Pens: the thick pen is usually the walls.
      </Typography>
    );
  const states = layerStates(l.layers, look.switches);
  return (
    <Box>
      {l.layers.map((layer, i) => {
        const under = layer.under?.join(' › ') ?? '';
        const before = i > 0 ? (l.layers[i - 1].under?.join(' › ') ?? '') : '';
        return (
          <Box key={i}>
            {under !== '' && under !== before && (
              <Typography variant="caption" color="text.secondary">
                {under}
              </Typography>
            )}
            <SwitchRow
              label={layer.name || `Layer ${i + 1}`}
              on={states[i]}
              indent={under === '' ? 0 : 1}
              aside={[
                `${layer.segments} lines`,
                layer.oneOf !== undefined && 'one of several',
                !layer.on && 'off in the file',
              ]
                .filter(Boolean)
                .join(', ')}
              onChange={(on) =>
                setSwitches(
                  switchLayer(l.layers, look.switches, i, on),
                  on ? `Layer ${layer.name} on` : `Layer ${layer.name} off`,
                )
              }
              onPoint={(over) => lightUp(table, u, l, over ? (n) => n === i : null)}
            />
          </Box>
        );
      })}
      <SavedLooks desk={desk} />
    </Box>
  );
}
