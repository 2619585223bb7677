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
  /** Rows of the folded table that are open: "<first fixture id>+" of those that are alike, or a fixture's id. */
  opened: string[];
  matrix: string | null;
  look: string | null;
  line: string | null;
  /** A chase that is drawn at Looks; none where looks are. */
  chase: string | null;
  /** The list that stands at Run; the main one where none was chosen. Cues that are chosen of it. */
  list: string | null;
  cues: string[];
  /** The score that stands at Run, what is chosen of it, and the stave that is written on. */
  score: string | null;
  entries: string[];
  stave: string;
  place: string;
  /** The page that stands at Run, and the item that is chosen of it. */
  page: string | null;
  item: string;
  universe: number;
}

const THEME = "heliograph.theme";

export const useView = create<View>(() => ({
  theme: (localStorage.getItem(THEME) ?? "night") === "night" ? "night" : "light",
  help: false,
  fixtures: [],
  parts: [],
  emitter: "",
  opened: [],
  matrix: null,
  look: null,
  line: null,
  chase: null,
  list: null,
  cues: [],
  score: null,
  entries: [],
  stave: "",
  place: "1.1",
  page: null,
  item: "",
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
