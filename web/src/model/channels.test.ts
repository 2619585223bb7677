import { expect, test } from "vitest";
import type { FixtureView, ProfileView } from "../api/client";
import { channelRuns, letterOf, runPosition } from "./channels";

const named = (...labels: string[]) => labels.map((label) => ({ label }));

const profile = {
  modes: [
    {
      name: "46",
      blocks: [
        { name: "Base", shared: named("dimmer", "strobe"), cells: 0, each: [], names: [] },
        {
          name: "Cells",
          shared: [],
          cells: 2,
          each: named("red", "green", "blue", "white"),
          names: ["left"],
        },
      ],
    },
  ],
} as unknown as ProfileView;

const fixture = {
  mode: "46",
  blocks: [
    { address: "U3.11", spans: [[3, 11, 12]], shared: 2, cells: 0, size: 0, runs: [] },
    {
      address: "U5.1",
      spans: [[5, 1, 8]],
      shared: 0,
      cells: 2,
      size: 4,
      runs: [{ cell: 1, count: 2, position: 2048 }],
    },
  ],
} as unknown as FixtureView;

test("shared channels come first, then every cell where it begins", () => {
  const runs = channelRuns(fixture, profile);
  expect(runs.map((run) => [run.cell, run.name, run.first])).toEqual([
    ["0", "Base", 1],
    ["1", "left", 3],
    ["2", "", 7],
  ]);
  expect(runs[2]?.channels.map((channel) => channel.label)).toEqual(["red", "green", "blue", "white"]);
});

test("a mode that is gone has no channels", () => {
  expect(channelRuns({ ...fixture, mode: "other" }, profile)).toEqual([]);
});

test("what has no letter shows its number", () => {
  expect([letterOf("white", 4), letterOf("control", 5)]).toEqual(["W", "5"]);
});

test("a run lies where its block lies", () => {
  const at = channelRuns(fixture, profile).map((run) => runPosition(fixture, run));
  expect(at).toEqual([2 * 512 + 10, 4 * 512, 4 * 512 + 4]);
  const nowhere = {
    ...fixture,
    blocks: fixture.blocks.map((block) => ({ ...block, address: "", spans: [], runs: [] })),
  };
  expect(channelRuns(nowhere, profile).map((run) => runPosition(nowhere, run))).toEqual(
    Array(3).fill(Number.POSITIVE_INFINITY),
  );
});
