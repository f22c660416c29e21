'use client';

import { useColorScheme, useTheme, type Palette } from '@mui/material/styles';

/** The colours of the scheme that is shown, for what is drawn without style sheets: charts and pictures. */
export function useSchemePalette(): Palette {
  const theme = useTheme(),
    { mode, systemMode } = useColorScheme(),
    scheme = (mode === 'system' ? systemMode : mode) === 'dark' ? 'dark' : 'light';
  const { colorSchemes } = theme as typeof theme & {
    colorSchemes?: Partial<Record<'light' | 'dark', { palette: Palette }>>;
  };
  return colorSchemes?.[scheme]?.palette ?? theme.palette;
}
