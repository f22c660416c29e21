'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useContext, useState } from 'react';
import { describeScale, parseScale } from '@calque/core/units';
import { ofType, type Model, type Underlay } from '@calque/core/model';
import { CommandButton } from '@/commands/context';
import { doubtOf, useDoubts } from '@/project/doubts';
import { traceTally } from '@/project/trace-words';
import { useFromModel, useProject, useSession } from '@/project/context';
import { ScaleOfferContext, type ScaleOffer } from '@/project/scale-offer';
import type { FileInfo } from '@/project/wire';
import { useTable, useTableState } from '@/table/context';
import { PicksTool } from '@/table/tools/picks-tool';
import { layDown, scaleBeside, type Chosen } from './lay';

const hasUnderlays = (model: Model): boolean => model.hasType('underlay');

/** As high as an offer of one line, in pixels. */
const OFFER_HEIGHT = 96;

/** At which scale and where the chosen pages are laid. */
export function LayForm({
  file,
  chosen,
  onLaid,
  onCrop,
}: {
  file: FileInfo;
  chosen: readonly Chosen[];
  onLaid(): void;
  onCrop(): void;
}) {
  const session = useSession();
  const table = useTable();
  const note = chosen[0].sheet.scaleNotes[0];
  const [mode, setMode] = useState<'paper' | 'stated'>('paper');
  const [scale, setScale] = useState('');
  const text = scale === '' && note ? note.text : scale;
  const parsed = parseScale(text);
  const own = chosen[0].sheet.reference !== null;
  const factor = own ? 1 : mode === 'paper' ? null : parsed.ok ? parsed.factor : undefined;
  const others = useFromModel(hasUnderlays),
    planeId = useTableState((s) => s.planeId),
    guess = useProject((s) => scaleBeside(s.model, planeId));
  const lay = (at: [number, number] | null) => {
    if (factor === undefined) return;
    layDown(session, table, file, chosen, at, factor);
    onLaid();
  };
  const atPoint = () =>
    table.hold(
      new PicksTool({
        id: 'lay-at',
        steps: ['Click where the lower left corner of the sheet is to lie'],
        done: ([p]) => {
          lay(p.plane);
          table.layDown();
        },
      }),
    );
  const offered = useContext(ScaleOfferContext)(file, chosen[0].sheet, chosen[0].crop);
  const there = useProject((s) =>
    ofType(s.model, 'underlay').find((u) => u.fileId === file.id && u.page === chosen[0].sheet.page),
  );
  const offer = !own && chosen.length === 1 && !there ? offered : null;
  // What is offered is the one clear button then.
  const second = offer?.state === 'found';
  return (
    <>
      {chosen.length === 1 && there && <LiesThere underlay={there} />}
      {offer && (
        // Its place is held from the start: what lies below must not move under a pointer about to press it.
        <Box sx={{ minHeight: OFFER_HEIGHT }}>
          {offer.state === 'reading' && (
            <Box sx={{ pt: 1 }}>
              <Typography variant="caption" color="text.secondary">
                Reading its printed dimensions …
              </Typography>
              <LinearProgress
                variant="determinate"
                value={100 * offer.share}
                aria-label="Reading the printed dimensions"
              />
            </Box>
          )}
          {offer.state === 'found' && (
            <Offer
              offer={offer.offer}
              onTake={() => {
                layDown(session, table, file, chosen, others ? null : [0, 0], null, offer.offer);
                onLaid();
              }}
            />
          )}
          {offer.state === 'none' && (
            <Typography variant="caption" color="text.secondary" sx={{ display: 'block', pt: 1 }}>
              No scale could be told by its printed dimensions. Lay it down, then bring it to scale by a
              dimension that you know.
            </Typography>
          )}
        </Box>
      )}
      <Box
        sx={{
          mt: 1,
          p: 1.25,
          bgcolor: second ? undefined : 'knownWash',
          borderLeft: 4,
          borderColor: second ? 'edge' : 'known',
        }}
      >
        <Typography sx={{ fontWeight: 650 }}>
          {chosen.length === 1
            ? `Lay page ${chosen[0].sheet.page} down`
            : `Lay ${chosen.length} pages down, side by side`}
        </Typography>
        {own ? (
          <Typography color="text.secondary" sx={{ my: 0.5 }}>
            This drawing is at true size by its own units. It needs no calibration.
          </Typography>
        ) : (
          <RadioGroup value={mode} onChange={(e) => setMode(e.target.value as 'paper' | 'stated')}>
            <FormControlLabel
              value="paper"
              control={<Radio />}
              label={`not to scale yet (${guess === 1 ? 'paper size' : `as large as the sheets beside it, at ${describeScale(guess, false).text}`})`}
            />
            <FormControlLabel
              value="stated"
              control={<Radio />}
              label={note ? `at a stated scale (it says ${note.text})` : 'at a stated scale'}
            />
          </RadioGroup>
        )}
        {!own && mode === 'stated' && (
          <TextField
            fullWidth
            label="Scale"
            placeholder={'1:50, 1/4" = 1\'-0", 1" = 20\''}
            value={scale === '' && note ? note.text : scale}
            onChange={(e) => setScale(e.target.value)}
            error={text !== '' && !parsed.ok}
            sx={{ my: 0.75 }}
            helperText={
              text === ''
                ? 'As 1:50, 1/4" = 1\'-0", 1" = 20\' or a bare factor.'
                : parsed.ok
                  ? `1 mm of paper is ${Number(parsed.factor.toPrecision(6))} mm. A stated scale is a claim: check it with a known dimension.`
                  : `"${text}" is not a scale. Write it as 1:50, 1/4" = 1'-0" or 1" = 20'.`
            }
          />
        )}
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 0.5 }}>
          {others && !own && (
            <Button
              variant={second ? 'outlined' : 'contained'}
              disabled={factor === undefined}
              onClick={() => lay(null)}
            >
              Lay beside the others
            </Button>
          )}
          <Button
            variant={second || (others && !own) ? 'outlined' : 'contained'}
            disabled={factor === undefined}
            onClick={() => lay([0, 0])}
          >
            {own ? 'Lay at its own place' : 'Lay at the origin'}
          </Button>
          <Button variant="outlined" disabled={factor === undefined} onClick={atPoint}>
            At a point
          </Button>
          <Button disabled={!chosen[0].sheet.whole} onClick={onCrop}>
            Crop
          </Button>
        </Box>
      </Box>
    </>
  );
}

