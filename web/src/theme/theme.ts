import { createTheme, type Theme } from "@mui/material/styles";
import { sans, type ThemeName, themes } from "./tokens";

/** The MUI theme of one of our two: dense, hairlines rather than boxes, 32 px rows. */
export function makeTheme(name: ThemeName): Theme {
  const c = themes[name];
  return createTheme({
    spacing: 8,
    palette: {
      mode: name === "night" ? "dark" : "light",
      background: { default: c.ground, paper: c.panel },
      text: { primary: c.text, secondary: c.soft, disabled: c.faint },
      primary: { main: c.brass, contrastText: c.ground },
      secondary: { main: c.sea, contrastText: c.ground },
      error: { main: c.coral },
      success: { main: c.sea },
      divider: c.hair,
    },
    shape: { borderRadius: 4 },
    typography: { fontFamily: sans, fontSize: 14, button: { textTransform: "none", fontWeight: 500 } },
    transitions: { create: () => "none" },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          ":root": Object.fromEntries(Object.entries(c).map(([key, value]) => [`--${key}`, value])),
          html: {
            colorScheme: name === "night" ? "dark" : "light",
            scrollbarColor: `${c.hair2} transparent`,
            scrollbarWidth: "thin",
          },
          "html[data-old] canvas[data-live]": { filter: "grayscale(1) opacity(.45)" },
          body: { overflow: "hidden", fontSize: 14, lineHeight: "20px" },
          "*:focus-visible": { outline: `2px solid ${c.brass}`, outlineOffset: 1 },
        },
      },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: { root: { fontFamily: "inherit" } },
      },
      MuiButton: {
        defaultProps: { variant: "outlined", color: "inherit", size: "small", disableElevation: true },
        styleOverrides: {
          root: {
            minWidth: 0,
            padding: "3px 10px",
            lineHeight: "18px",
            fontSize: 13,
            gap: 6,
            whiteSpace: "nowrap",
          },
          outlined: { borderColor: c.hair2, "&:hover": { borderColor: c.soft } },
        },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
      MuiTooltip: {
        defaultProps: { enterDelay: 400, arrow: true },
        styleOverrides: {
          tooltip: {
            backgroundColor: c.panel,
            color: c.text,
            border: `1px solid ${c.hair2}`,
            fontSize: 12.5,
            fontWeight: 400,
          },
          arrow: { color: c.hair2 },
        },
      },
      MuiSlider: {
        defaultProps: { size: "small" },
        styleOverrides: {
          root: { padding: "8px 0", "@media (pointer: coarse)": { padding: "14px 0" } },
          rail: { backgroundColor: c.hair2, opacity: 1, height: 6 },
          track: { height: 6, border: 0 },
          thumb: {
            width: 4,
            height: 16,
            borderRadius: 2,
            backgroundColor: c.text,
            "&:hover, &.Mui-focusVisible": { boxShadow: `0 0 0 3px ${c.brassSoft}` },
          },
        },
      },
      MuiSwitch: { defaultProps: { size: "small" } },
      MuiFormControlLabel: { styleOverrides: { label: { fontSize: 13.5 } } },
    },
  });
}
