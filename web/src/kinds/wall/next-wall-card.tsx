'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useKeyOf } from '@/commands/context';
import { useTraceState } from '@/drawing/state';
import { useProject } from '@/project/context';
import { useTable } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { FaceChoice } from './face-choice';
import { nextWall, nextWallType } from './next-wall';
import { TypeChoice } from './type-choice';

/** What the next wall will be: its type or its thickness, and the line that is drawn. */
export function NextWall() {
  const table = useTable(),
    model = useProject((s) => s.model);
  const { thicknessFrom, alignment, core, setThickness, setAlignment, setWallType } = useTraceState();
  const measure = useKeyOf('thickness'),
    type = nextWallType(model);
  const said =
    thicknessFrom === 'measured'
      ? 'Measured on the plan.'
      : `Typed; Thickness${measure} measures it on the plan.`;
  return (
    <Box sx={{ mb: 1 }}>
      <TypeChoice
        value={type?.id ?? null}
        onChange={(id) => {
          setWallType(id);
          table.showTool();
        }}
      />
      <LengthField
        label="Thickness"
        value={nextWall(model).thickness}
        onChange={(mm) => {
          setThickness(mm, 'typed');
          table.showTool();
        }}
      />
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.5, mb: 1.25 }}>
        {type ? 'Of its type; another thickness makes a wall of none.' : said}
      </Typography>
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        The line that you draw is its
      </Typography>
      <FaceChoice
        value={{ alignment, core: core && type !== null }}
        type={type}
        onChange={(face) => {
          setAlignment(face.alignment, face.core);
          table.showTool();
        }}
      />
    </Box>
  );
}
