"use client";
import { createTheme } from "@mui/material/styles";

const text = '"Bitter Variable", "Bitter", Georgia, serif';

/** Paper and graphite; heat is warm, tension is cool. Drawing colours stand as CSS variables in `tokens.css`. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: "data-scheme" },
  colorSchemes: {
    light: {
      palette: {
        primary: { main: "#2b5d73" },
        error: { main: "#9c2f16" },
        warning: { main: "#8a5a12" },
        info: { main: "#2b5d73" },
        background: { default: "#f3efe6", paper: "#fbf9f4" },
        text: { primary: "#26292b", secondary: "#565b5d" },
        divider: "#cfc8b8",
      },
    },
    dark: {
      palette: {
        primary: { main: "#8cc3d8" },
        error: { main: "#f0835f" },
        warning: { main: "#e0b35f" },
        info: { main: "#8cc3d8" },
        background: { default: "#1c1e1f", paper: "#26292b" },
        text: { primary: "#ece7db", secondary: "#b9b3a6" },
        divider: "#4a4e51",
      },
    },
  },
  typography: { fontFamily: text, fontSize: 15, button: { textTransform: "none", fontWeight: 600 } },
  shape: { borderRadius: 3 },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: { styleOverrides: { root: { minHeight: 40 } } },
    // A thumb that glides to each new value lays the page out again in every frame of a drag.
    MuiSlider: { styleOverrides: { thumb: { transition: "none" }, track: { transition: "none" } } },
    MuiPopover: { styleOverrides: { paper: { backgroundImage: "none", border: "1px solid var(--mui-palette-divider)" } } },
    MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
  },
});
