import { createTheme } from '@mui/material';
import type {} from '@mui/x-data-grid/themeAugmentation';

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

/** What has the focus is outlined; inside its own box where there is no room around it. */
const focus = { outline: `2px solid ${tones.accent}`, outlineOffset: 2 };
const focusInside = { ...focus, outlineOffset: -2 };
const chosen = { backgroundColor: tones.accentWash, borderLeftColor: tones.accent };

export const theme = createTheme({
  palette: {
    mode: 'light',
    primary: { main: tones.accent, contrastText: '#fff' },
    secondary: { main: tones.ink },
    error: { main: tones.ink },
    warning: { main: tones.ink },
    info: { main: tones.ink },
    success: { main: tones.ink },
    background: { default: tones.paper, paper: tones.sheet },
    text: { primary: tones.ink, secondary: tones.pencil },
    divider: tones.hairline,
  },
  shape: { borderRadius: 0 },
  shadows: Array(25).fill('none') as never,
  typography: {
    fontFamily: words,
    fontSize: 13,
    button: { textTransform: 'none', fontWeight: 550 },
    body1: { fontSize: 13, lineHeight: 1.4 },
    body2: { fontSize: 13, lineHeight: 1.4 },
  },
  transitions: { create: () => 'none' },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { size: 'small', color: 'secondary', variant: 'outlined' },
      styleOverrides: {
        root: { borderWidth: 1, padding: '4px 12px', minWidth: 0, lineHeight: 1.4, '&.Mui-focusVisible': focus },
        outlined: { borderColor: tones.ink, backgroundColor: tones.sheet },
        text: { padding: '2px 6px' },
        startIcon: { marginRight: 4, '& > *:nth-of-type(1)': { fontSize: 16 } },
      },
    },
    MuiIconButton: {
      defaultProps: { size: 'small', color: 'secondary' },
      styleOverrides: { root: { padding: 3, '&.Mui-focusVisible': focus } },
    },
    MuiSvgIcon: { defaultProps: { fontSize: 'inherit' }, styleOverrides: { root: { fontSize: 18 } } },
    MuiLink: { defaultProps: { color: 'inherit' } },
    // The ways to look at something, and what is done with it: words in a row, the chosen one underlined.
    MuiToggleButtonGroup: { styleOverrides: { root: { flexWrap: 'wrap' } } },
    MuiToggleButton: {
      styleOverrides: {
        root: {
          textTransform: 'none',
          fontWeight: 400,
          fontSize: 13,
          lineHeight: 1.4,
          color: tones.ink,
          border: 0,
          borderBottom: '3px solid transparent',
          padding: '7px 9px 4px',
          whiteSpace: 'nowrap',
          '&:hover': { backgroundColor: 'transparent', borderBottomColor: tones.hairline },
          '&.Mui-selected, &.Mui-selected:hover': {
            fontWeight: 600,
            color: tones.ink,
            backgroundColor: 'transparent',
            borderBottomColor: tones.accent,
          },
          '&.Mui-disabled': { border: 0, borderBottom: '3px solid transparent', color: tones.rule },
          '&.Mui-focusVisible': focusInside,
        },
      },
    },
    MuiTabs: {
      styleOverrides: {
        root: { minHeight: 0, borderBottom: `1px solid ${tones.hairline}` },
        indicator: { height: 3, backgroundColor: tones.accent },
      },
    },
    MuiTab: {
      styleOverrides: {
        root: {
          textTransform: 'none',
          fontWeight: 400,
          fontSize: 13,
          minWidth: 0,
          minHeight: 0,
          padding: '7px 3px 6px',
          color: tones.ink,
          '&.Mui-selected': { color: tones.ink, fontWeight: 600 },
          '&.Mui-focusVisible': focusInside,
        },
      },
    },
    MuiTextField: { defaultProps: { size: 'small', variant: 'standard' } },
    MuiInputLabel: { styleOverrides: { root: { fontSize: 13, color: tones.pencil } } },
    MuiFormLabel: {
      styleOverrides: { root: { fontSize: 13, color: tones.ink, '&.Mui-focused': { color: tones.ink } } },
    },
    MuiInput: {
      styleOverrides: {
        root: {
          '&::before': { borderBottomColor: tones.rule },
          '&:hover:not(.Mui-disabled, .Mui-error)::before': { borderBottomWidth: 1, borderBottomColor: tones.ink },
        },
        input: { fontSize: 13, padding: '2px 0', height: 'auto', '&:focus-visible': { outline: 'none' } },
      },
    },
    MuiNativeSelect: {
      styleOverrides: {
        select: { fontSize: 13, textOverflow: 'ellipsis', '&:focus': { backgroundColor: 'transparent' } },
      },
    },
    MuiFormHelperText: { styleOverrides: { root: { color: tones.ink, fontWeight: 600, marginTop: 1 } } },
    MuiFormControlLabel: {
      styleOverrides: { root: { marginLeft: 0, alignItems: 'flex-start' }, label: { fontSize: 13, lineHeight: 1.4 } },
    },
    MuiRadio: {
      defaultProps: { size: 'small' },
      styleOverrides: { root: { padding: '0 6px 0 0', '& .MuiSvgIcon-root': { fontSize: 18 } } },
    },
    MuiCheckbox: {
      defaultProps: { size: 'small' },
      styleOverrides: { root: { padding: '0 6px 0 0', '& .MuiSvgIcon-root': { fontSize: 18 } } },
    },
    MuiSlider: {
      defaultProps: { size: 'small', color: 'secondary' },
      styleOverrides: {
        root: { padding: '9px 0' },
        rail: { height: 1, opacity: 1, backgroundColor: tones.rule },
        track: { height: 3, border: 0 },
        thumb: {
          width: 5,
          height: 16,
          borderRadius: 0,
          backgroundColor: tones.ink,
          '&:hover, &.Mui-focusVisible, &.Mui-active': { boxShadow: 'none', ...focus },
        },
        mark: { width: 1, height: 9, backgroundColor: tones.rule, opacity: 1 },
      },
    },
    MuiList: { defaultProps: { disablePadding: true } },
    // A row of a list: a bar on the left says which one is chosen.
    MuiListItemButton: {
      styleOverrides: {
        root: {
          font: 'inherit',
          color: 'inherit',
          textAlign: 'left',
          borderLeft: '5px solid transparent',
          padding: '4px 14px 4px 11px',
          gap: 10,
          '&:hover': { backgroundColor: tones.paper },
          '&.Mui-selected, &.Mui-selected:hover': chosen,
          '&.Mui-focusVisible': { backgroundColor: 'transparent', ...focusInside },
          '&.Mui-selected.Mui-focusVisible': { ...chosen, ...focusInside },
        },
      },
    },
    MuiAccordion: {
      defaultProps: { disableGutters: true, elevation: 0, square: true },
      styleOverrides: {
        root: { background: 'none', borderTop: `1px solid ${tones.hairline}`, '&::before': { display: 'none' } },
      },
    },
    MuiAccordionSummary: {
      styleOverrides: {
        root: {
          font: 'inherit',
          color: 'inherit',
          textAlign: 'left',
          padding: '5px 0',
          minHeight: 0,
          '&.Mui-focusVisible': { backgroundColor: 'transparent', ...focus },
        },
        content: { margin: 0, minWidth: 0 },
      },
    },
    MuiAccordionDetails: { styleOverrides: { root: { padding: '0 0 6px' } } },
    // A problem is said in ink, with a bar, never by colour alone.
    MuiAlert: {
      defaultProps: { icon: false, variant: 'outlined', severity: 'error' },
      styleOverrides: {
        root: {
          border: 0,
          borderLeft: `4px solid ${tones.ink}`,
          backgroundColor: tones.sheet,
          color: tones.ink,
          padding: '4px 12px',
          fontSize: 13,
        },
        message: { padding: '3px 0', overflow: 'visible' },
        action: { padding: '0 0 0 12px', alignItems: 'center', marginRight: 0 },
      },
    },
    MuiSnackbarContent: { styleOverrides: { root: { backgroundColor: tones.ink, fontSize: 13 } } },
    MuiDialog: { styleOverrides: { paper: { border: `1px solid ${tones.ink}` } } },
    MuiDialogTitle: { styleOverrides: { root: { fontSize: 17, fontWeight: 640, padding: '16px 22px 6px' } } },
    MuiDialogContent: { styleOverrides: { root: { padding: '6px 22px 10px' } } },
    MuiDialogActions: { styleOverrides: { root: { padding: '8px 22px 16px', justifyContent: 'flex-start' } } },
    MuiMenuItem: { styleOverrides: { root: { fontSize: 13, minHeight: 0, gap: 8 } } },
    MuiMenu: { styleOverrides: { paper: { border: `1px solid ${tones.ink}` } } },
    MuiTooltip: { styleOverrides: { tooltip: { backgroundColor: tones.ink, fontSize: 12, maxWidth: 280 } } },
    MuiTableCell: {
      styleOverrides: {
        root: {
          fontSize: 13,
          padding: '6px 12px',
          borderBottom: `1px solid ${tones.hairline}`,
          verticalAlign: 'baseline',
        },
        head: { fontWeight: 500, color: tones.pencil, borderBottom: `1px solid ${tones.ink}`, lineHeight: 1.4 },
        sizeSmall: { padding: '3px 6px' },
      },
    },
    MuiTableRow: { styleOverrides: { root: { 'tbody &:hover': { backgroundColor: tones.accentWash } } } },
    MuiDataGrid: {
      defaultProps: { density: 'compact', disableColumnMenu: true },
      styleOverrides: { root: { fontSize: 13, border: `1px solid ${tones.hairline}` } },
    },
  },
});
