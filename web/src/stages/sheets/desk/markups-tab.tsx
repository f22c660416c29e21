'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Checkbox from '@mui/material/Checkbox';
import Typography from '@mui/material/Typography';
import { transformBox } from '@calque/core/geometry';
import type { Markup } from '@calque/core/linework';
import { ofType } from '@calque/core/model';
import { useProject, useSession } from '@/project/context';
import { useTable } from '@/table/context';
import { lightUp } from './marking';
import { SwitchRow } from './switch-row';
import { toggled, type Desk } from './use-desk';

const KIND_WORDS: Record<string, string> = {
  Text: 'Notes',
  FreeText: 'Written on the sheet',
  Line: 'Lines',
  Square: 'Boxes',
  Circle: 'Circles',
  Polygon: 'Outlines',
  PolyLine: 'Polylines',
  Highlight: 'Highlights',
  Underline: 'Underlines',
  Squiggly: 'Wavy lines',
  StrikeOut: 'Struck out',
  Stamp: 'Stamps',
  Caret: 'Insertions',
  Ink: 'Freehand',
  FileAttachment: 'Attachments',
};
/** Room shown round a mark-up that is gone to, sheet points. */
const AROUND = 60;

/** Mark-ups that others laid over the sheet: shown or not, and their comments to be gone through. */
export function MarkupsTab({
  desk: {
    underlay: u,
    look: { switches },
    linework: l,
    setSwitches,
  },
}: {
  desk: Desk;
}) {
  const session = useSession();
  const table = useTable();
  const model = useProject((s) => s.model);
  if (!l) return <Typography color="text.secondary">The sheet is still being fetched.</Typography>;
  if (l.markups.length === 0)
    return <Typography color="text.secondary">Nobody has marked this sheet up.</Typography>;
  const ticks = ofType(model, 'tick').filter((t) => t.fileId === u.fileId && t.page === u.page);
  const authors = [...new Set(l.markups.map((m) => m.author))],
    kinds = [...new Set(l.markups.map((m) => m.kind))];
  const shown = !switches.kinds.includes('markup');
  const count = (test: (m: Markup) => boolean) => String(l.markups.filter(test).length);
  const goTo = (m: Markup) => {
    const [x0, y0, x1, y1] = m.box;
    table.show(transformBox(u.placement, [x0 - AROUND, y0 - AROUND, x1 + AROUND, y1 + AROUND]));
    const at = -1 - l.markups.indexOf(m);
    lightUp(table, u, l, (_, __, ___, object) => object === at);
  };
  const tick = (m: Markup) => {
    const known = ticks.find((t) => t.annotation === m.index);
    session.do(
      known
        ? { type: 'remove', entity: known }
        : {
            type: 'add',
            entity: {
              type: 'tick',
              id: crypto.randomUUID(),
              fileId: u.fileId,
              page: u.page,
              annotation: m.index,
            },
          },
      known ? 'Open the comment again' : 'Tick a comment off',
    );
  };
  const comments = l.markups.filter((m) => m.comment !== '');
  const open = comments.filter((m) => !ticks.some((t) => t.annotation === m.index)).length;
  return (
    <Box onMouseLeave={() => table.setMarked(null)}>
      <SwitchRow
        label="All mark-ups"
        aside={String(l.markups.length)}
        on={shown}
        onChange={() =>
          setSwitches(
            { ...switches, kinds: toggled(switches.kinds, 'markup') },
            shown ? 'Hide mark-ups' : 'Show mark-ups',
          )
        }
        onPoint={(over) => lightUp(table, u, l, over ? (_, __, ___, object) => object < 0 : null)}
      />
      {authors.length > 1 &&
        authors.map((a) => (
          <SwitchRow
            key={a}
            indent={1}
            label={a === '' ? 'without a name' : a}
            aside={count((m) => m.author === a)}
            on={shown && !switches.authors.includes(a)}
            onChange={() =>
              setSwitches({ ...switches, authors: toggled(switches.authors, a) }, 'Mark-ups by author')
            }
          />
        ))}
      {kinds.length > 1 &&
        kinds.map((k) => (
          <SwitchRow
            key={k}
            indent={1}
            label={KIND_WORDS[k] ?? k}
            aside={count((m) => m.kind === k)}
            on={shown && !switches.markupKinds.includes(k)}
            onChange={() =>
              setSwitches({ ...switches, markupKinds: toggled(switches.markupKinds, k) }, 'Mark-ups by kind')
            }
          />
        ))}
      <Typography variant="h3" sx={{ mt: 1 }}>
        {comments.length === 0
          ? 'No comments'
          : `${comments.length === 1 ? '1 comment' : `${comments.length} comments`}, ${open === 0 ? 'all dealt with' : `${open} open`}`}
      </Typography>
      {comments.map((m) => {
        const done = ticks.some((t) => t.annotation === m.index);
        return (
          <Box
            key={m.index}
            sx={{ display: 'flex', alignItems: 'flex-start', borderBottom: 1, borderColor: 'edge' }}
          >
            <Checkbox
              checked={done}
              onChange={() => tick(m)}
              slotProps={{ input: { 'aria-label': `Dealt with: ${m.comment}` } }}
            />
            <ButtonBase
              onClick={() => goTo(m)}
              sx={{ flex: 1, display: 'block', textAlign: 'left', py: 0.5 }}
            >
              <Typography sx={{ textDecoration: done ? 'line-through' : 'none' }}>{m.comment}</Typography>
              <Typography variant="caption" color="text.secondary">
                {[m.author, m.date.slice(0, 10), (KIND_WORDS[m.kind] ?? m.kind).toLowerCase()]
                  .filter(Boolean)
                  .join(', ')}
              </Typography>
            </ButtonBase>
          </Box>
        );
      })}
    </Box>
  );
}
