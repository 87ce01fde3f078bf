import { createTheme } from '@mui/material/styles';

const text = 'Barlow, sans-serif';
const condensed = "'Barlow Condensed', sans-serif";

/** The colours of tokens.css for the parts that come from the component library; green is the act, red is danger. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data' },
  colorSchemes: {
    light: {
      palette: {
        primary: { main: '#2a7454', contrastText: '#ffffff' },
        error: { main: '#b5301c' },
        warning: { main: '#8a5a06' },
        info: { main: '#2f6283' },
        background: { default: '#f4f1ea', paper: '#fffdf8' },
        text: { primary: '#14231e', secondary: '#55655d' },
        divider: '#d8d2c4',
      },
    },
    dark: {
      palette: {
        primary: { main: '#4fae85', contrastText: '#0b1613' },
        error: { main: '#ef7a68' },
        warning: { main: '#e0a544' },
        info: { main: '#7fb0cd' },
        background: { default: '#10201b', paper: '#172b25' },
        text: { primary: '#e9efe9', secondary: '#9fb3a9' },
        divider: '#2b473d',
      },
    },
  },
  shape: { borderRadius: 4 },
  spacing: 8,
  typography: {
    fontFamily: text,
    button: { fontFamily: text, fontWeight: 600, fontSize: 16, textTransform: 'none' },
    h2: { fontFamily: condensed, fontWeight: 600, fontSize: 26 },
  },
  components: {
    // Motion only where something in the world moves: a menu or dialog is there at once.
    MuiMenu: { defaultProps: { transitionDuration: 0 } },
    MuiPopover: { defaultProps: { transitionDuration: 0 } },
    MuiDialog: { defaultProps: { transitionDuration: 0 } },
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      // The library takes the outline away from whatever is pressed; without a ripple it is all that shows where the keyboard is.
      styleOverrides: { root: { '&:focus-visible': { outline: '3px solid var(--green)', outlineOffset: 2 } } },
    },
    MuiButton: { defaultProps: { disableElevation: true }, styleOverrides: { root: { minHeight: 48, paddingInline: 20 } } },
    // What is chosen is said whole, over two lines if it must.
    MuiSelect: { styleOverrides: { select: { whiteSpace: 'normal' } } },
    MuiTextField: { defaultProps: { fullWidth: true, variant: 'outlined' } },
    MuiDialogTitle: { styleOverrides: { root: { fontFamily: condensed, fontWeight: 600, fontSize: 26 } } },
    MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiFormHelperText: { styleOverrides: { root: { fontSize: 14, marginInline: 2 } } },
  },
});
