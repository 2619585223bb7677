import { expect, test } from "vitest";
import type { FixtureView } from "../api/client";
import type { Bead } from "./placements";
import { asNumbers, beadOn, inFrame, isAligned, readPlace, readStrand, sayPlace } from "./squares";

const bead = (cell: number, x: number, y: number, w = 1, h = 1): Bead => ({
  fixture: { id: "a", number: 7 } as FixtureView,
  cell: String(cell),
  x,
  y,
  w,
  h,
  position: cell,
});

test("a place reads as it is said", () => {
  for (const one of [bead(1, 2, 0), bead(1, 2.5, 1, 3, 0.5)]) {
    expect(readPlace(sayPlace(one))).toEqual({ x: one.x, y: one.y, w: one.w, h: one.h });
  }
  expect(readPlace("3 , 1")).toEqual({ x: 2, y: 0, w: 1, h: 1 });
  expect(readPlace("0, 1")).toBe("Columns and rows count from 1.");
  expect(readPlace("3")).toMatch("Type column, row and size");
  expect(readPlace("1, 1, 0 x 2")).toBe("A cell covers more than nothing.");
});

test("a square finds the cell that covers it, the whole one first", () => {
  const wide = bead(1, 0.5, 0, 3);
  const plain = bead(2, 1, 0);
  expect(beadOn([wide, plain], [1, 0])).toBe(plain);
  expect(beadOn([wide, plain], [2, 0])).toBe(wide);
  expect(beadOn([wide, plain], [4, 0])).toBeUndefined();
  expect([wide, plain].map(isAligned)).toEqual([false, true]);
});

test("places along the strand", () => {
  expect(readStrand("2-4, 7", 8)).toEqual([1, 2, 3, 6]);
  expect(readStrand("0-2", 8)).toBe("The strand has 8 cells, 1 to 8.");
  expect(readStrand("x", 8)).toMatch("Type places");
});

test("a frame takes what has its middle in it; chosen cells are written as they are typed", () => {
  const all = [bead(1, 0, 0), bead(2, 1, 0), bead(3, 0, 1), bead(4, 2, 1)];
  expect(all.filter(inFrame([1, 1], [0, 0])).map((one) => one.cell)).toEqual(["1", "2", "3"]);
  expect(asNumbers(all)).toBe("7:1, 7:2, \n7:3, , 7:4");
  expect(asNumbers([])).toBe("");
});
