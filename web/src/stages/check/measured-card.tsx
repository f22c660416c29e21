'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import {
  formatArea,
  formatLengthWithUnit,
  formatNumber,
  typeableLength,
  type LengthStyle,
} from '@calque/core/units';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { Figure } from '@/ui/figure';
import { useMeasure } from './measure';
import { figureOf, type Measured } from './measure-tool';

const degrees = (radians: number) => `${formatNumber((radians * 180) / Math.PI, 2)}°`;

/** The figures of what was measured, each with its name. */
function figuresOf(m: Measured, style: LengthStyle): [string, string][] {
  const length = (mm: number) => formatLengthWithUnit(mm, style);
  switch (m.kind) {
    case 'distance': {
      const dx = m.to[0] - m.from[0],
        dy = m.to[1] - m.from[1];
      return [
        ['Straight', length(Math.hypot(dx, dy))],
        ['Angle', degrees(Math.atan2(dy, dx))],
        ['Horizontal', length(Math.abs(dx))],
        ['Vertical', length(Math.abs(dy))],
      ];
    }
    case 'angle':
      return [
        ['Angle', degrees(m.angle)],
        ['To a full turn', degrees(2 * Math.PI - m.angle)],
      ];
    case 'radius':
      return [
        ['Radius', length(m.radius)],
        ['Diameter', length(2 * m.radius)],
        ['Round', length(2 * Math.PI * m.radius)],
        ['Area', formatArea(Math.PI * m.radius ** 2, style.units)],
      ];
    case 'area':
      return [
        ['Area', formatArea(m.area, style.units)],
        ['Round', length(m.perimeter)],
      ];
    case 'thickness':
      return [['Thickness', length(m.thickness)]];
  }
}

/** What was measured last, ready to be used. */
export function MeasuredCard() {
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const last = useMeasure((s) => s.last);
  if (!last) return null;
  const figure = figureOf(last);
  const copy = () => {
    const text =
      'length' in figure
        ? typeableLength(figure.length, style.units)
        : formatNumber((figure.angle * 180) / Math.PI, 6);
    navigator.clipboard.writeText(text).then(
      () => session.tell(`${text} is copied.`),
      () => session.tell('The browser did not let the figure be copied.', true),
    );
  };
  return (
    <>
      <Box
        data-testid="measured"
        sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', rowGap: 1, mt: 1.5 }}
      >
        {figuresOf(last, style).map(([name, value]) => (
          <Figure key={name} label={name} value={value} />
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 1 }}>
        <Button onClick={copy}>Copy the figure</Button>
      </Box>
      <Typography variant="caption" color="text.secondary">
        The down arrow offers it wherever a {'length' in figure ? 'length' : 'angle'} is typed.
      </Typography>
    </>
  );
}
