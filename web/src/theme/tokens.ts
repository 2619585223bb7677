/** Colours of the two themes. Screens use the names through `ink`, never the values. */
export type ThemeName = "night" | "light";

const night = {
  ground: "#0b1113",
  panel: "#10191c",
  row: "#131e21",
  hair: "#22343a",
  hair2: "#2f464d",
  text: "#dbe6e3",
  soft: "#93a8a9",
  faint: "#71898c",
  brass: "#dcaa4e",
  brassSoft: "#8a6a31",
  brassGround: "#2a2212",
  sea: "#7cc9b4",
  seaGround: "#10261f",
  coral: "#ff7461",
  coralGround: "#331714",
  lamp: "#05090a",
};

const light: typeof night = {
  ground: "#f3efe4",
  panel: "#faf7ee",
  row: "#f0ebdd",
  hair: "#d9d1bd",
  hair2: "#c3b899",
  text: "#1d2a2d",
  soft: "#536263",
  faint: "#727c75",
  brass: "#8d5f0b",
  brassSoft: "#c79a46",
  brassGround: "#f1e2c1",
  sea: "#17705b",
  seaGround: "#dcebe0",
  coral: "#b8331f",
  coralGround: "#f5d9d2",
  lamp: "#05090a",
};

export const themes = { night, light };
export type Ink = keyof typeof night;

/** CSS variables by name: `ink.brass` is `var(--brass)`. */
export const ink = Object.fromEntries(Object.keys(night).map((name) => [name, `var(--${name})`])) as Record<
  Ink,
  string
>;

export const mono = '"Atkinson Hyperlegible Mono Variable", monospace';
export const sans = '"Atkinson Hyperlegible Next Variable", sans-serif';

/** Which theme is on. */
export const themeNow = (): string | undefined => document.documentElement.dataset.theme;

/** The value of a colour in the theme that is on, for canvases. */
export function inkNow(name: Ink): string {
  return themes[themeNow() === "light" ? "light" : "night"][name];
}
