import { createTheme } from '@mui/material';

/** Tones and type of the printed test chart; docs/design.md says why. All greys are without tint. */
export const tones = {
  paper: '#ececec',
  sheet: '#f6f6f6',
  surround: '#767676',
  rule: '#9c9c9c',
  hairline: '#c9c9c9',
  ink: '#161616',
  pencil: '#565656',
  accent: '#851f6b',
  accentWash: '#eedfea',
} as const;

export const words = '"Archivo Variable", sans-serif';
export const figures = '"Silent Lawn Figures", "Archivo Variable", sans-serif';

export const theme = createTheme({
  palette: {
    mode: 'light',
    primary: { main: tones.accent, contrastText: '#fff' },
    secondary: { main: tones.ink },
    error: { main: tones.ink },
    background: { default: tones.paper, paper: tones.sheet },
    text: { primary: tones.ink, secondary: tones.pencil },
    divider: tones.hairline,
  },
  shape: { borderRadius: 0 },
  shadows: Array(25).fill('none') as never,
  typography: { fontFamily: words, fontSize: 13, button: { textTransform: 'none', fontWeight: 550 } },
  transitions: { create: () => 'none' },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { size: 'small', color: 'secondary', variant: 'outlined' },
      styleOverrides: {
        root: {
          borderWidth: 1,
          padding: '4px 12px',
          minWidth: 0,
          '&.Mui-focusVisible': { outline: `2px solid ${tones.accent}`, outlineOffset: 2 },
        },
        outlined: { borderColor: tones.ink, backgroundColor: tones.sheet },
      },
    },
    MuiTextField: { defaultProps: { size: 'small', variant: 'standard' } },
    MuiInput: { styleOverrides: { input: { fontFamily: figures, fontSize: 13 } } },
    MuiSlider: {
      defaultProps: { size: 'small', color: 'secondary' },
      styleOverrides: {
        rail: { height: 1, opacity: 1, backgroundColor: tones.rule },
        track: { height: 3, border: 0 },
        thumb: {
          width: 5,
          height: 16,
          borderRadius: 0,
          backgroundColor: tones.ink,
          '&:hover, &.Mui-focusVisible, &.Mui-active': {
            boxShadow: 'none',
            outline: `2px solid ${tones.accent}`,
            outlineOffset: 2,
          },
        },
        mark: { width: 1, height: 9, backgroundColor: tones.rule, opacity: 1 },
      },
    },
    MuiDialog: { styleOverrides: { paper: { border: `1px solid ${tones.ink}` } } },
    MuiTooltip: { styleOverrides: { tooltip: { backgroundColor: tones.ink, fontSize: 12, maxWidth: 280 } } },
  },
});