/** It lies on the table already: what comes next. */
function LiesThere({ underlay: u }: { underlay: Underlay }) {
  const traced = useProject((s) => traceTally(s.model, u.planeId).total);
  const doubted = useDoubts((s) => doubtOf(u, s)) !== null,
    isScaled = u.scaleState === 'calibrated' && !doubted;
  return (
    <Box sx={{ mt: 1, mb: 0.5 }}>
      <Typography sx={{ color: isScaled ? 'known' : doubted ? 'differs' : 'text.secondary' }}>
        {isScaled ? 'It lies on the table, to scale.' : 'It lies on the table.'}
        {doubted ? ' Its scale is in doubt.' : ''}
      </Typography>
      {isScaled && traced === 0 && <CommandButton id="wall" label="Trace the first wall" sx={{ mt: 0.5 }} />}
      {(u.scaleState === 'paper' || doubted) && (
        <CommandButton
          id="stage-calibrate"
          label={doubted ? 'Look at its scale' : 'Bring it to scale'}
          sx={{ mt: 0.5 }}
        />
      )}
    </Box>
  );
}

/** What the page says of its scale, and the one press that lays it down by that. */
function Offer({ offer, onTake }: { offer: ScaleOffer; onTake(): void }) {
  return (
    <Box
      data-testid="scale-offer"
      sx={{ mt: 1, p: 1.25, bgcolor: 'knownWash', borderLeft: 4, borderColor: 'now' }}
    >
      <Typography sx={{ fontWeight: 650 }}>{offer.words}</Typography>
      {offer.but !== '' && <Typography sx={{ color: 'assumed' }}>{offer.but}</Typography>}
      <Button variant="contained" sx={{ mt: 0.75 }} onClick={onTake}>
        Lay it down to scale
      </Button>
    </Box>
  );
}
