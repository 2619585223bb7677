import { expect, test } from "vitest";
import type { FixtureView, ProfileView } from "../api/client";
import { channelRuns, letterOf } from "./channels";

const profile = {
  modes: [
    {
      name: "46",
      footprint: 10,
      cells: 2,
      runs_on: false,
      blocks: [
        { name: "Base", shared: ["Dimmer", "Shutter1Strobe"], cells: 0, each: [] },
        { name: "Cells", shared: [], cells: 2, each: ["red", "green", "blue", "white"] },
      ],
    },
  ],
} as unknown as ProfileView;

test("shared channels come first, then every cell where it begins", () => {
  const runs = channelRuns({ mode: "46" } as FixtureView, profile);
  expect(runs.map((run) => [run.cell, run.first])).toEqual([
    ["0", 1],
    ["1", 3],
    ["2", 7],
  ]);
  expect(runs[2]?.labels).toEqual(["red", "green", "blue", "white"]);
});

test("a mode that is gone has no channels", () => {
  expect(channelRuns({ mode: "other" } as FixtureView, profile)).toEqual([]);
});

test("what has no letter shows its number", () => {
  expect([letterOf("white", 4), letterOf("Control1", 5)]).toEqual(["W", "5"]);
});
