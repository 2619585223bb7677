import type { FixtureView, ProfileView } from "../api/client";
import { cellPosition, positionOf } from "./placements";

/** Channels that stand together: the shared ones of a block, or one cell. */
export interface ChannelRun {
  /** "0" for shared channels, else the cell's number. */
  cell: string;
  labels: string[];
  /** First channel, counted from 1 within the fixture. */
  first: number;
}

/** A fixture's channels in order, by its mode; empty where the mode is gone. */
export function channelRuns(fixture: FixtureView, profile: ProfileView | undefined): ChannelRun[] {
  const mode = profile?.modes.find((one) => one.name === fixture.mode);
  const runs: ChannelRun[] = [];
  let at = 1;
  let cell = 0;
  for (const block of mode?.blocks ?? []) {
    if (block.shared.length) runs.push({ cell: "0", labels: block.shared, first: at });
    at += block.shared.length;
    for (let n = 0; n < block.cells; n++) {
      cell++;
      runs.push({ cell: String(cell), labels: block.each, first: at });
      at += block.each.length;
    }
  }
  return runs;
}

/** Absolute 0-based position of a run's first channel; Infinity where the fixture has no place. A strip that
 * runs on leaves channels out at the end of a universe, so its cells are looked up one by one. */
export function runPosition(fixture: FixtureView, run: ChannelRun): number {
  const [universe, first, last] = fixture.spans[0] ?? [0, 0, -1];
  if (!universe) return Number.POSITIVE_INFINITY;
  const whole = last - first + 1 === fixture.footprint;
  return whole || run.cell === "0"
    ? positionOf(fixture.address) + run.first - 1
    : cellPosition(fixture, Number(run.cell));
}

const LETTERS: Record<string, string> = {
  red: "R",
  green: "G",
  blue: "B",
  white: "W",
  amber: "A",
  UV: "U",
  Dimmer: "D",
  "Dimmer fine": "d",
  Shutter1Strobe: "S",
  Shutter1: "S",
};

/** The letter that stands on a channel in the ruler; a number where no letter says it. */
export const letterOf = (label: string, number: number): string => LETTERS[label] ?? String(number);

const WORDS: Record<string, string> = {
  Dimmer: "dimmer",
  "Dimmer fine": "dimmer, fine",
  Shutter1: "shutter",
  Shutter1Strobe: "strobe",
  ColorMacro1: "colours",
  ColorMacro1Rate: "colours, speed",
  Control1: "control 1",
  Control2: "control 2",
};

/** The word for an attribute on a narrow row; its standard name where there is none. */
export const wordOf = (label: string): string => WORDS[label] ?? label;
