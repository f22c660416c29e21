'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { applyTransform, boxOfPoints, grownBox, type Box as Extent } from '@calque/core/geometry';
import { get, USUAL_STOREY_HEIGHT, type Model, type Underlay, type Wall } from '@calque/core/model';
import {
  changeMade,
  changesMade,
  changesWords,
  changeWords,
  type MadeOf,
  type SeenChange,
} from '@calque/core/proposals';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';
import type { IssueChanges } from '@/workers/issue-protocol';

/** Room shown round a change, millimetres. */
const ROOM = 1500;

interface Props {
  seen: IssueChanges;
  underlay: Underlay;
  /** Has the new issue been taken in the place of the old one? */
  accepted: boolean;
  /** Little of both issues is common: what looks moved may be what does not fit. */
  doubtful: boolean;
}

/** What walls and openings changed with an issue, each offered to be made of what was traced. */
export function SeenChanges({ seen, underlay, accepted, doubtful }: Props) {
  const session = useSession(),
    table = useTable(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    [refused, setRefused] = useState<ReadonlySet<SeenChange>>(new Set());
  const { older, newer, changes } = seen,
    of = madeOf(model, seen, underlay);
  if (changes.length === 0)
    return (
      <Typography sx={{ mt: 0.75 }} data-testid="issue-changes">
        No wall and no opening changed that Calque sees.
      </Typography>
    );
  // What is made already, or means nothing that was traced, is not offered.
  const offered = changes.flatMap((change) => {
    const made = refused.has(change) ? null : changeMade(model, change, of);
    return made ? [{ change, made, words: changeWords(change, older, newer, style) }] : [];
  });
  const takeAll = () => {
    const whole = changesMade(
      model,
      offered.map((o) => o.change),
      of,
    );
    if (whole) session.do(whole, `Take ${count(offered.length, 'change')} of ${underlay.name}`);
  };
  return (
    <Box sx={{ mt: 0.75 }} data-testid="issue-changes">
      <Typography>
        Calque sees {changesWords(changes, older, newer, style)}.
        {offered.length === 0 &&
          (refused.size > 0 ? ' All of it is taken or refused.' : ' Nothing of it changes what is traced.')}
      </Typography>
      {offered.length > 0 && !accepted && (
        <Typography variant="caption" color="text.secondary">
          {offered.length === 1 ? 'One of this' : `${offered.length} of this`} can be made of what is traced:
          take the new issue first.
        </Typography>
      )}
      {doubtful && offered.length > 0 && (
        <Typography variant="caption" sx={{ color: 'assumed' }}>
          Little of both issues is common, so that they may not lie on one another: look at each before you
          take it.
        </Typography>
      )}
      {accepted &&
        offered.map(({ change, made, words }) => (
          <Box key={changes.indexOf(change)} sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
            <Button
              sx={{
                flex: 1,
                minWidth: 0,
                px: 0,
                justifyContent: 'flex-start',
                textAlign: 'left',
                whiteSpace: 'normal',
              }}
              onClick={() => table.show(grownBox(extentOf(change, seen), ROOM))}
            >
              {words}
            </Button>
            <Button
              size="small"
              variant="outlined"
              aria-label={`Take: ${words}`}
              onClick={() => session.do(made, words)}
            >
              Take
            </Button>
            <Button
              size="small"
              aria-label={`Refuse: ${words}`}
              onClick={() => setRefused(new Set([...refused, change]))}
            >
              Refuse
            </Button>
          </Box>
        ))}
      {accepted && !doubtful && offered.length > 1 && (
        <Button variant="contained" sx={{ mt: 0.5 }} onClick={takeAll}>
          Take all {offered.length} changes
        </Button>
      )}
    </Box>
  );
}

function madeOf(model: Model, { older, newer }: IssueChanges, u: Underlay): MadeOf {
  const storey = get(model, 'storey', u.planeId);
  return {
    older,
    newer,
    planeId: u.planeId,
    standing: {
      height: storey?.height ?? USUAL_STOREY_HEIGHT,
      heightAssumed: storey?.heightAssumed ?? true,
    },
    newWall: (own): Wall => ({
      ...own,
      id: crypto.randomUUID(),
      planeId: u.planeId,
      source: { underlayId: u.id, ends: 'snapped', thickness: 'measured' },
    }),
  };
}

/** Where a change lies on the plane. */
function extentOf(change: SeenChange, { older, newer }: IssueChanges): Extent {
  const isOpening = change.kind.startsWith('opening'),
    places = (issue: IssueChanges['older'], n: number) => {
      const { seen, placement } = issue,
        points = isOpening ? [seen.openings[n].at] : [seen.walls[n].from, seen.walls[n].to];
      return points.map((p) => applyTransform(placement, p));
    };
  return boxOfPoints([
    ...('older' in change ? places(older, change.older) : []),
    ...('newer' in change ? places(newer, change.newer) : []),
  ]);
}
