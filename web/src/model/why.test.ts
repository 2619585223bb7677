import { expect, test } from "vitest";
import type { FixtureView } from "../api/client";
import { channelAddress, heldLines, readCell, written } from "./why";

const BLOCK = {
  footprint: 150,
  spans: [
    [1, 401, 512],
    [2, 1, 38],
  ],
};
const tower = { id: "t", number: 101, name: "Tower", cells: 50, blocks: [BLOCK] } as unknown as FixtureView;
const head = { id: "h", number: 701, name: "Head", cells: 0, blocks: [] } as unknown as FixtureView;

test("a cell is typed as it is written everywhere", () => {
  expect(readCell("101:5", [tower, head])).toEqual({ fixture: tower, cell: 5 });
  expect(readCell("101", [tower, head])?.cell).toBe(1);
  expect(readCell("701", [tower, head])?.cell).toBe(0);
  for (const wrong of ["", "x", "101:51", "9", "101:"]) expect(readCell(wrong, [tower, head])).toBeNull();
});

test("values in every base", () => {
  expect([143, 0, 255].map((value) => written(value, "hex"))).toEqual(["8F", "00", "FF"]);
  expect([143, 0, 255].map((value) => written(value, "percent"))).toEqual(["56", "0", "100"]);
});

test("what is held by hand is listed with its fixture or universe", () => {
  const lines = heldLines({ "h/12": 3, "t/2": 200, "x/1": 1 }, { "3.201": 9 }, [tower, head]);
  expect(lines.map((line) => line.says)).toEqual([
    "a fixture that is gone",
    "U1.402, 101 Tower, channel 2",
    "701 Head, channel 12",
    "U3.201, raw",
  ]);
});

test("what is parked is listed first, and channels are found over the end of a universe", () => {
  const parked = [{ universe: 7, channel: 53, value: 90 }];
  expect(heldLines({}, {}, [], parked)).toEqual([
    { kind: "parked", key: "7.53", address: "U7.53", says: "U7.53, parked", value: 90 },
  ]);
  expect([1, 112, 113, 151].map((channel) => channelAddress(tower, channel))).toEqual([
    "U1.401",
    "U1.512",
    "U2.1",
    "",
  ]);
});
