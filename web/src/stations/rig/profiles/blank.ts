import { newId } from "../../../api/person";
import type { Block, Channel, Mode, Whole } from "./useProfileDraft";

export const blankChannel = (attribute: string): Channel => ({
  attribute,
  home: 0,
  safe: null,
  fine: false,
  ranges: [],
  kelvin: 6500,
  highlight: null,
  in_fade: "fades",
  invert: false,
  merge: attribute === "Dimmer" ? "HTP" : "LTP",
  alone: false,
  physical: null,
});

export const blankBlock = (name: string): Block => ({
  name,
  shared: [blankChannel("Dimmer")],
  cell_count: 0,
  cell_channels: [],
  runs_on: false,
  splits: false,
  lies: "after",
  cell_names: [],
  layout: { kind: "line", columns: 1, centre: false, points: [] },
  hides: false,
});

export const blankMode = (name: string): Mode => ({
  name,
  blocks: [
    {
      ...blankBlock("Lamp"),
      shared: [],
      cell_count: 1,
      cell_channels: ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B"].map(blankChannel),
    },
  ],
  firmware: "",
  was: "",
});

export const blankProfile = (name: string) => ({
  id: newId(),
  maker: "Own",
  name,
  kind: "other" as Whole["kind"],
  guarded: false,
  notes: "",
  origin: "",
  verified: false,
  modes: [blankMode("RGB")],
});
