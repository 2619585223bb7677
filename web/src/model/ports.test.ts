import { expect, test } from "vitest";
import { readRuns, sayRuns } from "./ports";

test("universes are read in the order they are typed and said again", () => {
  expect(readRuns("7-9, U3")).toEqual([7, 8, 9, 3]);
  expect(sayRuns([7, 8, 9, 3])).toBe("7-9, 3");
  for (const wrong of ["x", "9-7", "0", "1-", "1-9999"]) expect(readRuns(wrong)).toBeNull();
});
