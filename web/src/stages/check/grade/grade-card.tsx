'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo } from 'react';
import { writeXlsx } from '@calque/core/exchange';
import { figuresOf, gradeTables, gradeWords, percent, STRAYS, type TraceGrade } from '@calque/core/grade';
import { grownBox } from '@calque/core/geometry';
import { get, kindOf, isTraced, settingsOf } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { CommandButton } from '@/commands/context';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { LIGHT_PALETTE } from '@/table/palette';
import { Figure } from '@/ui/figure';
import { LengthField } from '@/ui/length-field';
import { saveText } from '@/ui/save-text';
import { doesGradeHold, gradeSheet, stopGrading, useGrade, type GradeList } from './grade';
import { fineStyle, listsOf, type Listed } from './lists';

/** So much is shown around a place that is looked at, millimetres. */
const AROUND = 800;
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** How well the trace lies on its sheet, while that is looked at. */
export function GradeCard() {
  const table = useTable(),
    now = useGrade(),
    model = useProject((s) => s.model),
    underlayId = useTableState((s) => s.underlayId);
  const holds = now.state !== 'graded' || doesGradeHold(table, now);
  // What was mended is graded again while it is looked at.
  useEffect(() => {
    if (!holds) gradeSheet(table);
  }, [holds, model, underlayId, table]);
  return (
    <Box data-testid="grade">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        The trace against the sheet
      </Typography>
      {now.state === 'graded' && now.grade && holds ? <Graded grade={now.grade} /> : <Under />}
    </Box>
  );
}

/** While it is graded, or why it could not be. */
function Under() {
  const table = useTable(),
    { state, why, share } = useGrade();
  if (state === 'failed')
    return (
      <>
        <Typography sx={{ mb: 1 }}>{why}</Typography>
        {why.includes('not to scale') ? (
          <CommandButton id="stage-calibrate" label="Bring it to scale" sx={{ bgcolor: 'slip' }} />
        ) : (
          <Button variant="outlined" onClick={() => gradeSheet(table)}>
            Grade it again
          </Button>
        )}
      </>
    );
  return (
    <>
      <Typography sx={{ mb: 0.5 }}>
        {share === null ? 'Every edge is held against the sheet …' : 'Calque reads the ink of the scan …'}
      </Typography>
      <LinearProgress
        sx={{ mb: 1 }}
        {...(share !== null && { variant: 'determinate', value: 100 * share })}
      />
      <Button onClick={stopGrading}>Stop</Button>
    </>
  );
}

function Graded({ grade }: { grade: TraceGrade }) {
  const table = useTable(),
    session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    fine = fineStyle(style),
    { tolerance, others, isCut, underlayId } = useGrade();
  const own = useMemo(() => figuresOf(grade.traced, tolerance), [grade, tolerance]),
    words = useMemo(
      () => gradeWords(grade, tolerance, style, (id) => get(model, 'wall', id) !== null),
      [grade, tolerance, style, model],
    ),
    lists = listsOf(grade, tolerance);
  const length = (mm: number | null) => (mm === null ? '–' : formatLengthWithUnit(mm, fine)),
    within = formatLengthWithUnit(tolerance, fine);
  const report = async () => {
    const tables = gradeTables({
        grade,
        tolerance,
        model,
        sheet: get(model, 'underlay', underlayId)?.name ?? '',
        style,
      }),
      bytes = await writeXlsx(tables, style.units);
    if (bytes) saveText(`${settingsOf(model).name} grade of the trace.xlsx`, bytes, XLSX);
    session.tell('The report was written.');
  };
  return (
    <>
      <Typography sx={{ mb: 1 }} data-testid="grade-words">
        {words}
      </Typography>
      <List name="strays" of={lists.strays} title={['element strays', 'elements stray']} figure={length} />
      <List
        name="untraced"
        of={lists.untraced}
        title={['wall of the sheet is not traced', 'walls of the sheet are not traced']}
        figure={length}
      />
      <List
        name="undrawn"
        of={lists.undrawn}
        title={['element lies on no ink in part', 'elements lie on no ink in part']}
        figure={length}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', rowGap: 1, mb: 1 }}>
        <Figure label="Mean distance" value={length(own.mean)} />
        <Figure label="Worst distance" value={length(own.worst)} />
        <Figure label={`Traced within ${within}`} value={`${percent(own.within, own.length)} %`} />
        <Figure label="On no ink" value={`${own.free > 0 ? percent(own.free, own.length) : 0} %`} />
      </Box>
      <LengthField
        label="Tolerance"
        value={tolerance}
        exact
        fullWidth
        onChange={(mm) => {
          useGrade.setState({ tolerance: mm, walked: null });
          table.repaint('overlay');
        }}
      />
      <Key within={within} beyond={formatLengthWithUnit(STRAYS * tolerance, fine)} />
      {others > 0 && (
        <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
          {count(others, 'element', 'elements')} here {others === 1 ? 'was' : 'were'} traced from other sheets
          and {others === 1 ? 'is' : 'are'} not held against this one.
        </Typography>
      )}
      {isCut && (
        <Typography sx={{ color: 'assumed' }}>
          There is more than can be graded at once: not all of the trace is in these figures.
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 1 }}>
        <Button variant="contained" onClick={() => void report()}>
          Write the report
        </Button>
      </Box>
    </>
  );
}

