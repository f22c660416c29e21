'use client';

import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { writeSvg, type Drawing, type View } from '@calque/core/exchange';
import { settingsOf } from '@calque/core/model';
import { PAPER_NAMES, type PaperName } from '@calque/core/papers';
import { parseScale } from '@calque/core/units';
import { useFromModel, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { isImperial } from '@/project/views';
import type { saveText } from '@/ui/save-text';
import { Row } from './row';

interface Props {
  drawing(): Drawing;
  /** What is drawn of the project: a plane, or all of them. */
  views(): View[];
  empty: boolean;
  onGive(...file: Parameters<typeof saveText>): void;
}

/** "on A3", "with 3 pages on A3 and A4". */
function papersInWords(papers: readonly { name: string }[]): string {
  const names = [...new Set(papers.map((p) => p.name))].sort(),
    on = `on ${names.join(' and ')}`;
  return papers.length === 1 ? on : `with ${count(papers.length, 'page')} ${on}`;
}

/** The trace as a drawing at a scale: PDF on a paper, or SVG. */
export function PaperRow({ drawing, views, empty, onGive }: Props) {
  const session = useSession();
  const { name } = useFromModel(settingsOf);
  const imperial = useFromModel(isImperial);
  const [scaleText, setScaleText] = useState(imperial ? '1/4" = 1\'-0"' : '1:100');
  const [paper, setPaper] = useState<PaperName | 'fits'>('fits');
  const scale = parseScale(scaleText);
  const idle = empty || !scale.ok;
  const svg = () => {
    if (scale.ok)
      onGive(`${name}.svg`, writeSvg(drawing(), { scale: scale.factor, title: name }), 'image/svg+xml');
  };
  const pdf = async () => {
    if (!scale.ok) return;
    // What writes PDF is large, and loaded when it is first asked for.
    const { writePdf, PaperError } = await import('@calque/core/paper');
    try {
      const written = await writePdf(views(), {
        scale: scale.factor,
        paper: paper === 'fits' ? null : paper,
        title: { project: name, date: new Date().toISOString().slice(0, 10) },
      });
      onGive(`${name}.pdf`, new Uint8Array(written.bytes), 'application/pdf');
      const { changedLetters: changed } = written;
      session.tell(
        `The PDF was written ${papersInWords(written.papers)}.${changed > 0 ? ` ${count(changed, 'letter is', 'letters are')} written as the nearest that every reader has.` : ''}`,
      );
    } catch (error) {
      session.tell(error instanceof PaperError ? error.message : 'The PDF could not be written.', true);
    }
  };
  return (
    <Row
      title="Drawing at a scale (PDF, SVG)"
      words={
        scale.ok
          ? 'True when printed at 100 %. A PDF has a strip with its title and 50 mm to measure by; it carries no sheets beneath. Of several storeys and planes each has its page.'
          : `"${scaleText}" is not a scale. Write it as 1:50 or 1/4" = 1'-0".`
      }
    >
      <TextField
        label="Scale"
        value={scaleText}
        error={!scale.ok}
        onChange={(e) => setScaleText(e.target.value)}
        sx={{ width: 130 }}
      />
      <TextField
        select
        label="Paper of the PDF"
        value={paper}
        onChange={(e) => setPaper(e.target.value as PaperName | 'fits')}
        sx={{ width: 130 }}
      >
        <MenuItem value="fits">as it fits</MenuItem>
        {PAPER_NAMES.map((n) => (
          <MenuItem key={n} value={n}>
            {n}
          </MenuItem>
        ))}
      </TextField>
      <Button variant="contained" disabled={idle} onClick={pdf}>
        Write PDF
      </Button>
      <Button variant="contained" disabled={idle} onClick={svg}>
        Write SVG
      </Button>
    </Row>
  );
}
