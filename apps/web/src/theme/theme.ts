import { createTheme } from '@mui/material';

/** Neutral greys only: no coloured surface stands beside a picture. */
export const GROUND = {
  /** the app's own surfaces, from the deepest up */
  deep: '#0e0e0e',
  base: '#171717',
  raised: '#222222',
  line: '#3a3a3a',
} as const;

export const INK = { full: '#f2f2f2', soft: '#b9b9b9', faint: '#8f8f8f' } as const;

/** china-marker yellow, the red of a strike, and the quiet blue-green of information */
export const MARKER = '#E9B93C';
export const STRIKE = '#D4553F';
/** a lighter red for text: 4.5 : 1 on every ground */
export const STRIKE_TEXT = '#EE8672';
export const NOTE = '#5AA3A8';

/** The four surrounds: black, dark, 18 % grey (sRGB 118), white. */
export const SURROUNDS = ['#000000', '#262626', '#767676', '#ffffff'] as const;

export const LABEL_COLOURS = {
  A: '#C98A2B',
  B: '#B5523B',
  M: '#7C8F4A',
  S: '#5F7F97',
  P: '#86607F',
} as const;

/** The letter on a label: whatever stands out from its colour by 4.5 : 1 at least. */
export const LABEL_INK = { A: '#000000', B: '#ffffff', M: '#000000', S: '#000000', P: '#ffffff' } as const;

export const FONT = '"Archivo Variable", system-ui, sans-serif';
/** captions, film-edge text: the same face, narrow, with figures of one width */
export const CAPTION = { fontFamily: FONT, fontStretch: '78%', fontVariantNumeric: 'tabular-nums' } as const;

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data' },
  palette: {
    mode: 'dark',
    primary: { main: MARKER, contrastText: '#1a1400' },
    error: { main: STRIKE_TEXT },
    info: { main: NOTE },
    background: { default: GROUND.base, paper: GROUND.raised },
    text: { primary: INK.full, secondary: INK.soft },
    divider: GROUND.line,
  },
  shape: { borderRadius: 2 },
  typography: {
    fontFamily: FONT,
    fontSize: 13,
    h1: { fontSize: 26, fontWeight: 640, letterSpacing: '-0.01em', lineHeight: 1.2 },
    h2: { fontSize: 15, fontWeight: 640, lineHeight: 1.3 },
    button: { textTransform: 'none', fontWeight: 600 },
  },
  transitions: { create: () => 'none' },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        // For what is drawn with plain elements and style sheets, since it is drawn anew with each key.
        ':root': {
          '--deep': GROUND.deep,
          '--base': GROUND.base,
          '--raised': GROUND.raised,
          '--line': GROUND.line,
          '--full': INK.full,
          '--soft': INK.soft,
          '--faint': INK.faint,
          '--marker': MARKER,
          '--strike': STRIKE,
          '--strike-text': STRIKE_TEXT,
        },
        // A picture looked at alone has the whole window.
        ':root[data-alone] [data-app]': { gridTemplateRows: '0 auto minmax(0, 1fr)' },
        ':root[data-alone] [data-app] > header': { visibility: 'hidden', overflow: 'hidden' },
        body: { fontVariantNumeric: 'tabular-nums', overflow: 'hidden' },
        ':focus-visible': { outline: `2px solid ${INK.full}`, outlineOffset: 2 },
        // Where the focus goes when a screen is come to: nothing to be worked there.
        'h1:focus-visible': { outline: 'none' },
      },
    },
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      // The library takes the browser's own sign of focus away and puts a ripple in its place, which is off here.
      styleOverrides: {
        root: { '&.Mui-focusVisible': { outline: `2px solid ${INK.full}`, outlineOffset: 2 } },
      },
    },
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: {
        root: {
          borderRadius: 2,
          paddingInline: 16,
          '&:hover': { backgroundColor: 'rgba(255,255,255,.09)' },
          '&:active': { backgroundColor: 'rgba(255,255,255,.2)' },
        },
        contained: {
          '&:hover': { backgroundColor: '#F6CF66' },
          '&:active': { backgroundColor: '#C9991F' },
        },
      },
    },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { '&.Mui-focused .MuiOutlinedInput-notchedOutline': { borderColor: INK.full, borderWidth: 2 } },
      },
    },
    MuiInputLabel: { styleOverrides: { root: { '&.Mui-focused': { color: INK.full } } } },
    MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiTextField: { defaultProps: { size: 'small', fullWidth: true } },
    MuiDialog: { styleOverrides: { paper: { border: `1px solid ${GROUND.line}` } } },
  },
});
