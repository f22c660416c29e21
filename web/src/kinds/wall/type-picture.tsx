'use client';

import Box from '@mui/material/Box';
import { useId } from 'react';
import { thicknessOfLayers, type LayerPurpose, type WallLayer } from '@calque/core/model';

const WIDTH = 380,
  HEIGHT = 34;
/** A layer too thin to be seen at scale is drawn this wide, pixels. */
const LEAST = 2;

/** The pattern with which a layer of each purpose is filled; null leaves it open, 'ink' fills it. */
const FILL: Record<LayerPurpose, 'structure' | 'insulation' | 'lining' | 'ink' | null> = {
  structure: 'structure',
  insulation: 'insulation',
  cavity: null,
  membrane: 'ink',
  lining: 'lining',
  finish: 'lining',
};

/** The layers of a type cut across, the first at the left, to scale. */
export function TypePicture({ layers }: { layers: readonly WallLayer[] }) {
  // Several pictures stand on one page.
  const own = useId();
  const fillOf = (purpose: LayerPurpose) => {
    const fill = FILL[purpose];
    if (fill === null) return 'none';
    return fill === 'ink' ? 'currentColor' : `url(#${own}-${fill})`;
  };
  const whole = thicknessOfLayers(layers);
  const widths = layers.map((l) => Math.max(LEAST, (l.thickness / whole) * WIDTH)),
    sum = widths.reduce((a, b) => a + b, 0);
  const at = (i: number) => widths.slice(0, i).reduce((a, b) => a + b, 0);
  return (
    <Box sx={{ px: 0.5, color: 'text.primary', lineHeight: 0 }}>
      <svg
        viewBox={`0 0 ${sum} ${HEIGHT}`}
        width="100%"
        height={HEIGHT}
        preserveAspectRatio="none"
        role="img"
        aria-label={`Layers from the first: ${layers.map((l) => l.material).join(', ')}`}
      >
        <defs>
          <pattern id={`${own}-structure`} width="7" height="7" patternUnits="userSpaceOnUse">
            <path d="M-1 8L8 -1M-1 1L1 -1M6 8L8 6" stroke="currentColor" strokeWidth="1" opacity="0.7" />
          </pattern>
          <pattern id={`${own}-insulation`} width="10" height={HEIGHT} patternUnits="userSpaceOnUse">
            <path
              d={`M0 0C12 ${HEIGHT / 3} -2 ${(2 * HEIGHT) / 3} 10 ${HEIGHT}`}
              fill="none"
              stroke="currentColor"
              strokeWidth="0.8"
              opacity="0.55"
            />
          </pattern>
          <pattern id={`${own}-lining`} width="4" height="4" patternUnits="userSpaceOnUse">
            <circle cx="1" cy="1" r="0.6" fill="currentColor" opacity="0.6" />
          </pattern>
        </defs>
        {layers.map((layer, i) => (
          <rect
            key={i}
            x={at(i)}
            y={0}
            width={widths[i]}
            height={HEIGHT}
            fill={fillOf(layer.purpose)}
            stroke="currentColor"
            strokeWidth={0.8}
          />
        ))}
      </svg>
    </Box>
  );
}
