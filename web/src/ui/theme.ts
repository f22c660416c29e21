'use client';

import { createTheme } from '@mui/material/styles';

declare module '@mui/material/styles' {
  interface Palette {
    table: string;
    slip: string;
    edge: string;
    ledge: string;
    now: string;
    found: string;
    known: string;
    assumed: string;
    differs: string;
    knownWash: string;
  }
  interface PaletteOptions {
    table?: string;
    slip?: string;
    edge?: string;
    ledge?: string;
    now?: string;
    found?: string;
    known?: string;
    assumed?: string;
    differs?: string;
    knownWash?: string;
  }
}

const light = {
  primary: { main: '#17273a', contrastText: '#fffefa' },
  background: { default: '#dfe3e0', paper: '#fffefa' },
  text: { primary: '#17273a', secondary: '#55616d' },
  divider: '#c9cdc6',
  error: { main: '#8a2b69' },
  table: '#dfe3e0',
  slip: '#fffefa',
  edge: '#c9cdc6',
  ledge: '#f3f3ec',
  now: '#d4451f',
  found: '#0a7681',
  known: '#2b7553',
  assumed: '#8f590c',
  differs: '#8a2b69',
  knownWash: '#eef4f0',
};
const dark = {
  primary: { main: '#ece8dc', contrastText: '#1e2328' },
  background: { default: '#1e2328', paper: '#2a3037' },
  text: { primary: '#ece8dc', secondary: '#aab2b8' },
  divider: '#3b434b',
  error: { main: '#e29ac8' },
  table: '#1e2328',
  slip: '#2a3037',
  edge: '#3b434b',
  ledge: '#252b31',
  now: '#ff8562',
  found: '#4cc6d1',
  known: '#7fcaa3',
  assumed: '#e0a54c',
  differs: '#e29ac8',
  knownWash: '#26362f',
};

/** The look of Calque over MUI's behaviour: square slips, thin edges, tabular figures, one accent. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-light' },
  colorSchemes: { light: { palette: light }, dark: { palette: dark } },
  shape: { borderRadius: 2 },
  typography: {
    fontFamily: '"Archivo Variable", "Archivo", system-ui, sans-serif',
    fontSize: 13,
    body1: { fontSize: 13, lineHeight: 1.45 },
    body2: { fontSize: 12.5, lineHeight: 1.4 },
    caption: { fontSize: 12 },
    h1: { fontSize: 22, fontWeight: 650 },
    h2: { fontSize: 15, fontWeight: 650 },
    h3: { fontSize: 13.5, fontWeight: 650 },
    button: { textTransform: 'none', fontWeight: 600, fontSize: 13 },
  },
  transitions: { create: () => 'none' },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: 'tabular-nums', overscrollBehavior: 'none' },
        '*:focus-visible': { outline: '2px solid #0b8f9c', outlineOffset: 1 },
        // A sheet of its own is printed without what lies beneath it.
        '@media print': {
          '@page': { size: 'A4 landscape', margin: '8mm' },
          'body:has(.prints-alone) > *:not(.prints-alone), .not-printed': { display: 'none !important' },
          '.prints-alone, .prints-alone *': {
            position: 'static !important',
            maxHeight: 'none !important',
            height: 'auto !important',
            overflow: 'visible !important',
            boxShadow: 'none !important',
          },
          '.prints-alone .MuiPaper-root': { maxWidth: 'none !important', width: '100%', margin: 0 },
          '.prints-alone .MuiTypography-root, .prints-alone .MuiButtonBase-root': {
            fontSize: '7.5px !important',
            lineHeight: '1.2 !important',
            minHeight: '0 !important',
          },
        },
      },
    },
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: { root: { fontFamily: 'inherit', fontVariantNumeric: 'inherit' } },
    },
    MuiTypography: {
      variants: [
        {
          props: { color: 'text.secondary' },
          style: ({ theme: t }) => ({ color: (t.vars ?? t).palette.text.secondary }),
        },
      ],
    },
    MuiButton: {
      defaultProps: { size: 'small', disableElevation: true },
      styleOverrides: {
        root: { borderRadius: 2, padding: '5px 12px', minWidth: 0, whiteSpace: 'nowrap' },
        outlined: ({ theme: t }) => ({ borderColor: t.vars?.palette.edge ?? '#c9cdc6' }),
      },
    },
    MuiIconButton: { styleOverrides: { root: { borderRadius: 2, fontSize: 13, padding: 4 } } },
    MuiPaper: {
      defaultProps: { elevation: 0, square: true },
      styleOverrides: { root: { backgroundImage: 'none' } },
    },
    MuiTextField: { defaultProps: { size: 'small', variant: 'outlined' } },
    MuiOutlinedInput: {
      styleOverrides: { root: { fontSize: 13, borderRadius: 2 }, input: { padding: '6px 9px' } },
    },
    MuiInputLabel: { styleOverrides: { root: { fontSize: 13 } } },
    MuiSelect: { defaultProps: { size: 'small' }, styleOverrides: { select: { padding: '6px 9px' } } },
    // What has been chosen is gone at once: the next click is for the drawing.
    MuiPopover: { defaultProps: { transitionDuration: 0 } },
    MuiMenu: { defaultProps: { transitionDuration: 0 } },
    MuiMenuItem: {
      styleOverrides: { root: { fontSize: 13, minHeight: 30, paddingTop: 4, paddingBottom: 4 } },
    },
    MuiCheckbox: { defaultProps: { size: 'small' }, styleOverrides: { root: { padding: 4 } } },
    MuiRadio: { defaultProps: { size: 'small' }, styleOverrides: { root: { padding: 4 } } },
    MuiFormControlLabel: { styleOverrides: { label: { fontSize: 13 } } },
    MuiTooltip: {
      defaultProps: { arrow: false, enterDelay: 400 },
      styleOverrides: { tooltip: { fontSize: 12, borderRadius: 2, backgroundColor: '#17273a' } },
    },
    MuiToggleButton: {
      styleOverrides: {
        root: ({ theme: t }) => ({
          textTransform: 'none',
          padding: '4px 10px',
          fontSize: 12.5,
          borderRadius: 2,
          color: (t.vars ?? t).palette.text.secondary,
          '&.Mui-selected': { fontWeight: 650 },
        }),
      },
    },
    MuiTableCell: {
      styleOverrides: {
        root: { padding: '6px 6px', fontSize: 12.5 },
        head: ({ theme: t }) => ({ color: (t.vars ?? t).palette.text.secondary, fontWeight: 500 }),
      },
    },
    MuiDialog: { styleOverrides: { paper: { borderRadius: 2 } } },
    MuiDialogTitle: { styleOverrides: { root: { fontSize: 17, fontWeight: 650 } } },
    MuiLinearProgress: { styleOverrides: { root: { height: 3 } } },
  },
});
