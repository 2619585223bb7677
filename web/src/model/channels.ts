import type { FixtureView, ProfileView, Schemas } from "../api/client";
import { cellPosition, positionOf } from "./placements";

export type ChannelView = Schemas["ChannelView"];

/** Channels that stand together: the shared ones of a block, or one cell. */
export interface ChannelRun {
  /** Place of its block in the mode. */
  block: number;
  /** "0" for shared channels, else the cell's number, counted over all blocks. */
  cell: string;
  /** What the cell is called, where its profile names it. */
  name: string;
  channels: ChannelView[];
  /** First channel, counted from 1 within the fixture. */
  first: number;
}

/** A fixture's channels in order, by its mode; empty where the mode is gone. */
export function channelRuns(fixture: FixtureView, profile: ProfileView | undefined): ChannelRun[] {
  const mode = profile?.modes.find((one) => one.name === fixture.mode);
  const runs: ChannelRun[] = [];
  let at = 1;
  let cell = 0;
  for (const [index, block] of (mode?.blocks ?? []).entries()) {
    if (block.shared.length)
      runs.push({ block: index, cell: "0", name: block.name, channels: block.shared, first: at });
    at += block.shared.length;
    for (let n = 0; n < block.cells; n++) {
      cell++;
      const name = block.names[n] ?? "";
      runs.push({ block: index, cell: String(cell), name, channels: block.each, first: at });
      at += block.each.length;
    }
  }
  return runs;
}

/** Absolute 0-based position of a run's first channel; Infinity where it has no place. */
export function runPosition(fixture: FixtureView, run: ChannelRun): number {
  if (run.cell === "0") return positionOf(fixture.blocks[run.block]?.address ?? "");
  return cellPosition(fixture, Number(run.cell));
}

const LETTERS: Record<string, string> = {
  red: "R",
  green: "G",
  blue: "B",
  white: "W",
  amber: "A",
  UV: "U",
  "warm white": "w",
  "cool white": "c",
  lime: "L",
  dimmer: "D",
  "dimmer fine": "d",
  hue: "H",
  saturation: "s",
  strobe: "S",
  shutter: "S",
  pan: "P",
  "pan fine": "p",
  tilt: "T",
  "tilt fine": "t",
  gobo: "G",
  zoom: "Z",
};

/** The letter that stands on a channel in the ruler; a number where no letter says it. */
export const letterOf = (label: string, number: number): string => LETTERS[label] ?? String(number);
