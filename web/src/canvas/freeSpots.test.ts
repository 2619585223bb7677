import { expect, it } from "vitest";
import { FreeSpots } from "./freeSpots";

it("knows where something stands, also over the edges", () => {
  const spots = new FreeSpots(120, 60);
  spots.take(-20, 10, 40, 10);
  expect(spots.isFree(0, 12, 4, 4)).toBe(false);
  expect(spots.isFree(40, 12, 30, 10)).toBe(true);
  expect(spots.isFree(110, 50, 90, 90)).toBe(true);
  spots.take(110, 50, 90, 90);
  expect(spots.isFree(100, 40, 15, 15)).toBe(false);
});
