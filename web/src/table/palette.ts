/** Colours of the drawing in light and dark; meanings as in the theme. */
export interface Palette {
  table: string;
  edge: string;
  ink: string;
  soft: string;
  /** Laid over paper; dims it in the dark. */ dim: string | null;
  now: string;
  found: string;
  known: string;
  assumed: string;
  differs: string;
  /** Other storeys that show through. */ ghost: string;
  wallFill: string;
}

const MEANINGS = {
  now: '#d4451f',
  found: '#0b8f9c',
  known: '#2b7553',
  assumed: '#a96a10',
  differs: '#8a2b69',
  ghost: '#6a5fb0',
};

export const LIGHT_PALETTE: Palette = {
  table: '#dfe3e0',
  edge: '#c9cdc6',
  ink: '#17273a',
  soft: '#55616d',
  dim: null,
  wallFill: 'rgba(23,39,58,0.42)',
  ...MEANINGS,
};
export const DARK_PALETTE: Palette = {
  table: '#1e2328',
  edge: '#3b434b',
  ink: '#17273a',
  soft: '#8a949c',
  dim: 'rgba(30,35,40,0.14)',
  wallFill: 'rgba(23,39,58,0.46)',
  ...MEANINGS,
};

/** 0xRRGGBB as a colour of the page. */
export const cssColour = (colour: number): string => `#${colour.toString(16).padStart(6, '0')}`;
