import type { SyntheticEvent } from 'react';
import { createTheme, type Theme } from '@mui/material/styles';

export const THEMES = ['daylight', 'plant'] as const;
export type ThemeName = (typeof THEMES)[number];

const PALETTES = {
  daylight: {
    mode: 'light',
    paper: '#f4efe4',
    card: '#fffefa',
    ink: '#20272b',
    soft: '#565d61',
    line: '#b3a78f',
    in: '#0f6259',
    near: '#8a5a00',
    out: '#7a2456',
  },
  plant: {
    mode: 'dark',
    paper: '#14110b',
    card: '#211c13',
    ink: '#f0e4cc',
    soft: '#b3a68c',
    line: '#635842',
    in: '#55bfab',
    near: '#e5ad48',
    out: '#dd95c2',
  },
} as const;

const TEXT = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";

/** MUI brought onto our own tokens: borders for shadows, small radii, tall targets, no ripple. */
export function themeOf(name: ThemeName): Theme {
  const c = PALETTES[name];
  return createTheme({
    palette: {
      mode: c.mode,
      primary: { main: c.ink, contrastText: c.card },
      secondary: { main: c.in },
      success: { main: c.in },
      warning: { main: c.near },
      error: { main: c.out },
      background: { default: c.paper, paper: c.card },
      text: { primary: c.ink, secondary: c.soft },
      divider: c.line,
    },
    shape: { borderRadius: 3 },
    typography: {
      fontFamily: TEXT,
      button: { textTransform: 'none', fontWeight: 650, fontSize: 16, letterSpacing: 0 },
    },
    shadows: Array(25).fill('none') as Theme['shadows'],
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      // A list opens under a press that is held: what lies there as it is let go is not chosen by that, but by a press of its own.
      MuiSelect: {
        defaultProps: {
          MenuProps: {
            slotProps: { paper: { onMouseUpCapture: (e: SyntheticEvent) => e.stopPropagation() } },
          },
        },
      },
      MuiButton: {
        defaultProps: { disableElevation: true, variant: 'outlined' },
        styleOverrides: {
          root: { minHeight: 48, paddingInline: 18, borderWidth: 2, '&:hover': { borderWidth: 2 } },
          outlined: { borderColor: c.ink, color: c.ink, backgroundColor: c.card },
        },
      },
      MuiIconButton: { styleOverrides: { root: { width: 48, height: 48, borderRadius: 3 } } },
      MuiDialog: { styleOverrides: { paper: { border: `2px solid ${c.ink}`, backgroundImage: 'none' } } },
      // More than two acts do not fit beside each other in the hand.
      MuiDialogActions: {
        defaultProps: { disableSpacing: true },
        styleOverrides: { root: { flexWrap: 'wrap', gap: 8, padding: 12 } },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiOutlinedInput: {
        styleOverrides: {
          root: {
            minHeight: 48,
            backgroundColor: c.card,
            '& .MuiOutlinedInput-notchedOutline': { borderColor: c.line },
          },
        },
      },
      MuiTableCell: { styleOverrides: { root: { borderColor: c.line, paddingBlock: 8 } } },
      MuiAlert: {
        styleOverrides: {
          root: {
            border: `1px solid ${c.line}`,
            borderLeft: `6px solid ${c.ink}`,
            backgroundColor: c.card,
            color: c.ink,
          },
        },
      },
      MuiMenuItem: { styleOverrides: { root: { minHeight: 48 } } },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            minHeight: 44,
            textTransform: 'none',
            color: c.ink,
            borderColor: c.line,
            '&.Mui-selected, &.Mui-selected:hover': { backgroundColor: c.ink, color: c.card },
          },
        },
      },
      MuiTooltip: { defaultProps: { enterDelay: 600 } },
    },
  });
}
