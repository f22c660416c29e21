'use client';

import Typography from '@mui/material/Typography';
import Box from '@mui/material/Box';
import { ITEM_KINDS_OF_SHEET, type Linework, type SheetKind } from '@calque/core/linework';
import { useTable } from '@/table/context';
import { lightUp } from './marking';
import { SavedLooks } from './saved-looks';
import { SwitchRow } from './switch-row';
import { toggled, type Desk } from './use-desk';

const WORDS: Record<SheetKind, string> = {
  line: 'Lines',
  curve: 'Arcs and curves',
  hatch: 'Hatch',
  fill: 'Fills',
  text: 'Texts',
  dimension: 'Dimensions',
  picture: 'Pictures',
  markup: 'Mark-ups',
};

/** What goes with a kind where its name leaves that open. */
const HOLDS: Partial<Record<SheetKind, string>> = {
  text: 'titles, names, notes; not the figures of dimensions',
  dimension: 'their lines, ticks and figures',
  line: 'without hatch and dimensions',
  fill: 'their edges',
};

function countsOf(l: Linework): Record<SheetKind, number> {
  const counts = Object.fromEntries(ITEM_KINDS_OF_SHEET.map((k) => [k, 0])) as Record<SheetKind, number>;
  for (const kinds of [l.segmentKind, l.arcKind, l.circleKind, l.curveKind, l.fillEdgeKind])
    for (const k of kinds) counts[ITEM_KINDS_OF_SHEET[k]]++;
  for (const t of l.texts)
    if (['text', 'dimension'].includes(ITEM_KINDS_OF_SHEET[t.kind])) counts[ITEM_KINDS_OF_SHEET[t.kind]]++;
  counts.picture = l.pictures.length;
  counts.fill = Math.max(counts.fill, l.counts.fills);
  return counts;
}

/** What is on the sheet by kind, for any file. */
export function KindsTab({ desk }: { desk: Desk }) {
  const table = useTable();
  const {
    underlay: u,
    look: { switches },
    linework: l,
    sheet,
    setSwitches,
  } = desk;
  if (!l) return <Typography color="text.secondary">The sheet is still being fetched.</Typography>;
  const counts = countsOf(l);
  const aside = (k: SheetKind) =>
    k === 'hatch' && l.hatches > 0
      ? `${l.hatches === 1 ? '1 area' : `${l.hatches} areas`}, ${counts[k]} strokes`
      : k === 'markup'
        ? String(l.markups.length)
        : String(counts[k]);
  return (
    <Box>
      {sheet && !sheet.whole && (
        <Typography color="assumed" role="status" sx={{ mb: 0.75 }}>
          Hatches and dimensions are still being told apart: they count as lines until then.
        </Typography>
      )}
      {ITEM_KINDS_OF_SHEET.filter(
        (k) =>
          counts[k] > 0 ||
          (k === 'hatch' && l.hatches > 0) ||
          (k === 'markup' && l.markups.length > 0) ||
          switches.kinds.includes(k),
      ).map((k) => {
        const on = !switches.kinds.includes(k);
        return (
          <SwitchRow
            key={k}
            label={WORDS[k]}
            holds={HOLDS[k]}
            aside={aside(k)}
            on={on}
            onChange={() =>
              setSwitches(
                { ...switches, kinds: toggled(switches.kinds, k) },
                `${WORDS[k]}${HOLDS[k] ? ` (${HOLDS[k]})` : ''} ${on ? 'off' : 'on'}`,
              )
            }
            onPoint={(over) =>
              lightUp(table, u, l, over ? (_, __, kind) => ITEM_KINDS_OF_SHEET[kind] === k : null)
            }
          />
        );
      })}
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.5 }}>
        What is off is neither seen nor snapped to.
      </Typography>
      <SavedLooks desk={desk} />
    </Box>
  );
}
