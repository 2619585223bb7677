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
  /** "<fixture id>:<cell>" where not all chosen fixtures are chosen whole; 0 is the shared part. */
  parts: string[];
  /** The emitter the selection is about, "" for all. */
  emitter: string;
  matrix: string | null;
  look: string | null;
  line: string | null;
  universe: number;
}

const THEME = "heliograph.theme";

export const useView = create<View>(() => ({
  theme: (localStorage.getItem(THEME) ?? "night") === "night" ? "night" : "light",
  help: false,
  fixtures: [],
  parts: [],
  emitter: "",
  matrix: null,
  look: null,
  line: null,
  universe: 1,
}));

/** Chooses fixtures whole. */
export const chooseFixtures = (fixtures: string[]): void =>
  useView.setState({ fixtures, parts: [], emitter: "" });

export function toggleTheme(): void {
  useView.setState(({ theme }) => {
    const next: ThemeName = theme === "night" ? "light" : "night";
    localStorage.setItem(THEME, next);
    return { theme: next };
  });
}
