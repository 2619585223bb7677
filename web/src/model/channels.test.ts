import { expect, test } from "vitest";
import type { FixtureView, ProfileView } from "../api/client";
import { channelRuns, letterOf, runPosition } from "./channels";

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

test("a run lies where its cell lies, also in the next universe", () => {
  const strip = {
    address: "U1.1",
    footprint: 600,
    cells: 200,
    cell_size: 3,
    cell_offset: 0,
    spans: [
      [1, 1, 510],
      [2, 1, 90],
    ],
  } as unknown as FixtureView;
  const at = (cell: string, first: number) => runPosition(strip, { cell, labels: [], first });
  expect(at("170", 508)).toBe(507);
  expect(at("171", 511)).toBe(512); // U2.1: channels 511 and 512 of U1 stay empty, no pixel is split
});

test("in one piece it counts on from the address, whatever its blocks are", () => {
  const bar = {
    address: "U3.11",
    footprint: 20,
    cells: 4,
    cell_size: 3,
    cell_offset: 2,
    spans: [[3, 11, 30]],
  } as unknown as FixtureView;
  expect(runPosition(bar, { cell: "4", labels: [], first: 17 })).toBe(2 * 512 + 26);
  expect(runPosition({ ...bar, spans: [] }, { cell: "4", labels: [], first: 17 })).toBe(
    Number.POSITIVE_INFINITY,
  );
});
