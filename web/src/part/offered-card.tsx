'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import type { Change, Part } from '@calque/core/model';
import { offeredFigures, planeState, sheetUnitOf, type OfferedFigure } from '@calque/core/part';
import { exactStyle, formatLength } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { isToScale, useLaidSheets } from './held';
import { Unfold } from './unfold';

/** More rows than anybody reads in a card. */
const MOST = 40;
/** What a drawing may be off by and still be as printed, millimetres. */
const AS_DRAWN = 0.005;

/** The printed dimensions of the sheet on a plane that could drive what is drawn there: each, or all at once. */
export function OfferedCard({ part, planeId }: { part: Part; planeId: string }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    { sheets } = useLaidSheets(part);
  const offers = useMemo(
    () =>
      offeredFigures(
        model,
        planeId,
        sheets.filter((s) => s.underlay.planeId === planeId && isToScale(s.underlay)),
        sheetUnitOf(model),
      ),
    [model, planeId, sheets],
  );
  if (offers.length === 0) return null;
  const drive = (of: readonly OfferedFigure[]) => {
    const changes = of.map(({ kind, of: places, value, tolerance, printed }): Change => ({
      type: 'add',
      entity: { type: 'rule', id: crypto.randomUUID(), planeId, kind, of: places, value, tolerance, printed },
    }));
    if (
      session.do(
        { type: 'group', changes },
        of.length === 1 ? `Drive by ${of[0].printed.text}` : 'Drive by printed figures',
      )
    ) {
      const clash = planeState(session.state.model, planeId).contradictory.length > 0,
        what = of.length === 1 ? `${of[0].printed.text} drives` : `${of.length} printed figures drive`;
      session.tell(
        clash
          ? `${what}, but figures contradict one another now: nothing has moved. The card says which.`
          : `${what}: what was drawn otherwise has moved to what is printed.`,
        clash,
      );
    }
  };
  const said = (v: number) => formatLength(v, exactStyle(v, style)),
    off = offers.filter((o) => Math.abs(o.value - o.drawn) > AS_DRAWN).length;
  return (
    <Box data-testid="offered-figures" sx={{ borderLeft: 4, borderColor: 'found', pl: 1, my: 1 }}>
      <Typography>
        The sheet prints {count(offers.length, 'figure')} that could drive what is drawn here
        {off > 0 ? `; ${off} ${off === 1 ? 'differs' : 'differ'} from the drawing` : ''}.
      </Typography>
      <Button variant="outlined" onClick={() => drive(offers)}>
        {offers.length === 1 ? 'Let it drive' : `Let all ${offers.length} drive`}
      </Button>
      <Unfold words="One by one">
        {offers.slice(0, MOST).map((o, i) => (
          <Box key={i} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Typography sx={{ flex: 1 }}>
              {o.printed.text}{' '}
              <Typography component="span" color="text.secondary">
                {Math.abs(o.value - o.drawn) > AS_DRAWN ? `drawn ${said(Math.abs(o.drawn))}` : 'as drawn'}
              </Typography>
            </Typography>
            <Button
              onClick={() => drive([o])}
              aria-label={`Let ${o.printed.text} drive`}
              sx={{ minWidth: 0, py: 0 }}
            >
              Drive
            </Button>
          </Box>
        ))}
        {offers.length > MOST && (
          <Typography variant="caption" color="text.secondary">
            and {offers.length - MOST} more
          </Typography>
        )}
      </Unfold>
    </Box>
  );
}
