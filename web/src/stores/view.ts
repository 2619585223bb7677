import { create } from "zustand";
import type { ThemeName } from "../theme/tokens";

export const STATIONS = ["rig", "patch", "matrices", "looks", "run", "check"] as const;
export type Station = (typeof STATIONS)[number];
export const STATION_NAMES: Record<Station, string> = {
  rig: "Rig",
  patch: "Patch",
  matrices: "Matrices",
  looks: "Looks",
  run: "Run",
  check: "Check",
};

interface View {
  theme: ThemeName;
  help: boolean;
  /** What is selected at each station; kept while one is elsewhere. */
  fixtures: string[];
  matrix: string | null;
  look: string | null;
  layer: string | null;
  universe: number;
}

const THEME = "heliograph.theme";

export const useView = create<View>(() => ({
  theme: localStorage.getItem(THEME) === "chart" ? "chart" : "night",
  help: false,
  fixtures: [],
  matrix: null,
  look: null,
  layer: null,
  universe: 1,
}));

export function toggleTheme(): void {
  useView.setState(({ theme }) => {
    const next: ThemeName = theme === "night" ? "chart" : "night";
    localStorage.setItem(THEME, next);
    return { theme: next };
  });
}
