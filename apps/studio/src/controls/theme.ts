'use client';
import { createTheme } from '@mui/material/styles';
import type {} from '@mui/x-data-grid/themeAugmentation';

declare module '@mui/material/styles' {
  interface Palette {
    chart: ChartColours;
  }
  interface PaletteOptions {
    chart?: ChartColours;
  }
}

/** Colours that are ours alone; left is port, right is starboard, and neither ever means bad or good. */
export interface ChartColours {
  readonly paper: string;
  readonly card: string;
  readonly rule: string;
  readonly ink: string;
  readonly faint: string;
  readonly lamp: string;
  readonly lampSoft: string;
  readonly lampText: string;
  readonly port: string;
  readonly starboard: string;
}

const day: ChartColours = {
  paper: '#F5F0E4',
  card: '#FBF8F0',
  rule: '#D9CFB8',
  ink: '#1F2A2E',
  faint: '#67625A',
  lamp: '#E3A12F',
  lampSoft: '#F0DDB4',
  lampText: '#7D5008',
  port: '#B4432F',
  starboard: '#2C7A62',
};
const night: ChartColours = {
  paper: '#161F22',
  card: '#1D282C',
  rule: '#37464A',
  ink: '#E9E2D2',
  faint: '#A5A394',
  lamp: '#E3A12F',
  lampSoft: '#4A3C1E',
  lampText: '#EDBB62',
  port: '#D9705C',
  starboard: '#5BB395',
};

/** The window: the stage is dusk by day and by night. */
export const DUSK = { deep: '#0E1D21', sky: '#1D4143', line: '#6FA9A5', haze: '#163236', text: '#DCE7E1', warm: '#E9B65B' } as const;

const palette = (chart: ChartColours, mode: 'light' | 'dark') => ({
  mode,
  primary: { main: chart.lamp, contrastText: '#1F2A2E' },
  background: { default: chart.paper, paper: chart.card },
  text: { primary: chart.ink, secondary: chart.faint },
  divider: chart.rule,
  TableCell: { border: chart.rule },
  DataGrid: { bg: chart.paper, headerBg: chart.paper },
  chart,
});

const sans = '"Alegreya Sans", sans-serif';
const serif = '"Alegreya", serif';

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-chart' },
  colorSchemes: { light: { palette: palette(day, 'light') }, dark: { palette: palette(night, 'dark') } },
  shape: { borderRadius: 4 },
  typography: {
    fontFamily: sans,
    fontSize: 14.5,
    htmlFontSize: 16,
    h1: { fontFamily: serif, fontSize: '1.32rem', fontWeight: 500 },
    h2: { fontFamily: serif, fontSize: '1.16rem', fontWeight: 500 },
    h3: { fontFamily: sans, fontSize: '1rem', fontWeight: 500 },
    body1: { fontSize: '0.96rem' },
    body2: { fontSize: '0.9rem' },
    caption: { fontSize: '0.82rem' },
    button: { textTransform: 'none', fontWeight: 500, fontSize: '0.95rem', letterSpacing: 0 },
  },
  transitions: {
    duration: { shortest: 90, shorter: 110, short: 130, standard: 150, complex: 150, enteringScreen: 130, leavingScreen: 110 },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        'html, body': { height: '100%' },
        // Thin ones, of ruled paper.
        '*': { scrollbarWidth: 'thin', scrollbarColor: 'var(--mui-palette-chart-rule) transparent' },
        body: { overflow: 'hidden', fontVariantNumeric: 'tabular-nums lining-nums' },
        '@media (prefers-reduced-motion: reduce)': {
          '*': { transitionDuration: '0.01ms !important', animationDuration: '0.01ms !important' },
        },
        ':focus-visible': { outline: '2px solid var(--mui-palette-chart-lamp)', outlineOffset: 1 },
      },
    },
    MuiButton: { defaultProps: { disableElevation: true, disableRipple: true, size: 'small' } },
    MuiIconButton: { defaultProps: { disableRipple: true, size: 'small' } },
    MuiTextField: { defaultProps: { size: 'small', variant: 'outlined' } },
    // The lamp marks the border of a field that is typed in; its name stays legible.
    MuiInputLabel: { styleOverrides: { root: { '&.Mui-focused:not(.Mui-error)': { color: 'var(--mui-palette-chart-ink)' } } } },
    MuiSwitch: {
      styleOverrides: {
        switchBase: {
          '&.Mui-checked': { color: 'var(--mui-palette-chart-ink)' },
          '&.Mui-checked + .MuiSwitch-track': { backgroundColor: 'var(--mui-palette-chart-ink)', opacity: 0.45 },
        },
      },
    },
    // What is listed stands where it will be at once: a click while it still grew would be lost.
    MuiMenu: { defaultProps: { transitionDuration: 0 } },
    MuiPopover: { defaultProps: { transitionDuration: 0 } },
    MuiTooltip: { defaultProps: { enterDelay: 500 } },
    MuiTab: { styleOverrides: { textColorInherit: { opacity: 0.78 } } },
    MuiTableCell: { styleOverrides: { root: { padding: '5px 10px', borderColor: 'var(--mui-palette-chart-rule)' } } },
  },
});

/** A chart colour as a CSS variable, right in both themes. */
export const chart = (name: keyof ChartColours) => `var(--mui-palette-chart-${name})`;