/** What the colours along the edges say. */
function Key({ within, beyond }: { within: string; beyond: string }) {
  const rows = [
    { colour: 'known', words: `within ${within}`, dashed: false },
    { colour: 'assumed', words: `up to ${beyond}`, dashed: false },
    { colour: 'differs', words: `beyond ${beyond}`, dashed: false },
    { colour: LIGHT_PALETTE.ghost, words: 'on no ink', dashed: true },
    { colour: 'now', words: 'not traced', dashed: false },
  ];
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '24px 1fr 24px 1fr',
        columnGap: 1,
        alignItems: 'center',
        my: 1,
      }}
    >
      {rows.map(({ colour, words, dashed }) => (
        <Box key={colour} sx={{ display: 'contents' }}>
          <Box sx={{ borderTop: '4px', borderTopStyle: dashed ? 'dashed' : 'solid', borderColor: colour }} />
          <Typography variant="caption">{words}</Typography>
        </Box>
      ))}
    </Box>
  );
}

interface ListProps {
  name: GradeList;
  of: readonly Listed[];
  title: readonly [string, string];
  figure(mm: number): string;
}

/** A list that is walked through, the worst first. */
function List({ name, of, title, figure }: ListProps) {
  const table = useTable(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    walked = useGrade((s) => s.walked);
  if (of.length === 0) return null;
  const at = walked?.list === name ? Math.min(walked.at, of.length - 1) : -1,
    now = of[at],
    e = now?.id ? model.get(now.id) : undefined;
  const walk = (to: number) => {
    const next = (to + of.length) % of.length;
    useGrade.setState({ walked: { list: name, at: next } });
    table.show(grownBox(of[next].box, AROUND));
    table.repaint('overlay');
  };
  const what =
    e && isTraced(e) ? [kindOf(e).word(e), kindOf(e).summary(e, style)].filter(Boolean).join(', ') : '';
  return (
    <Box
      sx={{ borderLeft: 4, borderColor: name === 'strays' ? 'differs' : 'assumed', pl: 1, mb: 1 }}
      data-testid={`grade-${name}`}
    >
      <Typography>{count(of.length, ...title)}</Typography>
      {now && (
        <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
          {at + 1} of {of.length}: {what || (now.isSure ? 'wall' : 'perhaps a wall')} ·{' '}
          {name === 'strays'
            ? `${figure(now.figure)} off`
            : name === 'undrawn'
              ? `${figure(now.figure)} on no ink`
              : figure(now.figure)}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
        {now && (
          <Button size="small" onClick={() => walk(at - 1)}>
            Back
          </Button>
        )}
        <Button size="small" onClick={() => walk(at + 1)}>
          {now ? 'Next' : 'Walk through them'}
        </Button>
        {now?.id && (
          <Button
            size="small"
            onClick={() => {
              table.layDown();
              table.setSelection([now.id!]);
            }}
          >
            Select it
          </Button>
        )}
      </Box>
    </Box>
  );
}
