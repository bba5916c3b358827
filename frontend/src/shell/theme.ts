import { createTheme, type Shadows } from "@mui/material/styles";
import { colours, fonts } from "../base/tokens";

const focusRing = {
  outline: `2px solid ${colours.ink}`,
  outlineOffset: "2px",
  boxShadow: `0 0 0 2px ${colours.paper}`,
};

const noShadows = Array.from({ length: 25 }, () => "none") as Shadows;

export const theme = createTheme({
  palette: {
    primary: { main: colours.ink, contrastText: colours.paper },
    secondary: { main: colours.seaGlass, contrastText: colours.white },
    error: { main: colours.redText },
    warning: { main: colours.saffronText },
    text: { primary: colours.ink, secondary: colours.softInk },
    background: { default: colours.paper, paper: colours.paper },
    divider: colours.hairline,
  },
  // Nothing fades: it would only delay, and for some it is in the way.
  transitions: { create: () => "none" },
  shape: { borderRadius: 4 },
  shadows: noShadows,
  typography: {
    fontFamily: fonts.text,
    fontSize: 14,
    htmlFontSize: 16,
    button: { textTransform: "none", fontWeight: 600, letterSpacing: 0, fontSize: 14, lineHeight: 1.3 },
    h1: { fontFamily: fonts.display, fontWeight: 700, fontSize: 36, lineHeight: 1.1, letterSpacing: "-0.01em" },
    h2: { fontFamily: fonts.display, fontWeight: 700, fontSize: 20, lineHeight: 1.2 },
    h3: { fontFamily: fonts.display, fontWeight: 700, fontSize: 16, lineHeight: 1.2 },
  },
  components: {
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: { root: { "&.Mui-focusVisible": focusRing } },
    },
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: {
        root: {
          minHeight: 34,
          minWidth: 0,
          padding: "6px 12px",
          borderRadius: 4,
          "&.Mui-focusVisible": focusRing,
          "&.Mui-disabled": { color: colours.softInk, opacity: 0.75 },
          variants: [
            {
              props: { variant: "contained" },
              style: {
                "&:hover": { backgroundColor: "#37423f" },
                "&.Mui-disabled": { backgroundColor: "transparent", border: `1px solid ${colours.hairline}` },
              },
            },
            {
              props: { variant: "outlined" },
              style: {
                backgroundColor: colours.white,
                borderColor: colours.edge,
                color: colours.ink,
                "&:hover": { borderColor: colours.ink, backgroundColor: colours.paper },
              },
            },
            {
              props: { variant: "text" },
              style: { color: colours.ink, "&:hover": { backgroundColor: colours.rackPaper } },
            },
          ],
        },
      },
    },
    MuiDialog: {
      styleOverrides: {
        paper: {
          border: `1px solid ${colours.ink}`,
          borderRadius: 0,
          clipPath: "polygon(0 0, calc(100% - 22px) 0, 100% 22px, 100% 100%, 0 100%)",
          backgroundColor: colours.paper,
        },
      },
    },
    MuiBackdrop: {
      styleOverrides: {
        root: { backgroundColor: "rgba(20, 58, 53, 0.55)" },
        invisible: { backgroundColor: "transparent" },
      },
    },
    MuiMenu: { styleOverrides: { paper: { padding: "4px 0" } } },
    MuiPopover: {
      styleOverrides: { paper: { border: `1px solid ${colours.ink}`, borderRadius: 4, padding: 16 } },
    },
    MuiInputBase: {
      styleOverrides: {
        root: {
          backgroundColor: colours.white,
          border: `1px solid ${colours.edge}`,
          borderRadius: 4,
          padding: "0 8px",
          minHeight: 32,
          fontSize: 14,
          "&.Mui-focused": focusRing,
        },
        // A hint has to be read, too: as dark as soft ink.
        input: {
          "&::placeholder": { color: colours.softInk, opacity: 1 },
          padding: "5px 0",
          height: "auto",
        },
      },
    },
  },
});
